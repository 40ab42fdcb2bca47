import {
  NO_CORRECTIONS,
  type Analysis,
  type LiveEvent,
  type LogRow,
  type Role,
  type RunSetup,
  type Trace,
  type TraceEvent,
} from "../measurement";
import { analyseReadings, procedure, type Procedure } from "../procedures";
import { ChargeWatch, type ChargePlan } from "../procedures/charge-cycle";
import { chargeBench } from "../simulator";
import { CHARGE_METERS } from "../bench/charge-meters";
import { logCharge, type Disturbance } from "./charge-log";
import { liveChargeFor } from "./live-bench";
import { numeric } from "../quantities";

const CHARGE = procedure("charge-cycle") as Procedure;
const BENCH = chargeBench({ cell: { capacity: 1.2 }, soc: 0.3 });
const HOT = chargeBench({
  cell: { capacity: 1.2 },
  soc: 0.3,
  charger: { thermal: { resistance: 62, tau: 70 }, shutdown: { at: 88, below: 60 } },
});
const SETUP: RunSetup = { conditions: { programmedCurrent: 1, ambientTemperature: 22 }, instruments: CHARGE_METERS };

const log = (
  disturbances: readonly Disturbance[],
  bench = BENCH,
  change: Partial<Parameters<typeof logCharge>[1]> = {},
) => logCharge(bench, { every: 3, before: 40, after: 300, most: 9000, seed: 5, disturbances, ...change }).trace;
const analyse = (
  trace: Trace,
  marks: readonly TraceEvent[] = [],
  roles: readonly Role[] = Object.keys(CHARGE_METERS) as Role[],
): Analysis =>
  analyseReadings(
    CHARGE,
    {
      kind: "trace",
      trace: {
        columns: Object.fromEntries(
          Object.entries(trace.columns).filter(([role]) => role === "time" || roles.includes(role as Role)),
        ),
        events: marks,
      },
    },
    SETUP,
    NO_CORRECTIONS,
  );
const value = (a: Analysis, name: string) =>
  a.findings.find((f) => f.characteristic === name)?.value as number | undefined;
const silence = (a: Analysis, name: string) => a.notStated?.find((n) => n.characteristic === name);
/** The phases as the charts shade them, each with where it ends to the nearest 20 s. */
const spans = (a: Analysis) => (a.charts[0]?.spans ?? []).map((s) => [s.label, 20 * Math.round(s.to / 20)] as const);
const plain = (text: string | undefined) => (text ?? "").replace(/\u00a0/g, " ");
const CELL_ONLY: readonly Role[] = ["cellVoltage", "cellCurrent"];
const ENDS = [
  "charge.termination-current",
  "charge.termination-voltage",
  "charge.total-time",
  "charge.capacity",
  "charge.energy-delivered",
  "charge.efficiency",
  "charge.rest-voltage",
  "charge.recharge-threshold",
];
const whole = analyse(log([]));

function live(trace: Trace): LiveEvent[] {
  const watch = new ChargeWatch(SETUP as RunSetup<ChargePlan>);
  const roles = Object.keys(trace.columns) as Role[];
  return [...(trace.columns.time as Float64Array).keys()].flatMap((k) => [
    ...watch.push(Object.fromEntries(roles.map((role) => [role, trace.columns[role]?.[k]])) as LogRow),
  ]);
}

