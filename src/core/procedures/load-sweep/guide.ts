import { formatQuantity } from "../../quantities";
import type { Corrections, LoadSetting, Point, PointSettings, RunSetup, Role } from "../../measurement";
import type { Proposal } from "../contract";
import { columnLimits } from "./analyse";
import { fitLossModel, lossAt, type LossModel } from "./loss-model";
import { startKinds, type SweepPlan } from "./plan";
import { sweepColumns, type SweepColumn } from "./points";
import { drawnAs, nextStartVoltage, startLoadOf } from "./starts";

/** Efficiency expected before anything has been measured. */
const FIRST_GUESS = 0.88;
/** Bisection proposes loads in steps of 5 mA: finer can't be set on most loads. */
const SETTABLE = 0.005;

/** What the search for the lowest battery that it starts from is closed by. */
const START_COLUMN = "start voltage";

export const columnName = (battery: number): string => `battery ${battery}`;

/**
 * Loads of the plan in A, as they can really be set: the drawer's own currents where resistors are used. A choice that
 * would be driven past its rating is never proposed.
 */
export function settableLoads(plan: SweepPlan): { amps: number; load: LoadSetting; text: string }[] {
  const byCurrent = (amps: number) => ({
    amps,
    load: { mode: "current" as const, value: amps },
    text: amps === 0 ? "no load" : formatQuantity(amps, "A"),
  });
  if (!plan.drawer) return plan.loads.map(byCurrent);
  const seen = new Set<string>();
  const fromDrawer = [...plan.drawer]
    .sort((a, b) => a.amps - b.amps)
    .filter((c) => c.strain <= 1 && !seen.has(c.text) && seen.add(c.text))
    .map((c) => ({
      amps: c.amps,
      load: { mode: "resistance" as const, value: c.ohms },
      text: `${c.text} (${formatQuantity(c.amps, "A", { digits: 3 })})`,
    }));
  return [byCurrent(0), ...fromDrawer];
}

/** The load midway between the last held and the first that fell, or null where the bracket is as narrow as it gets. */
export function bisect(plan: SweepPlan, held: number, fell: number): ReturnType<typeof settableLoads>[number] | null {
  if (plan.drawer) {
    const between = settableLoads(plan).filter((l) => l.amps > held * 1.002 && l.amps < fell * 0.998);
    if (between.length === 0) return null;
    const middle = (held + fell) / 2;
    return between.reduce((a, b) => (Math.abs(b.amps - middle) < Math.abs(a.amps - middle) ? b : a));
  }
  if (fell - held <= plan.resolution * 1.001) return null;
  const amps = Number((Math.round((held + fell) / 2 / SETTABLE) * SETTABLE).toFixed(4));
  if (amps <= held || amps >= fell) return null;
  return { amps, load: { mode: "current", value: amps }, text: formatQuantity(amps, "A") };
}

function firstModel(columns: readonly SweepColumn[]): LossModel | null {
  for (const c of columns) {
    const model = fitLossModel(c.points);
    if (model) return model;
  }
  return null;
}

/** What the meters should show at a load, from the loss model of this column, else of an earlier one, else a guess. */
function expectation(
  battery: number,
  amps: number,
  setup: RunSetup<SweepPlan>,
  columns: readonly SweepColumn[],
): Partial<Record<Role, number>> {
  const nominal = setup.conditions.nominalOutput ?? NaN;
  const own = columns.find((c) => c.battery === battery);
  const idle =
    own?.points.find((p) => p.efficiency === null) ??
    columns.flatMap((c) => c.points).find((p) => p.efficiency === null);
  const last = own?.points.filter((p) => p.inBand && p.efficiency !== null).at(-1);
  const volts = last ? last.outputV.value : (idle?.outputV.value ?? nominal);
  const model = (own && own.points.length >= 6 ? fitLossModel(own.points) : null) ?? firstModel(columns);
  const loss = model ? Math.max(0, lossAt(model, amps)) : amps * volts * (1 / FIRST_GUESS - 1);
  return {
    batteryVoltage: battery,
    ...((amps === 0 && !model) || Number.isNaN(volts) ? {} : { batteryCurrent: (amps * volts + loss) / battery }),
    ...(Number.isNaN(volts) ? {} : { outputVoltage: volts }),
    outputCurrent: amps,
  };
}

/** Points that halving a gap asks for in the mean. */
const HALVINGS = 2;

