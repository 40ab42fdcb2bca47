"use client";

type Asked = () => void;
let mounted = false;
let ready: Asked[] = [];
let wanted: Asked | null = null;

/** The shell hears here that a notice is to be shown, and mounts the place where notices appear. */
export function onNoticesWanted(mount: () => void): void {
  wanted = mount;
}
/** Said by that place once it stands; notices given before then are shown now. */
export function noticesStand(): void {
  mounted = true;
  ready.forEach((go) => go());
  ready = [];
}

const place = (): Promise<void> =>
  new Promise((resolve) => {
    if (mounted) resolve();
    else {
      ready.push(resolve);
      wanted?.();
    }
  });

/** Two frames, or so long where the page draws none: ms. */
const DRAWN = 120;
/** What was done is drawn before the words that say so. */
const drawn = (): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, DRAWN);
    requestAnimationFrame(() => requestAnimationFrame(() => resolve()));
  });

/** Shows a notice; its place and the package that draws it are loaded with the first. An error stays until it is put away. */
export async function notify(
  message: string,
  options: { kind?: "info" | "error"; action?: { label: string; run: () => void } } = {},
): Promise<void> {
  const [{ toast }] = await Promise.all([import("sonner"), place(), drawn()]);
  const show = options.kind === "error" ? toast.error : toast;
  show(message, {
    // What can be taken back stays a little longer.
    duration: options.kind === "error" ? Infinity : options.action ? 12_000 : 6000,
    ...(options.action ? { action: { label: options.action.label, onClick: options.action.run } } : {}),
  });
}

/** What going back gave: what was undone, or what stands in its way. */
type Undone = { readonly done: string } | { readonly blocked: string } | null;

/** Says what was done, with the way back; what came of going back is said too. */
export const notifyUndoable = (message: string, undo: (() => Promise<Undone>) | null): Promise<void> =>
  notify(
    message,
    undo ? { action: { label: "Undo", run: () => void attempt(async () => notify(undoneText(await undo()))) } } : {},
  );

/** The words for it. */
export const undoneText = (r: Undone, verb: "Undone" | "Redone" = "Undone"): string =>
  r === null
    ? `Nothing to ${verb === "Undone" ? "undo" : "redo"}.`
    : "blocked" in r
      ? r.blocked
      : `${verb}: ${r.done}.`;

/** An edit that met another of the same field; nothing was stored of it. */
export interface Clashing extends Error {
  readonly clashes: readonly {
    readonly path: readonly string[];
    readonly mine: unknown;
    readonly theirs: unknown;
    readonly record: object;
  }[];
  /** Stores it after all. */
  insist(): Promise<unknown>;
}
const isClash = (e: unknown): e is Clashing => e instanceof Error && e.name === "EditClash";

let askClash: ((e: Clashing) => Promise<boolean>) | null = null;
/** The shell hears here of edits that clash, shows both values, and says whether the edit is to be made after all. */
export function onClash(ask: (e: Clashing) => Promise<boolean>): void {
  askClash = ask;
}

/** Gives whether the edit is settled, one way or the other: what was typed is needed no more then. */
async function resolveClash(e: Clashing): Promise<boolean> {
  if (!askClash) {
    void notify(e.message, { kind: "error" });
    return false;
  }
  return (await askClash(e)) ? attempt(() => e.insist()) : true;
}

/** Runs something that may fail and says so in words; gives whether it went well. */
export async function attempt(act: () => Promise<unknown>): Promise<boolean> {
  try {
    await act();
    return true;
  } catch (e) {
    if (isClash(e)) return resolveClash(e);
    void notify((e as Error).message, { kind: "error" });
    return false;
  }
}
