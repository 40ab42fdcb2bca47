"use client";

import dynamic from "next/dynamic";
import { usePathname, useRouter } from "next/navigation";
import { setNonce } from "get-nonce";
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ComponentProps,
  type ComponentType,
  type ReactNode,
} from "react";
import { writeUncertaintiesTo } from "@/core/quantities";
import type { NotebookRecord } from "@/core/files/records";
import { SessionContext, type OpenedView } from "@/browser/context";
import { attempt, notify, onClash, onNoticesWanted, undoneText, type Clashing } from "@/browser/notify";
import { applyTheme, storedTheme, type Theme } from "@/browser/theme";
import { typefaces } from "@/browser/typefaces";
import { isTyping, useKeys } from "@/browser/keys";
import { rulesOf } from "@/notebook";
import { compactAll, meta, notebooks, redo, setMeta, sweepWhenQuiet, undo, useLive } from "@/storage";
import { Quiet } from "@/ui/section";
import { StartPage } from "./start-page";
import { Header, type ShellDialog } from "./header";
import { createNotebook, loadDemo } from "./notebooks";
import { useDropped } from "./use-dropped";
import { useTypedAhead, type TypedAhead } from "./use-typed-ahead";

const NotebooksDialog = dynamic(() => import("./notebooks-dialog").then((m) => m.NotebooksDialog), { ssr: false });
const HistoryDialog = dynamic(() => import("./history-dialog").then((m) => m.HistoryDialog), { ssr: false });
const KeysDialog = dynamic(() => import("./keys-dialog").then((m) => m.KeysDialog), { ssr: false });
const MenuDialog = dynamic(() => import("./menu-dialog").then((m) => m.MenuDialog), { ssr: false });
const Palette = dynamic(() => import("./palette").then((m) => m.Palette), { ssr: false });
const ClashDialog = dynamic(() => import("./clash-dialog").then((m) => m.ClashDialog), { ssr: false });
const Notices = dynamic(() => import("./notices").then((m) => m.Notices), { ssr: false });

export interface ShellProps {
  readonly nonce: string;
  readonly demo: boolean;
  readonly Opened: ComponentType<OpenedView>;
  readonly children: ReactNode;
}

const isArchive = (f: File): boolean => f.type === "application/zip" || /\.zip$/i.test(f.name);

/** Seeds the demo once where the application was started with demo data and nothing is there; tabs take turns. */
async function openingList(demo: boolean): Promise<NotebookRecord[]> {
  const list = await notebooks();
  if (list.length > 0 || !demo) return list;
  await navigator.locks.request("nimbus-seed", async () => {
    if ((await notebooks()).length === 0) await loadDemo();
  });
  return notebooks();
}

/** The notebook in hand: the one that was asked for, the last one opened here, or the first there is. */
function useNotebook(demo: boolean) {
  const [wanted, setWanted] = useState<string | null>(null);
  const before = useRef<string | null>(null);
  // Read together, so that a notebook that was just made or opened never leaves another one in sight meanwhile.
  const opened = useLive(
    `notebook-${wanted}`,
    async () => {
      const [list] = await Promise.all([openingList(demo), typefaces()]);
      // What another tab opens later is not opened here.
      const id = wanted ?? (before.current ??= (await meta<string>("notebook")) ?? "");
      return list.find((n) => n.id === id) ?? list[0] ?? null;
    },
    (n) => n.kinds.includes("notebook"),
  );
  const openNotebook = useCallback((id: string) => {
    setWanted(id);
    void setMeta("notebook", id);
  }, []);
  return { opened, notebook: opened.state === "ready" ? opened.value : null, openNotebook };
}

/** How numbers are written is said before a page writes any. */
function useDigits(notebookId: string | undefined): number {
  const digits = useLive(
    `digits-${notebookId}`,
    async () => (notebookId ? (await rulesOf(notebookId)).digits : 2),
    (n) => n.kinds.includes("rules"),
  );
  const written = digits.state === "ready" ? digits.value : 2;
  writeUncertaintiesTo(written);
  return written;
}

function useTheme(): [Theme, (t: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(storedTheme);
  useEffect(() => {
    applyTheme(theme);
    const query = matchMedia("(prefers-color-scheme: dark)");
    const follow = () => applyTheme(theme);
    query.addEventListener("change", follow);
    return () => query.removeEventListener("change", follow);
  }, [theme]);
  return [theme, setTheme];
}

/** Looks after the store: asks that it be kept, and clears what a crash left behind. */
function useTidyStore(): void {
  useEffect(() => {
    // Asks once that the browser keep the data; the dialog on notebooks says what came of it.
    void navigator.storage?.persist?.();
    // What a crash in the middle of an import left behind; it is in nobody's way, so it may wait until the page stands.
    const sweep = setTimeout(
      () =>
        void sweepWhenQuiet()
          .then(() => compactAll(Date.now()))
          .then(() => import("./pack-notebooks"))
          .then(({ packNotebooks }) => packNotebooks(Date.now()))
          .catch(() => undefined),
      5000,
    );
    return () => clearTimeout(sweep);
  }, []);
}

/** Ctrl K and Ctrl Z, wherever one is. */
function useShellKeys(notebook: NotebookRecord | null, onPalette: () => void): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey)) return;
      const key = e.key.toLowerCase();
      if (key === "k") {
        e.preventDefault();
        // Never over another dialog: what was typed into it would be lost.
        if (notebook && !document.querySelector('[role="dialog"]')) onPalette();
      } else if (key === "z" && notebook && !isTyping(e.target)) {
        e.preventDefault();
        void attempt(async () => {
          await notify(undoneText(await (e.shiftKey ? redo : undo)(notebook.id), e.shiftKey ? "Redone" : "Undone"));
        });
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [notebook, onPalette]);
}

