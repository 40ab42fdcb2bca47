import {
  cellCode,
  cellNamed,
  gradeOf,
  gradeText,
  readIntake,
  readReadings,
  stageOf,
  triage,
  type CellLook,
  type StageFacts,
  type TriageCell,
} from ".";
import { seeded } from "../simulator";

const DAY = 86_400_000;
const START = Date.parse("2026-11-01T09:00:00Z");
const RULES = { rejectFloor: 2, restDrop: 0.005, restDays: 7, cellResistance: 0.3, cellShare: 0.7 };
const CELL: TriageCell = { chemistry: "lithium-ion", capacity: 2 };
const look = (days: number, volts: number | null, more: Partial<CellLook> = {}): CellLook => ({
  at: START + days * DAY,
  volts,
  charged: false,
  ...more,
});
const none = { capacity: null, resistance: null };

describe("where a cell is on its way", () => {
  const at = (looks: readonly CellLook[], more: Partial<StageFacts> = {}, cell: TriageCell = CELL) =>
    stageOf({ looks, triage: triage(cell, looks, {}, RULES), graded: false, chargingSince: null, pack: null, ...more });
  test("in, charging, resting, full since, graded, in a pack, rejected", () => {
    expect(at([])).toEqual({ stage: "in", since: null });
    expect(at([look(0, 3.4)], { chargingSince: START })).toEqual({ stage: "charging", since: START });
    const charged = look(0, 4.19, { charged: true });
    expect(at([charged])).toEqual({ stage: "resting", since: START });
    const rested = [charged, look(1, 4.18), look(8, 4.177)];
    expect(at(rested)).toEqual({ stage: "full", since: START });
    expect(at(rested, { graded: true })).toEqual({ stage: "graded", since: START });
    expect(at([...rested, look(9, 3.3, { used: true })], { graded: true })).toEqual({ stage: "graded", since: null });
    expect(at([...rested, look(9, 3.3, { used: true })])).toEqual({ stage: "in", since: null });
    expect(at(rested, { pack: "Float" })).toEqual({ stage: "in a pack", since: null });
    expect(
      at(rested, { pack: "Float", chargingSince: START }, { ...CELL, rejected: { date: "2026-11-10", why: "dented" } }),
    ).toEqual({ stage: "rejected", since: null });
  });
  test("a graded cell that came off the charger rests first", () => {
    expect(at([look(0, 4.19, { charged: true })], { graded: true }).stage).toBe("resting");
  });
});

describe("grades", () => {
  test.each([
    [
      "most of its capacity, low resistance, hardly a fall",
      { value: 1.95, u: 0.02 },
      { value: 0.05, u: 0.002 },
      "A",
      [],
    ],
    [
      "nine tenths within its interval: two grades are open",
      { value: 1.81, u: 0.02 },
      { value: 0.05, u: 0.002 },
      "A or B",
      ["capacity"],
    ],
    ["four fifths", { value: 1.7, u: 0.02 }, { value: 0.05, u: 0.002 }, "B", ["capacity"]],
    ["a high resistance", { value: 1.95, u: 0.02 }, { value: 0.13, u: 0.002 }, "C", ["resistance"]],
    ["too little", { value: 1.5, u: 0.02 }, { value: 0.05, u: 0.002 }, "C", ["capacity"]],
  ])("%s", (_, capacity, resistance, text, held) => {
    const g = gradeOf(CELL, { capacity, resistance }, null, RULES);
    expect(g && [gradeText(g), g.held]).toEqual([text, held]);
    expect(g?.missing).toEqual(["fall at rest"]);
  });
  test("a fall at rest lowers it; no capacity, no grade", () => {
    const looks = [look(0, 4.19, { charged: true }), look(1, 4.18), look(8, 4.155)];
    const { drop } = triage(CELL, looks, {}, RULES);
    expect(drop?.rate?.value).toBeCloseTo(0.025 / 7, 4);
    expect(
      gradeOf(CELL, { capacity: { value: 1.95, u: 0.02 }, resistance: { value: 0.05, u: 0.002 } }, drop, RULES),
    ).toMatchObject({ worst: "B", held: ["fall at rest"], missing: [] });
    expect(gradeOf(CELL, { ...none, resistance: { value: 0.05, u: 0.002 } }, drop, RULES)).toBeNull();
  });
  test("more capacity never grades worse, nor does a wider interval better its worst (seed 77)", () => {
    const r = seeded(77);
    const rank = (t: string): number => ["A", "B", "C"].indexOf(t);
    for (let k = 0; k < 500; k++) {
      const value = 1 + r.uniform();
      const u = 0.1 * r.uniform();
      const g = (v: number, w: number) => gradeOf(CELL, { ...none, capacity: { value: v, u: w } }, null, RULES);
      expect([k, rank(g(value + 0.1, u)?.worst ?? "C") <= rank(g(value, u)?.worst ?? "A")]).toEqual([k, true]);
      expect([k, rank(g(value, u + 0.05)?.worst ?? "A") >= rank(g(value, u)?.worst ?? "C")]).toEqual([k, true]);
    }
  });
});

