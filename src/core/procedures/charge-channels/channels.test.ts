import { NO_CORRECTIONS, type Point, type RunSetup } from "../shape";
import { analyseChannels } from ".";

const SETUP: RunSetup = { conditions: {}, instruments: { cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 }, cellCurrent: { gain: 0.002, counts: 2, resolution: 0.001 } } };
let n = 0;
const row = (channel: number, repeat: number, time: number | null, volts: number | null, amps: number | null): Point => {
  const cell = (v: number | null) => ({ value: v, status: v === null ? ("empty" as const) : ("ok" as const) });
  return { id: `c${n++}`, sequence: n, settings: {}, cells: { channel: cell(channel), repeat: cell(repeat), time: cell(time), cellVoltage: cell(volts), cellCurrent: cell(amps) } };
};
const analyse = (...points: Point[]) => analyseChannels({ kind: "points", points }, SETUP, NO_CORRECTIONS);
const TWO_RUNS = [row(1, 1, 2000, 4.174, 0.53), row(2, 1, 5000, 4.204, 0.05), row(1, 2, 2100, 4.176, 0.52), row(2, 2, 5300, 4.206, 0.052)];

test("worked: means over the runs, their spread, and the time from the first light to the last", () => {
  const { findings } = analyse(...TWO_RUNS);
  const value = (name: string, channel?: number) => findings.find((f) => f.characteristic === name && f.conditions.channel === channel)?.value;
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
  expect(f?.budget.map((b) => b.source)).toContain("scatter of the repeats");
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
  expect(findings.find((f) => f.characteristic === "channels.done-voltage" && f.conditions.channel === 1)?.points).toHaveLength(3);
});

test("a signal left out no longer counts, and its reason stays", () => {
  const odd = row(1, 1, 2050, 4.3, 0.5);
  const a = analyseChannels({ kind: "points", points: [...TWO_RUNS, odd] }, SETUP, { ...NO_CORRECTIONS, leftOut: new Map([[odd.id, "misread"]]) });
  expect(a.findings.find((f) => f.characteristic === "channels.done-voltage" && f.conditions.channel === 1)?.value).toBeCloseTo(4.175, 12);
  expect(a.notes[0]).toMatchObject({ code: "left-out", message: "Channel 1 of run 1 excluded: misread." });
});

test("one channel has no spread, and no row gives nothing", () => {
  expect(analyse(row(1, 1, 10, 4.2, 0.1)).findings.map((f) => f.characteristic)).toEqual(["channels.done-voltage", "channels.done-current"]);
  expect(analyse()).toEqual({ findings: [], notes: [], charts: [] });
});
