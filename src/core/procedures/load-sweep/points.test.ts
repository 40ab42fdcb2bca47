import { expandedUncertainty, standardUncertainty, partOf, type Uncertain, leads } from "../../quantities";
import type { Point } from "../../measurement";
import { corrected, held, point, sweepSetup } from "./fixtures/make";
import {
  batteryShortfall,
  isNoLoad,
  loadSetOf,
  regulationBand,
  atSupplyLimit,
  supplySagged,
  sweepColumns,
  sweepPoint,
} from "./points";
import { pointEfficiency, pointLoss } from "./record";

const setup = sweepSetup();
const none = corrected({});
const at = (p: Point, s = setup) => sweepPoint(p, s, none, 5);
const withLeads = {
  ...setup,
  conditions: { ...setup.conditions, inputLeadResistance: 0.05, outputLeadResistance: 0.04 },
};

describe("a point at the module's terminals", () => {
  test("worked: 3.6 V × 0.8 A in, 5.02 V × 0.5 A out is 87.15 % and 370 mW of heat", () => {
    const s = at(point(3.6, 0.8, 5.02, 0.5));
    expect(s?.efficiency?.value).toBeCloseTo(2.51 / 2.88, 12);
    expect(s?.loss.value).toBeCloseTo(0.37, 12);
    expect(pointEfficiency(point(3.6, 0.8, 5.02, 0.5), setup)).toBeCloseTo(2.51 / 2.88, 12);
    expect(pointLoss(point(3.6, 0.8, 5.02, 0.5), setup)).toBeCloseTo(0.37, 12);
  });

  test("worked: meters at the far ends of 50 mΩ and 40 mΩ lose 40 mV of battery and gain 20 mV of output", () => {
    const p = point(3.6, 0.8, 5, 0.5);
    const s = at(p, withLeads);
    expect(s?.batteryV.value).toBeCloseTo(3.56, 12);
    expect(s?.outputV.value).toBeCloseTo(5.02, 12);
    expect(pointEfficiency(p, withLeads)).toBeCloseTo((5.02 * 0.5) / (3.56 * 0.8), 12);
    // A lead's resistance is known to 2 %: that is a source of its own.
    expect(partOf(s?.batteryV as Uncertain, leads("input lead resistance"))).not.toBe(0);
    expect(standardUncertainty(s?.batteryV ?? { value: 0, parts: new Map() })).toBeGreaterThan(
      standardUncertainty(at(p)?.batteryV ?? { value: 0, parts: new Map() }),
    );
  });

  test("with no load there is no efficiency, only the idle loss", () => {
    const s = at(point(3.6, 0.002, 5.03, 0));
    expect(s?.efficiency).toBeNull();
    expect(s?.loss.value).toBeCloseTo(0.0072, 12);
    expect(isNoLoad(0.0004, setup)).toBe(true);
    expect(isNoLoad(0.02, setup)).toBe(false);
  });

  test.each<[string, Point]>([
    ["battery voltage", point(null, 0.8, 5, 0.5)],
    ["battery current", point(3.6, null, 5, 0.5)],
    ["output voltage", point(3.6, 0.8, null, 0.5)],
    ["output current", point(3.6, 0.8, 5, null)],
  ])("without %s there is no point: nothing is guessed", (_, p) => {
    expect(at(p)).toBeNull();
    expect(pointEfficiency(p, setup)).toBeNull();
  });

  test("guidance leaves the uncertainties out, analysis has them; neither is given the other's", () => {
    const p = point(3.6, 0.8, 5.02, 0.5);
    const plain = sweepPoint(p, setup, none, 5, false);
    const full = sweepPoint(p, setup, none, 5, true);
    expect(plain?.outputV.parts.size).toBe(0);
    expect(expandedUncertainty(full?.outputV ?? { value: 0, parts: new Map() })).toBeGreaterThan(0);
    expect(sweepPoint(p, setup, none, 5, false)?.outputV.parts.size).toBe(0);
  });

  test("what was made of a point is kept, and made anew for another set-up, dwell or reason", () => {
    const p = point(3.6, 0.8, 4.7, 0.5, {}, 3);
    const first = at(p);
    expect(at(p)).toBe(first);
    expect(first).toMatchObject({ inBand: false, fell: true, dwelt: false });
    const wide = { ...setup, conditions: { ...setup.conditions, regulationBand: 0.1 } };
    expect(at(p, wide)).toMatchObject({ inBand: true, fell: false });
    expect(sweepPoint(p, setup, none, 2)?.dwelt).toBe(true);
    expect(sweepPoint(p, setup, corrected({ leftOut: new Map([[p.id, "clip slipped"]]) }), 5)?.leftOut).toBe(
      "clip slipped",
    );
    expect(at(p)).toMatchObject({ leftOut: null, dwelt: false });
  });
});

