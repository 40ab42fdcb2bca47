import type { RecordKind, StoredRecord } from "@/core/files/records";
import { ofBoard, ofKind } from "@/storage/queries";

/** While `act` gives a name and writes it, no other part or tab gives one in this notebook. */
export const namingIn = <T>(notebookId: string, act: () => Promise<T>): Promise<T> =>
  typeof navigator === "undefined" || !navigator.locks
    ? act()
    : navigator.locks.request(`nimbus-names-${notebookId}`, act);

/** `wanted` where nothing has that name, else with the first free number behind it. */
export function freeName(wanted: string, taken: ReadonlySet<string>): string {
  for (let k = 1; ; k++) {
    const name = k === 1 ? wanted : `${wanted} (${k})`;
    if (!taken.has(name)) return name;
  }
}

/** A, B, …, Z, A1, …: the first letter that no sample of the board has, as they are stored now. */
export async function nextSampleName(boardId: string): Promise<string> {
  const taken = new Set((await ofBoard(boardId, "sample")).map((s) => s.name));
  for (let k = 0; ; k++) {
    const name = String.fromCharCode(65 + (k % 26)) + (k >= 26 ? String(Math.floor(k / 26)) : "");
    if (!taken.has(name)) return name;
  }
}

const titleOf = (r: StoredRecord): string => ("title" in r ? r.title : "");

/** Titles of a kind in a notebook, as they are stored now, `but` one left out. */
export const titlesOf = async (notebookId: string, kind: RecordKind, but?: string): Promise<ReadonlySet<string>> =>
  new Set((await ofKind(notebookId, kind)).filter((r) => r.id !== but).map(titleOf));

/** Titles of a board's runs, as they are stored now, `but` one left out. */
export const runTitlesOf = async (boardId: string, but?: string): Promise<ReadonlySet<string>> =>
  new Set((await ofBoard(boardId, "run")).filter((r) => r.id !== but).map((r) => r.title));
