/** Everything that is said to and by a worker: one union each way. */
import type { StoredRecord } from "@/core/files/records";
import type { Claim } from "@/core/claims";
import type { Merge } from "@/core/files/archive";
import type { TextTable, Dialect } from "@/core/files/table";
import type { ColumnMapping } from "@/core/files/mapping";
import type { CellProblem } from "@/core/files/import-points";
import type { ImportedTrace } from "@/core/files/import-trace";
import type { Corrections, Finding, HouseRules, Point, Readings, RunSetup } from "@/core/procedures";
import type { DrawerResistor, LoadChoice } from "@/core/procedures/load-sweep/resistors";
import type { ClaimVerdict, EvidenceSample } from "@/core/verdicts";
import type { BenchAddress, SimulatedBoardId } from "@/core/simulator";

export interface Tasks {
  /** Nearest resistor arrangements for load currents. */
  resistors: { ask: { targets: readonly number[]; volts: number; drawer: readonly DrawerResistor[] }; give: LoadChoice[] };
  /** What a run's analysis finds. */
  findings: { ask: { run: { readonly procedure: string; readonly setup: RunSetup }; readings: Readings; corrections: Corrections }; give: readonly Finding[] };
  verdicts: { ask: { claims: readonly Claim[]; evidence: readonly EvidenceSample[]; rules: HouseRules }; give: readonly ClaimVerdict[] };
  demo: { ask: { now: string; zone: string }; give: StoredRecord[] };
  table: { ask: { text: string; dialect: Partial<Dialect> }; give: { table: TextTable; mapping: ColumnMapping } | { error: string } };
  points: { ask: { text: string; dialect: Dialect; mapping: ColumnMapping; fileId: string }; give: { points: readonly Point[]; problems: readonly CellProblem[]; sha256: string } | { error: string } };
  /** A log over time from its text. */
  trace: { ask: { text: string; dialect: Partial<Dialect>; mapping: ColumnMapping }; give: (ImportedTrace & { readonly sha256: string }) | { error: string } };
  "archive-write": { ask: { records: readonly StoredRecord[]; at: string }; give: Uint8Array };
  "archive-read": { ask: { bytes: Uint8Array }; give: { records: readonly StoredRecord[]; title: string; notebookId: string } | { error: string } };
  merge: { ask: { present: ReadonlyMap<string, StoredRecord>; incoming: readonly StoredRecord[] }; give: Merge };
  "bench-open": { ask: { board: SimulatedBoardId; seed: number; inputLeadResistance: number; outputLeadResistance: number }; give: null };
  "bench-exchange": { ask: { lines: readonly { address: BenchAddress; line: string }[] }; give: { answers: (string | null)[]; time: number } };
  "bench-pace": { ask: { factor: number }; give: null };
}
export type TaskName = keyof Tasks;

export type ToWorker = { [K in TaskName]: { readonly id: number; readonly task: K; readonly ask: Tasks[K]["ask"] } }[TaskName];
export type FromWorker = { readonly id: number; readonly ok: true; readonly give: unknown } | { readonly id: number; readonly ok: false; readonly error: string };
