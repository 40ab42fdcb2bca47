import type { BoardId, RunId, RunRecord, SampleId, StoredRecord } from "../files/records";
import { joinColumns, type TraceColumns } from "../files/trace-columns";
import { HOUSE_RULES, type LogRow, type PlannedCell, type Role, type RunSetup } from "../measurement";
import type { PlanContext } from "../procedures";
import { chargeCycle, ChargeWatch, type ChargePlan } from "../procedures/charge-cycle";
import { assert } from "../quantities";
import { CHARGE_METERS } from "../bench/charge-meters";
import { liveChargeFor } from "../rehearsal/live-bench";
import type { DemoBoard } from "./boards";
import { loggedFile } from "./imported";

/** s between samples, of rest logged after the end, and the longest charge. */
const EVERY = 5;
const REST = 600;
const MOST = 8 * 3600;

const CELL: PlannedCell = {
  title: "Reed 2200",
  chemistry: "lithium-ion",
  capacity: 2.2,
  chargeRateLimit: 1,
  chargeRate: HOUSE_RULES.chargeRate,
  fullVoltage: HOUSE_RULES.chargeFull,
  emptyVoltage: HOUSE_RULES.chargeEmpty,
  ownProtection: false,
};

export interface DemoLog {
  readonly runId: string;
  readonly columns: TraceColumns;
}

/** A board's charges, logged on the simulated bench as they are made. */
export function buildCharges(
  b: DemoBoard,
  means: {
    readonly newId: () => string;
    readonly zone: string;
    readonly at: (minutesAgo: number) => string;
    readonly base: Pick<RunRecord, "notebookId">;
  },
  boardId: BoardId,
  claims: PlanContext["claims"],
  samples: readonly SampleId[],
  cells: ReadonlyMap<string, string>,
): { records: StoredRecord[]; logs: DemoLog[] } {
  const records: StoredRecord[] = [];
  const logs: DemoLog[] = [];
  (b.charges ?? []).forEach((charge, k) => {
    const configuration = b.samples[charge.sample]?.configuration ?? "";
    const planned = chargeCycle.plan({
      claims,
      rules: HOUSE_RULES,
      rig: {
        instruments: CHARGE_METERS,
        supplyCurrentLimit: 3,
        inputLeadResistance: 0,
        outputLeadResistance: 0,
        drawer: [],
      },
      cell: CELL,
      ...(configuration ? { configuration: { words: configuration } } : {}),
    });
    assert(planned.ok, `the demo charge of ${b.title} can't be planned`);
    const setup: RunSetup<ChargePlan> = {
      ...planned.value,
      plan: {
        ...(planned.value.plan as ChargePlan),
        startVoltage: charge.startVoltage,
        supplyVoltage: charge.input ?? 5,
        every: EVERY,
        charger: charge.charger.startsWith("switching") ? "switching" : "linear",
      },
    };
    const runId = means.newId() as RunId;
    const begun = means.at(40 - 5 * k);
    const stamp = { notebookId: means.base.notebookId, createdAt: begun, updatedAt: begun };
    const { file, source, columns } = loggedFile(
      charge.title,
      logged(charge.charger, charge.seed, setup),
      means.newId(),
      stamp,
    );
    records.push(file, {
      kind: "run",
      ...stamp,
      id: runId,
      boardId,
      sampleId: samples[charge.sample] as SampleId,
      procedure: chargeCycle.id,
      title: charge.title,
      startUtc: begun,
      zone: means.zone,
      state: "finished",
      setup: setup as RunSetup,
      pinned: { configuration, modifiedFunctions: [] },
      source,
      ...cellOf(cells, charge.cell ?? CELL.title),
    });
    logs.push({ runId, columns });
  });
  return { records, logs };
}

/** The cell of the drawer by its name, for a run's record. */
export function cellOf(cells: ReadonlyMap<string, string>, name: string | undefined): { cellId?: string } {
  const cellId = name ? cells.get(name) : undefined;
  return cellId ? { cellId } : {};
}

function logged(charger: string, seed: number, setup: RunSetup<ChargePlan>): TraceColumns {
  const source = liveChargeFor(charger, seed, EVERY, setup as RunSetup);
  const watch = new ChargeWatch(setup);
  const rows: LogRow[] = [];
  let end = MOST;
  for (let k = 0; k * EVERY <= end; k++) {
    const row = source.sample(k);
    rows.push(row);
    if (watch.push(row).some((e) => e.kind === "done") && end === MOST) end = k * EVERY + REST;
  }
  const roles = Object.keys(rows[0] ?? {}) as Role[];
  return joinColumns([Object.fromEntries(roles.map((role) => [role, Float64Array.from(rows, (r) => r[role] ?? NaN)]))]);
}