/** About how many points a column still asks for: the loads above the highest that stood, or those that halve the gap; then starts. */
function pointsToCome(plan: SweepPlan, ladder: ReturnType<typeof settableLoads>, column: SweepColumn): number {
  const { fell } = columnLimits(column);
  const next = nextLoad(plan, ladder, column, fell ? fell.loadSet : null);
  const starts = plan.starts
    ? startKinds(plan).filter((kind) => next || nextStart(plan, ladder, column, kind)).length
    : 0;
  if (!next) return starts;
  if (fell) return 1 + starts;
  return ladder.filter((l) => l.amps >= next.amps).length + (plan.drawer ? 0 : HALVINGS) + starts;
}

/** The supply as a point wants it: its voltage, and the limit that the run was set up with. */
const supplyAt = (battery: number, setup: RunSetup<SweepPlan>): PointSettings => ({
  supplyVoltage: battery,
  ...(setup.conditions.supplyCurrentLimit ? { supplyCurrentLimit: setup.conditions.supplyCurrentLimit } : {}),
});

/** After a fall: the load off, and a look at whether the output comes back. */
const afterFall = (battery: number, setup: RunSetup<SweepPlan>, progress: Proposal["progress"]): Proposal => ({
  kind: "restart",
  text: "The output fell out of its band. Remove the load and watch whether the output recovers on its own.",
  settings: { ...supplyAt(battery, setup), load: { mode: "current", value: 0 } },
  expect: {
    batteryVoltage: battery,
    ...(setup.conditions.nominalOutput ? { outputVoltage: setup.conditions.nominalOutput } : {}),
    outputCurrent: 0,
  },
  column: columnName(battery),
  progress,
});

/** A start with the load on: from off, at a battery voltage. */
const fromOff = (
  battery: number,
  start: { readonly load: LoadSetting; readonly text: string },
  setup: RunSetup<SweepPlan>,
) => ({
  kind: "point" as const,
  text: `Supply off. Put ${start.text} on the output, then switch the supply on at ${formatQuantity(battery, "V")}: does the output start?`,
  settings: { ...supplyAt(battery, setup), load: start.load, fromOff: true as const },
  expect: {},
});

/**
 * The one obvious next step of a sweep.
 *
 * Column by column from the fullest battery down. Loads rise from none; a point counts once it dwelt. After a collapse
 * the load comes off and the restart is noted, then the bracket between the last held and the first that fell is
 * halved, always approached from below, until it is known within the plan's resolution or the drawer has nothing in
 * between. Loads below the collapse that were passed over are not asked again.
 */
export function nextSweepStep(
  setup: RunSetup<SweepPlan>,
  points: readonly Point[],
  corrections: Corrections,
): Proposal {
  const plan = setup.plan;
  if (!plan) throw new Error("internal: an imported sweep has no next step");
  const columns = sweepColumns(points, setup, corrections, plan.dwell, false);
  const ladder = settableLoads(plan);
  const columnOf = (battery: number): SweepColumn =>
    columns.find((c) => c.battery === battery) ?? { battery, points: [], leftOut: [] };
  const toCome = plan.batteries.reduce(
    (n, b) => n + (corrections.closed.has(columnName(b)) ? 0 : pointsToCome(plan, ladder, columnOf(b))),
    0,
  );
  const startVoltage = nextStartVoltage(plan, columns);
  const progress = { taken: points.length, of: points.length + toCome + (startVoltage?.left ?? 0) };
  const limit = setup.conditions.supplyCurrentLimit;
  const last = points[points.length - 1];

  for (const battery of plan.batteries) {
    if (corrections.closed.has(columnName(battery))) continue;
    const column = columnOf(battery);
    const fellPoint = last && column.points.find((p) => p.id === last.id && p.fell && !p.fromOff);
    if (fellPoint && !corrections.recoveries.has(fellPoint.id)) return afterFall(battery, setup, progress);
    const { fell } = columnLimits(column);
    const target = nextLoad(plan, ladder, column, fell ? fell.loadSet : null);
    if (!target) {
      const start = plan.starts ? startOfKinds(plan, ladder, column, setup.conditions.nominalOutput) : null;
      if (!start) continue;
      return { ...fromOff(battery, start, setup), column: columnName(battery), progress };
    }
    const expect = expectation(battery, target.amps, setup, columns);
    const amps = expect.batteryCurrent ?? 0;
    const caution =
      limit !== undefined && amps > 0.95 * limit
        ? `About ${formatQuantity(amps, "A", { digits: 3 })} from the battery is expected, and the supply's limit is ${formatQuantity(limit, "A")}: raise the limit first, or a collapse will be the supply's.`
        : undefined;
    const first = column.points.length + column.leftOut.length === 0;
    const narrowing = fell !== null;
    return {
      kind: "point",
      text: `${first ? `Set the supply to ${formatQuantity(battery, "V")}. ` : ""}${target.amps === 0 ? "Leave the output unloaded." : `Raise the load from below to ${target.text}.`}${narrowing ? " This halves the gap between held and fell." : ""}`,
      settings: { ...supplyAt(battery, setup), load: target.load },
      expect,
      ...(caution ? { caution } : {}),
      column: columnName(battery),
      progress,
    };
  }
  if (startVoltage && !corrections.closed.has(START_COLUMN)) {
    const start = startLoadOf(plan, setup.conditions.nominalOutput);
    return {
      ...fromOff(startVoltage.battery, start, setup),
      column: START_COLUMN,
      columnName: "search",
      progress,
    };
  }
  return {
    kind: "done",
    text: "Every battery voltage is done: read the result.",
    settings: {},
    expect: {},
    progress: { taken: points.length, of: points.length },
  };
}

