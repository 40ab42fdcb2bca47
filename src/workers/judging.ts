import { loadProcedure } from "@/core/procedures/catalogue";
import { analyseReadings } from "@/core/procedures/kit/offsets";
import type { Analysis, RunResults } from "@/core/measurement";
import { judgeClaim } from "@/core/verdicts";
import { openLog } from "./open-log";
import { HERE, sharing, workingHere } from "@/notebook/here";
import { NO_RESULTS } from "@/notebook/compute";
import type { DerivedEntry } from "@/storage/database";
import { changesSoFar, writeKept } from "@/storage/derived";
import { record } from "@/storage/queries";
import type { Tasks } from "./protocol";

const resultsOf = ({ findings, notStated = [] }: Analysis): RunResults => ({ findings: sharing(findings), notStated });

// One module for what needs the procedures, so that a worker loads them once.

export async function results({
  run,
  readings,
  corrections,
}: Tasks["results"]["ask"]): Promise<Tasks["results"]["give"]> {
  const p = await loadProcedure(run.procedure);
  return p ? resultsOf(analyseReadings(p, readings, run.setup, corrections, "findings")) : { findings: [] };
}

export async function storedResults({ runId }: Tasks["stored-results"]["ask"]): Promise<RunResults> {
  const run = await record("run", runId);
  return run ? HERE.stored(run) : NO_RESULTS;
}

/** ms after which what was worked out is written, together with what came after it: whoever waits for verdicts does not wait for that. */
const WRITTEN_AFTER = 1500;
/** Boards of which it is written at once, so that little is held. */
const HELD = 6;
let held: { readonly entries: readonly DerivedEntry[]; readonly since: number }[] = [];
let timer: ReturnType<typeof setTimeout> | null = null;

/** Writes what was worked out and not written yet. */
export async function writeHeld(): Promise<void> {
  if (timer) clearTimeout(timer);
  timer = null;
  const all = held;
  held = [];
  // Where it can't be written it is worked out again when it is wanted.
  await Promise.all(all.map(({ entries, since }) => writeKept(entries, since).catch(() => undefined)));
}

/** Something of a whole board; all that was worked out for it is kept soon. */
export async function ofBoard({ what, boardId, ask }: Tasks["of-board"]["ask"]): Promise<Tasks["of-board"]["give"]> {
  const since = await changesSoFar();
  const entries: DerivedEntry[] = [];
  const here = workingHere((more) => entries.push(...more));
  const made = await here.ofBoard(what, boardId, ask);
  held.push({ entries, since });
  if (held.length >= HELD) await writeHeld();
  else timer ??= setTimeout(() => void writeHeld(), WRITTEN_AFTER);
  return made;
}

/** Loads what the rows of a comparison that stand first are worked out with. */
export async function comparisonAhead(): Promise<void> {
  const { FIRST_PROCEDURES } = await import("@/core/compare");
  await Promise.all([...FIRST_PROCEDURES].map(loadProcedure));
}

/** What a stored log's analysis gives. */
export async function analysis({
  run,
  rows,
  marks,
  corrections,
}: Tasks["log-analysis"]["ask"]): Promise<Tasks["log-analysis"]["give"]> {
  const p = await loadProcedure(run.procedure);
  if (!p)
    return {
      findings: [],
      notes: [{ code: "unknown-procedure", message: `This version has no procedure “${run.procedure}”.` }],
      charts: [],
    };
  return analyseReadings(
    p,
    { kind: "trace", trace: { columns: await openLog(run.id, rows), events: marks } },
    run.setup,
    corrections,
  );
}

/** What was found in a stored log, without the charts. */
export const logResults = async (ask: Tasks["log-results"]["ask"]): Promise<Tasks["log-results"]["give"]> =>
  resultsOf(await analysis(ask));

export function verdicts({ claims, evidence, rules }: Tasks["verdicts"]["ask"]): Tasks["verdicts"]["give"] {
  return claims.map((c) => judgeClaim(c, evidence, rules));
}
