import type { Claim, ClaimReading } from "../claims";
import { atBench, procedure, withoutOffsets, type BenchProcedure, type PlanContext } from ".";
import {
  HOUSE_RULES,
  NO_CORRECTIONS,
  type Finding,
  type Readings,
  type RunSetup,
  type TraceEvent,
} from "../measurement";
import type { HeatPlan } from "./heat-soak";
import type { MeterCheckPlan } from "./meter-check";
import type { PathPlan } from "./power-path";
import { ChargeEnding } from "./power-path/ending";
import type { SolarPlan } from "./solar-input";
import { coldOpenVoltage, heldVoltage, topFor } from "./solar-input/panel";
import { SteadyFinder } from "./solar-input/steady";
import { numeric } from "../quantities";

const METER = { gain: 0.001, counts: 2, resolution: 0.001 };
const nominal = (characteristic: string, value: number): ClaimReading => ({
  characteristic,
  limit: { kind: "nominal", nominal: value, tolerance: null },
  conditions: {},
});
const claim = (...readings: ClaimReading[]): Claim => ({
  id: "c",
  readings,
  source: { kind: "listing", wording: "", date: "2026-11-01" },
});

function planned<P>(
  id: string,
  ...claims: Claim[]
): { readonly p: BenchProcedure; readonly setup: RunSetup; readonly plan: P } {
  const p = atBench(procedure(id)) as BenchProcedure;
  const context: PlanContext = {
    claims,
    rules: HOUSE_RULES,
    rig: {
      instruments: { batteryVoltage: METER, batteryCurrent: METER, outputVoltage: METER, outputCurrent: METER },
      supplyCurrentLimit: 4,
      inputLeadResistance: 0,
      outputLeadResistance: 0,
      drawer: [],
    },
  };
  const r = p.plan(context);
  if (!r.ok) throw new Error(r.error);
  return { p, setup: r.value, plan: r.value.plan as P };
}
const log = (columns: Readonly<Record<string, readonly number[]>>, events: readonly TraceEvent[] = []): Readings => ({
  kind: "trace",
  trace: { columns: Object.fromEntries(Object.entries(columns).map(([k, v]) => [k, Float64Array.from(v)])), events },
});
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const codes = (a: { notes: readonly { code: string }[] }) => a.notes.map((n) => n.code);
const texts = (remarks: readonly { severity: string; text: string }[] | undefined, severity: string) =>
  (remarks ?? []).filter((r) => r.severity === severity).map((r) => r.text.replace(/\u00a0/g, " "));

describe("heat soak", () => {
  const { p, setup, plan } = planned<HeatPlan>(
    "heat-soak",
    claim({ characteristic: "boost.max-current", limit: { kind: "at-least", low: 1 }, conditions: {} }),
  );
  const soak = (rise: number, extra: Readonly<Record<string, readonly number[]>> = {}) => {
    const time = Array.from({ length: 200 }, (_, k) => 5 * k);
    return log({
      time,
      partTemperature: time.map((t) => 22 + (t < 30 ? 0 : rise * (1 - Math.exp(-(t - 27.5) / 300)))),
      ambientTemperature: time.map(() => 22),
      ...extra,
    });
  };
  test("is planned at four fifths of the claimed current and questions infrared on a shiny part", () => {
    expect(plan.load).toBe(0.8);
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, thermometer: "infrared-shiny" } }), "care").join()).toMatch(
      /reads far too low/,
    );
  });
  test("the stated heat serves where no columns give it; without any there is no resistance, and that is said", () => {
    const stated = p.analyse(
      soak(24),
      { conditions: { dissipation: 0.8, partLimitTemperature: 85 }, instruments: {} },
      NO_CORRECTIONS,
    );
    expect(find(stated.findings, "heat.thermal-resistance")?.value).toBeCloseTo(30, 0);
    expect(find(stated.findings, "heat.max-ambient")?.value).toBeCloseTo(61, 0);
    const bare = p.analyse(soak(24), { conditions: {}, instruments: {} }, NO_CORRECTIONS);
    expect([bare.findings.length, codes(bare)]).toEqual([0, expect.arrayContaining(["no-power"])]);
  });
  test("what a finger and a case make of it, with numbers", () => {
    const hot = p.analyse(soak(50), { conditions: { dissipation: 1 }, instruments: {} }, NO_CORRECTIONS);
    expect(hot.notes.find((n) => n.code === "touch")?.message.replace(/\u00a0/g, " ")).toMatch(
      /Too hot to touch: it settles at 72\.\d °C.*at 37 °C.*settles near 87/,
    );
  });
  test("a bare part read by infrared leaves its temperature in doubt, pushed low, and its ambient pushed high", () => {
    const a = p.analyse(
      soak(10),
      { conditions: { dissipation: 1, emissivity: 0.3, partLimitTemperature: 85 }, instruments: {} },
      NO_CORRECTIONS,
    );
    expect(find(a.findings, "heat.steady-temperature")?.unfair[0]?.pushes).toBe("low");
    expect(find(a.findings, "heat.max-ambient")?.unfair[0]?.pushes).toBe("high");
    expect(find(a.findings, "heat.time-constant")?.unfair).toEqual([]);
  });
});

