import { analyseReadings, procedure, type Procedure } from "../procedures";
import { NO_CORRECTIONS, type Finding, type RunSetup, type Trace } from "../measurement";
import { ChargeStream, findPhases, chargeCycle, type ChargeEvent, type ChargePlan } from "../procedures/charge-cycle";
import { chargeBench, seeded, type ChargeBench } from "../simulator";
import { CHARGE_METERS } from "../bench/charge-meters";
import { logCharge } from "./charge-log";
import { randomCharge } from "./fixtures/charges";
import { ELEMENTS, numeric } from "../quantities";

const { sampleAt } = ELEMENTS;

const SEED = 20261127;
const CHARGES = 40;

const setupOf = (bench: ChargeBench): RunSetup => ({
  conditions: {
    programmedCurrent: bench.charger.channels.reduce((s, c) => s + c.current, 0),
    ambientTemperature: bench.ambient,
  },
  instruments: CHARGE_METERS,
});
const OPTIONS = { every: 3, before: 40, after: 300, most: 8 * 3600 };
const log = (bench: ChargeBench, seed: number, change: Partial<typeof OPTIONS & { drainAfter: number }> = {}) =>
  logCharge(bench, { ...OPTIONS, ...change, seed });
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const analyse = (trace: Trace, setup: RunSetup) =>
  chargeCycle.analyse({ kind: "trace", trace }, setup as RunSetup<ChargePlan>, NO_CORRECTIONS);
const eventsOf = (trace: Trace, setup: RunSetup): ChargeEvent[] => findPhases(trace, setup)?.events.slice() ?? [];

