import { scatter } from "../../quantities";
import { NO_CORRECTIONS, HOUSE_RULES, type Point, type RunSetup, type PlannedCell } from "../../measurement";
import { chargeChannels } from ".";
import { analyseChannels } from "./analyse";
import { checkSignal, nextSignal } from "./guide";
import type { ChannelsPlan } from "./plan";
import { chargeAfter, type WholeSignal } from "./signals";

const SETUP: RunSetup = {
  conditions: {},
  instruments: {
    cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
    cellCurrent: { gain: 0.002, counts: 2, resolution: 0.001 },
  },
};
let n = 0;
const row = (
  channel: number,
  repeat: number,
  time: number | null,
  volts: number | null,
  amps: number | null,
): Point => {
  const cell = (v: number | null) => ({ value: v, status: v === null ? ("empty" as const) : ("ok" as const) });
  return {
    id: `c${n++}`,
    sequence: n,
    settings: {},
    cells: {
      channel: cell(channel),
      repeat: cell(repeat),
      time: cell(time),
      cellVoltage: cell(volts),
      cellCurrent: cell(amps),
    },
  };
};
const analyse = (...points: Point[]) => analyseChannels({ kind: "points", points }, SETUP, NO_CORRECTIONS);
const TWO_RUNS = [
  row(1, 1, 2000, 4.174, 0.53),
  row(2, 1, 5000, 4.204, 0.05),
  row(1, 2, 2100, 4.176, 0.52),
  row(2, 2, 5300, 4.206, 0.052),
];

test("worked: means over the runs, their spread, and the time from the first light to the last", () => {
  const { findings } = analyse(...TWO_RUNS);
  const value = (name: string, channel?: number) =>
    findings.find((f) => f.characteristic === name && f.conditions.channel === channel)?.value;
  expect(value("channels.done-voltage", 1)).toBeCloseTo(4.175, 12);
  expect(value("channels.done-current", 2)).toBeCloseTo(0.051, 12);
  expect(value("channels.voltage-spread")).toBeCloseTo(0.03, 12);
  expect(value("channels.early-time")).toBeCloseTo(3100, 12);
});

test("in the spread the meter's offset is gone, in a mean it is not", () => {
  const { findings } = analyse(...TWO_RUNS.slice(0, 2));
  const u = (name: string) => findings.find((f) => f.characteristic === name)?.expandedUncertainty ?? NaN;
  expect(u("channels.done-voltage")).toBeGreaterThan(0.002);
  expect(u("channels.voltage-spread")).toBeLessThan(0.0018);
});

test("what the repeats scatter by is in a mean's uncertainty, with the t factor of their number", () => {
  // Worked: 4.174 V, 4.176 V and 4.178 V have s = 2 mV, s/√3 = 1.155 mV, t = 4.53 with two degrees of freedom: 5.23 mV beside the meter's 2.4 and 2.3 mV.
  const three = [4.174, 4.176, 4.178].map((v, k) => row(1, k + 1, null, v, null));
  const f = analyse(...three).findings[0];
  const meter = Math.hypot((2 * 0.0005 * 4.176) / Math.sqrt(3), (2 * 0.002) / Math.sqrt(3));
  expect(f?.expandedUncertainty).toBeCloseTo(Math.hypot(meter, 4.53 * 0.0011547), 6);
  expect(f?.budget.map((b) => b.source)).toContainEqual(scatter("scatter of the repeats"));
});

test("who quits first is said, what still flows then, and whose light to show", () => {
  const note = analyse(...TWO_RUNS).notes.find((x) => x.code === "first-and-last");
  expect(note?.message).toMatch(/^Channel 1 signals done first, 51 min 40 s before channel 2, while 525\smA/);
  expect(note?.message).toMatch(/light of channel 2/);
});