describe("power path", () => {
  const { p, setup, plan } = planned<PathPlan>("power-path", claim(nominal("boost.no-load-voltage", 5)));
  test("refuses an empty cell; warns of a supply that can't carry both, and of a clock too slow for milliseconds", () => {
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, startVoltage: 2.8 } }), "refused")[0]).toMatch(
      /charge it first/,
    );
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, inputLimit: 0.4, every: 0.1 } }), "care").join()).toMatch(
      /the supply would limit, not the board.*too slow for a handover/,
    );
    expect(p.follows?.(plan, { part: "charging" })).toEqual({ part: "charging", every: 5, dwell: 60 });
    expect(p.roles?.({ ...setup, plan: { ...plan, part: "charging" } })).toContain("cellCurrent");
  });
  test("typed: what a scope caught stands for the event before it; without it nothing is said of a dip", () => {
    const time = [0, 5, 10, 15, 20];
    const typed = p.analyse(
      log({
        time,
        outputVoltage: [5.05, 5.05, 5.02, 5.05, 5.05],
        outputCurrent: [0.2, 0.2, 0.2, 0.2, 0.2],
        inputVoltage: [0, 0, 5.1, 0, 0],
        outputLow: [NaN, NaN, 4.9, 4.4, NaN],
        outputHigh: [NaN, NaN, 5.4, 5.05, NaN],
        outsideTime: [NaN, NaN, 0.001, 0.012, NaN],
      }),
      setup,
      NO_CORRECTIONS,
    );
    const pulled = typed.findings.filter((f) => f.conditions.event === "unplugged");
    expect(find(pulled, "path.dip")?.value).toBeCloseTo(0.65, 9);
    expect(find(pulled, "path.handover-time")?.value).toBeCloseTo(0.012, 9);
    const bare = p.analyse(
      log({ time, outputVoltage: [5.05, 5.05, 5.02, 5.05, 5.05], inputVoltage: [0, 0, 5.1, 0, 0] }),
      setup,
      NO_CORRECTIONS,
    );
    expect(find(bare.findings, "path.dip")).toBeUndefined();
    expect(codes(bare)).toContain("too-slow");
  });
  test("a waveform without the input's volts needs a mark, and takes it", () => {
    const time = Array.from({ length: 400 }, (_, k) => k / 1000);
    const columns = {
      time,
      outputVoltage: time.map((t) => (t > 0.1 && t < 0.12 ? 4.2 : 5)),
      outputCurrent: time.map(() => 0.2),
    };
    const bare = p.analyse(log(columns), setup, NO_CORRECTIONS);
    expect([find(bare.findings, "path.dip"), codes(bare)]).toEqual([undefined, expect.arrayContaining(["no-event"])]);
    const marked = p.analyse(
      log(columns, [{ time: 0.1, what: "input pulled", kind: "unplugged" }]),
      setup,
      NO_CORRECTIONS,
    );
    expect(find(marked.findings, "path.dip")?.value).toBeCloseTo(0.8, 9);
    expect(Math.abs(numeric(find(marked.findings, "path.handover-time")?.value) - 0.02)).toBeLessThan(0.002);
  });
  test("an output that stays out of its band is no handover", () => {
    const time = Array.from({ length: 400 }, (_, k) => k / 1000);
    const a = p.analyse(
      log({
        time,
        outputVoltage: time.map((t) => (t > 0.1 ? 4.1 : 5)),
        outputCurrent: time.map(() => 0.2),
        inputVoltage: time.map((t) => (t > 0.1 ? 0 : 5)),
      }),
      setup,
      NO_CORRECTIONS,
    );
    expect(find(a.findings, "path.handover-time")).toBeUndefined();
    expect(codes(a)).toContain("stays-out");
  });
  test("a low current from a sagging input is the supply's fault", () => {
    const time = Array.from({ length: 60 }, (_, k) => 5 * k);
    const all = (v: number) => time.map(() => v);
    const a = p.analyse(
      log({
        time,
        outputVoltage: all(5),
        outputCurrent: all(0.2),
        inputVoltage: all(4.2),
        inputCurrent: all(0.5),
        cellVoltage: all(3.8),
        cellCurrent: all(0.3),
      }),
      setup,
      NO_CORRECTIONS,
    );
    expect(find(a.findings, "path.charge-current")?.unfair[0]).toMatchObject({ code: "input-sagged", pushes: "low" });
    expect(find(a.findings, "path.finishes-under-load")).toBeUndefined();
  });
});

