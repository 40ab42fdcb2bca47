"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { cellCode } from "@/core/cells/code";
import { runPage } from "@/core/procedures/versions";
import { datedTitle } from "@/core/files/run-name";
import { useSession } from "@/session/context";
import { attempt, notify, undoneText } from "@/session/notify";
import type { Theme } from "@/session/theme";
import { boards, ofKind, redo, runsOf, undo, useLive } from "@/storage";
import { Dialog } from "@/ui/dialog";
import type { ShellDialog } from "./header";
import { usePageActs } from "./use-page-acts";
import type { TypedAhead } from "./use-typed-ahead";

export interface PaletteProps {
  /** What was typed before it stood. */
  readonly typed: TypedAhead;
  onClose(): void;
  onOpen(d: ShellDialog): void;
  onTheme(t: Theme): void;
}

/** Jump to any board or run, or do anything that the open page offers, by typing a few letters. */
export function Palette({ typed, onClose, onOpen, onTheme }: PaletteProps) {
  const { notebook } = useSession();
  const router = useRouter();
  const places = useLive(`places-${notebook.id}`, async () => ({ boards: await boards(notebook.id), runs: await runsOf(notebook.id), cells: await ofKind(notebook.id, "cell") }));
  const root = useRef<HTMLDivElement>(null);
  const [text, setText] = useState("");
  const here = usePageActs();
  /** Enter was pressed before the boards were read: it is meant for what then stands first. */
  const [early, setEarly] = useState(false);
  const ready = places.state === "ready";
  useEffect(() => {
    if (!early || !ready) return;
    let frame = 0;
    const press = () => {
      const first = root.current?.querySelector<HTMLElement>("[cmdk-item][data-selected=true]");
      if (first) first.click();
      // What matches is marked a moment after it is drawn.
      else frame = requestAnimationFrame(press);
    };
    frame = requestAnimationFrame(press);
    return () => cancelAnimationFrame(frame);
  }, [early, ready]);
  const go = (path: string) => {
    router.push(path);
    onClose();
  };
  const act = (run: () => Promise<void>) => {
    onClose();
    void attempt(run);
  };
  const item = "cursor-pointer px-3 py-1.5 data-[selected=true]:bg-copper data-[selected=true]:text-on-copper";
  const heading = "[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-pencil";
  const title = (id: string) => (places.state === "ready" ? (places.value.boards.find((b) => b.id === id)?.title ?? "") : "");
  return (
    <Dialog title="Go to" about="Type part of a name. Enter opens it." onClose={onClose}>
      <Command
        label="Go to"
        loop
        ref={root}
        onKeyDown={(e) => {
          if (e.key !== "Enter" || ready) return setEarly(false);
          e.preventDefault();
          setEarly(true);
        }}
      >
        <Command.Input autoFocus onFocus={() => setText((t) => typed.take() + t)} value={text} onValueChange={setText} placeholder="board, cell, run or action" className="w-full border border-pencil/60 bg-field px-3 py-2" />
        <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
          <Command.Empty className="p-3 text-pencil">No match.</Command.Empty>
          {here.length ? (
            <Command.Group heading="On this page" className={heading}>
              {here.map((a) => (
                <Command.Item
                  key={a.name}
                  value={`here ${a.name}`}
                  onSelect={() => {
                    onClose();
                    // Once the dialog is gone, and has given the focus back.
                    setTimeout(a.act, 0);
                  }}
                  className={item}
                >
                  {a.name}
                </Command.Item>
              ))}
            </Command.Group>
          ) : null}
          {places.state === "ready" ? (
            <>
              <Command.Group heading="Boards" className={heading}>
                {places.value.boards.map((b) => (
                  <Command.Item key={b.id} value={`${b.title} ${b.id}`} keywords={[...b.functions]} onSelect={() => go(`/board/${b.id}`)} className={item}>
                    {b.title}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading="Cells" className={heading}>
                {places.value.cells.map((c) => (
                  <Command.Item key={c.id} value={`${c.title} ${cellCode(c.id)}`} onSelect={() => go(`/cells/${c.id}`)} className={item}>
                    {c.title} <span className="figures text-sm">{cellCode(c.id)}</span>
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading="Runs" className={heading}>
                {places.value.runs.map((r) => (
                  <Command.Item key={r.id} value={`${title(r.boardId)} ${r.title} ${r.id}`} onSelect={() => go(`/run/${r.id}/${runPage(r.procedure, r.state)}`)} className={item}>
                    {title(r.boardId)}: {datedTitle(r)}
                  </Command.Item>
                ))}
              </Command.Group>
            </>
          ) : null}
          <Command.Group heading="Acts" className={heading}>
            <Command.Item onSelect={() => go("/")} className={item}>Notebook</Command.Item>
            <Command.Item onSelect={() => go("/compare")} className={item}>Comparison</Command.Item>
            <Command.Item onSelect={() => go("/decide")} keywords={["need", "requirements", "buy", "build"]} className={item}>Decide</Command.Item>
            <Command.Item onSelect={() => go("/curves")} keywords={["overlay", "chart"]} className={item}>Overlaid curves</Command.Item>
            <Command.Item onSelect={() => go("/instruments")} keywords={["meters", "rig", "accuracy"]} className={item}>Instruments and rigs</Command.Item>
            <Command.Item onSelect={() => go("/cells")} className={item}>Cell drawer</Command.Item>
            <Command.Item onSelect={() => go("/cells/labels")} className={item}>Labels for cells</Command.Item>
            <Command.Item onSelect={() => go("/sums")} className={item}>Quick sums</Command.Item>
            <Command.Item onSelect={() => go("/rules")} className={item}>House rules</Command.Item>
            <Command.Item onSelect={() => onOpen("notebooks")} className={item}>Notebooks, archives and the demo</Command.Item>
            <Command.Item onSelect={() => onOpen("history")} className={item}>History</Command.Item>
            <Command.Item onSelect={() => go("/guide")} keywords={["help", "how to"]} className={item}>Guide</Command.Item>
            <Command.Item onSelect={() => onOpen("keys")} className={item}>Keys</Command.Item>
            <Command.Item onSelect={() => act(async () => notify(undoneText(await undo(notebook.id))))} className={item}>Undo last change</Command.Item>
            <Command.Item onSelect={() => act(async () => notify(undoneText(await redo(notebook.id), "Redone")))} className={item}>Redo</Command.Item>
            {(["light", "dark", "system"] as const).map((t) => (
              <Command.Item key={t} onSelect={() => { onTheme(t); onClose(); }} className={item}>
                Colours: {t === "system" ? "as the system" : t}
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  );
}