interface Clash {
  readonly of: Clashing;
  answer(insist: boolean): void;
}

export function Shell({ nonce, demo, Opened, children }: ShellProps) {
  const { opened, notebook, openNotebook } = useNotebook(demo);
  const written = useDigits(notebook?.id);
  const [theme, setTheme] = useTheme();
  const [dialog, setDialog] = useState<ShellDialog | null>(null);
  const [notices, setNotices] = useState(false);
  const [clash, setClash] = useState<Clash | null>(null);
  const [files, setFiles] = useState<readonly File[] | null>(null);
  const [archive, setArchive] = useState<File | null>(null);
  const router = useRouter();
  const path = usePathname();
  useTidyStore();
  useEffect(() => {
    setNonce(nonce);
    onNoticesWanted(() => setNotices(true));
    onClash((of) => new Promise((answer) => setClash({ of, answer })));
  }, [nonce]);
  const openFiles = useCallback((chosen: readonly File[]) => {
    const zip = chosen.find(isArchive);
    if (zip) {
      setArchive(zip);
      setFiles(null);
      setDialog("notebooks");
    } else setFiles(chosen);
  }, []);
  const over = useDropped(openFiles);
  const [shownAt, setShownAt] = useState(path);
  // Whoever goes to another page leaves the opened logs.
  if (shownAt !== path) {
    setShownAt(path);
    setFiles(null);
  }
  const session = useMemo(
    () => (notebook ? { notebook, demo, openNotebook, openFiles } : null),
    [notebook, demo, openNotebook, openFiles],
  );
  const typed = useTypedAhead();
  useKeys({ "?": () => setDialog("keys") }, session !== null);
  useShellKeys(
    notebook,
    useCallback(() => {
      typed.begin();
      setDialog("palette");
    }, [typed]),
  );
  const onSaved = (id: string, runId: string) => {
    openNotebook(id);
    router.push(`/run/${runId}/review`);
  };
  const close = () => {
    setDialog(null);
    setArchive(null);
  };

  if (opened.state === "failed")
    return <Quiet>The browser&apos;s storage can&apos;t be opened: {opened.message}. Nothing was changed.</Quiet>;
  if (opened.state === "loading") return <Quiet>Opening the notebook …</Quiet>;
  return (
    <>
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
        Skip to the page
      </a>
      <Header notebook={notebook} theme={theme} onTheme={setTheme} onOpen={setDialog} />
      <main id="main" tabIndex={-1} className="outline-none mx-auto max-w-[80rem] px-2 pb-3 min-[900px]:px-4">
        {files ? (
          <Opened
            files={files}
            notebook={notebook}
            makeNotebook={() => createNotebook("My notebook")}
            onFiles={openFiles}
            onClose={() => setFiles(null)}
            onSaved={onSaved}
          />
        ) : session ? (
          <SessionContext key={written} value={session}>
            {children}
          </SessionContext>
        ) : path.startsWith("/guide") ? (
          // The guide needs no notebook.
          children
        ) : (
          <StartPage onOpen={openNotebook} onFiles={openFiles} archive={archive} />
        )}
        {over ? <DropHint /> : null}
      </main>
      <Dialogs
        dialog={dialog}
        session={session}
        archive={archive}
        typed={typed}
        theme={theme}
        onTheme={setTheme}
        onOpen={setDialog}
        onClose={close}
      />
      {clash ? <AskedClash clash={clash} onDone={() => setClash(null)} /> : null}
      {notices ? <Notices /> : null}
    </>
  );
}

const DropHint = () => (
  <p className="pointer-events-none fixed inset-3 z-50 grid place-items-center border-2 border-dashed border-copper bg-sheet/80 text-2xl font-semibold">
    Drop to open
  </p>
);

interface DialogsProps {
  readonly dialog: ShellDialog | null;
  readonly session: ComponentProps<typeof SessionContext>["value"];
  readonly archive: File | null;
  readonly typed: TypedAhead;
  readonly theme: Theme;
  onTheme(t: Theme): void;
  onOpen(d: ShellDialog): void;
  onClose(): void;
}

/** The dialog that is open, if one is. */
const Dialogs = ({ dialog, session, archive, typed, theme, onTheme, onOpen, onClose }: DialogsProps) => (
  <>
    {session ? (
      <SessionContext value={session}>
        {dialog === "notebooks" ? <NotebooksDialog archive={archive} onClose={onClose} /> : null}
        {dialog === "palette" ? <Palette typed={typed} onClose={onClose} onOpen={onOpen} onTheme={onTheme} /> : null}
        {dialog === "history" ? <HistoryDialog onClose={onClose} /> : null}
      </SessionContext>
    ) : null}
    {dialog === "keys" ? <KeysDialog onClose={onClose} /> : null}
    {dialog === "menu" ? <MenuDialog theme={theme} onTheme={onTheme} onOpen={onOpen} onClose={onClose} /> : null}
  </>
);

/** Another tab changed the same: who insists goes on. */
const AskedClash = ({ clash, onDone }: { readonly clash: Clash; onDone(): void }) => (
  <ClashDialog
    clash={clash.of}
    onAnswer={(insist) => {
      onDone();
      clash.answer(insist);
    }}
  />
);