test(`of ${CHARGES} random charges the truth lies inside the stated interval (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const tally: Record<string, { held: number; of: number }> = {};
  const score = (name: string, f: Finding | undefined, truth: number) => {
    const t = (tally[name] ??= { held: 0, of: 0 });
    t.of++;
    if (f && Math.abs(numeric(f.value) - truth) <= (f.expandedUncertainty ?? 0)) t.held++;
  };
  for (let k = 0; k < CHARGES; k++) {
    const bench = randomCharge(r);
    const [channel] = bench.charger.channels;
    const { trace, simulation } = log(bench, k + 1);
    const { findings } = analyse(trace, setupOf(bench));
    const at = (kind: string) => simulation.landmarks.find((l) => l.kind === kind)?.time ?? NaN;
    score("total time", find(findings, "charge.total-time"), at("stop") - at("start"));
    score("cc duration", find(findings, "charge.cc-duration"), at("constant-voltage") - at("start"));
    score("cc current", find(findings, "charge.cc-current"), channel?.current ?? NaN);
    score(
      "termination",
      find(findings, "charge.termination-current"),
      (channel?.current ?? NaN) * (channel?.stopShare ?? NaN),
    );
    score(
      "end of cc",
      find(findings, "charge.cc-end-voltage"),
      (channel?.reference ?? NaN) - (channel?.wire ?? NaN) * (channel?.current ?? NaN),
    );
    const capacity = bench.cell.capacity * (1 - 0.3 * bench.cell.age);
    score("capacity", find(findings, "charge.capacity"), (simulation.stateOfCharge - bench.soc) * capacity);
    expect(find(findings, "charge.precharge-current")).toBeUndefined();
    expect(find(findings, "charge.foldback-onset-temperature")).toBeUndefined();
    expect(find(findings, "charge.recharge-threshold")).toBeUndefined();
  }
  for (const [name, { held, of }] of Object.entries(tally)) {
    expect({ name, of }).toEqual({ name, of: CHARGES });
    // k = 2 covers about 95 %; rectangular errors cover more.
    expect({ name, enough: held >= 0.9 * of, held }).toEqual({ name, enough: true, held });
  }
});

test("the events of a log cut anywhere are those of the whole log up to there", () => {
  const bench = { ...randomCharge(seeded(5)), soc: -0.004 };
  const setup = setupOf(bench);
  const { trace } = log(bench, 9, { after: 4000, drainAfter: 0.6 });
  const { time, cellVoltage, cellCurrent } = trace.columns as {
    time: Float64Array;
    cellVoltage: Float64Array;
    cellCurrent: Float64Array;
  };
  const whole = eventsOf(trace, setup);
  expect(whole.map((e) => e.kind)).toEqual(["start", "full-current", "constant-voltage", "stop", "restart"]);
  const stream = new ChargeStream({ floor: 0.01, programmed: setup.conditions.programmedCurrent });
  const live: ChargeEvent[] = [];
  for (let i = 0; i < time.length; i++) {
    live.push(
      ...stream.push({
        time: sampleAt(time, i),
        cellVoltage: sampleAt(cellVoltage, i),
        cellCurrent: sampleAt(cellCurrent, i),
      }),
    );
    // Nothing is known before its own time, nor later than the stream says.
    for (const e of live) expect(e.known).toBeLessThanOrEqual(i);
  }
  for (const cut of [50, 400, whole[2]?.known ?? 0, time.length - 30]) {
    const part: Trace = {
      columns: {
        time: time.slice(0, cut + 1),
        cellVoltage: cellVoltage.slice(0, cut + 1),
        cellCurrent: cellCurrent.slice(0, cut + 1),
      },
      events: [],
    };
    expect(eventsOf(part, setup)).toEqual(whole.filter((e) => e.known <= cut));
  }
});

test("what the log lacks is absent, not guessed", () => {
  const bench = randomCharge(seeded(11));
  const setup = setupOf(bench);
  const { trace } = log(bench, 3);
  const time = trace.columns.time as Float64Array;
  const part = (from: number, to: number): Trace => ({
    columns: Object.fromEntries(Object.entries(trace.columns).map(([role, c]) => [role, c?.slice(from, to)])),
    events: [],
  });
  const names = (t: Trace) => analyse(t, setup).findings.map((f) => f.characteristic);
  const middle = part(200, time.length);
  expect(names(middle)).toEqual(
    expect.arrayContaining(["charge.cc-current", "charge.cv-voltage", "charge.termination-current"]),
  );
  for (const name of [
    "charge.total-time",
    "charge.capacity",
    "charge.energy-delivered",
    "charge.cc-duration",
    "charge.efficiency",
  ])
    expect(names(middle)).not.toContain(name);
  const begun = part(0, 600);
  expect(names(begun)).toContain("charge.cc-current");
  for (const name of [
    "charge.total-time",
    "charge.capacity",
    "charge.termination-current",
    "charge.cv-voltage",
    "charge.rest-voltage",
  ])
    expect(names(begun)).not.toContain(name);
  const { inputVoltage: _v, inputCurrent: _i, partTemperature: _t, ...cellOnly } = trace.columns;
  void [_v, _i, _t];
  const bare = names({ columns: cellOnly, events: [] });
  for (const name of [
    "charge.energy-drawn",
    "charge.efficiency",
    "charge.input-sag",
    "charge.peak-dissipation",
    "charge.peak-temperature-rise",
  ])
    expect(bare).not.toContain(name);
  expect(analyse({ columns: { time }, events: [] }, setup).notes[0]?.code).toBe("no-cell-readings");
});

describe("what spoils a log", () => {
  const bench = randomCharge(seeded(21));
  const setup = setupOf(bench);
  const { trace } = log(bench, 4);
  const clean = analyse(trace, setup).findings;
  const value = (list: readonly Finding[], name: string) => numeric(find(list, name)?.value);
  const altered = (change: (role: string, c: Float64Array, time: Float64Array) => Float64Array): Trace => ({
    columns: Object.fromEntries(
      Object.entries(trace.columns).map(([role, c]) => [
        role,
        change(role, Float64Array.from(c ?? []), trace.columns.time as Float64Array),
      ]),
    ),
    events: [],
  });

  test("single-sample spikes and overload marks change nothing, and spikes are said", () => {
    const r = seeded(8);
    const spoilt = altered((role, c) => {
      if (role !== "time")
        for (let k = 30; k < c.length - 30; k += 97) c[k] = r.uniform() < 0.5 ? NaN : sampleAt(c, k) * 1.6 + 1;
      return c;
    });
    const a = analyse(spoilt, setup);
    expect(a.notes.map((n) => n.code)).toContain("spikes");
    for (const name of ["charge.cc-current", "charge.total-time", "charge.capacity", "charge.cc-duration"])
      expect(value(a.findings, name) / value(clean, name)).toBeCloseTo(1, 3);
  });

  test("a gap with equal current on both sides is bridged and said; one across the voltage phase leaves charge unsaid", () => {
    const without = (from: number, to: number): Trace => {
      const time = trace.columns.time as Float64Array;
      const keep = [...time.keys()].filter((k) => sampleAt(time, k) < from || sampleAt(time, k) > to);
      return altered((_role, c) => Float64Array.from(keep, (k) => sampleAt(c, k)));
    };
    const cc = analyse(without(600, 1100), setup);
    expect(cc.notes.find((n) => n.code === "gap-bridged")?.message).toContain("8 min");
    expect(value(cc.findings, "charge.capacity") / value(clean, "charge.capacity")).toBeCloseTo(1, 3);
    const stop = numeric(clean.find((f) => f.characteristic === "charge.total-time")?.value) + 40;
    const cv = analyse(without(stop - 2400, stop - 60), setup);
    expect(cv.notes.map((n) => n.code)).toContain("gap-open");
    expect(find(cv.findings, "charge.capacity")).toBeUndefined();
    expect(find(cv.findings, "charge.total-time")).toBeDefined();
  });
});

test("a current that falls because the input sags is told from heat, and the claim on it is not fairly tested", () => {
  const base = randomCharge(seeded(31));
  const sagging: ChargeBench = {
    ...base,
    supply: { volts: 4.95, cable: 0.55 },
    charger: { ...base.charger, passOhms: 0.3, channels: [{ current: 1, reference: 4.2, wire: 0.02, stopShare: 0.1 }] },
  };
  const a = analyse(log(sagging, 6).trace, setupOf(sagging));
  expect(find(a.findings, "charge.foldback-onset-temperature")).toBeUndefined();
  expect(find(a.findings, "charge.cc-current")?.unfair[0]).toMatchObject({ code: "input-sagged", pushes: "low" });
  const hot: ChargeBench = {
    ...base,
    soc: 0.1,
    charger: {
      ...base.charger,
      channels: [{ current: 1, reference: 4.2, wire: 0.02, stopShare: 0.1 }],
      foldback: { from: 75, perKelvin: 0.06 },
      thermal: { resistance: 55, tau: 80 },
    },
  };
  const b = analyse(log(hot, 7).trace, setupOf(hot));
  expect(find(b.findings, "charge.cc-current")).toMatchObject({ unfair: [] });
  expect(Math.abs(numeric(find(b.findings, "charge.cc-current")?.value) - 1)).toBeLessThan(0.03);
  expect(numeric(find(b.findings, "charge.foldback-onset-temperature")?.value)).toBeGreaterThan(72);
  expect(numeric(find(b.findings, "charge.foldback-onset-temperature")?.value)).toBeLessThan(82);
});

test("which meters a result rests on is the same in a long log, though only some of its rows are looked through for it", () => {
  const lacking = (every: number) => {
    const { trace } = logCharge(chargeBench({ cell: { capacity: 3 }, soc: 0.02 }), {
      every,
      seed: 9,
      before: 10,
      after: 120,
      most: 30_000,
    });
    const { inputVoltage: _v, cellCurrent: _a, ...instruments } = CHARGE_METERS;
    void [_v, _a];
    const a = analyseReadings(
      procedure("charge-cycle") as Procedure,
      { kind: "trace", trace },
      { conditions: { ambientTemperature: 22 }, instruments },
      NO_CORRECTIONS,
    );
    return {
      rows: trace.columns.time?.length ?? 0,
      of: Object.fromEntries(a.findings.map((f) => [f.characteristic, f.unstated ?? []])),
    };
  };
  const [short, long] = [lacking(2), lacking(0.25)];
  expect(long.rows).toBeGreaterThan(40_000);
  expect(long.of).toEqual(short.of);
  expect(long.of).toMatchObject({
    "charge.termination-current": ["cellCurrent"],
    "charge.efficiency": ["inputVoltage", "cellCurrent"],
    "charge.cc-duration": [],
    "charge.cv-voltage": [],
  });
});
