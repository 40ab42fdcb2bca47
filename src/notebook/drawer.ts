import type { Compute } from "./compute";
import {
  cellCode,
  gradeOf,
  stageOf,
  triage,
  type CellGrade,
  type CellLook,
  type Measured,
  type StageAt,
  type Triage,
} from "@/core/cells";
import type {
  CellChargeRecord,
  CellReadingRecord,
  CellRecord,
  PackRecord,
  RunRecord,
  StoredRecord,
} from "@/core/files/records";
import type { Finding, HouseRules } from "@/core/measurement";
import { chargesItsCell } from "@/core/procedures/catalogue";
import { rectangular } from "@/core/quantities";
import { findingsOf } from "./board-dossier";
import { rulesOf } from "./rules";
import { ofKind, runsOf } from "@/storage/queries";

/** A cell with all that is known of it. */
export interface DrawerCell {
  readonly cell: CellRecord;
  /** What its label carries. */
  readonly code: string;
  /** Oldest first. */
  readonly readings: readonly CellReadingRecord[];
  /** Runs that it took part in, oldest first, with what they found. */
  readonly runs: readonly { readonly run: RunRecord; readonly findings: readonly Finding[] }[];
  readonly capacity: Measured | null;
  readonly resistance: Measured | null;
  readonly triage: Triage;
  /** Null until its capacity was measured. */
  readonly grade: CellGrade | null;
  readonly stage: StageAt;
  /** Where it charges now: in a bay, or by itself. */
  readonly charge: CellChargeRecord | null;
  /** The pack that it is part of. */
  readonly pack: PackRecord | null;
  /** The pack that it is, put together from cells of the drawer. */
  readonly itself: PackRecord | null;
  /** Which versions of which records it was worked out from. */
  readonly stamp: string;
}

export interface Drawer {
  readonly cells: readonly DrawerCell[];
  readonly rules: HouseRules;
}

const stampOf = (rules: string, records: readonly (StoredRecord | null)[]): string =>
  [rules, ...records.map((r) => (r ? `${r.id} ${r.updatedAt} ${r.lineage?.length ?? 0}` : ""))].join("\n");
const BY_NAME = new Intl.Collator("en", { numeric: true });

const lookOf = (r: CellReadingRecord): CellLook => ({
  at: Date.parse(r.takenAt),
  volts: r.volts,
  charged: r.charged === true,
  ...(r.used ? { used: true } : {}),
  ...(r.sign ? { sign: r.sign } : {}),
  ...(r.meter ? { meter: r.meter } : {}),
});

/** The share of its readings by which a tester of cells may be off where nobody stated it. */
const USUAL_TESTER_SHARE = 0.05;

/** The newest value of a quantity: a finding of a finished run that was not set aside (a bound is none), or what a tester of cells showed. */
function newest(
  runs: DrawerCell["runs"],
  readings: readonly CellReadingRecord[],
  name: string,
  key: "capacity" | "resistance",
): Measured | null {
  const all: { readonly at: string; readonly value: Measured }[] = readings.flatMap((r) => {
    const value = r[key];
    // A share of the reading is a rectangular half width; k = 2.
    return value === undefined
      ? []
      : [{ at: r.takenAt, value: { value, u: 2 * rectangular((r.testerShare ?? USUAL_TESTER_SHARE) * value) } }];
  });
  for (const { run, findings } of runs) {
    if (run.state !== "finished" || run.setAside) continue;
    const f = findings.find((x) => x.characteristic === name && !x.bound);
    if (f && typeof f.value === "number")
      all.push({ at: run.startUtc, value: { value: f.value, u: f.expandedUncertainty ?? 0 } });
  }
  return all.reduce<(typeof all)[number] | null>((a, b) => (a && a.at >= b.at ? a : b), null)?.value ?? null;
}

/** What belongs to a cell, by its id. */
function byCell<R extends { readonly cellId: string }>(records: readonly R[]): Map<string, R[]> {
  const out = new Map<string, R[]>();
  for (const r of records) {
    const list = out.get(r.cellId);
    if (list) list.push(r);
    else out.set(r.cellId, [r]);
  }
  return out;
}

/** The records from which one cell's state is worked out. */
interface OfCell {
  readonly cell: CellRecord;
  /** Oldest first. */
  readonly readings: readonly CellReadingRecord[];
  readonly charges: readonly CellChargeRecord[];
  readonly runs: readonly RunRecord[];
  readonly pack: PackRecord | null;
  readonly itself: PackRecord | null;
}

