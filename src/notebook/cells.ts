import { localDay } from "@/storage";
import type { CellReadingRecord, CellRecord } from "@/core/files/records";
import type { IntakeCell } from "@/core/cells";
import type { Accuracy } from "@/core/instruments";
import { accuraciesFor } from "@/core/measurement";
import { change, edit, newId, now } from "@/storage/door";
import { freeName, namingIn, titlesOf } from "./naming";
import { rigOf } from "./rigs";

type CellFactsRecord = Omit<
  CellRecord,
  "kind" | "id" | "notebookId" | "createdAt" | "updatedAt" | "deletedAt" | "rejected"
>;

/** Saves a cell, or anew what is known of one. */
export async function keepCell(
  cell: CellRecord | null,
  facts: CellFactsRecord,
  notebookId: CellRecord["notebookId"],
): Promise<CellRecord> {
  const at = now();
  const next: CellRecord = {
    ...(cell
      ? { kind: "cell", id: cell.id, notebookId: cell.notebookId, createdAt: cell.createdAt, updatedAt: at }
      : { kind: "cell", id: newId(), notebookId, createdAt: at, updatedAt: at }),
    ...(cell?.rejected ? { rejected: cell.rejected } : {}),
    ...facts,
  };
  await change(cell ? `change cell ${next.title}` : `add cell ${next.title}`, [cell ? edit(cell, next) : next]);
  return next;
}

/** Several cells that are alike, in one act: named after each other by numbers that nothing in the notebook has yet. */
export async function addCells(
  facts: CellFactsRecord,
  count: number,
  notebookId: CellRecord["notebookId"],
): Promise<void> {
  await namingIn(notebookId, async () => {
    const taken = await titlesOf(notebookId, "cell");
    const at = now();
    const cells: CellRecord[] = [];
    for (let k = 1; cells.length < count; k++) {
      const title = `${facts.title} ${k}`;
      if (!taken.has(title))
        cells.push({ kind: "cell", id: newId(), notebookId, createdAt: at, updatedAt: at, ...facts, title });
    }
    await change(`add ${count} cells ${facts.title}`, cells);
  });
}

/** Cells of a list, in one act, with what each was found at; names that the notebook has already get a number. */
export async function takeIn(
  list: readonly IntakeCell[],
  facts: CellFactsRecord,
  notebookId: CellRecord["notebookId"],
): Promise<readonly CellRecord[]> {
  const meter = await cellMeter(notebookId);
  return namingIn(notebookId, async () => {
    const taken = new Set(await titlesOf(notebookId, "cell"));
    const at = now();
    const cells = list.map((c): CellRecord => {
      const title = freeName(c.title, taken);
      taken.add(title);
      return {
        kind: "cell",
        id: newId(),
        notebookId,
        createdAt: at,
        updatedAt: at,
        ...facts,
        title,
        ...(c.capacity === undefined ? {} : { capacity: c.capacity }),
      };
    });
    const readings = list.flatMap((c, k): CellReadingRecord[] => {
      const cell = cells[k];
      return cell && c.volts !== undefined
        ? [
            {
              kind: "cellReading",
              id: newId(),
              notebookId,
              createdAt: at,
              updatedAt: at,
              cellId: cell.id,
              takenAt: at,
              volts: c.volts,
              note: "as found",
              ...(meter ? { meter } : {}),
            },
          ]
        : [];
    });
    await change(`take in ${cells.length} cells`, [...cells, ...readings]);
    return cells;
  });
}

/** The meter that cells are read with on the rig in use; undefined where its accuracy is not stated. */
export const cellMeter = async (notebookId: string): Promise<Accuracy | undefined> =>
  accuraciesFor(["cellVoltage"], (await rigOf(notebookId))?.instruments ?? {}).cellVoltage;

/** A look at a cell before it is kept, taken now where no time is said. */
export interface CellLookDraft
  extends
    Pick<CellReadingRecord, "volts" | "charged" | "used" | "sign" | "capacity" | "resistance" | "testerShare">,
    Partial<Pick<CellReadingRecord, "note" | "takenAt">> {
  readonly cell: CellRecord;
}

/** Keeps looks at cells, all at one time, with the meter they were read with. */
export async function readCells(looks: readonly CellLookDraft[], meter: Accuracy | undefined): Promise<void> {
  const at = now();
  const records = looks.map(
    ({ cell, volts, charged, used, sign, capacity, resistance, testerShare, note, takenAt }): CellReadingRecord => ({
      kind: "cellReading",
      id: newId(),
      notebookId: cell.notebookId,
      createdAt: at,
      updatedAt: at,
      cellId: cell.id,
      takenAt: takenAt ?? at,
      volts,
      ...(charged ? { charged } : {}),
      ...(used ? { used } : {}),
      ...(sign ? { sign } : {}),
      ...(capacity === undefined ? {} : { capacity }),
      ...(resistance === undefined ? {} : { resistance }),
      ...(testerShare === undefined || (capacity === undefined && resistance === undefined) ? {} : { testerShare }),
      note: note ?? "",
      ...(meter && volts !== null ? { meter } : {}),
    }),
  );
  await change(
    records.length === 1 ? `read ${looks[0]?.cell.title ?? "a cell"}` : `read ${records.length} cells`,
    records,
  );
}

/** Takes a cell out of use for a reason; null puts it back. */
export async function rejectCell(cell: CellRecord, why: string | null): Promise<void> {
  const { rejected: _was, ...rest } = cell;
  void _was;
  const at = now();
  await change(why ? `reject ${cell.title}` : `take ${cell.title} back`, [
    edit(cell, { ...rest, ...(why ? { rejected: { date: localDay(at), why } } : {}) }),
  ]);
}