test("a run without one channel's time does not count for the time between, and is said", () => {
  const { findings, notes } = analyse(...TWO_RUNS, row(1, 3, 1000, 4.17, 0.5), row(2, 3, null, 4.2, 0.05));
  expect(findings.find((f) => f.characteristic === "channels.early-time")?.value).toBeCloseTo(3100, 12);
  expect(notes.map((x) => x.code)).toContain("incomplete-run");
  expect(
    findings.find((f) => f.characteristic === "channels.done-voltage" && f.conditions.channel === 1)?.points,
  ).toHaveLength(3);
});

test("a signal left out no longer counts, and its reason stays", () => {
  const odd = row(1, 1, 2050, 4.3, 0.5);
  const a = analyseChannels({ kind: "points", points: [...TWO_RUNS, odd] }, SETUP, {
    ...NO_CORRECTIONS,
    leftOut: new Map([[odd.id, "misread"]]),
  });
  expect(
    a.findings.find((f) => f.characteristic === "channels.done-voltage" && f.conditions.channel === 1)?.value,
  ).toBeCloseTo(4.175, 12);
  expect(a.notes[0]).toMatchObject({ code: "left-out", message: "Channel 1 of charge 1 excluded: misread." });
});

test("one channel has no spread, and no row gives nothing", () => {
  expect(analyse(row(1, 1, 10, 4.2, 0.1)).findings.map((f) => f.characteristic)).toEqual([
    "channels.done-voltage",
    "channels.done-current",
  ]);
  expect(analyse()).toEqual({ findings: [], notes: [], charts: [] });
});

const whole = (channel: number, hours: number, amps: number): WholeSignal => ({
  id: `w${channel}`,
  channel,
  repeat: 1,
  time: 3600 * hours,
  amps,
  volts: null,
});

test("the charge missed lies between the current at the end and at the beginning of each stretch", () => {
  // Worked: 0.9 A, 0.5 A and 0.1 A an hour apart. Low 0.5 + 0.1, high 0.9 + 0.5 Ah; after the second 0.1 to 0.5 Ah; after the last nothing.
  const run = [whole(3, 1, 0.9), whole(1, 2, 0.5), whole(2, 3, 0.1)];
  const rounded = (from: number) => Object.values(chargeAfter(run, from)).map((v: number) => Number(v.toFixed(9)));
  expect([0, 1, 2].map(rounded)).toEqual([
    [0.6, 1.4],
    [0.1, 0.5],
    [0, 0],
  ]);
});

test("the charge missed is found with its limits as doubt, and told for each light", () => {
  const { findings, notes } = analyse(...TWO_RUNS);
  const f = findings.find((x) => x.characteristic === "channels.early-charge");
  // Worked: 3000 s of 0.05 to 0.53 A and 3200 s of 0.052 to 0.52 A: means 0.04394 and 0.45194 Ah.
  const [low, high] = [(0.05 * 3000 + 0.052 * 3200) / 7200, (0.53 * 3000 + 0.52 * 3200) / 7200];
  expect(f?.value).toBeCloseTo((low + high) / 2, 9);
  expect(f?.expandedUncertainty).toBeGreaterThan((high - low) / 2);
  expect(notes.find((n) => n.code === "charge-missed")?.message).toMatch(/channel 1 44\smAh to 452\smAh\. The current/);
});

test.each([
  ["the same order", TWO_RUNS, "same-order", /same order in all 2 charges: 1, 2\./],
  [
    "another order",
    [...TWO_RUNS.slice(0, 2), row(1, 2, 5300, 4.206, 0.05), row(2, 2, 2100, 4.17, 0.5)],
    "order-changes",
    /1, 2; 2, 1/,
  ],
])("%s is said", (_, rows, code, words) => {
  expect(analyse(...rows).notes.find((x) => x.code === code)?.message).toMatch(words);
});

