import type { QuestionKind } from "../use";
import { answerQuestion } from "./question-file";

const FIT = {
  title: "A recorder all day",
  load: { power: 0.9 },
  module: {
    outputVoltage: 5,
    loss: [0.02, 0.05, 0.12],
    inputCurrentLimit: 1.8,
    minimumInput: 2.5,
    standbyCurrent: 0.0002,
  },
  cell: {
    capacity: 2.2,
    resistance: 0.08,
    openCircuit: [
      [0, 3],
      [0.5, 3.8],
      [1, 4.2],
    ],
    floor: 3,
    selfDischargeCurrent: 2e-5,
  },
  between: { resistance: 0.05, cut: 2.8, trip: 3 },
};
const STATION = {
  bays: 6,
  chargeCurrent: 0.5,
  currentTolerance: 0.08,
  quiescent: 0.004,
  margin: 0.25,
  supply: { volts: 5.15, amps: 10 },
  breakers: [4, 6, 10],
  wire: { ampacity: 16, segmentResistance: 0.003 },
  minimumInput: 4.6,
  ambient: 24,
  thermalResistance: 38,
  foldbackTemperature: 95,
  lowestCellVoltage: 3,
};
const DAY = {
  instruments: { hands: 1, meter: 1 },
  tasks: [
    {
      id: "charge",
      steps: [
        { minutes: 10, needs: { hands: 1, meter: 1 } },
        { minutes: 90, needs: { meter: 1 } },
      ],
    },
    { id: "lights", steps: [{ minutes: 20, needs: { hands: 1 } }], after: [] },
  ],
};
const MATCH = {
  series: 2,
  parallel: 1,
  cells: [
    { code: "A", capacity: 2.1 },
    { code: "B", capacity: 2, resistance: 0.05 },
    { code: "C", capacity: 1.5 },
  ],
};

const answer = (kind: QuestionKind, question: unknown): unknown => {
  const a = answerQuestion(kind, JSON.stringify(question));
  return a.ok ? a.value : a.error;
};

test("each kind is answered", () => {
  expect(answer("fit", FIT)).toMatchObject({ holds: true, endedBy: "floor" });
  expect(answer("station", STATION)).toMatchObject({ lanes: 1, baysPerLane: 6, breaker: 6, farBayCharges: true });
  expect(answer("schedule", DAY)).toEqual({ starts: { charge: 0, lights: 10 }, finish: 100, proved: true });
  expect(answer("match", MATCH)).toEqual({
    groups: [["B"], ["A"]],
    packCapacity: 2,
    spread: expect.closeTo(0.1, 12),
    proved: true,
  });
});

test("too much for it from the start: no run time is given", () => {
  expect(answer("fit", { ...FIT, load: { power: 9 } })).toEqual({
    holds: false,
    endedBy: "input-limit",
    highestPowerAtHalf: expect.closeTo(6.16, 1),
  });
});

test("a protection that is not there stops nothing", () => {
  const bare = { resistance: FIT.between.resistance };
  expect(answer("fit", { ...FIT, between: bare })).toMatchObject({ holds: true, endedBy: "floor" });
});

const task = (change: object) => ({ ...DAY, tasks: [{ ...DAY.tasks[0], ...change }, DAY.tasks[1]] });

test.each<[string, QuestionKind, unknown, RegExp]>([
  ["no capacity", "fit", { ...FIT, cell: { ...FIT.cell, capacity: 0 } }, /^cell\.capacity: must be > 0, found 0$/],
  ["a word for a number", "fit", { ...FIT, load: { power: "0.9 W" } }, /^load\.power: must be number, found "0\.9 W"$/],
  ["a misspelt field", "fit", { ...FIT, load: { power: 1, dutty: 0.1 } }, /^load: .*\(“dutty”\)$/],
  ["a missing part", "fit", { ...FIT, module: undefined }, /'module'/],
  ["a duty over one", "fit", { ...FIT, load: { power: 1, duty: 8 } }, /^load\.duty: must be <= 1, found 8$/],
  [
    "more asleep than awake",
    "fit",
    { ...FIT, load: { power: 1, sleepPower: 2 } },
    /^load\.sleepPower: 2 W is more than .* change them over$/,
  ],
  [
    "a curve from full to empty",
    "fit",
    {
      ...FIT,
      cell: {
        ...FIT.cell,
        openCircuit: [
          [1, 4.2],
          [0, 3],
        ],
      },
    },
    /^cell\.openCircuit\[1\]: state of charge 0 .*from empty to full$/,
  ],
  [
    "a voltage that falls with the charge",
    "fit",
    {
      ...FIT,
      cell: {
        ...FIT.cell,
        openCircuit: [
          [0, 3],
          [0.5, 2.9],
          [1, 4.2],
        ],
      },
    },
    /^cell\.openCircuit\[1\]: 2\.9 V at 0\.5 is below 3 V/,
  ],
  [
    "half a curve",
    "fit",
    {
      ...FIT,
      cell: {
        ...FIT.cell,
        openCircuit: [
          [0.2, 3],
          [1, 4.2],
        ],
      },
    },
    /goes from 0\.2 to 1; the curve is needed from 0/,
  ],
  ["half a bay", "station", { ...STATION, bays: 2.5 }, /^bays: must be integer, found 2\.5$/],
  ["no supply", "station", { ...STATION, supply: { volts: 5 } }, /^supply: .*'amps'/],
  [
    "half a minute",
    "schedule",
    task({ steps: [{ minutes: 0.5, needs: {} }] }),
    /^tasks\.0\.steps\.0\.minutes: must be integer, found 0\.5$/,
  ],
  [
    "more meters than there are",
    "schedule",
    task({ steps: [{ minutes: 5, needs: { meter: 2 } }] }),
    /^tasks\[0\]\.steps\[0\]\.needs\.meter: “charge” needs 2, there is 1; add it/,
  ],
  [
    "an instrument that is not there",
    "schedule",
    task({ steps: [{ minutes: 5, needs: { toString: 1 } }] }),
    /needs\.toString: “charge” needs 1, there are 0/,
  ],
  ["a task twice", "schedule", task({ id: "lights" }), /^tasks\[1\]\.id: “lights” is there twice/],
  [
    "after a stranger",
    "schedule",
    task({ after: ["sweep"] }),
    /^tasks\[0\]\.after: “sweep” is no task of this day; known: charge, lights$/,
  ],
  [
    "a ring",
    "schedule",
    {
      ...DAY,
      tasks: [
        { ...DAY.tasks[0], after: ["lights"] },
        { ...DAY.tasks[1], after: ["charge"] },
      ],
    },
    /^tasks: “charge”, “lights” wait for each other/,
  ],
  ["no tasks", "schedule", { ...DAY, tasks: [] }, /^tasks: must NOT have fewer than 1 items/],
  ["too few cells", "match", { ...MATCH, parallel: 2 }, /^cells: 3 are too few for 2 in series × 2 in parallel; add 1/],
  [
    "a code twice",
    "match",
    { ...MATCH, cells: [MATCH.cells[0], MATCH.cells[0]] },
    /^cells\[1\]\.code: “A” is there twice/,
  ],
  ["a list", "match", [1], /^question: must be object/],
])("refused, with where and what: %s", (_n, kind, question, words) => {
  expect(answer(kind, question)).toMatch(words);
});

test("what is no JSON is said so", () => {
  const a = answerQuestion("fit", "{power: 1}");
  expect(a).toMatchObject({ ok: false, error: expect.stringMatching(/^not valid JSON: /) });
});
