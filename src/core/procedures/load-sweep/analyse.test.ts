import { pointsFromFile, readSetupFile } from "../../files";
import { NO_CORRECTIONS, type Finding, type ReadingsOf } from "../../measurement";
import { analyseSweep } from "./analyse";
import { corrected, held, point, sweepSetup } from "./fixtures/make";
import three from "./fixtures/sweep-three-batteries.json";
import twoWire from "./fixtures/sweep-two-wire.json";
import { numeric, leads } from "../../quantities";

const points = (...list: ReturnType<typeof point>[]): ReadingsOf<"points"> => ({ kind: "points", points: list });
const pick = (findings: readonly Finding[], name: string, battery?: number) =>
  findings.find(
    (f) =>
      f.characteristic === name &&
      (battery === undefined || Math.abs(Number(f.conditions.battery) - battery) < 0.02 * battery),
  );
const COLUMN = [0, 0.05, 0.2, 0.5, 1];

describe.each([three, twoWire])("reference log: $setup.title", ({ csv, setup, truth }) => {
  const file = readSetupFile(JSON.stringify(setup));
  if (!file.ok) throw new Error(file.error);
  const imported = pointsFromFile(csv, file.value.dialect, file.value.columns, "f");
  if (!imported.ok) throw new Error(imported.error);
  const { findings } = analyseSweep(
    { kind: "points", points: imported.value.points },
    file.value.setup as Parameters<typeof analyseSweep>[1],
    NO_CORRECTIONS,
  );

  test.each(truth)(
    "$characteristic $conditions.battery",
    (t: {
      characteristic: string;
      conditions?: { battery?: number };
      value?: number;
      tolerance?: number;
      absent?: boolean;
    }) => {
      const f = pick(findings, t.characteristic, t.conditions?.battery);
      if (t.absent) {
        expect(f).toBeUndefined();
        return;
      }
      const error = Math.abs(numeric(f?.value) - (t.value ?? NaN));
      expect(error).toBeLessThanOrEqual(t.tolerance ?? 0);
      expect(error).toBeLessThanOrEqual(f?.expandedUncertainty ?? 0);
    },
  );
});

test("the peak is a point that the meters can tell: a light load read in the last digits is none, however high it comes out", () => {
  // 2 mA with a meter of ±5 counts of 0.1 mA: 5.02 V × 2.5 mA over 3.6 V × 3.5 mA is 99.6 %, give or take a fifth of it.
  const light = point(3.6, 0.0035, 5.02, 0.0025);
  const { findings } = analyseSweep(points(...COLUMN.map((a) => held(3.6, a)), light), sweepSetup(), NO_CORRECTIONS);
  const without = analyseSweep(points(...COLUMN.map((a) => held(3.6, a))), sweepSetup(), NO_CORRECTIONS).findings;
  expect(pick(findings, "boost.peak-efficiency")?.value).toBe(pick(without, "boost.peak-efficiency")?.value);
  expect(pick(findings, "boost.peak-efficiency")?.expandedUncertainty).toBeLessThan(0.02);
});

