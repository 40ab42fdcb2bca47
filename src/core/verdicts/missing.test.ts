import { HOUSE_RULES, type Finding, type NotStated } from "../measurement";
import type { Claim } from "../claims";
import { judgeClaim, type EvidenceRun } from ".";

const finding = (value: number): Finding => ({
  characteristic: "charge.capacity",
  conditions: {},
  value,
  unit: "Ah",
  expandedUncertainty: 0.01,
  budget: [],
  points: [],
  unfair: [],
});
const claim = {
  id: "c",
  boardId: "b",
  readings: [{ characteristic: "charge.capacity", limit: { kind: "at-least", low: 2 }, conditions: {} }],
  source: { kind: "listing", wording: "2 Ah", date: "2026-01-01" },
} as unknown as Claim;
const run = (id: string, startUtc: string, change: Partial<EvidenceRun> = {}): EvidenceRun => ({
  id,
  title: id,
  startUtc,
  finished: true,
  setAside: null,
  modifiedFunctions: [],
  findings: [],
  ...change,
});
const judged = (...runs: EvidenceRun[]) => judgeClaim(claim, [{ id: "s", name: "A", runs }], HOUSE_RULES).readings[0];
const interrupted: NotStated = {
  characteristic: "charge.capacity",
  code: "disturbed",
  reason: "The charge was interrupted while 0.80 A was still flowing: the input is gone.",
};

test("a claim that only an interrupted charge could have measured is not measured, and says why", () => {
  const v = judged(
    run("old", "2026-11-01T00:00:00Z", { notStated: [{ ...interrupted, reason: "Something else." }] }),
    run("new", "2026-11-02T00:00:00Z", { notStated: [interrupted] }),
  );
  expect(v).toMatchObject({
    word: "not measured",
    why: ["“new” doesn't state it: The charge was interrupted while 0.80 A was still flowing: the input is gone."],
  });
});

test("where another run states it, the newest that does counts", () => {
  const v = judged(
    run("whole", "2026-11-01T00:00:00Z", { findings: [finding(2.2)] }),
    run("new", "2026-11-02T00:00:00Z", { notStated: [interrupted] }),
  );
  expect(v).toMatchObject({ word: "meets", judged: [{ runId: "whole" }] });
});

test("newest is the latest first reading; of one moment, what was imported last", () => {
  const at = "2026-11-01T00:00:00Z";
  const two = (a: string, b: string) =>
    judged(
      run("a", at, { findings: [finding(2.2)], importedAt: a }),
      run("b", at, { findings: [finding(1.8)], importedAt: b }),
    );
  expect(two("2026-11-05T00:00:00Z", "2026-11-04T00:00:00Z")?.word).toBe("meets");
  expect(two("2026-11-04T00:00:00Z", "2026-11-05T00:00:00Z")?.word).toBe("misses");
});

test("an assumed date that decides which run counts is said, one that decides nothing is not", () => {
  const assumed = run("file", "2026-11-02T00:00:00Z", { findings: [finding(2.2)], startAssumed: true });
  expect(judged(assumed)?.why.join()).not.toContain("assumed");
  expect(judged(assumed, run("typed", "2026-11-01T00:00:00Z", { findings: [finding(2.21)] }))?.why).toContain(
    "“file” counts as the newest run; the date of “file” is assumed from its file.",
  );
});