test.each([
  [5, undefined, { low: 4.75, high: 5.25 }],
  [9, 0.02, { low: 8.82, high: 9.18 }],
  [undefined, 0.05, null],
])("the band of %p V ± %p", (nominalOutput, band, expected) => {
  const r = regulationBand({
    conditions: { ...(nominalOutput ? { nominalOutput } : {}), ...(band ? { regulationBand: band } : {}) },
    instruments: {},
  });
  if (expected === null) expect(r).toBeNull();
  else {
    expect(r?.low).toBeCloseTo(expected.low, 12);
    expect(r?.high).toBeCloseTo(expected.high, 12);
  }
});

describe("the load that was set", () => {
  test.each<[string, Point["settings"], number]>([
    ["a current as it stands", { load: { mode: "current", value: 0.75 } }, 0.75],
    ["a resistor by the nominal output", { load: { mode: "resistance", value: 10 } }, 0.5],
    ["a power by the nominal output", { load: { mode: "power", value: 2.5 } }, 0.5],
    ["an open output", { load: { mode: "resistance", value: Infinity } }, 0],
    ["what was read, where nothing was set", {}, 0.48],
  ])("%s", (_, settings, expected) => {
    expect(loadSetOf(point(3.6, 0.8, 4.8, 0.48, settings), setup)).toBeCloseTo(expected, 12);
  });
});

describe("who gave up", () => {
  const limited = (vb: number, ib: number) => point(vb, ib, 4.5, 1, { supplyVoltage: 3.6, supplyCurrentLimit: 2 });
  test.each<[string, Point, boolean]>([
    ["the module: amps and volts to spare", limited(3.59, 1.5), false],
    ["the supply: amps within 2 % of its limit", limited(3.59, 1.97), true],
    ["the supply: volts more than 3 % below what was set", limited(3.45, 1.5), true],
  ])("%s", (_, p, expected) => {
    expect(atSupplyLimit(p, setup) || supplySagged(p, setup)).toBe(expected);
  });

  test("what the leads explain is not the supply's fault", () => {
    const p = point(3.6, 1.5, 4.9, 1, { supplyVoltage: 3.675 });
    expect(batteryShortfall(p, setup)).toBeCloseTo(0.075, 9);
    expect(batteryShortfall(p, withLeads)).toBeCloseTo(0, 9);
    expect(batteryShortfall(point(3.6, 1.5, 4.9, 1), setup)).toBe(0);
  });
});

describe("columns", () => {
  test("by the voltage that was set, fullest first, loads ascending whatever the order they came in", () => {
    const columns = sweepColumns([held(3.1, 0.5), held(4.1, 0.8), held(3.1, 0.2), held(4.1, 0.1)], setup, none, 5);
    expect(columns.map((c) => c.battery)).toEqual([4.1, 3.1]);
    expect(columns.map((c) => c.points.map((p) => p.loadSet))).toEqual([
      [0.1, 0.8],
      [0.2, 0.5],
    ]);
  });

  test("without settings a jump of the battery voltage begins a column, named by its least loaded points", () => {
    const loose = [
      point(4.102, 0.01, 5, 0.01),
      point(4.09, 0.7, 5, 0.5),
      point(4.07, 1.4, 5, 1),
      point(3.102, 0.01, 5, 0.01),
      point(3.06, 1.9, 5, 1),
    ];
    const columns = sweepColumns(loose, setup, none, 5);
    expect(columns.map((c) => c.battery)).toEqual([4.1, 3.1]);
    expect(columns.map((c) => c.points.length)).toEqual([3, 2]);
  });

  test("a point left out stays in its column, apart", () => {
    const odd = held(4.1, 0.3);
    const [column] = sweepColumns(
      [held(4.1, 0.1), odd, held(4.1, 0.5)],
      setup,
      corrected({ leftOut: new Map([[odd.id, "misread"]]) }),
      5,
    );
    expect(column?.points).toHaveLength(2);
    expect(column?.leftOut.map((p) => p.leftOut)).toEqual(["misread"]);
  });
});
