import { references, renamed } from "./record-links";
import type { StoredRecord } from "./records";

const base = { notebookId: "nb", createdAt: "2026-11-30T08:00:00Z", updatedAt: "2026-11-30T08:00:00Z" };
const NEED = {
  kind: "need",
  id: "need-1",
  ...base,
  title: "Recorder",
  note: "",
  currency: "€",
  requirements: [],
  addedBoard: { price: 1, current: 0, height: 0, supplies: [], boardId: "fen" },
  build: { parts: 5, hours: 3, hourly: 0, boardId: "rill" },
};
const LOAD = {
  kind: "load",
  id: "load-1",
  ...base,
  title: "Recorder",
  wiring: {
    resistance: 0,
    ampacity: 5,
    jumper: false,
    taps: [],
    added: { trip: 2, tolerance: 0.1, cut: 2.9, resistance: 0.04, current: 0, boardId: "fen" },
  },
};
const SAMPLE = {
  kind: "sample",
  id: "a",
  ...base,
  boardId: "sedge",
  name: "A",
  configuration: "",
  modifications: [],
  note: "",
  between: { ownProtection: false, jumper: false, added: { boardId: "fen" }, taps: [], loads: [] },
};
const NAMES = new Map([
  ["fen", "fen-2"],
  ["rill", "rill-2"],
  ["sedge", "sedge-2"],
  ["nb", "nb-2"],
]);

test.each<[string, unknown, readonly string[]]>([
  ["a need's added board and own build", NEED, ["fen", "rill"]],
  ["a load's added board", LOAD, ["fen"]],
  ["what stands between a sample and its cell", SAMPLE, ["sedge", "fen"]],
])("%s are pointed to, and a copy points to the copies", (_, record, boards) => {
  expect(references(record as StoredRecord)).toEqual(expect.arrayContaining([...boards]));
  const text = JSON.stringify(renamed(record as StoredRecord, NAMES));
  for (const id of [...boards, "nb"])
    expect([text.includes(`"${id}"`), text.includes(`"${id}-2"`)]).toEqual([false, true]);
});

test("what points to no board stays as it is", () => {
  const { addedBoard: _a, build: _b, ...plain } = NEED;
  void [_a, _b];
  expect(references(plain as unknown as StoredRecord)).toEqual(["nb"]);
  expect(renamed(plain as unknown as StoredRecord, new Map())).toEqual(plain);
});
