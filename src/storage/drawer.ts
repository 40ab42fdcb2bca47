import { cellCode, triage, type CellLook, type Measured, type Triage } from "@/core/cells";
import type { CellReadingRecord, CellRecord, RunRecord } from "@/core/files/records";
import type { Finding, HouseRules } from "@/core/procedures";
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
}

export interface Drawer {
  readonly cells: readonly DrawerCell[];
  readonly rules: HouseRules;
}

const lookOf = (r: CellReadingRecord): CellLook => ({ at: Date.parse(r.takenAt), volts: r.volts, charged: r.charged === true, ...(r.used ? { used: true } : {}), ...(r.sign ? { sign: r.sign } : {}), ...(r.meter ? { meter: r.meter } : {}) });

/** The newest finding of that name from finished runs that were not set aside; a bound is none. */
function newest(runs: DrawerCell["runs"], name: string): Measured | null {
  for (const { run, findings } of [...runs].reverse()) {
    if (run.state !== "finished" || run.setAside) continue;
    const f = findings.find((x) => x.characteristic === name && !x.bound);
    if (f && typeof f.value === "number") return { value: f.value, u: f.expandedUncertainty ?? 0 };
  }
  return null;
}

/** Every cell of a notebook, sorted by name, with its state worked out from its readings, its runs and the house rules. */
export async function drawer(notebookId: string): Promise<Drawer> {
  const [cells, readings, allRuns, rules] = await Promise.all([ofKind(notebookId, "cell"), ofKind(notebookId, "cellReading"), runsOf(notebookId), rulesOf(notebookId)]);
  const runs = allRuns.filter((r) => r.cellId !== undefined && r.state !== "prepared");
  const found = await Promise.all(
    cells.map(async (cell): Promise<DrawerCell> => {
      const own = readings.filter((r) => r.cellId === cell.id).sort((a, b) => a.takenAt.localeCompare(b.takenAt));
      const took = await Promise.all(
        runs.filter((r) => r.cellId === cell.id).sort((a, b) => a.startUtc.localeCompare(b.startUtc)).map(async (run) => ({ run, findings: await findingsOf(run) })),
      );
      const capacity = newest(took, "cell.capacity");
      const resistance = newest(took, "cell.resistance");
      // A run with the cell ends its rest, whether somebody said so or not.
      const used = took.map(({ run }): CellLook => ({ at: Date.parse(run.startUtc), volts: null, charged: false, used: true }));
      const state = triage(cell, [...own.map(lookOf), ...used], { ...(capacity ? { capacity } : {}), ...(resistance ? { resistance } : {}) }, rules);
      return { cell, code: cellCode(cell.id), readings: own, runs: took, capacity, resistance, triage: state };
    }),
  );
  return { cells: found.sort((a, b) => a.cell.title.localeCompare(b.cell.title, "en", { numeric: true })), rules };
}