describe("a pulled plug", () => {
  test("that is not put back is no end: what the log holds is stated, the rest says why not", () => {
    const a = analyse(log([{ at: 1240, what: "unplug" }], BENCH, { most: 1600 }));
    for (const name of ENDS)
      expect([name, value(a, name), silence(a, name)?.code]).toEqual([name, undefined, "disturbed"]);
    expect(value(a, "charge.cc-current")).toBeCloseTo(1, 2);
    // An ampere for twenty minutes.
    expect(value(a, "charge.partial-capacity")).toBeCloseTo(1200 / 3600, 2);
    expect(value(a, "charge.interruptions")).toBe(1);
    expect(plain(silence(a, "charge.capacity")?.reason)).toBe(
      "The charge was interrupted while 1.0 A was still flowing: the input is gone.",
    );
    expect(a.notes.map((n) => n.code)).toContain("interrupted");
    expect(spans(a)).toEqual([
      ["constant current", 1240],
      ["interrupted", 1600],
    ]);
  });

  test("that comes back goes on with the same charge: sums over the segments, no recharge threshold", () => {
    const a = analyse(
      log([
        { at: 1240, what: "unplug" },
        { at: 1840, what: "plug" },
      ]),
    );
    expect(value(a, "charge.capacity")).toBeCloseTo(numeric(value(whole, "charge.capacity")), 2);
    expect(Math.abs(numeric(value(a, "charge.total-time")) - numeric(value(whole, "charge.total-time")))).toBeLessThan(
      25,
    );
    expect(Math.abs(numeric(value(a, "charge.paused-time")) - 600)).toBeLessThan(5);
    expect(value(a, "charge.interruptions")).toBe(1);
    expect(silence(a, "charge.recharge-threshold")?.code).toBe("did-not-happen");
    expect(value(a, "charge.efficiency")).toBeCloseTo(numeric(value(whole, "charge.efficiency")), 2);
    expect(
      spans(a)
        .slice(0, 4)
        .map(([label]) => label),
    ).toEqual(["constant current", "interrupted", "constant current", "constant voltage"]);
    expect(spans(a)[1]?.[1]).toBe(1840);
  });

  test("that was loose for seconds does not end a charge of two hours", () => {
    for (const seconds of [3, 6, 9]) {
      const a = analyse(
        log(
          [
            { at: 1240, what: "unplug" },
            { at: 1240 + seconds, what: "plug" },
          ],
          BENCH,
          { every: 2 },
        ),
      );
      expect([seconds, value(a, "charge.interruptions")]).toEqual([seconds, 1]);
      expect(value(a, "charge.capacity")).toBeCloseTo(numeric(value(whole, "charge.capacity")), 2);
    }
  });

  test("after the end takes nothing back; plugged in again it shows no threshold", () => {
    const stop = numeric(value(whole, "charge.total-time")) + 40;
    const rest = analyse(log([{ at: stop + 100, what: "unplug" }]));
    expect(value(rest, "charge.capacity")).toBeCloseTo(numeric(value(whole, "charge.capacity")), 3);
    expect(value(rest, "charge.rest-voltage")).toBeCloseTo(numeric(value(whole, "charge.rest-voltage")), 2);
    const again = analyse(
      log(
        [
          { at: stop + 100, what: "unplug" },
          { at: stop + 200, what: "plug" },
        ],
        BENCH,
        { after: 700 },
      ),
    );
    expect(value(again, "charge.termination-current")).toBeCloseTo(0.1, 2);
    expect(silence(again, "charge.recharge-threshold")).toMatchObject({
      code: "disturbed",
      reason: expect.stringContaining("because the input returned") as string,
    });
  });
});

test("a cell that is taken out has neither ended nor come to rest", () => {
  const a = analyse(log([{ at: 1240, what: "cell-out" }], BENCH, { most: 2000 }));
  for (const name of ENDS) expect([name, value(a, name)]).toEqual([name, undefined]);
  expect(silence(a, "charge.rest-voltage")?.reason).toContain("the cell was removed");
});

test("a part that shuts itself off and comes back charges in segments; a timer ends nothing", () => {
  const hot = analyse(log([], HOT));
  expect(value(hot, "charge.interruptions")).toBeGreaterThan(2);
  expect(value(hot, "charge.capacity")).toBeCloseTo(numeric(value(whole, "charge.capacity")), 1);
  const timed = analyse(
    log([], chargeBench({ cell: { capacity: 1.2 }, soc: 0.3, charger: { timer: 1500 } }), { most: 2500 }),
  );
  expect(value(timed, "charge.capacity")).toBeUndefined();
  expect(silence(timed, "charge.capacity")?.reason).toContain("a timer or a protection");
});

describe("without an input column", () => {
  test("a stop at full current is an interruption, one after the voltage phase an end", () => {
    const a = analyse(log([{ at: 1240, what: "unplug" }], BENCH, { most: 1600 }), [], CELL_ONLY);
    expect(silence(a, "charge.capacity")?.code).toBe("disturbed");
    expect(value(analyse(log([]), [], CELL_ONLY), "charge.capacity")).toBeCloseTo(
      numeric(value(whole, "charge.capacity")),
      3,
    );
    expect(silence(a, "charge.efficiency")?.code).toBe("disturbed");
    expect(silence(analyse(log([]), [], CELL_ONLY), "charge.efficiency")).toMatchObject({
      code: "needs",
      needs: { roles: ["inputVoltage", "inputCurrent"] },
    });
  });

  test("a stop of the pre-charge can't be told; a mark of the tester tells", () => {
    const deep = chargeBench({ cell: { capacity: 1.2 }, soc: -0.004 });
    const trace = log([{ at: 200, what: "unplug" }], deep, { most: 600 });
    const a = analyse(trace, [], CELL_ONLY);
    expect(silence(a, "charge.capacity")).toMatchObject({ code: "needs", needs: { roles: ["inputVoltage"] } });
    const marked = analyse(trace, [{ time: 205, what: "input unplugged", kind: "unplugged" }], CELL_ONLY);
    expect(silence(marked, "charge.capacity")?.reason).toContain("the input is gone");
    const ended = analyse(
      log([{ at: 1240, what: "unplug" }], BENCH, { most: 1600 }),
      [{ time: 1238, what: "charge ended", kind: "ended" }],
      CELL_ONLY,
    );
    expect(value(ended, "charge.termination-current")).toBeCloseTo(1, 1);
  });
});