const CELL: PlannedCell = {
  title: "Reed 4",
  chemistry: "lithium-ion",
  capacity: 2,
  chargeRate: 0.5,
  chargeRateLimit: 1,
  fullVoltage: 4.2,
  emptyVoltage: 3,
  ownProtection: false,
};
function planned(channels: number, repeats: number): RunSetup<ChannelsPlan> {
  const r = chargeChannels.plan({
    claims: [],
    rules: HOUSE_RULES,
    rig: { instruments: {}, supplyCurrentLimit: 3, inputLeadResistance: 0, outputLeadResistance: 0, drawer: [] },
    cell: CELL,
  });
  if (!r.ok) throw new Error(r.error);
  return { ...r.value, plan: { ...(r.value.plan as ChannelsPlan), channels, repeats } };
}
const next = (setup: RunSetup<ChannelsPlan>, points: readonly Point[], closed: readonly string[] = []) =>
  nextSignal(setup, points, { ...NO_CORRECTIONS, closed: new Set(closed) });

test("the guide goes from charge to charge, gives the repeat, and expects what an earlier charge showed", () => {
  const setup = planned(2, 2);
  expect(next(setup, [])).toMatchObject({
    kind: "point",
    given: { repeat: 1 },
    expect: {},
    progress: { taken: 0, of: 4 },
  });
  expect(next(setup, TWO_RUNS.slice(0, 1))).toMatchObject({
    given: { repeat: 1 },
    expect: { channel: 2 },
    text: "Charge 1 of 2: one channel still charges. Record the next that signals done.",
  });
  expect(next(setup, TWO_RUNS.slice(0, 2))).toMatchObject({
    given: { repeat: 2 },
    expect: { channel: 1, time: 2000, cellVoltage: 4.174, cellCurrent: 0.53 },
  });
  expect(next(setup, TWO_RUNS.slice(0, 3))).toMatchObject({ given: { repeat: 2 }, expect: { channel: 2, time: 5000 } });
  expect(next(setup, TWO_RUNS)).toMatchObject({ kind: "done" });
  // A light that never comes on doesn't hold the rest up.
  expect(next(setup, TWO_RUNS.slice(0, 1), ["repeat 1"])).toMatchObject({ given: { repeat: 2 } });
  expect(next(setup, TWO_RUNS.slice(0, 1), ["repeat 1", "repeat 2"])).toMatchObject({ kind: "done" });
});

test.each([
  ["a channel that isn't there", row(3, 1, 6000, 4.2, 0.05), "no-channel", "stop"],
  ["half a channel", row(1.5, 1, 6000, 4.2, 0.05), "no-channel", "stop"],
  ["a channel twice", row(1, 1, 6000, 4.2, 0.05), "twice", "stop"],
  ["a time before the last", row(2, 1, 1500, 4.2, 0.05), "earlier", "doubt"],
  ["a current that rises", row(2, 1, 5000, 4.2, 0.6), "rises", "doubt"],
  ["a cell that is too full", row(2, 1, 5000, 4.27, 0.05), "high", "doubt"],
])("%s is noticed", (_, point, code, severity) => {
  expect(checkSignal(point, planned(2, 2), TWO_RUNS.slice(0, 1), NO_CORRECTIONS)).toContainEqual(
    expect.objectContaining({ code, severity }),
  );
});

test("nothing is said of a signal as it should be, nor of the same channel in the next charge", () => {
  expect(checkSignal(TWO_RUNS[1] as Point, planned(2, 2), TWO_RUNS.slice(0, 1), NO_CORRECTIONS)).toEqual([]);
  expect(checkSignal(TWO_RUNS[2] as Point, planned(2, 2), TWO_RUNS.slice(0, 2), NO_CORRECTIONS)).toEqual([]);
});

test("without a cell, or with half a channel, nothing starts", () => {
  const setup = planned(2.5, 2);
  expect(
    chargeChannels
      .remarks?.({ ...setup, plan: { ...(setup.plan as ChannelsPlan), cell: null } })
      .filter((r) => r.severity === "refused"),
  ).toHaveLength(2);
  expect(chargeChannels.remarks?.(planned(3, 3)).map((r) => r.severity)).toEqual(["fine"]);
});
