import { cellCode, gradeOf, stageOf, triage, type CellGrade, type CellLook, type Measured, type StageAt, type Triage } from "@/core/cells";
import type { CellChargeRecord, CellReadingRecord, CellRecord, PackRecord, RunRecord } from "@/core/files/records";
import type { Finding, HouseRules } from "@/core/procedures";
import { chargesItsCell } from "@/core/procedures/versions";
import { rectangular } from "@/core/quantities";
import { findingsOf, rulesOf } from "./board-dossier";
import { ofKind, runsOf } from "./queries";

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
}

export interface Drawer {
  readonly cells: readonly DrawerCell[];
  readonly rules: HouseRules;
}

const lookOf = (r: CellReadingRecord): CellLook => ({ at: Date.parse(r.takenAt), volts: r.volts, charged: r.charged === true, ...(r.used ? { used: true } : {}), ...(r.sign ? { sign: r.sign } : {}), ...(r.meter ? { meter: r.meter } : {}) });

/** The share of its readings by which a tester of cells may be off where nobody stated it. */
const USUAL_TESTER_SHARE = 0.05;

/** The newest value of a quantity: a finding of a finished run that was not set aside (a bound is none), or what a tester of cells showed. */
function newest(runs: DrawerCell["runs"], readings: readonly CellReadingRecord[], name: string, key: "capacity" | "resistance"): Measured | null {
  const all: { readonly at: string; readonly value: Measured }[] = readings.flatMap((r) => {
    const value = r[key];
    // A share of the reading is a rectangular half width; k = 2.
    return value === undefined ? [] : [{ at: r.takenAt, value: { value, u: 2 * rectangular((r.testerShare ?? USUAL_TESTER_SHARE) * value) } }];
  });
  for (const { run, findings } of runs) {
    if (run.state !== "finished" || run.setAside) continue;
    const f = findings.find((x) => x.characteristic === name && !x.bound);
    if (f && typeof f.value === "number") all.push({ at: run.startUtc, value: { value: f.value, u: f.expandedUncertainty ?? 0 } });
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

/** Every cell of a notebook, sorted by name, with its state worked out from its readings, its runs and the house rules. */
export async function drawer(notebookId: string): Promise<Drawer> {
  const [cells, readings, charges, packs, allRuns, rules] = await Promise.all([ofKind(notebookId, "cell"), ofKind(notebookId, "cellReading"), ofKind(notebookId, "cellCharge"), ofKind(notebookId, "pack"), runsOf(notebookId), rulesOf(notebookId)]);
  const readingsOf = byCell(readings);
  const chargesOf = byCell(charges);
  const packOf = new Map(packs.flatMap((pack) => pack.groups.flat().map((id) => [id, pack] as const)));
  const itselfOf = new Map(packs.flatMap((pack) => (pack.cellId ? [[pack.cellId, pack] as const] : [])));
  const runs = allRuns.filter((r) => r.cellId !== undefined && r.state !== "prepared");
  const found = await Promise.all(
    cells.map(async (cell): Promise<DrawerCell> => {
      const own = (readingsOf.get(cell.id) ?? []).sort((a, b) => a.takenAt.localeCompare(b.takenAt));
      const took = await Promise.all(
        runs.filter((r) => r.cellId === cell.id).sort((a, b) => a.startUtc.localeCompare(b.startUtc)).map(async (run) => ({ run, findings: await findingsOf(run) })),
      );
      const capacity = newest(took, own, "cell.capacity", "capacity");
      const resistance = newest(took, own, "cell.resistance", "resistance");
      const charged = chargesOf.get(cell.id) ?? [];
      // A run or a charge of the cell ends its rest, whether somebody said so or not.
      const used = [...took.map(({ run }) => run.startUtc), ...charged.map((c) => c.startedAt)].map((at): CellLook => ({ at: Date.parse(at), volts: null, charged: false, used: true }));
      const looks = [...own.map(lookOf), ...used];
      const state = triage(cell, looks, { ...(capacity ? { capacity } : {}), ...(resistance ? { resistance } : {}) }, rules);
      const charge = charged.find((c) => !c.endedAt) ?? null;
      const run = took.find(({ run: r }) => r.state === "open" && chargesItsCell(r.procedure))?.run;
      const since = charge?.startedAt ?? run?.startUtc;
      const pack = packOf.get(cell.id) ?? null;
      const grade = gradeOf(cell, { capacity, resistance }, state.drop, rules);
      const stage = stageOf({ looks, triage: state, graded: grade !== null, chargingSince: since === undefined ? null : Date.parse(since), pack: pack?.title ?? null });
      return { cell, code: cellCode(cell.id), readings: own, runs: took, capacity, resistance, triage: state, grade, stage, charge, pack, itself: itselfOf.get(cell.id) ?? null };
    }),
  );
  return { cells: found.sort((a, b) => a.cell.title.localeCompare(b.cell.title, "en", { numeric: true })), rules };
}

/** The cells that are due to be read on the day of a moment (ms since 1970), or were before. */
export function dueOn(cells: readonly DrawerCell[], at: number): readonly DrawerCell[] {
  const end = new Date(at).setHours(23, 59, 59, 999);
  return cells.filter((c) => c.triage.due && c.triage.due.at <= end);
}
