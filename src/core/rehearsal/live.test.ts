import { NO_CORRECTIONS, HOUSE_RULES, type LiveEvent, type LogRow, type RunSetup } from "../measurement";
import { procedure } from "../procedures";
import { ChargeWatch, checkChargePlan, forecastFor, type ChargePlan } from "../procedures/charge-cycle";
import { SIMULATED_CHARGERS, type SimulatedChargerId } from "../simulator";
import { CHARGE_METERS } from "../bench/charge-meters";
import { liveChargeFor } from "./live-bench";
import { numeric } from "../quantities";

const CELL = {
  title: "Reed 2",
  chemistry: "lithium-ion",
  capacity: 2.2,
  chargeRateLimit: 1,
  chargeRate: 0.5,
  fullVoltage: 4.2,
  emptyVoltage: 3,
  ownProtection: false,
} as const;

function planned(change: Partial<ChargePlan> = {}, current = 1): RunSetup<ChargePlan> {
  const made = procedure("charge-cycle")?.plan?.({
    claims: [],
    rules: HOUSE_RULES,
    rig: {
      instruments: CHARGE_METERS,
      supplyCurrentLimit: 3,
      inputLeadResistance: 0,
      outputLeadResistance: 0,
      drawer: [],
    },
    cell: CELL,
  });
  if (!made?.ok) throw new Error("internal: no plan");
  const setup = made.value as RunSetup<ChargePlan>;
  return {
    ...setup,
    conditions: { ...setup.conditions, programmedCurrent: current },
    plan: { ...(setup.plan as ChargePlan), startVoltage: 3.4, supplyVoltage: 5.1, ...change },
  };
}
const refusals = (setup: RunSetup<ChargePlan>) =>
  checkChargePlan(setup)
    .filter((r) => r.severity === "refused")
    .map((r) => r.text)
    .join(" ")
    .replace(/\u00a0/g, " ");

function logged(charger: SimulatedChargerId, setup = planned(), seed = 4, every = 2, most = 20_000) {
  const source = liveChargeFor(charger, seed, every, setup as RunSetup);
  const watch = new ChargeWatch(setup);
  const rows: LogRow[] = [];
  const events: LiveEvent[] = [];
  const left: { time: number; remaining: number | null }[] = [];
  let after = 0;
  for (let k = 0; k < most && after < 120; k++) {
    const row = source.sample(k);
    rows.push(row);
    events.push(...watch.push(row));
    if (k % 300 === 0) left.push({ time: row.time, remaining: watch.state().remaining });
    if (events.some((e) => e.kind === "done")) after++;
  }
  return { rows, events, watch, left, source };
}

describe("a planned charge", () => {
  test.each<[string, Partial<ChargePlan>, number, RegExp]>([
    ["an ampere into a small cell", { cell: { ...CELL, capacity: 0.3 } }, 1, /3\.3 C; the cell allows 1 C/],
    ["a cell under the floor", { startVoltage: 1.4 }, 1, /under the floor of 2 V: reject it/],
    ["a floor that the house raised", { startVoltage: 2.2, rejectFloor: 2.5 }, 1, /under the floor of 2\.5 V/],
    ["a floor that nobody may lower", { startVoltage: 1.9, rejectFloor: 1 }, 1, /under the floor of 2 V/],
    ["reversed leads", { startVoltage: -3.6 }, 1, /the leads are reversed/],
    ["a full voltage that the cell can't stand", { fullVoltage: 4.35 }, 1, /must never exceed 4\.25 V/],
    [
      "a chemistry that the charger isn't for",
      { cell: { ...CELL, chemistry: "iron-phosphate", fullVoltage: 3.6 }, startVoltage: 3.2 },
      1,
      /must never exceed 3\.7 V/,
    ],
    ["no cell", { cell: null }, 1, /Choose the cell/],
    ["no volts", { startVoltage: null }, 1, /Measure the rested cell/],
  ])("is refused with %s", (_, change, current, words) => {
    expect(refusals(planned(change, current))).toMatch(words);
  });

  test("of an ordinary kind is not, and says what it will be like", () => {
    expect(refusals(planned())).toBe("");
    const f = forecastFor(planned());
    expect(f?.phases.map((p) => p.name)).toEqual(["constant current", "constant voltage"]);
    expect(
      checkChargePlan(planned({ supplyVoltage: 4.4, supplyLimit: 0.5, thermalResistance: 90 }))
        .filter((r) => r.severity === "care")
        .map((r) => r.text)
        .join(),
    ).toMatch(/supply would limit the current.*near the end the supply.*part may reach/s);
  });
});

