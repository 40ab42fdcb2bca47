import type { CellReadingRecord, CellRecord, CellSign } from "@/core/files/records";
import type { Accuracy } from "@/core/instruments";
import { change, edit, newId, now } from "./door";
import { namingIn, titlesOf } from "./naming";

type CellFactsRecord = Omit<CellRecord, "kind" | "id" | "notebookId" | "createdAt" | "updatedAt" | "deletedAt" | "rejected">;

/** Saves a cell, or anew what is known of one. */
export async function keepCell(cell: CellRecord | null, facts: CellFactsRecord, notebookId: CellRecord["notebookId"]): Promise<CellRecord> {
  const at = now();
  const next: CellRecord = { ...(cell ? { kind: "cell", id: cell.id, notebookId: cell.notebookId, createdAt: cell.createdAt, updatedAt: at } : { kind: "cell", id: newId(), notebookId, createdAt: at, updatedAt: at }), ...(cell?.rejected ? { rejected: cell.rejected } : {}), ...facts };
  await change(cell ? `change cell ${next.title}` : `add cell ${next.title}`, [cell ? edit(cell, next) : next]);
  return next;
}

/** Several cells that are alike, in one act: named after each other by numbers that nothing in the notebook has yet. */
export async function addCells(facts: CellFactsRecord, count: number, notebookId: CellRecord["notebookId"]): Promise<void> {
  await namingIn(notebookId, async () => {
    const taken = await titlesOf(notebookId, "cell");
    const at = now();
    const cells: CellRecord[] = [];
    for (let k = 1; cells.length < count; k++) {
      const title = `${facts.title} ${k}`;
      if (!taken.has(title)) cells.push({ kind: "cell", id: newId(), notebookId, createdAt: at, updatedAt: at, ...facts, title });
    }
    await change(`add ${count} cells ${facts.title}`, cells);
  });
}

/** A look at a cell before it is kept. */
export interface CellLookDraft {
  readonly cell: CellRecord;
  readonly volts: number | null;
  readonly charged?: boolean;
  readonly used?: boolean;
  readonly sign?: CellSign;
  readonly note?: string;
}

/** Keeps looks at cells, all at one time, with the meter they were read with. */
export async function readCells(looks: readonly CellLookDraft[], meter: Accuracy | undefined): Promise<void> {
  const at = now();
  const records = looks.map(
    ({ cell, volts, charged, used, sign, note }): CellReadingRecord => ({
      kind: "cellReading",
      id: newId(),
      notebookId: cell.notebookId,
      createdAt: at,
      updatedAt: at,
      cellId: cell.id,
      takenAt: at,
      volts,
      ...(charged ? { charged } : {}),
      ...(used ? { used } : {}),
      ...(sign ? { sign } : {}),
      note: note ?? "",
      ...(meter && volts !== null ? { meter } : {}),
    }),
  );
  await change(records.length === 1 ? `read ${looks[0]?.cell.title ?? "a cell"}` : `read ${records.length} cells`, records);
}

/** Takes a cell out of use for a reason; null puts it back. */
export async function rejectCell(cell: CellRecord, why: string | null): Promise<void> {
  const { rejected: _was, ...rest } = cell;
  void _was;
  const at = now();
  await change(why ? `reject ${cell.title}` : `take ${cell.title} back`, [edit(cell, { ...rest, ...(why ? { rejected: { date: at.slice(0, 10), why } } : {}) })]);
}
