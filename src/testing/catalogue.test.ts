import { existsSync, readdirSync, readFileSync } from "node:fs";
import { characteristic } from "@/core/characteristics";
import { analyseReadings, atBench, PROCEDURES } from "@/core/procedures";
import { answerOf, toPoint } from "@/notebook/run-dossier";
import type { RunRecord } from "@/core/files/records";
import { NO_CORRECTIONS, type Finding, type Readings } from "@/core/measurement";
import { loadProcedure, factsOf, readingsOf } from "@/core/procedures/catalogue";
import { PROCEDURE_FACTS } from "@/core/procedures/catalogue";
import { benchOf } from "@/core/bench";
import { packedDemo } from "./demo";
import { SAMPLE_LOGS } from "./sample-logs";
import { lists } from "../../scripts/build-lists";

/** What every procedure of the catalogue has: one that is added without it fails here, by its name. */
const FOLDER = "src/core/procedures";
/** Headlines that the table of a sheet shows without a sentence. */
const NO_SENTENCE: ReadonlySet<string> = new Set(["reverse.current"]);
const demo = packedDemo(() => crypto.randomUUID(), "2026-11-30T08:00:00Z");
const results = new Map(
  demo.derived.flatMap((d) =>
    d.key.startsWith("run:")
      ? [[d.key.slice("run:".length), (d.value as { findings: readonly Finding[] }).findings] as const]
      : [],
  ),
);

/** What a run of the demo was made of, its file's readings apart. */
function demoReadings(run: RunRecord): Readings {
  const parts = demo.records.filter((r) => "runId" in r && r.runId === run.id);
  if (readingsOf(run.procedure) === "answers")
    return { kind: "answers", answers: parts.flatMap((r) => (r.kind === "answer" ? [answerOf(r)] : [])) };
  if (readingsOf(run.procedure) === "points")
    return { kind: "points", points: parts.flatMap((r) => (r.kind === "point" ? [toPoint(r)] : [])) };
  const columns = demo.logs.find((l) => l.runId === run.id)?.columns ?? {};
  return { kind: "trace", trace: { columns, events: [] } };
}
const nothingIn = (r: Readings): Readings =>
  r.kind === "answers"
    ? { kind: "answers", answers: [] }
    : r.kind === "points"
      ? { kind: "points", points: [] }
      : { kind: "trace", trace: { columns: {}, events: [] } };

test("the catalogue, the facts and the folders name the same procedures", () => {
  const folders = readdirSync(FOLDER, { withFileTypes: true }).flatMap((d) =>
    d.isDirectory() && existsSync(`${FOLDER}/${d.name}/index.ts`) ? [d.name] : [],
  );
  expect(PROCEDURES.map((p) => p.id).sort()).toEqual(folders.sort());
  expect(PROCEDURE_FACTS.map((f) => f.id).sort()).toEqual(folders.sort());
  expect(new Set(PROCEDURES.map((p) => p.position)).size).toBe(PROCEDURES.length);
});

test("the lists that are made of the catalogue are those of today (npm run lists)", () => {
  for (const [path, content] of Object.entries(lists())) expect(readFileSync(path, "utf8")).toBe(content);
});

describe.each(PROCEDURES.map((p) => [p.id, p] as const))("%s", (id, p) => {
  test("is loaded by its name alone, with the facts that are known without its code", async () => {
    expect(await loadProcedure(id)).toBe(p);
    const facts = factsOf(id);
    expect(facts).toBeDefined();
    expect(p).toMatchObject(facts ?? {});
  });

  test("says in its headline what it measures, in words of the dictionary", () => {
    expect(p.headline.length).toBeGreaterThan(0);
    for (const name of p.headline) expect([name, p.measures.includes(name)]).toEqual([name, true]);
    for (const name of p.measures) expect([name, characteristic(name) !== undefined]).toEqual([name, true]);
    // A sheet has a sentence for each figure that people ask for first, but of those that are no property of a board.
    for (const name of p.headline) {
      const c = characteristic(name);
      if (c?.kind === "number" && c.of !== null && !NO_SENTENCE.has(name))
        expect([name, c.phrase !== null]).toEqual([name, true]);
    }
  });

  test("has a run in the demo, and what that found is among what it measures", () => {
    const runs = demo.records.filter((r) => r.kind === "run" && r.procedure === id && r.state === "finished");
    expect(runs.length).toBeGreaterThan(0);
    const found = runs.flatMap((r) => results.get(r.id) ?? []);
    expect(found.length).toBeGreaterThan(0);
    for (const f of found)
      expect([f.characteristic, p.measures.includes(f.characteristic)]).toEqual([f.characteristic, true]);
  });

  test("finds the same, and says the same of what it does not find, where nothing else of it is looked at", () => {
    const runs = demo.records.filter((r): r is RunRecord => r.kind === "run" && r.procedure === id);
    const told = runs.flatMap((run) => {
      const readings = demoReadings(run);
      const [all, alone] = [readings, nothingIn(readings)].map((of) => {
        const [whole, findings] = (["all", "findings"] as const).map((wanted) => {
          const a = analyseReadings(p, of, run.setup, NO_CORRECTIONS, wanted);
          // Of a log nothing is drawn then, which takes as long as finding what is in it.
          if (wanted === "findings" && p.readings === "trace") expect([run.title, a.charts]).toEqual([run.title, []]);
          return { findings: a.findings, notStated: a.notStated };
        });
        expect([run.title, findings]).toEqual([run.title, whole]);
        return whole;
      });
      expect(alone?.findings).toEqual([]);
      return all?.findings ?? [];
    });
    // A file's readings are not among the records.
    if (runs.some((r) => r.source.kind !== "file")) expect(told.length).toBeGreaterThan(0);
    expect(runs.length).toBeGreaterThan(0);
  });

  test("can be told from a file, and played where it is made at the bench", () => {
    if (p.readings !== "answers") {
      expect(p.likeness).toBeDefined();
      expect(Object.keys(SAMPLE_LOGS)).toContain(id);
    }
    if (atBench(p) && p.id !== "charge-channels")
      expect(Object.keys(benchOf(id)?.specimens ?? {}).length).toBeGreaterThan(0);
  });
});
