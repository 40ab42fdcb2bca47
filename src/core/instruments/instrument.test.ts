import { bestRange, edited, followed, pinned, rangesAt, sameAccuracy, type Accuracy, type Instrument, type MeterRange, type PinnedRun } from ".";

const accuracy = (gain: number): Accuracy => ({ gain, counts: 2, resolution: 0.001 });
const range = (id: string, upTo: number, gain: number): MeterRange => ({ id, title: `${upTo} V`, unit: "V", upTo, accuracy: accuracy(gain) });
const meter: Instrument = { title: "Dunlin", device: "meter", ranges: [range("6", 6, 0.0005), range("60", 60, 0.001)] };
const other: Instrument = { ...meter, ranges: [range("6", 6, 0.002), range("60", 60, 0.001)] };
const run = (day: string, rangeId = "6", gain = 0.0005, id = "m"): PinnedRun => ({ startUtc: `${day}T10:00:00Z`, setup: { instruments: { outputVoltage: accuracy(gain), batteryCurrent: accuracy(0.01) }, meters: { outputVoltage: { ...pinned("m", meter, range(rangeId, 6, gain)), instrumentId: id } } } });

test("a mistake is corrected in every run that was read with that range, and in no other", () => {
  const mistake = { kind: "mistake" } as const;
  expect(followed(run("2026-01-01"), "m", meter, other, mistake)).toEqual({ outputVoltage: accuracy(0.002) });
  expect(followed(run("2026-01-01", "60", 0.001), "m", meter, other, mistake)).toEqual({});
  expect(followed(run("2026-01-01", "6", 0.0005, "another"), "m", meter, other, mistake)).toEqual({});
  expect(followed({ startUtc: "2026-01-01T00:00:00Z", setup: { instruments: { outputVoltage: accuracy(1) } } }, "m", meter, other, mistake)).toEqual({});
  expect(edited(meter, other, mistake).earlier).toBeUndefined();
});

test("what holds from a day leaves the runs before it as they were, and keeps the earlier ranges", () => {
  const from = { kind: "from", date: "2026-06-01" } as const;
  expect(followed(run("2026-05-31"), "m", meter, other, from)).toEqual({});
  expect(followed(run("2026-06-01"), "m", meter, other, from)).toEqual({ outputVoltage: accuracy(0.002) });
  const after = edited(meter, other, from);
  expect(rangesAt(after, "2026-05-31")[0]?.accuracy.gain).toBe(0.0005);
  expect(rangesAt(after, "2026-06-01")[0]?.accuracy.gain).toBe(0.002);
});

test("a mistake in the present ranges does not reach back beyond the day they began to hold", () => {
  const now = edited(meter, other, { kind: "from", date: "2026-06-01" });
  const corrected: Instrument = { ...now, ranges: [range("6", 6, 0.003), range("60", 60, 0.001)] };
  expect(followed(run("2026-05-01"), "m", now, corrected, { kind: "mistake" })).toEqual({});
  expect(followed(run("2026-07-01", "6", 0.002), "m", now, corrected, { kind: "mistake" })).toEqual({ outputVoltage: accuracy(0.003) });
  expect(edited(now, corrected, { kind: "mistake" }).earlier).toEqual(now.earlier);
});

test("a range that is gone changes no run", () => {
  expect(followed(run("2026-01-01"), "m", meter, { ...meter, ranges: [range("60", 60, 0.001)] }, { kind: "mistake" })).toEqual({});
});

test("the best range is the one with the least doubt of those that reach the value", () => {
  const two: Instrument = { ...meter, ranges: [{ ...range("6", 6, 0.001), accuracy: { gain: 0.001, counts: 2, resolution: 0.001 } }, { ...range("60", 60, 0.001), accuracy: { gain: 0.001, counts: 2, resolution: 0.01 } }] };
  expect(bestRange(two, "V", 5)?.id).toBe("6");
  expect(bestRange(two, "V", -12)?.id).toBe("60");
  expect(bestRange(two, "V", 61)).toBeNull();
  expect(bestRange(two, "A", 1)).toBeNull();
});

test("accuracies are the same where their numbers are", () => {
  expect(sameAccuracy(accuracy(0.1), accuracy(0.1))).toBe(true);
  expect(sameAccuracy(accuracy(0.1), accuracy(0.2))).toBe(false);
  expect(sameAccuracy(undefined, accuracy(0.2))).toBe(false);
});