async function workedOut(
  compute: Compute,
  { cell, readings, charges, runs, pack, itself }: OfCell,
  rules: HouseRules,
  stamp: string,
): Promise<DrawerCell> {
  const took = await Promise.all(runs.map(async (run) => ({ run, findings: await findingsOf(compute, run) })));
  const capacity = newest(took, readings, "cell.capacity", "capacity");
  const resistance = newest(took, readings, "cell.resistance", "resistance");
  // A run or a charge of the cell ends its rest, whether somebody said so or not.
  const used = [...runs.map((r) => r.startUtc), ...charges.map((c) => c.startedAt)].map((at): CellLook => ({
    at: Date.parse(at),
    volts: null,
    charged: false,
    used: true,
  }));
  const looks = [...readings.map(lookOf), ...used];
  const state = triage(
    cell,
    looks,
    { ...(capacity ? { capacity } : {}), ...(resistance ? { resistance } : {}) },
    rules,
  );
  const charge = charges.find((c) => !c.endedAt) ?? null;
  const since = charge?.startedAt ?? runs.find((r) => r.state === "open" && chargesItsCell(r.procedure))?.startUtc;
  const grade = gradeOf(cell, { capacity, resistance }, state.drop, rules);
  const stage = stageOf({
    looks,
    triage: state,
    graded: grade !== null,
    chargingSince: since === undefined ? null : Date.parse(since),
    pack: pack?.title ?? null,
  });
  return {
    cell,
    code: cellCode(cell.id),
    readings,
    runs: took,
    capacity,
    resistance,
    triage: state,
    grade,
    stage,
    charge,
    pack,
    itself,
    stamp,
  };
}

/**
 * Every cell of a notebook, sorted by name, with its state worked out from its readings, its runs and the house rules. Of a drawer that was
 * worked out before, the cells of which nothing has changed since are taken as they are.
 */
export async function drawer(compute: Compute, notebookId: string, before?: Drawer): Promise<Drawer> {
  const [cells, readings, charges, packs, allRuns, rules] = await Promise.all([
    ofKind(notebookId, "cell"),
    ofKind(notebookId, "cellReading"),
    ofKind(notebookId, "cellCharge"),
    ofKind(notebookId, "pack"),
    runsOf(notebookId),
    rulesOf(notebookId),
  ]);
  const readingsOf = byCell(readings);
  const chargesOf = byCell(charges);
  const packOf = new Map(packs.flatMap((pack) => pack.groups.flat().map((id) => [id, pack] as const)));
  const itselfOf = new Map(packs.flatMap((pack) => (pack.cellId ? [[pack.cellId, pack] as const] : [])));
  const runsByCell = byCell(
    allRuns.flatMap((r) => (r.cellId !== undefined && r.state !== "prepared" ? [{ cellId: r.cellId, run: r }] : [])),
  );
  const earlier = new Map(before?.cells.map((c) => [c.stamp, c]));
  const ruled = JSON.stringify(rules);
  const drawerCells = cells.map(async (cell): Promise<DrawerCell> => {
    const of: OfCell = {
      cell,
      readings: (readingsOf.get(cell.id) ?? []).sort((a, b) => a.takenAt.localeCompare(b.takenAt)),
      charges: chargesOf.get(cell.id) ?? [],
      runs: (runsByCell.get(cell.id) ?? []).map((r) => r.run).sort((a, b) => a.startUtc.localeCompare(b.startUtc)),
      pack: packOf.get(cell.id) ?? null,
      itself: itselfOf.get(cell.id) ?? null,
    };
    const stamp = stampOf(ruled, [cell, ...of.readings, ...of.charges, ...of.runs, of.pack, of.itself]);
    return earlier.get(stamp) ?? workedOut(compute, of, rules, stamp);
  });
  return { cells: (await Promise.all(drawerCells)).sort((a, b) => BY_NAME.compare(a.cell.title, b.cell.title)), rules };
}

/** The cells that are due to be read on the day of a moment (ms since 1970), or were before. */
export function dueOn(cells: readonly DrawerCell[], at: number): readonly DrawerCell[] {
  const end = new Date(at).setHours(23, 59, 59, 999);
  return cells.filter((c) => c.triage.due && c.triage.due.at <= end);
}
