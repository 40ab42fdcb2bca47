"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState, type RefObject } from "react";
import { cellCode } from "@/core/cells/code";
import { runPage } from "@/core/procedures/catalogue";
import type { BoardRecord, CellRecord, RunRecord } from "@/core/files/records";
import { datedTitle } from "@/core/files/run-name";
import { useSession } from "@/browser/context";
import { attempt, notify, undoneText } from "@/browser/notify";
import type { Theme } from "@/browser/theme";
import { boards, ofKind, redo, runsOf, undo, useLive } from "@/storage";
import { Dialog } from "@/ui/dialog";
import type { ShellDialog } from "./header";
import { rank } from "./palette-rank";
import { usePageActs } from "./use-page-acts";
import type { TypedAhead } from "./use-typed-ahead";

export interface PaletteProps {
  /** What was typed before it stood. */
  readonly typed: TypedAhead;
  onClose(): void;
  onOpen(d: ShellDialog): void;
  onTheme(t: Theme): void;
}

const ITEM = "cursor-pointer px-3 py-1.5 data-[selected=true]:bg-copper data-[selected=true]:text-on-copper";
const HEADING =
  "[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-pencil";

/** Where one can go at any time, with further words that find it. */
const PLACES: readonly { readonly href: string; readonly name: string; readonly words?: readonly string[] }[] = [
  { href: "/", name: "Notebook" },
  { href: "/compare", name: "Comparison" },
  { href: "/decide", name: "Decide", words: ["need", "requirements", "buy", "build"] },
  { href: "/use", name: "Put to use", words: ["load", "run time", "fuse", "fit"] },
  { href: "/station", name: "Charging station", words: ["bays", "lanes", "breaker", "supply"] },
  { href: "/feed", name: "Charger feed", words: ["adapter", "cable", "panel", "regulator", "port", "supply"] },
  { href: "/logs", name: "Logs under way", words: ["several", "charges", "live", "plug"] },
  { href: "/day", name: "Day at the bench", words: ["schedule", "plan", "today", "calendar"] },
  { href: "/cells/packs", name: "Packs", words: ["match", "series", "parallel"] },
  { href: "/curves", name: "Overlaid curves", words: ["overlay", "chart"] },
  { href: "/instruments", name: "Instruments and rigs", words: ["meters", "rig", "accuracy"] },
  { href: "/cells", name: "Cell drawer" },
  { href: "/cells/labels", name: "Labels for cells" },
  { href: "/sums", name: "Quick sums" },
  { href: "/rules", name: "House rules" },
  { href: "/guide", name: "Guide", words: ["help", "how to"] },
];

interface Places {
  readonly boards: readonly BoardRecord[];
  readonly runs: readonly RunRecord[];
  readonly cells: readonly CellRecord[];
}

/** Frames for which a mark has stayed before an early Enter opens it. */
const STEADY = 3;

/** Enter that was pressed before the boards were read is meant for what then stands first. */
function useEarlyEnter(
  root: RefObject<HTMLDivElement | null>,
  ready: boolean,
): { readonly enterEarly: () => void; onKeyDown(e: React.KeyboardEvent): void } {
  const [early, setEarly] = useState(false);
  useEffect(() => {
    if (!early || !ready) return;
    let frame = 0;
    let marked: HTMLElement | null = null;
    let frames = 0;
    const press = () => {
      const first = root.current?.querySelector<HTMLElement>("[cmdk-item][data-selected=true]") ?? null;
      frames = first === marked ? frames + 1 : 0;
      marked = first;
      // What matches is marked a moment after it is drawn, and marked anew a moment after the text has changed.
      if (marked && frames >= STEADY) marked.click();
      else frame = requestAnimationFrame(press);
    };
    frame = requestAnimationFrame(press);
    return () => cancelAnimationFrame(frame);
  }, [early, ready, root]);
  const enterEarly = useCallback(() => setEarly(true), []);
  const onKeyDown = (e: React.KeyboardEvent) => {
    // Read, but not marked yet: that is early too.
    if (e.key !== "Enter" || (ready && root.current?.querySelector("[cmdk-item][data-selected=true]")))
      return setEarly(false);
    e.preventDefault();
    enterEarly();
  };
  return { enterEarly, onKeyDown };
}

