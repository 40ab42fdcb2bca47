import fc from "fast-check";
import { expandedUncertainty } from "../quantities";
import {
  cellCode,
  readCode,
  rejection,
  restDrop,
  storageAdvice,
  triage,
  type CellLook,
  type TriageCell,
  type TriageRules,
} from ".";

const METER = { gain: 0.0005, counts: 2, resolution: 0.001 };
const RULES: TriageRules = { rejectFloor: 2, restDrop: 0.005, restDays: 7, cellResistance: 0.3, cellShare: 0.7 };
const CELL: TriageCell = { chemistry: "lithium-ion", capacity: 2 };
const START = Date.UTC(2026, 10, 1);
const DAY = 86_400_000;
const look = (day: number, volts: number | null, more: Partial<CellLook> = {}): CellLook => ({
  at: START + day * DAY,
  volts,
  charged: false,
  meter: METER,
  ...more,
});
const charged = (day: number, volts: number) => look(day, volts, { charged: true });

describe("rest drop", () => {
  test("4.150 V after a day, 4.122 V a week after the charge: 28 mV in six days are 4.67 mV a day; the settling is left out", () => {
    const d = restDrop(
      [
        { days: 0, volts: 4.19 },
        { days: 1, volts: 4.15 },
        { days: 7, volts: 4.122 },
      ],
      METER,
    );
    expect(d).toMatchObject({ settled: true, used: [1, 2] });
    expect(d.rate?.value).toBeCloseTo(0.028 / 6, 12);
    // Two readings six days apart: √2 of one reading's own doubt over six days, and the gain of the meter.
    const own = Math.hypot(0.0005 / Math.sqrt(3), 0.0005);
    expect(expandedUncertainty(d.rate as NonNullable<typeof d.rate>)).toBeCloseTo(
      2 * Math.hypot((Math.SQRT2 * own) / 6, (0.0005 * (0.028 / 6)) / Math.sqrt(3)),
      9,
    );
  });
  test("with nothing later than a day the settling is in it, and one reading says nothing", () => {
    expect(
      restDrop(
        [
          { days: 0, volts: 4.19 },
          { days: 0.5, volts: 4.17 },
        ],
        METER,
      ),
    ).toMatchObject({ settled: false, used: [0, 1] });
    expect(restDrop([{ days: 0, volts: 4.19 }], METER).rate).toBeNull();
    expect(restDrop([], METER).rate).toBeNull();
    expect(
      restDrop(
        [
          { days: 0, volts: 4.19 },
          { days: 0.001, volts: 4.18 },
        ],
        METER,
      ).rate,
    ).toBeNull();
  });
});

describe("triage", () => {
  const word = (looks: readonly CellLook[], measured = {}, cell = CELL) => triage(cell, looks, measured, RULES);
  test("nothing measured is unknown; a sound fall is sound; what falls too fast is to be rejected", () => {
    expect(word([]).word).toBe("unknown");
    expect(word([charged(0, 4.19), look(1, 4.18), look(8, 4.177)])).toMatchObject({
      word: "sound",
      reasons: [],
      due: null,
    });
    const bad = word([charged(0, 4.19), look(1, 4.18), look(8, 4.08)]);
    expect(bad).toMatchObject({
      word: "reject it",
      reasons: [{ code: "falls-at-rest", severity: "reject" }],
      due: null,
    });
    expect(bad.reasons[0]?.text).toMatch(/14.mV\/day at rest, more than 5.mV\/day/);
  });
  test("a fall whose interval reaches across the limit is in doubt", () => {
    expect(word([charged(0, 4.19), look(1, 4.18), look(2, 4.175)])).toMatchObject({
      word: "in doubt",
      reasons: [{ code: "falls-at-rest", severity: "doubt" }],
    });
  });
  test("a cell that still settles rejects nothing, and is due a week after its charge", () => {
    const t = word([charged(0, 4.19), look(0.6, 4.15)]);
    expect(t).toMatchObject({ word: "in doubt", reasons: [{ severity: "doubt" }] });
    expect(t.due).toMatchObject({ at: START + 7 * DAY });
    expect(word([charged(0, 4.19)])).toMatchObject({
      word: "unknown",
      due: { at: START + 7 * DAY, why: expect.stringMatching(/not read since/) },
    });
  });
  test("only what came after the last charge counts for the fall", () => {
    expect(
      word([charged(0, 4.19), look(1, 4.18), look(8, 4.0), charged(9, 4.19), look(10, 4.18), look(17, 4.176)]).word,
    ).toBe("sound");
  });
  test("its rest ends where it is used: what it reads after that is no fall", () => {
    const used = word([charged(0, 4.19), look(1, 4.18), look(8, 4.177), look(9, 3.4, { used: true }), look(12, 3.4)]);
    expect(used).toMatchObject({ word: "sound", due: null });
    expect(used.drop?.used).toEqual([1, 2]);
    // A run with the cell says so as well, without volts.
    expect(word([charged(0, 4.19), { ...look(2, null), used: true }, look(5, 3.2)])).toMatchObject({
      word: "unknown",
      last: { volts: 3.2 },
    });
  });
  test("a low start, signs, resistance and capacity reject with the reason; a floor of the house holds for lithium-ion alone", () => {
    expect(word([look(0, 1.3)]).reasons[0]).toMatchObject({
      code: "low-start",
      text: expect.stringMatching(/1\.30.V, under the floor of 2/),
    });
    expect(word([look(0, null, { sign: "hot" })]).reasons[0]?.text).toMatch(/got hot while little current flowed/);
    expect(word([], { resistance: { value: 0.2, u: 0.01 } }).reasons[0]).toMatchObject({
      code: "resistance",
      severity: "reject",
    });
    expect(word([], { resistance: { value: 0.152, u: 0.01 } }).reasons[0]).toMatchObject({
      code: "resistance",
      severity: "doubt",
    });
    expect(word([], { resistance: { value: 0.1, u: 0.01 } }).word).toBe("sound");
    expect(word([], { capacity: { value: 1.2, u: 0.02 } }).reasons[0]).toMatchObject({
      code: "capacity",
      severity: "reject",
      text: expect.stringMatching(/1\.20.Ah of the 2.Ah/),
    });
    expect(word([], { capacity: { value: 1.41, u: 0.03 } }).reasons[0]).toMatchObject({ severity: "doubt" });
    expect(word([look(0, 1.9)], {}, { ...CELL, chemistry: "iron-phosphate" }).reasons).toEqual([]);
    expect(triage(CELL, [look(0, 2.4)], {}, { ...RULES, rejectFloor: 2.5 }).reasons[0]?.code).toBe("low-start");
  });
  test("a pack's volts are those of its cells times their number, and so is what its resistance may be", () => {
    const pack = { ...CELL, series: 4 };
    expect(word([look(0, 7.2)], {}, pack).reasons[0]?.code).toBe("low-start");
    expect(word([look(0, 14.8)], {}, pack).reasons).toEqual([]);
    expect(word([], { resistance: { value: 0.4, u: 0.01 } }, pack).word).toBe("sound");
    expect(word([look(0, 14.8)], {}, pack).last?.volts).toBe(14.8);
  });
  test("what somebody rejected stays rejected, whatever is measured", () => {
    expect(
      triage({ ...CELL, rejected: { date: "2026-11-10", why: "it is dented" } }, [charged(0, 4.19)], {}, RULES),
    ).toMatchObject({ word: "rejected", due: null, reasons: [{ code: "said", text: "it is dented" }] });
  });
  test("the order in which looks come does not matter (seed 41)", () => {
    const looks = [charged(0, 4.19), look(1, 4.18), look(4, 4.172), look(8, 4.17)];
    fc.assert(
      fc.property(fc.shuffledSubarray(looks, { minLength: 4 }), (some) => expect(word(some)).toEqual(word(looks))),
      { seed: 41, numRuns: 24 },
    );
  });
});