test("a log cut before its end still gives its highest dissipation; one that begins later gives a lower bound", () => {
  const trace = log([]);
  const part = (from: number, to: number): Trace => ({
    columns: Object.fromEntries(
      Object.entries(trace.columns).map(([role, c]) => [role, (c as Float64Array).slice(from, to)]),
    ),
    events: [],
  });
  const early = analyse(part(0, 400));
  expect(value(early, "charge.peak-dissipation")).toBeCloseTo(numeric(value(whole, "charge.peak-dissipation")), 3);
  expect(silence(early, "charge.capacity")?.code).toBe("not-in-log");
  expect(value(early, "charge.partial-capacity")).toBeGreaterThan(0.2);
  const stopped = analyse(part(0, 400), [{ time: 400, what: "stopped by the tester", kind: "stopped" }]);
  expect(silence(stopped, "charge.capacity")).toMatchObject({
    code: "stopped",
    reason: expect.stringMatching(/^Stopped by the tester while 1(\.\d+)?\sA was flowing/),
  });
  expect(value(stopped, "charge.partial-capacity")).toBeGreaterThan(0.2);
  const late = analyse(part(200, 900)).findings.find((f) => f.characteristic === "charge.peak-dissipation");
  expect(late?.bound).toBe("at-least");
});

test("live: an interruption has words of its own, nothing is called done, and the end comes once", () => {
  const events = live(
    log([
      { at: 1240, what: "unplug" },
      { at: 1840, what: "plug" },
    ]),
  );
  expect(events.filter((e) => e.kind !== "phase").map((e) => e.kind)).toEqual(["interrupted", "done"]);
  expect(plain(events.find((e) => e.kind === "interrupted")?.message)).toMatch(
    /^Interrupted: 1\.0 A was still flowing\. The input is gone\./,
  );
  expect(plain(events.find((e) => e.message.startsWith("The charge resumes"))?.message)).toMatch(
    /after (10 min|9 min 58 s)/,
  );
  expect(live(log([{ at: 1240, what: "unplug" }], BENCH, { most: 1600 })).map((e) => e.kind)).not.toContain("done");
});

describe("on the simulated bench", () => {
  const setup = { ...SETUP, plan: { cell: null, startVoltage: null } } as unknown as RunSetup;
  const reading = (done: readonly (readonly [string, number])[], from = 0) => {
    const charge = liveChargeFor("honest-ampere", 5, 2, setup);
    for (const [what, at] of done) charge.disturb(what, at);
    return Array.from({ length: 200 }, (_, k) => charge.sample(from + k));
  };
  test("what is done to it is done again, the same, when its log is taken up later", () => {
    const done = [
      ["unplug", 100],
      ["plug", 150],
      ["cell-out", 250],
      ["cell-in", 300],
    ] as const;
    expect(reading(done, 100)).toEqual(reading(done).slice(100).concat(reading(done, 100).slice(100)));
    const amps = reading(done).map((r) => ((r.cellCurrent ?? 0) > 0.5 ? 1 : 0));
    expect([40, 60, 100, 140, 170].map((k) => amps[k])).toEqual([1, 0, 1, 0, 1]);
  });
  test("what it does not know is not done", () => {
    expect(liveChargeFor("honest-ampere", 5, 2, setup).disturb("kick", 10)).toBeNull();
  });
});

test("a cell that warms while hardly any current flows stops the log; one that the air warms does not", () => {
  const warm = (cell: (t: number) => number, air: (t: number) => number, amps = 0.1) => {
    const watch = new ChargeWatch(SETUP as RunSetup<ChargePlan>);
    return Array.from({ length: 200 }, (_, k) =>
      watch.push({
        time: 10 * k,
        cellVoltage: 4.2,
        cellCurrent: amps,
        cellTemperature: cell(10 * k),
        ambientTemperature: air(10 * k),
      }),
    )
      .flat()
      .filter((e) => e.kind === "hot");
  };
  expect(
    warm(
      (t) => 22 + t / 150,
      () => 22,
    ),
  ).toMatchObject([{ act: expect.stringContaining("Unplug the input") as string }]);
  expect(
    warm(
      (t) => 22 + t / 150,
      (t) => 22 + t / 150,
    ),
  ).toEqual([]);
  expect(
    warm(
      (t) => 22 + t / 150,
      () => 22,
      0.6,
    ),
  ).toEqual([]);
  expect(
    warm(
      (t) => 22 + t / 900,
      () => 22,
    ),
  ).toEqual([]);
});