/**
 * The next load of a column, or null where it is done. An output above its band is not held, but it has not fallen
 * either: the gap that is halved runs from the highest load that stood. A load that dwelt is never asked again.
 */
function nextLoad(
  plan: SweepPlan,
  ladder: ReturnType<typeof settableLoads>,
  column: SweepColumn,
  fell: number | null,
): ReturnType<typeof settableLoads>[number] | null {
  const dwelt = column.points.filter((p) => !p.fromOff && p.dwelt);
  const tried = (amps: number) => dwelt.some((p) => Math.abs(p.loadSet - amps) <= Math.max(0.0005, 0.003 * amps));
  if (fell !== null) {
    const stood = dwelt.filter((p) => !p.fell && p.loadSet < fell).reduce((m, p) => Math.max(m, p.loadSet), 0);
    const middle = bisect(plan, stood, fell);
    return middle && !tried(middle.amps) ? middle : null;
  }
  const highest = dwelt.reduce((m, p) => Math.max(m, p.loadSet), -1);
  return ladder.find((l) => l.amps > highest + Math.max(0.0004, 0.003 * l.amps) && !tried(l.amps)) ?? null;
}

/**
 * The next load (A) of one kind to start into from off, or null where the highest one is known: first the highest load held, as starting is
 * harder than holding; where it refuses, the gap down to what started (or to no load) is halved.
 */
function nextStart(
  plan: SweepPlan,
  ladder: ReturnType<typeof settableLoads>,
  column: SweepColumn,
  kind: LoadSetting["mode"],
): ReturnType<typeof settableLoads>[number] | null {
  const { held } = columnLimits(column);
  if (!held) return null;
  const tries = column.points.filter((p) => p.fromOff && p.dwelt && p.mode === kind);
  const refused = tries.filter((p) => !p.inBand).reduce((m, p) => Math.min(m, p.loadSet), Infinity);
  const started = tries.filter((p) => p.inBand && p.loadSet < refused).reduce((m, p) => Math.max(m, p.loadSet), 0);
  if (tries.length === 0)
    return (
      ladder.find((l) => Math.abs(l.amps - held.loadSet) <= 0.003 * held.loadSet) ?? {
        amps: held.loadSet,
        load: { mode: "current", value: Number(held.loadSet.toFixed(4)) },
        text: formatQuantity(held.loadSet, "A"),
      }
    );
  return refused === Infinity ? null : bisect(plan, started, refused);
}

/** The next start of a column, kind by kind, each found before the next. */
function startOfKinds(
  plan: SweepPlan,
  ladder: ReturnType<typeof settableLoads>,
  column: SweepColumn,
  nominal: number | undefined,
): ReturnType<typeof settableLoads>[number] | null {
  for (const kind of startKinds(plan)) {
    const next = nextStart(plan, ladder, column, kind);
    if (next) return plan.drawer ? next : { amps: next.amps, ...drawnAs(kind, next.amps, nominal) };
  }
  return null;
}
