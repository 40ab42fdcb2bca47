import fc from "fast-check";
import { exact } from "../../quantities";
import { corrected, point, sweepSetup } from "./fixtures/make";
import { sweepCharts } from "./charts";
import { efficiencyAt, fitLossModel, lossAt, type LossModel } from "./loss-model";
import { sweepColumns, sweepPoint, type SweepPoint } from "./points";

const SEED = 73;
const setup = sweepSetup();
const LOADS = [0, 0.01, 0.05, 0.1, 0.2, 0.35, 0.5, 0.7, 0.9, 1];

/** A point whose loss is exactly that of a model, at 3.6 V and 5 V. */
function onCurve(m: LossModel, amps: number, extra = 0): SweepPoint {
  const loss = lossAt(m, amps) + extra;
  const p = sweepPoint(
    point(3.6, (5 * amps + loss) / 3.6, 5, amps, { supplyVoltage: 3.6, load: { mode: "current", value: amps } }),
    setup,
    corrected({}),
    5,
  );
  if (!p) throw new Error("no point");
  return p;
}
const model = (idle: number, proportional: number, resistive: number): LossModel => ({
  idle,
  proportional,
  resistive,
  outliers: [],
  scatter: 0,
});

describe("the loss model", () => {
  test(`gives back the parts that a loss is made of (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.05, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0.02, max: 0.6, noNaN: true }),
        (a, b, c) => {
          const m = fitLossModel(LOADS.map((amps) => onCurve(model(a, b, c), amps)));
          return (
            m !== null &&
            Math.abs(m.idle - a) < 1e-6 &&
            Math.abs(m.proportional - b) < 1e-5 &&
            Math.abs(m.resistive - c) < 1e-5 &&
            m.outliers.length === 0
          );
        },
      ),
      { seed: SEED, numRuns: 150 },
    );
  });

  test("flags the one bad point and fits the rest as if it were not there", () => {
    const points = LOADS.map((amps, i) => onCurve(model(0.01, 0.1, 0.3), amps, i === 6 ? 0.12 : 0));
    const m = fitLossModel(points);
    expect(m?.outliers).toEqual([points[6]?.id]);
    expect(m?.resistive).toBeCloseTo(0.3, 4);
  });

  test("points that fell out of the band say nothing of its loss", () => {
    const fallen = sweepPoint(
      point(3.6, 2, 4.2, 1.2, { load: { mode: "current", value: 1.2 } }),
      setup,
      corrected({}),
      5,
    ) as SweepPoint;
    const m = fitLossModel([...LOADS.map((amps) => onCurve(model(0.01, 0.1, 0.3), amps)), fallen]);
    expect(m?.idle).toBeCloseTo(0.01, 6);
    expect(m?.outliers).toEqual([]);
  });

  test.each([0, 1, 3])("%p points give none", (count) => {
    expect(fitLossModel(LOADS.slice(0, count).map((amps) => onCurve(model(0.01, 0.1, 0.3), amps)))).toBeNull();
  });

  test("worked: 10 mW + 0.1 V·I + 0.3 Ω·I² at 500 mA and 5 V is 135 mW, an efficiency of 94.88 %", () => {
    expect(lossAt(model(0.01, 0.1, 0.3), 0.5)).toBeCloseTo(0.135, 12);
    expect(efficiencyAt(model(0.01, 0.1, 0.3), 0.5, 5)).toBeCloseTo(2.5 / 2.635, 12);
    expect(efficiencyAt(model(0.01, 0.1, 0.3), 0, 5)).toBe(0);
  });
});

describe("the charts of a sweep", () => {
  const m = model(0.01, 0.1, 0.3);
  const raw = [4.1, 3.1].flatMap((battery) =>
    LOADS.map((amps) =>
      point(battery, (5 * amps + lossAt(m, amps)) / battery, 5, amps, {
        supplyVoltage: battery,
        load: { mode: "current", value: amps },
      }),
    ),
  );
  const fell = point(3.1, 2, 4.3, 1.1, { supplyVoltage: 3.1, load: { mode: "current", value: 1.1 } });
  const out = raw[4];
  const columns = sweepColumns(
    [...raw, fell],
    setup,
    corrected({ leftOut: new Map([[out?.id ?? "", "misread"]]) }),
    5,
  ).map((c) => ({ ...c, model: fitLossModel(c.points) }));
  const [efficiency, output] = sweepCharts(columns, setup);

  test("a series a battery voltage, fullest first, each with its own tone", () => {
    expect(efficiency?.series.map((s) => s.label.replace(/\u00a0/g, " "))).toEqual(["battery 4.1 V", "battery 3.1 V"]);
    expect(efficiency?.series.map((s) => s.tone)).toEqual([0, 1]);
  });

  test("every point is there, and what does not count is told apart", () => {
    const states = (chart: typeof efficiency) => chart?.series.flatMap((s) => s.points.map((p) => p.state)).sort();
    expect(states(output)?.filter((s) => s === "fell")).toHaveLength(1);
    expect(states(output)?.filter((s) => s === "left-out")).toHaveLength(1);
    expect(output?.series.flatMap((s) => s.points)).toHaveLength(raw.length + 1);
    // An unloaded output has no efficiency.
    expect(efficiency?.series.flatMap((s) => s.points)).toHaveLength(raw.length + 1 - 2);
  });

  test("the fitted curve runs through the points from the lightest to the heaviest load", () => {
    const fit = efficiency?.series[0]?.fit ?? [];
    expect(fit[0]?.x).toBeCloseTo(0.01, 9);
    expect(fit.at(-1)?.x).toBeCloseTo(1, 9);
    expect(fit.at(-1)?.y).toBeCloseTo(efficiencyAt(m, 1, 5), 6);
    expect(fit.every((p, i) => i === 0 || p.x > (fit[i - 1]?.x ?? 0))).toBe(true);
  });

  test("the band is drawn where a nominal output is known, and claims name their axis", () => {
    expect(output?.band).toMatchObject({ low: 4.75, high: 5.25 });
    expect(sweepCharts([], { ...setup, conditions: {} })[1]?.band).toBeUndefined();
    expect(efficiency?.claims).toEqual(
      expect.arrayContaining([
        { characteristic: "boost.max-current", axis: "x" },
        { characteristic: "boost.peak-efficiency", axis: "y" },
      ]),
    );
  });
});

test("an exact number has no uncertainty to weigh a residual against, and is still fitted", () => {
  const points = LOADS.map((amps) => ({
    ...onCurve(model(0.01, 0.1, 0.3), amps),
    loss: exact(lossAt(model(0.01, 0.1, 0.3), amps)),
  }));
  expect(fitLossModel(points)?.proportional).toBeCloseTo(0.1, 6);
});