describe("the end of a charge under load", () => {
  const follow = (amps: readonly number[], every = 10, patience = 600) => {
    const e = new ChargeEnding(0.003, patience);
    amps.forEach((a, k) => e.push(k * every, a));
    return e.state;
  };
  const decay = (to: number) => Array.from({ length: 200 }, (_, k) => to + 0.5 * Math.exp(-k / 25));
  test("a step to nothing ends it, a step into discharge too; a smooth fall to nothing that stays is no end", () => {
    expect(follow([...decay(0.05).slice(0, 120), 0, 0, 0, 0])).toBe("ended");
    expect(follow([...decay(0.02).slice(0, 120), -0.15, -0.15, -0.15, -0.15])).toBe("ended");
    expect(follow([...decay(0), ...new Array<number>(80).fill(0)])).toBe("is steady");
    expect(follow(decay(0.06))).toBe("charging");
  });
  test("one that is emptied all along is told, and one sample within the fall confuses nothing", () => {
    expect(follow(new Array<number>(120).fill(-0.2))).toBe("discharges");
    expect(follow([...decay(0.06).slice(0, 120), 0.03, 0, 0, 0, 0])).toBe("ended");
  });
});

describe("solar input", () => {
  const { p, setup, plan } = planned<SolarPlan>("solar-input");
  test("worked: a divider of 430 kΩ over 82 kΩ at 0.96 V holds 5.99 V; 7.2 V are 8.12 V at −15 °C", () => {
    expect(heldVoltage({ reference: 0.96, top: 430e3, bottom: 82e3 })).toBeCloseTo(5.9941, 4);
    expect(coldOpenVoltage(7.2, -0.0032, -15)).toBeCloseTo(8.1216, 4);
    expect(topFor(5.5, { reference: 0.96, bottom: 82e3 }, "E96")).toBe(392e3);
  });
  test("refuses a panel that is too much for the input in the cold, and one that would never charge", () => {
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, inputMaximum: 8 } }), "refused").join()).toMatch(
      /8\.12 V at −15 °C, more than the input's limit of 8 V/,
    );
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, top: 560e3 } }), "refused").join()).toMatch(
      /it would never charge/,
    );
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, best: 5 } }), "care").join()).toMatch(
      /in place of the upper resistor gives 5\.0\d V/,
    );
  });
  test("steady windows: 3 % for 10 s, not a second less; a gap ends one, a flicker of a meter's digit does not", () => {
    const windows = (watts: (t: number) => number, seconds: number) => {
      const f = new SteadyFinder(0.02);
      for (let k = 0; k <= seconds * 10; k++) f.push(k, k / 10, watts(k / 10));
      return f.finish(seconds * 10 + 1).map((w) => [Math.round(w.from), Math.round(w.to)]);
    };
    expect(windows((t) => 1 + 0.005 * Math.sin(17 * t), 30)).toEqual([[0, 30]]);
    expect(windows((t) => (t < 15 ? 1 : 1.2), 30)).toEqual([
      [0, 15],
      [15, 30],
    ]);
    expect(windows((t) => 1 + 0.005 * t, 30)).toEqual([]);
    expect(windows((t) => (t < 8 ? 1 : 0.01), 30)).toEqual([]);
  });
  test("a linear charger is told by its amps, harvest needs the panel's maximum, and a dark hour says so", () => {
    const time = Array.from({ length: 60 }, (_, k) => k);
    const all = (v: number) => time.map(() => v);
    const columns = {
      time,
      inputVoltage: all(4),
      inputCurrent: all(0.3),
      cellVoltage: all(3.6),
      cellCurrent: all(0.3),
    };
    const a = p.analyse(
      log(columns),
      { ...setup, conditions: { ...setup.conditions, panelMaximumPower: 1.8 } },
      NO_CORRECTIONS,
    );
    expect(codes(a)).toContain("linear");
    expect(find(a.findings, "solar.conversion-efficiency")?.value).toBeCloseTo(0.9, 9);
    expect(find(a.findings, "solar.harvest")?.value).toBeCloseTo(0.6, 9);
    expect(find(p.analyse(log(columns), setup, NO_CORRECTIONS).findings, "solar.harvest")).toBeUndefined();
    expect(codes(p.analyse(log({ ...columns, inputCurrent: all(0.001) }), setup, NO_CORRECTIONS))).toContain(
      "no-steady-light",
    );
  });
});

