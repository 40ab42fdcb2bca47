import { fewestHeld, population, seedOf } from "@/testing/population";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type Point, type RunSetup } from "../measurement";
import { procedure, type PlanContext, type AtBench, type PointsProcedure } from "../procedures";
import type { SweepPlan } from "../procedures/load-sweep";
import { BENCH_ACCURACY, VirtualBench, benchFor, boostState, randomBoost, seeded, type BoostModel } from "../simulator";
import { rehearse } from ".";
import { numeric } from "../quantities";

const SEED = seedOf(20261204);
const BOARDS = population(60, 500);
/** A and V that the searches are asked to resolve, and how much wider a bracket may be. */
const RESOLUTION = 0.02;
const WIDEST = 1.5 * RESOLUTION + 1e-9;
/** A that the batteries are searched for. */
const LOAD = 0.3;
const sweep = procedure("load-sweep") as AtBench<PointsProcedure<SweepPlan>>;
const CONTEXT: PlanContext = {
  claims: [
    {
      id: "v",
      source: { kind: "listing", wording: "", date: "2026-11-01" },
      readings: [
        {
          characteristic: "boost.no-load-voltage",
          limit: { kind: "nominal", nominal: 5, tolerance: null },
          conditions: {},
        },
      ],
    },
  ],
  rules: HOUSE_RULES,
  rig: {
    instruments: BENCH_ACCURACY,
    supplyCurrentLimit: 6,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
};

/** A board swept with a plan, and what its starts were found to be. */
function swept(
  model: BoostModel,
  plan: Partial<SweepPlan>,
  name: string,
  seed: number,
): { readonly found: Finding | undefined; readonly points: readonly Point[] } {
  const planned = sweep.plan(CONTEXT);
  if (!planned.ok) throw new Error(planned.error);
  const setup: RunSetup<SweepPlan> = {
    ...planned.value,
    plan: { ...(planned.value.plan as SweepPlan), resolution: RESOLUTION, ...plan },
  };
  const { points, recoveries } = rehearse(
    sweep as PointsProcedure,
    setup as RunSetup,
    new VirtualBench(benchFor(model, seed)),
    { dwell: 6, id: (i) => `p${i}` },
  );
  return {
    points,
    found: sweep
      .analyse({ kind: "points", points }, setup, { ...NO_CORRECTIONS, recoveries })
      .findings.find((x) => x.characteristic === name),
  };
}

const KINDS = ["current", "resistance", "power"] as const;

/** What the model's output comes to from off, into so many A at 5 V. */
function fromOff(
  m: BoostModel,
  battery: number,
  amps: number,
  temperature: number,
  mode: (typeof KINDS)[number] = "current",
) {
  const value = mode === "current" ? amps : mode === "power" ? 5 * amps : amps > 0 ? 5 / amps : Infinity;
  return boostState(m, battery, { mode, value }, temperature, m.inputLimit * m.startShare);
}

/** Whether the model itself rises to its band from off. */
function rises(...into: Parameters<typeof fromOff>): boolean {
  const { outputVoltage } = fromOff(...into);
  return outputVoltage >= 4.75 && outputVoltage <= 5.25;
}

/** Where something that is so at `so` and not at `not` changes, by halving. */
function edge(so: number, not: number, isSo: (x: number) => boolean): number {
  let [a, b] = [so, not];
  for (let k = 0; k < 40; k++) {
    const middle = (a + b) / 2;
    if (isSo(middle)) a = middle;
    else b = middle;
  }
  return a;
}

/** How many findings hold their truth. */
class Tally {
  private bracketed = 0;
  private held = 0;
  private bounds = 0;
  private wide = 0;
  private readonly wrong: object[] = [];
  add(k: number, f: Finding, truth: number): void {
    const [value, u] = [numeric(f.value), f.expandedUncertainty ?? 0];
    const [low, high] = f.bracket
      ? [f.bracket.low - u, f.bracket.high + u]
      : f.bound === "at-least"
        ? [value - u, Infinity]
        : [-Infinity, value + u];
    const good = truth >= low && truth <= high;
    if (!good) this.wrong.push({ k, truth, low, high, bound: f.bound });
    if (!f.bracket) {
      this.bounds++;
      return expect({ SEED, k, good, wrong: this.wrong }).toEqual({
        SEED,
        k,
        good: true,
        wrong: good ? this.wrong : [],
      });
    }
    this.bracketed++;
    if (good) this.held++;
    if (f.bracket.high - f.bracket.low > WIDEST) this.wide++;
  }
  /** The brackets hold as often as they say, none is too wide, and few boards gave none. */
  judge(): void {
    const enough = this.held >= fewestHeld(this.bracketed);
    expect({
      SEED,
      bracketed: this.bracketed >= 0.6 * BOARDS,
      counted: this.bracketed + this.bounds >= 0.9 * BOARDS,
      wide: this.wide,
      wrong: enough ? [] : this.wrong,
    }).toEqual({ SEED, bracketed: true, counted: true, wide: 0, wrong: [] });
  }
}

test.each(KINDS)(
  `of ${BOARDS} random boards the start search brackets the highest load that they start into as a %s (seed ${SEED})`,
  (kind) => {
    const r = seeded(SEED);
    const tally = new Tally();
    for (let k = 0; k < BOARDS; k++) {
      const model: BoostModel = { ...randomBoost(r), startShare: r.between(0.4, 1) };
      const battery = Number(r.between(3.1, 4.1).toFixed(2));
      const { found, points } = swept(
        model,
        { batteries: [battery], starts: true, startKinds: [kind] },
        "boost.start-current",
        3000 + k,
      );
      // A board that does not even hold no load has no start to search.
      if (!found || typeof found.value !== "number") continue;
      const warm = points.findLast((p) => p.settings.fromOff)?.cells.partTemperature?.value ?? 25;
      const highest = edge(0, 5, (amps) => rises(model, battery, amps, warm, kind));
      // What the load takes there; a constant power is told by its current at 5 V.
      tally.add(k, found, kind === "power" ? highest : fromOff(model, battery, highest, warm, kind).outputCurrent);
    }
    tally.judge();
  },
);

test(`of ${BOARDS} random boards the lowest battery that they start from into ${LOAD} A is bracketed (seed ${SEED})`, () => {
  const r = seeded(SEED + 1);
  const tally = new Tally();
  for (let k = 0; k < BOARDS; k++) {
    const model: BoostModel = { ...randomBoost(r), startShare: r.between(0.3, 0.9) };
    const truth = (temperature: number): number => edge(4.5, 0.5, (volts) => rises(model, volts, LOAD, temperature));
    const { found, points } = swept(
      model,
      { batteries: [4, 3.2], loads: [0, 0.1], startLoad: LOAD },
      "boost.start-voltage",
      9000 + k,
    );
    // A board that refuses at the fullest battery was tried at that alone: it has no start voltage here.
    if (!found || typeof found.value !== "number") {
      expect({ SEED, k, refuses: truth(25) > 3.9 }).toEqual({ SEED, k, refuses: true });
      continue;
    }
    tally.add(k, found, truth(points.at(-1)?.cells.partTemperature?.value ?? 25));
  }
  tally.judge();
});
