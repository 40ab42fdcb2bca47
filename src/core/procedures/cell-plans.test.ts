import { ofTrace } from "./contract";
import { restedFull } from "./discharge/plan";
import { atBench, procedure, type BenchProcedure, type PlanContext } from ".";
import {
  HOUSE_RULES,
  NO_CORRECTIONS,
  type Finding,
  type GuideStep,
  type Point,
  type Readings,
  type RunSetup,
} from "../measurement";
import type { DischargePlan } from "./discharge";
import type { PackPlan } from "./pack-charge";
import { PackStream } from "./pack-charge/stream";
import { restCheck } from "./rest-check";

const METER = { gain: 0.001, counts: 2, resolution: 0.001 };
function planned<P>(id: string): { readonly p: BenchProcedure; readonly setup: RunSetup; readonly plan: P } {
  const p = atBench(procedure(id)) as BenchProcedure;
  const context: PlanContext = {
    claims: [],
    rules: HOUSE_RULES,
    rig: {
      instruments: { batteryVoltage: METER, batteryCurrent: METER, cellVoltage: METER, cellCurrent: METER },
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
const log = (columns: Readonly<Record<string, readonly number[]>>): Readings => ({
  kind: "trace",
  trace: {
    columns: Object.fromEntries(Object.entries(columns).map(([k, v]) => [k, Float64Array.from(v)])),
    events: [],
  },
});
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);
const codes = (a: { notes: readonly { code: string }[] }) => a.notes.map((n) => n.code);
const texts = (remarks: readonly { severity: string; text: string }[] | undefined, severity: string) =>
  (remarks ?? []).filter((r) => r.severity === severity).map((r) => r.text.replace(/\u00a0/g, " "));

describe("discharge", () => {
  const { p, setup, plan } = planned<DischargePlan>("discharge");
  const changed = (patch: Partial<DischargePlan>): RunSetup => ({ ...setup, plan: { ...plan, ...patch } });

  test("a fifth of the capacity an hour, that follows the capacity; nothing below what cells may go to", () => {
    expect(plan.rate).toBeCloseTo(0.44, 9);
    expect(p.follows?.(plan, { capacity: 1 })).toEqual({ capacity: 1, rate: 0.2 });
    expect(texts(p.remarks?.(changed({ floor: 2.4 })), "refused")[0]).toMatch(
      /2\.4 V is lower than any such cell may go/,
    );
    expect(texts(p.remarks?.(changed({ startVoltage: 2.9 })), "refused")[0]).toMatch(/already at or under the floor/);
    expect(texts(p.remarks?.(changed({ startVoltage: 3.9 })), "care")[0]).toMatch(
      /what comes out of it is no capacity/,
    );
    expect(p.stopRules(setup).some((r) => r.role === "batteryVoltage" && r.below === 2.75)).toBe(true);
  });

  /** An amp for some hours from a cell that falls 0.3 V an hour from 4.15 V, and recovers by 0.1 V. */
  const hours = (seconds: number, change: { full?: number; rest?: boolean } = {}) => {
    const rows: [number, number, number][] = [];
    const begin = change.rest === false ? 20 : 0;
    for (let t = begin; t <= seconds + 60; t += 10) {
      const on = t >= 20 && t < seconds;
      rows.push([
        t,
        on
          ? (change.full ?? 4.15) - 0.1 - (0.3 * (t - 20)) / 3600
          : t < 20
            ? (change.full ?? 4.15)
            : (change.full ?? 4.15) - (0.3 * (seconds - 20)) / 3600,
        on ? 1 : 0,
      ]);
    }
    return log({
      time: rows.map((r) => r[0]),
      batteryVoltage: rows.map((r) => r[1]),
      batteryCurrent: rows.map((r) => r[2]),
    });
  };
  test("an amp until the floor is reached, from a full cell: so many ampere-hours, and the step as its resistance", () => {
    // 4.05 V under load falls to 3.6 V in an hour and a half.
    const a = p.analyse(hours(5500), changed({ floor: 3.6, rate: 1, capacity: 1.5 }), NO_CORRECTIONS);
    const c = find(a.findings, "cell.capacity");
    expect(c?.value).toBeCloseTo(1.5, 2);
    expect(c?.conditions).toEqual({ rate: 1, floor: 3.6 });
    expect(find(a.findings, "cell.resistance")?.value).toBeCloseTo(0.1, 3);
    expect(a.notes.find((n) => n.code === "delivered")?.message.replace(/\u00a0/g, " ")).toMatch(
      /It gave 1\.50 Ah in 1 h 30 min .* 100(\.\d)? % of the 2\.2|It gave 1\.50 Ah/,
    );
  });
  test("one that was stopped early is a bound; one that was not full gives none, nor one whose rest was not logged", () => {
    const early = p.analyse(hours(2000), changed({ floor: 3.6, rate: 1 }), NO_CORRECTIONS);
    expect(find(early.findings, "cell.capacity")?.bound).toBe("at-least");
    expect(codes(early)).toContain("floor-not-reached");
    for (const a of [
      p.analyse(hours(5500, { full: 3.95 }), changed({ floor: 3.4, rate: 1 }), NO_CORRECTIONS),
      p.analyse(hours(5500, { rest: false }), changed({ floor: 3.6, rate: 1 }), NO_CORRECTIONS),
    ]) {
      expect(find(a.findings, "cell.capacity")).toBeUndefined();
      expect(codes(a)).toContain("not-from-full");
    }
  });
  test("a log of the cell's own columns, its current negative, says the same", () => {
    const r = hours(5500);
    if (r.kind !== "trace") throw new Error("internal");
    const { time, batteryVoltage, batteryCurrent } = r.trace.columns;
    const a = p.analyse(
      {
        kind: "trace",
        trace: {
          columns: {
            time: time as Float64Array,
            cellVoltage: batteryVoltage as Float64Array,
            cellCurrent: (batteryCurrent as Float64Array).map((x) => -x),
          },
          events: [],
        },
      },
      changed({ floor: 3.6, rate: 1 }),
      NO_CORRECTIONS,
    );
    expect(find(a.findings, "cell.capacity")?.value).toBeCloseTo(1.5, 2);
  });
  test("its guide loads after a moment of rest, takes the load off at the floor, and watches the recovery", () => {
    const guide = ofTrace(p)?.guide?.(changed({ rebound: 60 }));
    const steps = [0, 10, 20, 30, 40, 50, 60, 110, 120].map((time) =>
      guide?.push({ time, batteryVoltage: time < 40 ? 3.5 : 2.9, batteryCurrent: time > 20 && time < 60 ? 0.44 : 0 }),
    );
    expect(steps.map((s) => s?.phase)).toEqual([
      "rested",
      "rested",
      "discharging",
      "discharging",
      "recovering",
      "recovering",
      "recovering",
      "done",
      "done",
    ]);
    expect(steps.map((s) => s?.settings.load)).toEqual([0, 0, 0.44, 0.44, 0, 0, 0, 0, 0]);
    expect(steps.flatMap((s) => s?.mark?.kind ?? [])).toEqual(["load-on", "load-off"]);
  });
});

describe("pack charge", () => {
  const { p, setup, plan } = planned<PackPlan>("pack-charge");
  const changed = (patch: Partial<PackPlan>): RunSetup => ({ ...setup, plan: { ...plan, ...patch } });

  test("the charger stands a little above cells × cut; a board for another chemistry is refused", () => {
    expect(plan.chargerVolts).toBeCloseTo(17.1, 9);
    expect(p.follows?.(plan, { cells: 3 })).toMatchObject({ chargerVolts: 12.85 });
    expect(texts(p.remarks?.(changed({ cellMaximum: 3.65 })), "refused")[0]).toMatch(/made for another chemistry/);
    expect(texts(p.remarks?.(changed({ chargerVolts: 16.8 })), "care").join()).toMatch(/under 4 × 4\.25 V/);
    expect(p.roles?.(changed({ cells: 2 }))).toEqual(["cellCurrent", "cell1Voltage", "cell2Voltage"]);
    expect(p.stopRules(changed({ cells: 2 })).filter((r) => r.role === "cell2Voltage")).toHaveLength(2);
  });

  const events = (amps: readonly number[]) => {
    const s = new PackStream(0.01, 0);
    return amps.flatMap((a, k) => s.push(k, 10 * k, a)).map((e) => [e.kind, e.row]);
  };
  test("a cut is told from a taper, a return from a beginning, and one odd reading from neither", () => {
    expect(events([0, 0, 1, 1, 1, 1, 0, 0, 0, 1, 1, 0, 0, -1, -1, 0, 0])).toEqual([
      ["charge", 2],
      ["charge-cut", 6],
      ["charge-again", 9],
      ["charge-cut", 11],
      ["discharge", 13],
      ["low-cut", 15],
    ]);
    expect(events([0, 1, 1, 0.8, 0.5, 0.3, 0.2, 0.1, 0.05, 0, 0])).toEqual([
      ["charge", 1],
      ["tapered", 9],
    ]);
    expect(events([0, 0, 1, 0, 0, 0])).toEqual([]);
  });

  /** Two cells charged at an amp until the first stands at 4.25 V. */
  const charge = (apart: number) => {
    const time = Array.from({ length: 120 }, (_, k) => 10 * k);
    const on = (t: number) => t >= 50 && t < 850;
    return log({
      time,
      cellCurrent: time.map((t) => (on(t) ? 1 : 0)),
      cell1Voltage: time.map((t) => 4.17 + 1e-4 * Math.min(t, 850) - (on(t) ? 0 : 0.03)),
      cell2Voltage: time.map((t) => 4.17 - apart + 1e-4 * Math.min(t, 850) - (on(t) ? 0 : 0.03)),
    });
  };
  test("taper or guillotine: with cells apart the pack is not full, and that is said; together it is", () => {
    const drifted = p.analyse(charge(0.2), changed({ cells: 2 }), NO_CORRECTIONS);
    expect(find(drifted.findings, "pack.cutoff-cell-voltage")?.value).toBeCloseTo(4.2545, 3);
    expect(find(drifted.findings, "pack.spread-at-cutoff")?.value).toBeCloseTo(0.2, 6);
    expect(find(drifted.findings, "pack.current-at-cutoff")?.value).toBeCloseTo(1, 6);
    expect(drifted.notes.find((n) => n.code === "guillotine")?.message).toMatch(/the pack is unbalanced and not full/);
    expect(
      p.analyse(charge(0.01), changed({ cells: 2 }), NO_CORRECTIONS).notes.find((n) => n.code === "guillotine")
        ?.message,
    ).toMatch(/The cells are balanced/);
  });
  test("its threshold is held against the cells and against a long life; a log without cells says what it lacks", () => {
    const a = p.analyse(charge(0), changed({ cells: 2, cellMaximum: 3.65, longLife: 3.5 }), NO_CORRECTIONS);
    expect(codes(a)).toContain("wrong-chemistry");
    expect(codes(p.analyse(charge(0), changed({ cells: 2 }), NO_CORRECTIONS))).toContain("upper-window");
    expect(codes(p.analyse(log({ time: [0, 1], cellCurrent: [0, 0] }), setup, NO_CORRECTIONS))).toContain("no-cells");
  });
  test("its guide charges, waits for the release, rests, discharges, and ends after the low cut", () => {
    const guide = ofTrace(p)?.guide?.(changed({ wait: 600 }));
    const phases: string[] = [];
    let load = 0;
    let input = false;
    let cutSince = -1;
    for (let t = 0; t < 4000; t += 10) {
      const amps: number =
        input && t < 500 ? 0.7 : input && cutSince > 0 && t > cutSince + 100 ? 0.7 : load > 0 && t < 2600 ? -load : 0;
      const step: GuideStep | undefined = guide?.push({ time: t, cellCurrent: amps });
      if (!step) break;
      if (step.phase === "waiting for the release" && cutSince < 0) cutSince = t;
      if (step.phase !== phases.at(-1)) phases.push(step.phase);
      ({ load, input } = step.settings);
      if (step.done) break;
    }
    expect(phases).toEqual([
      "rested",
      "charging",
      "waiting for the release",
      "resting",
      "discharging",
      "after the low cut",
      "waking on its own?",
      "charger on",
      "woken by the charger?",
      "done",
    ]);
  });
});

describe("rest check", () => {
  const DAY = 86400;
  const table = (rows: readonly (readonly [cell: number, days: number, volts: number])[]): Readings => ({
    kind: "points",
    points: rows.map(([cell, days, volts], i): Point => ({
      id: `p${i}`,
      sequence: i,
      settings: {},
      cells: {
        time: { value: days * DAY, status: "ok" },
        cell: { value: cell, status: "ok" },
        cellVoltage: { value: volts, status: "ok" },
      },
    })),
  });
  const setup: RunSetup = {
    conditions: {},
    instruments: { cellVoltage: { gain: 0.0003, counts: 3, resolution: 0.0005 } },
  };
  const settling: readonly (readonly [number, number, number])[] = [
    [1, 0, 4.2],
    [1, 0.3, 4.19],
    [1, 2, 4.186],
    [1, 4, 4.184],
    [1, 8, 4.18],
  ];

  test("the first day's settling is left out where later readings allow it", () => {
    const a = restCheck.analyse(table(settling), setup, NO_CORRECTIONS);
    expect(find(a.findings, "cell.rest-drop-rate")?.value).toBeCloseTo(0.001, 5);
    expect(find(a.findings, "cell.rest-drop-rate")?.points).toEqual(["p2", "p3", "p4"]);
    const early = restCheck.analyse(table(settling.slice(0, 2)), setup, NO_CORRECTIONS);
    expect(codes(early)).toContain("settling");
    expect(find(early.findings, "cell.rest-drop-rate")?.value).toBeCloseTo(0.0333, 3);
  });
  test("each cell is judged against the limit: rejected, sound, or too close to call; one reading is none", () => {
    const a = restCheck.analyse(
      table([
        ...settling,
        [2, 0, 4.2],
        [2, 2, 4.16],
        [2, 5, 4.1],
        [3, 0, 4.2],
        [3, 1.1, 4.195],
        [3, 1.8, 4.1915],
        [4, 0, 4.2],
      ]),
      setup,
      NO_CORRECTIONS,
    );
    const note = (code: string) => a.notes.find((n) => n.code === code)?.message ?? "";
    expect(note("rejected")).toMatch(/^Cell 2/);
    expect(note("sound")).toMatch(/^Cell 1 stays within 5 mV a day/);
    expect(note("open")).toMatch(/^Cell 3/);
    expect(note("one-reading")).toMatch(/^Cell 4/);
  });
  test("a reading that was left out does not count", () => {
    const wrong = [...settling, [1, 6, 3.9] as const];
    const leftOut = { ...NO_CORRECTIONS, leftOut: new Map([["p5", "clip slipped"]]) };
    expect(find(restCheck.analyse(table(wrong), setup, leftOut).findings, "cell.rest-drop-rate")?.value).toBeCloseTo(
      0.001,
      5,
    );
    expect(
      find(restCheck.analyse(table(wrong), setup, NO_CORRECTIONS).findings, "cell.rest-drop-rate")?.expandedUncertainty,
    ).toBeGreaterThan(0.01);
  });
});

test.each([
  [undefined, 4.1],
  [{ fullVoltage: 4.2 }, 4.1],
  [{ fullVoltage: 12.6, series: 3 }, 12.3],
  [{ fullVoltage: 3.6 }, 3.32],
  [{ fullVoltage: 14.4, series: 4, chemistry: "iron-phosphate" as const }, 13.28],
])("a cell or pack %j counts as full from its own rested voltage", (plan, volts) => {
  expect(restedFull(plan)).toBeCloseTo(volts, 9);
});
