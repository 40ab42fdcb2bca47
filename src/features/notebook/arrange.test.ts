import type { BoardFunction } from "@/core/characteristics/functions";
import type { BoardSummary } from "@/notebook";
import { arrange, AS_ADDED, type Arrangement } from "./arrange";

const board = (id: string, title: string, note: string, functions: readonly BoardFunction[]) => ({
  id: id as never,
  title,
  note,
  functions,
});
const BOARDS = [
  board("a", "Sedge 51", "green, USB-C", ["charger", "boost"]),
  board("b", "Alder 12", "second bag", ["charger"]),
  board("c", "Marl 15", "", ["boost"]),
  board("d", "Tarn 9", "green", ["boost"]),
];
const run = (state: "open" | "finished" | "prepared") =>
  ({ id: "r", title: "Load sweep", state, procedure: "load-sweep" }) as const;
const SUMMARIES = new Map<string, Pick<BoardSummary, "verdicts" | "claims" | "runs">>([
  ["a", { verdicts: { meets: 3, misses: 1 }, claims: 4, runs: [run("finished"), run("finished")] }],
  ["b", { verdicts: { "not measured": 2 }, claims: 2, runs: [] }],
  ["c", { verdicts: { misses: 5 }, claims: 5, runs: [run("open")] }],
]);
const ids = (a: Partial<Arrangement>) =>
  arrange(BOARDS, SUMMARIES, { ...AS_ADDED, ...a })
    .map((b) => b.id as string)
    .join("");

test.each<[string, Partial<Arrangement>, string]>([
  ["as added", {}, "abcd"],
  ["by name, numbers as numbers", { order: "name" }, "bcad"],
  ["most misses first, the rest as added", { order: "misses" }, "cabd"],
  ["most runs first", { order: "runs" }, "acbd"],
  ["every word typed, in name, note or functions", { text: "green boosts" }, "ad"],
  ["no such word", { text: "purple" }, ""],
  ["those that miss", { verdict: "misses" }, "ac"],
  ["those with a run under way", { step: "resume" }, "c"],
  ["those to be measured", { step: "measure" }, "b"],
  ["those with nothing left to do", { step: "none" }, "a"],
])("%s", (_, a, expected) => {
  expect(ids(a)).toBe(expected);
});

test("a board that is still being judged is listed, but by no verdict and no step", () => {
  expect(ids({ text: "tarn" })).toBe("d");
  for (const step of ["resume", "add claims", "measure", "none"] as const) expect(ids({ step })).not.toContain("d");
});
