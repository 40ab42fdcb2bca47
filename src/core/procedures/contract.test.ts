/**
 * The contract tried on the three kinds of readings: a log over time, a checklist, and readings days apart. These are
 * small procedures of the test's own; what counts is that they fit without a cast and run through the same calls.
 */
import { ofTrace } from "./contract";
import { numeric, ok } from "../quantities";
import { HOUSE_RULES, NO_CORRECTIONS, type Analysis, type Finding, type Readings } from "../measurement";
import { PROCEDURES, atBench, type PlanContext, type BenchProcedure, type Procedure } from ".";
import { CHARACTERISTICS, characteristic } from "../characteristics";

const nothing = {
  wiring: () => ({ devices: [], gaps: [], notes: [] }),
  cautions: () => [],
  stopRules: () => [],
  destructive: false,
  work: [{ minutes: 1, needs: ["hands" as const] }],
  headline: [],
  asks: [],
  silences: {},
};
const found = (name: string, value: number | string): Finding => ({
  characteristic: name,
  conditions: {},
  value,
  unit: characteristic(name)?.unit ?? "",
  budget: [],
  points: [],
  unfair: [],
});
const analysis = (...findings: Finding[]): Analysis => ({ findings, notes: [], charts: [] });

/** A log over time: charge delivered is the integral of the current by trapezoids. */
const chargeCycle: Procedure<{ reject: number }> = {
  ...nothing,
  id: "charge-cycle",
  version: 1,
  title: "Charge cycle",
  summary: "",
  readings: "trace",
  position: 30,
  calledForBy: ["charger"],
  measures: ["charge.capacity"],
  record: {
    roles: [
      { role: "cellVoltage", required: true },
      { role: "cellCurrent", required: true },
    ],
    derived: [],
  },
  plan: () => ok({ conditions: { cellCapacity: 2.2 }, instruments: {}, plan: { reject: 2 } }),
  stopRules: (setup) => [
    {
      role: "cellVoltage",
      below: setup.plan?.reject ?? 2,
      why: "The cell is below the reject floor.",
      act: "Disconnect the cell first.",
    },
  ],
  analyse: (readings) => {
    if (readings.kind !== "trace") throw new Error("internal");
    const { time, cellCurrent } = readings.trace.columns;
    if (!time || !cellCurrent) return analysis();
    let charge = 0;
    for (let i = 1; i < time.length; i++)
      charge += (((cellCurrent[i] ?? 0) + (cellCurrent[i - 1] ?? 0)) / 2) * ((time[i] ?? 0) - (time[i - 1] ?? 0));
    return analysis(found("charge.capacity", charge / 3600));
  },
};

/** A checklist: what each press led to. */
const behaviour: Procedure<{ actions: string[] }> = {
  ...nothing,
  id: "behaviour",
  version: 1,
  title: "Behaviour",
  summary: "",
  readings: "answers",
  position: 90,
  calledForBy: ["boost"],
  measures: ["behaviour.response"],
  record: { roles: [], derived: [] },
  plan: () => ok({ conditions: {}, instruments: {}, plan: { actions: ["short press"] } }),
  items: () => [],
  analyse: (readings) =>
    analysis(
      ...(readings.kind === "answers"
        ? readings.answers.map((a) => ({ ...found("behaviour.response", a.word), conditions: { action: a.item } }))
        : []),
    ),
};

/** Readings days apart: a table of points with a time and a cell number each. */
const restCheck: Procedure = {
  ...nothing,
  id: "rest-check",
  version: 1,
  title: "Rest check",
  summary: "",
  readings: "points",
  position: 110,
  calledForBy: [],
  measures: ["cell.rest-drop-rate"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "cell", required: true },
      { role: "cellVoltage", required: true },
    ],
    derived: [],
  },
  plan: () => ok({ conditions: {}, instruments: {} }),
  next: (_setup, points) => ({
    kind: points.length < 2 ? "point" : "done",
    text: "Measure the rest voltage.",
    settings: {},
    expect: {},
    progress: { taken: points.length, of: 2 },
  }),
  analyse: (readings) => {
    if (readings.kind !== "points") throw new Error("internal");
    const [a, b] = readings.points;
    const v = (p: typeof a, role: "cellVoltage" | "time") => p?.cells[role]?.value ?? NaN;
    return analysis({
      ...found(
        "cell.rest-drop-rate",
        ((v(a, "cellVoltage") - v(b, "cellVoltage")) / (v(b, "time") - v(a, "time"))) * 86400,
      ),
      conditions: { cell: a?.cells.cell?.value ?? 0 },
    });
  },
};

