import { seeded } from "../simulator";
import {
  instrumentAfterEdit,
  accuraciesAfterEdit,
  pinned,
  sameAccuracy,
  type Accuracy,
  type Instrument,
  type MeterRange,
  type PinnedRun,
} from ".";

const accuracy = (gain: number): Accuracy => ({ gain, counts: 2, resolution: 0.001 });
const range = (id: string, upTo: number, gain: number): MeterRange => ({
  id,
  title: `${upTo} V`,
  unit: "V",
  upTo,
  accuracy: accuracy(gain),
});
const meter: Instrument = { title: "Dunlin", device: "meter", ranges: [range("6", 6, 0.0005), range("60", 60, 0.001)] };
const other: Instrument = { ...meter, ranges: [range("6", 6, 0.002), range("60", 60, 0.001)] };
const run = (day: string, rangeId = "6", gain = 0.0005, id = "m"): PinnedRun => ({
  startUtc: `${day}T10:00:00Z`,
  zone: "UTC",
  setup: {
    instruments: { outputVoltage: accuracy(gain), batteryCurrent: accuracy(0.01) },
    meters: { outputVoltage: { ...pinned("m", meter, range(rangeId, 6, gain)), instrumentId: id } },
  },
});

test("a mistake is corrected in every run that was read with that range, and in no other", () => {
  const mistake = { kind: "mistake" } as const;
  expect(accuraciesAfterEdit(run("2026-01-01"), "m", meter, other, mistake)).toEqual({
    outputVoltage: accuracy(0.002),
  });
  expect(accuraciesAfterEdit(run("2026-01-01", "60", 0.001), "m", meter, other, mistake)).toEqual({});
  expect(accuraciesAfterEdit(run("2026-01-01", "6", 0.0005, "another"), "m", meter, other, mistake)).toEqual({});
  expect(
    accuraciesAfterEdit(
      { startUtc: "2026-01-01T00:00:00Z", zone: "UTC", setup: { instruments: { outputVoltage: accuracy(1) } } },
      "m",
      meter,
      other,
      mistake,
    ),
  ).toEqual({});
  expect(instrumentAfterEdit(meter, other, mistake).earlier).toBeUndefined();
});

test.each([
  // Half past eight in the morning of 1 June there, still 31 May in UTC; and eight in the evening of 31 May, 1 June in UTC.
  ["2026-05-31T20:30:00Z", "Pacific/Auckland", true],
  ["2026-06-01T00:00:00Z", "America/New_York", false],
])("the day of a run is the one where it was taken: %s in %s", (startUtc, zone, follows) => {
  const taken = { ...run("2026-01-01"), startUtc, zone };
  const changed = accuraciesAfterEdit(taken, "m", meter, other, { kind: "from", date: "2026-06-01" });
  expect(changed).toEqual(follows ? { outputVoltage: accuracy(0.002) } : {});
});

test("what holds from a day leaves the runs before it as they were, and keeps the earlier ranges", () => {
  const from = { kind: "from", date: "2026-06-01" } as const;
  expect(accuraciesAfterEdit(run("2026-05-31"), "m", meter, other, from)).toEqual({});
  expect(accuraciesAfterEdit(run("2026-06-01"), "m", meter, other, from)).toEqual({ outputVoltage: accuracy(0.002) });
  const after = instrumentAfterEdit(meter, other, from);
  expect(after.earlier).toEqual([{ until: "2026-06-01", ranges: meter.ranges }]);
  expect(after.ranges[0]?.accuracy.gain).toBe(0.002);
  // An edit that holds from an earlier day takes the place of what was to hold later.
  expect(
    instrumentAfterEdit(after, { ...other, title: "Dunlin" }, { kind: "from", date: "2026-03-01" }).earlier,
  ).toEqual([{ until: "2026-03-01", ranges: after.ranges }]);
});

test("a mistake in the present ranges does not reach back beyond the day they began to hold", () => {
  const now = instrumentAfterEdit(meter, other, { kind: "from", date: "2026-06-01" });
  const corrected: Instrument = { ...now, ranges: [range("6", 6, 0.003), range("60", 60, 0.001)] };
  expect(accuraciesAfterEdit(run("2026-05-01"), "m", now, corrected, { kind: "mistake" })).toEqual({});
  expect(accuraciesAfterEdit(run("2026-07-01", "6", 0.002), "m", now, corrected, { kind: "mistake" })).toEqual({
    outputVoltage: accuracy(0.003),
  });
  expect(instrumentAfterEdit(now, corrected, { kind: "mistake" }).earlier).toEqual(now.earlier);
});

test("a range that is gone changes no run", () => {
  expect(
    accuraciesAfterEdit(
      run("2026-01-01"),
      "m",
      meter,
      { ...meter, ranges: [range("60", 60, 0.001)] },
      { kind: "mistake" },
    ),
  ).toEqual({});
});

test("accuracies are the same where their numbers are", () => {
  expect(sameAccuracy(accuracy(0.1), accuracy(0.1))).toBe(true);
  expect(sameAccuracy(accuracy(0.1), accuracy(0.2))).toBe(false);
  expect(sameAccuracy(undefined, accuracy(0.2))).toBe(false);
});

test("laws of edits on random histories: a run follows at most one way, and a correction said twice changes nothing more", () => {
  const seed = 77;
  const random = seeded(seed);
  const day = () => `2026-${String(1 + Math.floor(12 * random.uniform())).padStart(2, "0")}-15`;
  for (let k = 0; k < 300; k++) {
    let now = meter;
    for (let n = 0; n < Math.floor(3 * random.uniform()); n++)
      now = instrumentAfterEdit(
        now,
        { ...now, ranges: [range("6", 6, random.uniform()), range("60", 60, 0.001)] },
        { kind: "from", date: `2026-0${n + 1}-01` },
      );
    const after = { ...now, ranges: [range("6", 6, random.uniform()), range("60", 60, 0.001)] };
    const r = run(day(), random.uniform() < 0.5 ? "6" : "60", now.ranges[0]?.accuracy.gain ?? 0);
    const date = day();
    const mistake = accuraciesAfterEdit(r, "m", now, after, { kind: "mistake" });
    const from = accuraciesAfterEdit(r, "m", now, after, { kind: "from", date });
    // Only a run of the day or later follows what holds from it; and what it follows to is the same.
    expect({ seed, k, early: r.startUtc < date && Object.keys(from).length > 0 }).toEqual({ seed, k, early: false });
    for (const a of [mistake, from])
      for (const accuracy of Object.values(a))
        expect({ seed, k, accuracy }).toEqual({
          seed,
          k,
          accuracy: after.ranges.find((x) => x.id === r.setup.meters?.outputVoltage?.rangeId)?.accuracy,
        });
    const corrected = { ...r, setup: { ...r.setup, instruments: { ...r.setup.instruments, ...mistake } } };
    expect({ seed, k, again: accuraciesAfterEdit(corrected, "m", now, after, { kind: "mistake" }) }).toEqual({
      seed,
      k,
      again: {},
    });
    expect(instrumentAfterEdit(now, after, { kind: "mistake" }).earlier).toEqual(now.earlier);
  }
});