describe("a pasted list of cells", () => {
  test("worked: 24 like one, and one with what it was found at", () => {
    const r = readIntake("24 x Torch; 1200 mAh\r\n\r\nReed 7\t3.71 V\n");
    expect(r.ok && r.value.length).toBe(25);
    expect(r.ok && [r.value[0], r.value[23], r.value[24]]).toEqual([
      { title: "Torch 1", capacity: 1.2 },
      { title: "Torch 24", capacity: 1.2 },
      { title: "Reed 7", volts: 3.71 },
    ]);
  });
  test("a comma between digits is a decimal sign, one before a space parts", () => {
    const r = readIntake("Sedge 3, 2,2 Ah, 3,65 V");
    expect(r.ok && r.value).toEqual([{ title: "Sedge 3", capacity: 2.2, volts: 3.65 }]);
  });
  test.each([
    ["", /empty/],
    ["Torch; 1200 mAh\nTorch 2; often", /^Line 2: “often” is no capacity/],
    ["Torch; 1200", /^Line 1: 1200 is outside/],
    ["Torch; 12 V", /^Line 1: 12 V is outside/],
    ["Torch; 1 Ah; 2 Ah", /^Line 1: it gives two capacities/],
    ["0 x Torch", /^Line 1: none of them/],
    ["600 x Torch", /^Line 1: more than 500/],
    ["x".repeat(80), /^Line 1: a name has at most 76/],
  ])("%j is refused with its line", (text, said) => {
    const r = readIntake(text);
    expect(r.ok ? "taken" : r.error).toMatch(said);
  });
});

describe("a pasted list of readings", () => {
  test.each([
    [
      "cell;voltage;date\n7K3QF;4,187;2026-11-20\nTorch 2;4.18 V",
      [
        { line: 2, cell: "7K3QF", volts: 4.187, takenAt: new Date("2026-11-20T12:00:00").toISOString() },
        { line: 3, cell: "Torch 2", volts: 4.18 },
      ],
    ],
    [
      "7K3QF,4.187,2026-11-20T14:30:00Z",
      [{ line: 1, cell: "7K3QF", volts: 4.187, takenAt: "2026-11-20T14:30:00.000Z" }],
    ],
    ["Torch 2, 4,187 V", [{ line: 1, cell: "Torch 2", volts: 4.187 }]],
    ["7K3QF; 1180 mAh; 62 mΩ; 4.18", [{ line: 1, cell: "7K3QF", capacity: 1.18, resistance: 0.062, volts: 4.18 }]],
    ["7K3QF 4187m\n", [{ line: 1, cell: "7K3QF", volts: 4.187 }]],
  ])("%j", (text, expected) => {
    const r = readReadings(text);
    expect(r.ok ? r.value : r.error).toEqual(expected);
  });
  test.each([
    ["7K3QF;4.18\nQ2345;", /^Line 2: no reading beside “Q2345”/],
    ["7K3QF;4.18;4.19", /^Line 1: more than one voltage/],
    ["cell;voltage", /holds no reading/],
    ["7K3QF;1180 mAh;1.2 Ah", /^Line 1: more than one capacity/],
  ])("%j is refused with its line", (text, said) => {
    const r = readReadings(text);
    expect(r.ok ? "taken" : r.error).toMatch(said);
  });
});

test("a text names one cell: by its code however it is scanned, by its name, or none where two are called so", () => {
  const cell = (id: string, title: string) => ({ code: cellCode(id), cell: { title } });
  const cells = [cell("a-1", "Reed 7"), cell("a-2", "Twin"), cell("a-3", "twin ")].map((c) => ({
    ...c,
    cell: { title: c.cell.title.trim() },
  }));
  expect(cellNamed(` ${cellCode("a-2").toLowerCase()}`, cells)).toBe(cells[1]);
  expect(cellNamed("reed 7", cells)).toBe(cells[0]);
  expect([cellNamed("Twin", cells), cellNamed("", cells), cellNamed("Nobody", cells)]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
});
