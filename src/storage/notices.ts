import type { StoredRecord } from "@/core/files/records";

/** Word of a change to every part of this tab and to the other tabs. */
export interface ChangeNotice {
  readonly notebookId: string;
  readonly ids: readonly string[];
  readonly kinds: readonly string[];
  /** What was written, so that whoever follows it need not read it again. */
  readonly records: readonly StoredRecord[];
  /** The runs whose records changed. */
  readonly runs: readonly string[];
}

/** `elsewhere`: another tab made the change. */
type Listener = (n: ChangeNotice, elsewhere: boolean) => void;
const listeners = new Set<Listener>();
let channel: BroadcastChannel | null = null;

function otherTabs(): BroadcastChannel | null {
  if (typeof BroadcastChannel === "undefined") return null;
  if (!channel) {
    channel = new BroadcastChannel("nimbus-bench-changes");
    channel.onmessage = (e: MessageEvent<ChangeNotice>) => listeners.forEach((l) => l(e.data, true));
  }
  return channel;
}

export function listen(listener: Listener): () => void {
  otherTabs();
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function announce(notice: ChangeNotice): void {
  listeners.forEach((l) => l(notice, false));
  otherTabs()?.postMessage(notice);
}

/** Says that a whole notebook came in, or went. */
export const announceNotebook = (notebookId: string): void =>
  announce({ notebookId, records: [], ids: [notebookId], kinds: ["notebook"], runs: [] });

/** Frees the channel, so that a test process can end. */
export function closeNotices(): void {
  channel?.close();
  channel = null;
}