describe("what a sweep shows of its limit", () => {
  test("without a collapse the highest load is a lower bound", () => {
    const { findings } = analyseSweep(points(...COLUMN.map((a) => held(3.6, a))), sweepSetup(), NO_CORRECTIONS);
    expect(pick(findings, "boost.max-current")).toMatchObject({ value: 1, bound: "at-least" });
    expect(pick(findings, "boost.collapse-current")).toBeUndefined();
    expect(pick(findings, "boost.input-current-limit")).toBeUndefined();
  });

  test("with a collapse it lies between held and fell", () => {
    const { findings } = analyseSweep(
      points(...COLUMN.map((a) => held(3.6, a)), held(3.6, 1.2, 4.1)),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    const f = pick(findings, "boost.max-current");
    expect(f?.bracket).toEqual({ low: 1, high: 1.2 });
    expect(f?.bound).toBeUndefined();
    expect(f?.unfair).toEqual([]);
  });

  test("with a resistor the collapse is named by the load that was set, not by the fallen current", () => {
    const fallen = point(3.6, 1.5, 3.5, 0.875, { supplyVoltage: 3.6, load: { mode: "resistance", value: 4 } });
    const { findings } = analyseSweep(points(...COLUMN.map((a) => held(3.6, a)), fallen), sweepSetup(), NO_CORRECTIONS);
    expect(pick(findings, "boost.collapse-current")?.value).toBeCloseTo(1.25, 6);
  });

  test("a point that did not dwell draws the curve but is not held", () => {
    const { findings } = analyseSweep(
      points(...COLUMN.map((a) => held(3.6, a)), held(3.6, 1.3, 5, 1)),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    expect(pick(findings, "boost.max-current")?.value).toBe(1);
  });

  test("a collapse with the supply at its own limit is not the module's", () => {
    const fallen = point(2.6, 2.97, 4.1, 1.2, {
      supplyVoltage: 3.6,
      supplyCurrentLimit: 3,
      load: { mode: "current", value: 1.2 },
    });
    const { findings, notes } = analyseSweep(
      points(...COLUMN.map((a) => held(3.6, a)), fallen),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    expect(pick(findings, "boost.max-current")?.unfair[0]).toMatchObject({ code: "supply-gave-up", pushes: "low" });
    expect(pick(findings, "boost.input-current-limit")).toBeUndefined();
    expect(notes.map((n) => n.code)).toContain("supply-gave-up");
  });

  test("a module that switched off hides the supply's limit, which is inferred from what the load would have needed", () => {
    const off = (limit: number) =>
      point(3.6, 0.001, 0.001, 0, {
        supplyVoltage: 3.6,
        supplyCurrentLimit: limit,
        load: { mode: "current", value: 1.1 },
      });
    const unfair = (limit: number) =>
      pick(
        analyseSweep(points(...COLUMN.map((a) => held(3.6, a)), off(limit)), sweepSetup(), NO_CORRECTIONS).findings,
        "boost.max-current",
      )?.unfair.length;
    expect(unfair(1.65)).toBe(1);
    expect(unfair(3)).toBe(0);
  });

  test("a start from off is a quantity of its own and no held load", () => {
    const start = {
      ...held(3.6, 0.8),
      settings: { supplyVoltage: 3.6, load: { mode: "current" as const, value: 0.8 }, fromOff: true },
    };
    const { findings } = analyseSweep(
      points(...[0, 0.05, 0.2, 0.5].map((a) => held(3.6, a)), start),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    expect(pick(findings, "boost.start-current")).toMatchObject({
      value: 0.8,
      bound: "at-least",
      conditions: { battery: 3.6, kind: "constant current" },
    });
    expect(pick(findings, "boost.max-current")?.value).toBe(0.5);
  });

  test("each kind of load that was started into has a result of its own", () => {
    const from = (p: ReturnType<typeof held>, mode: "current" | "resistance" | "power", value: number) => ({
      ...p,
      id: `${p.id} ${mode} ${value}`,
      settings: { supplyVoltage: 3.6, load: { mode, value }, fromOff: true },
    });
    const { findings } = analyseSweep(
      points(
        ...[0, 0.05, 0.2, 0.8].map((a) => held(3.6, a)),
        from(held(3.6, 0.8), "resistance", 6.25),
        from(held(3.6, 0.3), "power", 1.5),
        from(held(3.6, 0.1, 1), "power", 2),
      ),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    const starts = findings
      .filter((f) => f.characteristic === "boost.start-current")
      .map((f) => [f.conditions.kind, f.value, f.bound ?? f.bracket]);
    expect(starts).toEqual([
      ["resistance", 0.8, "at-least"],
      ["power", 0.3, { low: 0.3, high: 0.4 }],
    ]);
  });

  test("an output that falls below one that held is said", () => {
    const { notes } = analyseSweep(
      points(...COLUMN.map((a) => held(3.6, a)), held(3.6, 0.7, 4)),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    expect(notes.map((n) => n.code)).toContain("not-repeatable");
  });
});

describe("corrections and gaps", () => {
  test("a point left out stays visible with its reason and no longer counts", () => {
    const all = COLUMN.map((a) => held(3.6, a));
    const top = all[4] as (typeof all)[number];
    const a = analyseSweep(points(...all), sweepSetup(), corrected({ leftOut: new Map([[top.id, "clip slipped"]]) }));
    expect(pick(a.findings, "boost.max-current")?.value).toBe(0.5);
    expect(a.charts[0]?.series[0]?.points.find((p) => p.id === top.id)?.state).toBe("left-out");
    expect(a.notes.find((n) => n.code === "left-out")?.message).toContain("clip slipped");
  });

  test("a missing reading drops the point and is said; nothing is guessed", () => {
    const a = analyseSweep(
      points(...COLUMN.map((x) => held(3.6, x)), point(3.6, null, 5, 1.5, { supplyVoltage: 3.6 })),
      sweepSetup(),
      NO_CORRECTIONS,
    );
    expect(pick(a.findings, "boost.max-current")?.value).toBe(1);
    expect(a.notes.map((n) => n.code)).toContain("incomplete-points");
  });

  test("no point gives no finding", () => {
    expect(analyseSweep(points(), sweepSetup(), NO_CORRECTIONS).findings).toEqual([]);
  });

  test("an efficiency over one is noted with its point", () => {
    const wrong = point(3.6, 0.1, 5, 0.5, { supplyVoltage: 3.6 });
    const a = analyseSweep(points(...COLUMN.map((x) => held(3.6, x)), wrong), sweepSetup(), NO_CORRECTIONS);
    expect(a.notes.find((n) => n.code === "efficiency-over-one")?.points).toEqual([wrong.id]);
  });

  test("a point off the loss curve is flagged, never left out by itself", () => {
    const loads = [0, 0.05, 0.1, 0.2, 0.35, 0.5, 0.65, 0.8, 0.9, 1];
    const all = loads.map((a) => held(3.6, a));
    const odd = point(3.6, 1.35, 5.02, 0.7, { supplyVoltage: 3.6, load: { mode: "current", value: 0.7 } });
    const a = analyseSweep(points(...all, odd), sweepSetup(), NO_CORRECTIONS);
    expect(a.notes.find((n) => n.code === "outlier")?.points).toEqual([odd.id]);
    expect(pick(a.findings, "boost.lowest-efficiency")?.points).toEqual([odd.id]);
  });
});

test("lead drops are taken out: 45 mΩ at 2 A is 90 mV of battery voltage", () => {
  const setup = sweepSetup();
  const withLeads = {
    ...setup,
    conditions: { ...setup.conditions, inputLeadResistance: 0.045, outputLeadResistance: 0.1 },
  };
  const p = point(3.6, 2, 4.95, 1, { supplyVoltage: 3.6, load: { mode: "current", value: 1 } });
  const f = pick(analyseSweep(points(p), withLeads, NO_CORRECTIONS).findings, "boost.peak-efficiency");
  expect(f?.value).toBeCloseTo((5.05 * 1) / (3.51 * 2), 9);
  expect(f?.budget.map((b) => b.source)).toContainEqual(leads("input lead resistance"));
});