const kinds: readonly BenchProcedure[] = [chargeCycle, behaviour, restCheck, ...PROCEDURES].flatMap(
  (p) => atBench(p) ?? [],
);
const context: PlanContext = {
  claims: [],
  rules: HOUSE_RULES,
  rig: { instruments: {}, supplyCurrentLimit: 3, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
  configuration: { output: 5 },
};
const readings: Record<string, Readings> = {
  "charge-cycle": {
    kind: "trace",
    trace: {
      columns: {
        time: Float64Array.of(0, 1800, 3600),
        cellVoltage: Float64Array.of(3.6, 3.8, 4),
        cellCurrent: Float64Array.of(1, 1, 1),
      },
      events: [],
    },
  },
  behaviour: {
    kind: "answers",
    answers: [{ id: "a1", item: "short press", word: "output on", at: "2026-11-01T10:00:00Z" }],
  },
  "rest-check": {
    kind: "points",
    points: [0, 7].map((days, i) => ({
      id: `p${i}`,
      sequence: i,
      settings: {},
      cells: {
        time: { value: days * 86400, status: "ok" as const },
        cell: { value: 4, status: "ok" as const },
        cellVoltage: { value: 4.2 - days * 0.01, status: "ok" as const },
      },
    })),
  },
  "load-sweep": { kind: "points", points: [] },
};

test.each(kinds.map((p) => [p.id, p] as const))("%s plans, warns and analyses through the same calls", (id, p) => {
  const planned = p.plan(context);
  expect(planned.ok).toBe(true);
  if (!planned.ok) return;
  expect(p.wiring(planned.value).devices).toBeDefined();
  const result = p.analyse(
    readings[id] ??
      (p.readings === "trace" ? { kind: "trace", trace: { columns: {}, events: [] } } : { kind: "points", points: [] }),
    planned.value,
    NO_CORRECTIONS,
  );
  for (const f of result.findings) expect(p.measures).toContain(f.characteristic);
});

test("each kind gives its quantity: 1 A for an hour is 1 Ah, an answer is a word, 10 mV a day is a drop rate", () => {
  const value = (p: Procedure) => {
    const planned = p.plan?.(context) ?? { ok: false as const, error: "no plan" };
    return planned.ok
      ? p.analyse(readings[p.id] as Readings, planned.value, NO_CORRECTIONS).findings[0]?.value
      : undefined;
  };
  expect(value(chargeCycle)).toBeCloseTo(1, 12);
  expect(value(behaviour)).toBe("output on");
  expect(value(restCheck)).toBeCloseTo(0.01, 9);
});

test("every procedure of the list measures only what the dictionary names, and ids and positions are its own", () => {
  for (const p of PROCEDURES)
    for (const name of [...p.measures, ...p.headline]) expect(characteristic(name)?.name).toBe(name);
  expect(new Set(PROCEDURES.map((p) => p.id)).size).toBe(PROCEDURES.length);
  expect(new Set(PROCEDURES.map((p) => p.position)).size).toBe(PROCEDURES.length);
  expect(new Set(CHARACTERISTICS.map((c) => c.name)).size).toBe(CHARACTERISTICS.length);
});

test.each(
  PROCEDURES.flatMap((p) => {
    const bench = ofTrace(atBench(p));
    return bench?.guide ? [[p.id, bench] as const] : [];
  }),
)(
  "%s: its fields name what its plan holds, it says a danger first, and its guide begins with something to do",
  (_id, p) => {
    const planned = p.plan(context);
    if (!planned.ok) throw new Error(planned.error);
    const plan = planned.value.plan as Readonly<Record<string, unknown>>;
    for (const f of p.fields ?? []) expect(Object.keys(plan)).toContain(f.key);
    for (const f of p.fields ?? [])
      if ("high" in f && typeof plan[f.key] === "number")
        expect([f.key, numeric(plan[f.key]) >= f.low && numeric(plan[f.key]) <= f.high]).toEqual([f.key, true]);
    expect(p.cautions(planned.value)[0]?.severity).toBe("danger");
    expect(p.stopRules(planned.value).some((r) => r.role === "time")).toBe(true);
    const first = p.guide?.(planned.value).push({ time: 0 });
    expect(first?.done).toBe(false);
    expect(first?.settings.supplyOn).toBe(true);
    expect(first?.text.length).toBeGreaterThan(10);
    const roles = p.record.roles.map((r) => r.role);
    for (const role of p.roles?.(planned.value) ?? []) expect(roles).toContain(role);
  },
);