describe("meter check", () => {
  const { p, setup, plan } = planned<MeterCheckPlan>("meter-check");
  const pair = (difference: (amps: number) => number, steps: readonly number[]) => {
    const rows = steps.flatMap((a) => Array.from({ length: 6 }, () => a));
    return log({
      time: rows.map((_, k) => k),
      outputCurrent: rows,
      referenceVoltage: rows.map(() => 5),
      outputVoltage: rows.map((a) => 5 + difference(a)),
    });
  };
  test("the line through the differences gives offset and leads, and offers both to the bench", () => {
    const a = p.analyse(
      pair((i) => 0.012 - 0.15 * i, [0, 0.25, 0.5, 0.75, 1]),
      setup,
      NO_CORRECTIONS,
    );
    expect(find(a.findings, "meter.offset")?.value).toBeCloseTo(0.012, 9);
    expect(find(a.findings, "meter.lead-resistance")?.value).toBeCloseTo(0.15, 9);
    expect(a.correction).toMatchObject({
      role: "outputVoltage",
      leads: "outputLeadResistance",
      ohms: expect.closeTo(0.15, 9),
      offset: expect.closeTo(0.012, 9),
    });
  });
  test("meters that agree offer nothing, one current gives no slope, and a difference beyond both accuracies is said", () => {
    expect(
      p.analyse(
        pair(() => 0, [0, 0.5, 1]),
        setup,
        NO_CORRECTIONS,
      ).correction,
    ).toBeUndefined();
    expect(
      codes(
        p.analyse(
          pair(() => 0, [0.5]),
          setup,
          NO_CORRECTIONS,
        ),
      ),
    ).toContain("one-current");
    expect(
      codes(
        p.analyse(
          pair(() => 0.2, [0, 0.5, 1]),
          setup,
          NO_CORRECTIONS,
        ),
      ),
    ).toContain("out-of-accuracy");
    expect(texts(p.remarks?.({ ...setup, plan: { ...plan, most: 6 } }), "refused").join()).toMatch(/gives at most 4 A/);
  });
  test("leads of a charger's input are found but not taken for the battery's, and the stop rule watches the current that flows", () => {
    const rows = [0, 0.5, 1].flatMap((a) => Array.from({ length: 6 }, () => a));
    const at = (checks: MeterCheckPlan["checks"]): RunSetup => ({ ...setup, plan: { ...plan, checks } });
    const columns = (volts: string, amps: string) =>
      log({
        time: rows.map((_, k) => k),
        [amps]: rows,
        referenceVoltage: rows.map(() => 5),
        [volts]: rows.map((x) => 5 + 0.1 * x),
      });
    const input = p.analyse(columns("inputVoltage", "inputCurrent"), at("inputVoltage"), NO_CORRECTIONS);
    expect(find(input.findings, "meter.lead-resistance")?.value).toBeCloseTo(0.1, 9);
    expect(input.correction).toBeUndefined();
    expect(
      p.analyse(columns("batteryVoltage", "batteryCurrent"), at("batteryVoltage"), NO_CORRECTIONS).correction,
    ).toMatchObject({ leads: "inputLeadResistance" });
    expect(p.stopRules(at("batteryVoltage")).some((r) => r.role === "batteryCurrent")).toBe(true);
  });
  test("two ammeters in series: offset in amps, the rest a share", () => {
    const rows = [0, 0.5, 1].flatMap((a) => Array.from({ length: 6 }, () => a));
    const two = { ...setup, plan: { ...plan, checks: "outputCurrent" } };
    const a = p.analyse(
      log({ time: rows.map((_, k) => k), outputCurrent: rows.map((x) => 1.02 * x + 0.003), referenceCurrent: rows }),
      two,
      NO_CORRECTIONS,
    );
    expect(find(a.findings, "meter.offset")).toMatchObject({ unit: "A", value: expect.closeTo(0.003, 9) });
    expect(find(a.findings, "meter.lead-resistance")).toBeUndefined();
    expect(a.notes[0]?.message.replace(/\u00a0/g, " ")).toMatch(/2\.0 % more than the reference/);
  });
  test("an offset that was taken over is taken out of points and logs alike, the raw readings untouched", () => {
    const raw = log({ time: [0, 1], outputVoltage: [5.012, 5.013] });
    const out = withoutOffsets(raw, { outputVoltage: 0.012 });
    expect(out.kind === "trace" && Array.from(out.trace.columns.outputVoltage ?? [])).toEqual([
      expect.closeTo(5, 9),
      expect.closeTo(5.001, 9),
    ]);
    expect(raw.kind === "trace" && raw.trace.columns.outputVoltage?.[0]).toBe(5.012);
    const points: Readings = {
      kind: "points",
      points: [
        {
          id: "p",
          sequence: 0,
          settings: {},
          cells: { outputVoltage: { value: 5.012, status: "ok" }, batteryVoltage: { value: null, status: "overload" } },
        },
      ],
    };
    const taken = withoutOffsets(points, { outputVoltage: 0.012, batteryVoltage: 0.1 });
    expect(taken.kind === "points" && taken.points[0]?.cells).toMatchObject({
      outputVoltage: { value: expect.closeTo(5, 9) },
      batteryVoltage: { value: null, status: "overload" },
    });
    expect(withoutOffsets(raw, undefined)).toBe(raw);
  });
});