describe("a charge followed as it comes", () => {
  const honest = logged("honest-ampere");

  test("goes through its phases, and counts what the finished analysis finds", () => {
    expect(honest.events.map((e) => e.kind)).toEqual(["phase", "phase", "done"]);
    const columns = Object.fromEntries(
      ["time", ...Object.keys(CHARGE_METERS)].map((role) => [
        role,
        Float64Array.from(honest.rows, (r) => numeric(r[role as keyof LogRow])),
      ]),
    );
    const findings =
      procedure("charge-cycle")?.analyse(
        { kind: "trace", trace: { columns, events: [] } },
        planned() as RunSetup,
        NO_CORRECTIONS,
      ).findings ?? [];
    const found = (name: string) => numeric(findings.find((f) => f.characteristic === name)?.value);
    const figure = (label: string) => numeric(honest.watch.state().figures.find((f) => f.label === label)?.value);
    expect(figure("Charge put in") / found("charge.capacity")).toBeCloseTo(1, 2);
    expect(figure("Energy put in") / found("charge.energy-delivered")).toBeCloseTo(1, 2);
    expect(figure("Efficiency so far") / found("charge.efficiency")).toBeCloseTo(1, 2);
    expect(Math.abs(figure("Charging for") - found("charge.total-time"))).toBeLessThan(10);
  });

  test("tells the time that is left, better and better", () => {
    const end = honest.events.find((e) => e.kind === "done")?.time ?? NaN;
    const off = honest.left
      .filter((l) => l.remaining !== null && l.time < end)
      .map((l) => Math.abs(numeric(l.remaining) - (end - l.time)) / end);
    const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
    const half = Math.floor(off.length / 2);
    expect(mean(off.slice(0, half))).toBeLessThan(0.15);
    expect(mean(off.slice(half))).toBeLessThan(mean(off.slice(0, half)));
    expect(off.at(-1)).toBeLessThan(0.03);
  });

  test.each<[SimulatedChargerId, LiveEvent["kind"], RegExp]>([
    ["thin-cable", "input-low", /below the 4\.5 V|leaves the charger no room/],
    ["runs-hot", "cut-back", /cuts its own current: the part is at 9\d/],
  ])("on %s says %s", (charger, kind, words) => {
    expect(
      logged(charger)
        .events.filter((e) => e.kind === kind)
        .map((e) => e.message)
        .join()
        .replace(/\u00a0/g, " "),
    ).toMatch(words);
  });

  test("that takes no current is called out after a minute", () => {
    const watch = new ChargeWatch(planned());
    const events: LiveEvent[] = [];
    for (let k = 0; k < 100; k++)
      events.push(...watch.push({ time: k, inputVoltage: 5.1, inputCurrent: 0.002, cellVoltage: 3.4, cellCurrent: 0 }));
    expect(events.map((e) => [e.kind, e.time])).toEqual([["no-current", 60]]);
  });

  test("says of a part of it what it says of the whole up to there", () => {
    for (const share of [0.2, 0.5, 0.81, 0.97]) {
      const watch = new ChargeWatch(planned());
      const upTo = Math.floor(share * honest.rows.length);
      const events = honest.rows.slice(0, upTo).flatMap((r) => [...watch.push(r)]);
      expect(events).toEqual(honest.events.slice(0, events.length));
      const whole = new ChargeWatch(planned());
      let seen = 0;
      honest.rows.forEach((r, k) => {
        const n = whole.push(r).length;
        if (k < upTo) seen += n;
      });
      expect(events).toHaveLength(seen);
    }
  });
});

test("what the simulated logger reads follows from its seed and number, whatever was looked at before", () => {
  const setup = planned() as RunSetup;
  const all = liveChargeFor("honest-ampere", 9, 0.01, setup);
  const some = liveChargeFor("honest-ampere", 9, 0.01, setup);
  const rows = Array.from({ length: 800 }, (_, k) => all.sample(k));
  for (const k of [3, 4, 250, 251, 799]) expect(some.sample(k)).toEqual(rows[k]);
  expect(() => some.sample(5)).toThrow(/asked for after 799/);
  expect(Object.keys(SIMULATED_CHARGERS).length).toBeGreaterThan(4);
});

test("three chargers on one cell light up one after the other", () => {
  const { source, events } = logged("three-channels", planned({}, 0.93));
  expect([...source.lights()].sort()).toEqual([1, 2, 3]);
  expect(events.some((e) => e.kind === "done")).toBe(true);
});

test("done lights marked during a log: where each quits, and what trusting the first one misses", () => {
  const { rows } = logged("three-channels", planned({}, 0.93), 12);
  const setup = planned({}, 0.93);
  const source = liveChargeFor("three-channels", 12, 2, setup as RunSetup);
  const marks: { time: number; what: string; kind: string }[] = [];
  rows.forEach((r, k) => {
    const before = source.lights().length;
    source.sample(k);
    for (const channel of source.lights().slice(before))
      marks.push({ time: numeric(r.time), what: `channel ${channel} done`, kind: `channel:${channel}` });
  });
  expect(marks.map((m) => m.kind)).toEqual(["channel:2", "channel:1", "channel:3"]);
  const columns = Object.fromEntries(
    ["time", ...Object.keys(CHARGE_METERS)].map((role) => [
      role,
      Float64Array.from(rows, (r) => numeric(r[role as keyof LogRow])),
    ]),
  );
  const analysis = procedure("charge-cycle")?.analyse(
    { kind: "trace", trace: { columns, events: marks } },
    setup as RunSetup,
    NO_CORRECTIONS,
  );
  const found = (name: string, channel?: number) =>
    analysis?.findings.find(
      (f) => f.characteristic === name && (channel === undefined || f.conditions.channel === channel),
    );
  const [first, last] = [numeric(marks[0]?.time), numeric(marks[2]?.time)];
  expect(found("channels.early-time")?.value).toBeCloseTo(last - first, 6);
  const between = rows
    .filter((r) => numeric(r.time) > first && numeric(r.time) <= last)
    .reduce((s, r) => s + (2 * numeric(r.cellCurrent)) / 3600, 0);
  expect(Math.abs(Number(found("channels.early-charge")?.value) - between)).toBeLessThan(
    Number(found("channels.early-charge")?.expandedUncertainty) + 1e-3,
  );
  expect(Number(found("channels.done-current", 2)?.value)).toBeGreaterThan(
    Number(found("channels.done-current", 3)?.value),
  );
  expect(analysis?.notes.find((n) => n.code === "first-and-last")?.message).toMatch(
    /Channel 2 signals done first.*Use the light of channel 3/,
  );
});