/** Jump to any board or run, or do anything that the open page offers, by typing a few letters. */
export function Palette({ typed, onClose, onOpen, onTheme }: PaletteProps) {
  const { notebook } = useSession();
  const router = useRouter();
  const places = useLive<Places>(`places-${notebook.id}`, async () => ({
    boards: await boards(notebook.id),
    runs: await runsOf(notebook.id),
    cells: await ofKind(notebook.id, "cell"),
  }));
  const root = useRef<HTMLDivElement>(null);
  const [text, setText] = useState("");
  const { enterEarly, onKeyDown } = useEarlyEnter(root, places.state !== "loading");
  const takeTyped = () => {
    const before = typed.take();
    setText((t) => before.text + t);
    if (before.entered) enterEarly();
  };
  const go = (path: string) => {
    router.push(path);
    onClose();
  };
  return (
    <Dialog title="Go to" about="Type part of a name. Enter opens it." onClose={onClose}>
      <Command
        label="Go to"
        loop
        ref={root}
        onKeyDown={onKeyDown}
        filter={(_, search, names) => rank(names ?? [], search)}
      >
        <Command.Input
          autoFocus
          onFocus={takeTyped}
          value={text}
          onValueChange={setText}
          placeholder="board, cell, run or action"
          className="w-full border border-pencil/60 bg-field px-3 py-2"
        />
        {/* All at once: what is marked first stays marked, though a better match comes after it. */}
        {places.state === "loading" ? null : (
          <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
            <Command.Empty className="p-3 text-pencil">No match.</Command.Empty>
            <Here onClose={onClose} />
            {places.state === "ready" ? <Found places={places.value} go={go} /> : null}
            <Acts go={go} onClose={onClose} onOpen={onOpen} onTheme={onTheme} />
          </Command.List>
        )}
      </Command>
    </Dialog>
  );
}

function Here({ onClose }: { onClose(): void }) {
  const here = usePageActs();
  return here.length ? (
    <Command.Group heading="On this page" className={HEADING}>
      {here.map((a) => (
        <Command.Item
          key={a.name}
          value={`here ${a.name}`}
          keywords={[a.name]}
          onSelect={() => {
            onClose();
            // Once the dialog is gone, and has given the focus back.
            setTimeout(a.act, 0);
          }}
          className={ITEM}
        >
          {a.name}
        </Command.Item>
      ))}
    </Command.Group>
  ) : null;
}

function Found({ places, go }: { readonly places: Places; go(path: string): void }) {
  const title = (id: string) => places.boards.find((b) => b.id === id)?.title ?? "";
  return (
    <>
      <Command.Group heading="Boards" className={HEADING}>
        {places.boards.map((b) => (
          <Command.Item
            key={b.id}
            value={b.id}
            keywords={[b.title, ...b.functions]}
            onSelect={() => go(`/board/${b.id}`)}
            className={ITEM}
          >
            {b.title}
          </Command.Item>
        ))}
      </Command.Group>
      <Command.Group heading="Cells" className={HEADING}>
        {places.cells.map((c) => (
          <Command.Item
            key={c.id}
            value={c.id}
            keywords={[c.title, cellCode(c.id)]}
            onSelect={() => go(`/cells/${c.id}`)}
            className={ITEM}
          >
            {c.title} <span className="figures text-sm">{cellCode(c.id)}</span>
          </Command.Item>
        ))}
      </Command.Group>
      <Command.Group heading="Runs" className={HEADING}>
        {places.runs.map((r) => (
          <Command.Item
            key={r.id}
            value={r.id}
            keywords={[`${title(r.boardId)}: ${datedTitle(r)}`]}
            onSelect={() => go(`/run/${r.id}/${runPage(r.procedure, r.state)}`)}
            className={ITEM}
          >
            {title(r.boardId)}: {datedTitle(r)}
          </Command.Item>
        ))}
      </Command.Group>
    </>
  );
}

function Acts({ go, onClose, onOpen, onTheme }: Omit<PaletteProps, "typed"> & { go(path: string): void }) {
  const { notebook } = useSession();
  const act = (run: () => Promise<void>) => {
    onClose();
    void attempt(run);
  };
  const acts: readonly (readonly [name: string, run: () => void])[] = [
    ["Notebooks, archives and the demo", () => onOpen("notebooks")],
    ["History", () => onOpen("history")],
    ["Keys", () => onOpen("keys")],
    ["Undo last change", () => act(async () => notify(undoneText(await undo(notebook.id))))],
    ["Redo", () => act(async () => notify(undoneText(await redo(notebook.id), "Redone")))],
    ...(["light", "dark", "system"] as const).map(
      (t) => [`Colours: ${t === "system" ? "as the system" : t}`, () => (onTheme(t), onClose())] as const,
    ),
  ];
  return (
    <Command.Group heading="Acts" className={HEADING}>
      {PLACES.map((p) => (
        <Command.Item
          key={p.href}
          value={p.href}
          keywords={[p.name, ...(p.words ?? [])]}
          onSelect={() => go(p.href)}
          className={ITEM}
        >
          {p.name}
        </Command.Item>
      ))}
      {acts.map(([name, run]) => (
        <Command.Item key={name} value={name} keywords={[name]} onSelect={run} className={ITEM}>
          {name}
        </Command.Item>
      ))}
    </Command.Group>
  );
}