describe("a label's code", () => {
  test("is the same for the same cell, reads back however it is typed or scanned, and a thousand cells share none", () => {
    const codes = new Set<string>();
    for (let k = 0; k < 1000; k++) {
      const id = `3f1c9a52-77aa-4c1e-9d2b-${String(k).padStart(12, "0")}`;
      const code = cellCode(id);
      expect(cellCode(id)).toBe(code);
      expect(code).toMatch(/^[2-9A-HJ-NP-Z]{5}$/);
      expect(readCode(` ${code.toLowerCase()} `)).toBe(code);
      expect(readCode(`http://localhost:4680/cells?code=${code}`)).toBe(code);
      codes.add(code);
    }
    expect(codes.size).toBe(1000);
  });
  test("what is none is told", () => {
    for (const text of ["", "AB", "O0I1L", "//"]) expect(readCode(text)).toBeNull();
  });
});

test("a cell is kept from the charger by what rejects it, not by what is in doubt", () => {
  const reject = triage(CELL, [look(0, 1.6, { sign: "swollen" })], { resistance: { value: 0.15, u: 0.01 } }, RULES);
  expect(reject.word).toBe("reject it");
  expect(rejection(reject)?.replace(/\u00a0/g, " ")).toBe(
    "it is swollen; it was found at 1.60 V, under the floor of 2 V",
  );
  expect(rejection(triage({ ...CELL, rejected: { date: "2026-11-10", why: "it is dented" } }, [], {}, RULES))).toBe(
    "it is dented",
  );
  for (const t of [triage(CELL, [], {}, RULES), triage(CELL, [], { resistance: { value: 0.15, u: 0.01 } }, RULES)])
    expect([t.word, rejection(t)]).toEqual([t.word, null]);
});

describe("a cell that waits", () => {
  const rules = { storageVoltage: 3.8, socLow: 0.2 };
  test("full, it stands too high; its next charge by a sound cell's loss, worked by hand", () => {
    expect(storageAdvice({ volts: 3.83, capacity: 2.2, fall: null }, rules)).toMatchObject({
      above: true,
      measured: false,
      soc: expect.closeTo(0.6, 2),
      days: expect.closeTo(0.4 * 15 * 365, -2),
    });
    expect(storageAdvice({ volts: 3.79, capacity: 2.2, fall: null }, rules).above).toBe(false);
  });
  test("a measured fall decides: twice the fall, half the days; a cell at its lowest wants a charge now", () => {
    const days = (fall: number) => storageAdvice({ volts: 4.15, capacity: 2.2, fall }, rules).days;
    expect(days(0.002) / days(0.004)).toBeCloseTo(2, 1);
    expect(storageAdvice({ volts: 4.15, capacity: 2.2, fall: 0.002 }, rules).measured).toBe(true);
    expect(storageAdvice({ volts: 3.5, capacity: 2.2, fall: 0.002 }, rules).days).toBe(0);
  });
});
