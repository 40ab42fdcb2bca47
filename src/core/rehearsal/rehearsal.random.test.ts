import { fewestHeld } from "@/testing/population";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding } from "../measurement";
import { procedure, type PlanContext, type AtBench, type PointsProcedure } from "../procedures";
import {
  BENCH_ACCURACY,
  SIMULATED_BOARDS,
  VirtualBench,
  benchFor,
  boostState,
  randomBoost,
  seeded,
  type BoostModel,
} from "../simulator";
import { rehearse } from ".";

const SEED = 20261126;
const BOARDS = 120;
const sweep = procedure("load-sweep") as AtBench<PointsProcedure>;
const context: PlanContext = {
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
    {
      id: "i",
      source: { kind: "listing", wording: "", date: "2026-11-01" },
      readings: [{ characteristic: "boost.max-current", limit: { kind: "at-least", low: 1 }, conditions: {} }],
    },
  ],
  rules: HOUSE_RULES,
  rig: {
    instruments: BENCH_ACCURACY,
    supplyCurrentLimit: 5,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
};

function run(model: BoostModel, seed: number) {
  const planned = sweep.plan(context);
  if (!planned.ok) throw new Error(planned.error);
  const r = rehearse(sweep, planned.value, new VirtualBench(benchFor(model, seed)), { dwell: 6, id: (i) => `p${i}` });
  const analysis = sweep.analyse({ kind: "points", points: r.points }, planned.value, {
    ...NO_CORRECTIONS,
    recoveries: r.recoveries,
  });
  return { ...r, analysis };
}
const at = (findings: readonly Finding[], name: string, battery: number) =>
  findings.find((f) => f.characteristic === name && f.conditions.battery === battery);

/** The highest load held in band by the model itself, warm as on the bench, by bisection to 0.1 mA. */
function trueMaximum(m: BoostModel, vb: number, temperature: number): number {
  let low = 0;
  let high = 4;
  for (let k = 0; k < 40; k++) {
    const mid = (low + high) / 2;
    const s = boostState(m, vb, { mode: "current", value: mid }, temperature);
    const kept = s.outputVoltage >= 4.75 && s.outputVoltage <= 5.25 && !(m.overload === "off" && s.limited);
    if (kept) low = mid;
    else high = mid;
  }
  return low;
}

test("a board whose output switches off is swept to the end, and what brings it back is noted", () => {
  const { points, recoveries, analysis } = run(SIMULATED_BOARDS["diode-rectifier"].model, 4);
  expect(points.length).toBeGreaterThan(45);
  expect([...recoveries.values()]).toContain("load-removal");
  expect(analysis.findings.some((f) => f.characteristic === "boost.input-current-limit")).toBe(true);
});

test(`on ${BOARDS} random boards the truth lies inside the stated interval (seed ${SEED})`, () => {
  const random = seeded(SEED);
  const tally: Record<string, { held: number; of: number; width: number[]; error: number[] }> = {};
  const score = (name: string, f: Finding | undefined, truth: number) => {
    if (!f || typeof f.value !== "number" || f.bound) return;
    const u = f.expandedUncertainty ?? 0;
    const t = (tally[name] ??= { held: 0, of: 0, width: [], error: [] });
    const low = f.bracket ? f.bracket.low - u : f.value - u;
    const high = f.bracket ? f.bracket.high + u : f.value + u;
    t.of++;
    if (truth >= low && truth <= high) t.held++;
    t.width.push((high - low) / 2);
    t.error.push(Math.abs(f.value - truth));
  };
  for (let k = 0; k < BOARDS; k++) {
    const model = randomBoost(random);
    const { analysis, points } = run(model, 1000 + k);
    for (const battery of [4.1, 3.6, 3.1]) {
      const warm = points.find((p) => p.settings.supplyVoltage === battery)?.cells.partTemperature?.value ?? 25;
      score(
        "boost.no-load-voltage",
        at(analysis.findings, "boost.no-load-voltage", battery),
        boostState(model, battery, { mode: "current", value: 0 }, warm).outputVoltage,
      );
      const best = at(analysis.findings, "boost.peak-efficiency", battery);
      const point = points.find((p) => p.id === best?.points[0]);
      if (best && point) {
        const s = boostState(
          model,
          battery,
          { mode: "current", value: point.settings.load?.value ?? 0 },
          point.cells.partTemperature?.value ?? 25,
        );
        score("boost.peak-efficiency", best, (s.outputVoltage * s.outputCurrent) / (battery * s.batteryCurrent));
      }
      const fell = at(analysis.findings, "boost.max-current", battery);
      const last = points.find((p) => p.id === fell?.points[0]);
      score("boost.max-current", fell, trueMaximum(model, battery, last?.cells.partTemperature?.value ?? 25));
    }
  }
  const report = Object.entries(tally)
    .map(([name, t]) => `${name}: ${t.held} of ${t.of}`)
    .join(", ");
  for (const t of Object.values(tally)) {
    expect(`${report}: ${t.of >= 100 && t.held >= fewestHeld(t.of)}`).toBe(`${report}: true`);
  }
});
