import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { describeProblem, pointsFromFile, readSetupFile, traceFromFile, type CellProblem, type SetupFile } from "@/core/files";
import { analyseReadings, NO_CORRECTIONS, PROCEDURES, procedure, type Analysis, type Readings } from "@/core/procedures";
import { err, formatQuantity, ok, type Result } from "@/core/quantities";
import { formatConditions } from "@/core/characteristics";

export interface AnalyseOptions {
  readonly file: string;
  readonly setup: string;
  readonly json: boolean;
  readonly skipBadRows: boolean;
}

/** Reads a log and its set-up file and prints what the procedure finds; every refusal names file, place and remedy. */
export async function analyse(options: AnalyseOptions): Promise<Result<string>> {
  const text = await read(options.file);
  if (!text.ok) return text;
  const setupText = await read(options.setup);
  if (!setupText.ok) return setupText;
  const setup = readSetupFile(setupText.value);
  if (!setup.ok) return err(`${options.setup}: ${setup.error}`);
  const p = procedure(setup.value.procedure);
  if (!p) return err(`${options.setup}: procedure: “${setup.value.procedure}” can't be analysed; known: ${PROCEDURES.map((x) => x.id).join(", ")}`);
  const readings = readReadings(text.value, setup.value, options, p.readings);
  if (!readings.ok) return readings;
  const found = analyseReadings(p, readings.value.readings, setup.value.setup, NO_CORRECTIONS);
  const analysis = { ...found, notes: [...readings.value.remarks.map((message) => ({ code: "file", message })), ...found.notes] };
  return ok(options.json ? asJson(p.id, analysis) : asText(setup.value.title, analysis));
}

async function read(file: string): Promise<Result<string>> {
  try {
    return ok(await readFile(file, "utf8"));
  } catch (e) {
    return err(`${file}: can't be read (${(e as NodeJS.ErrnoException).code ?? (e as Error).message})`);
  }
}

interface Read {
  readonly readings: Readings;
  readonly remarks: readonly string[];
}

function readReadings(text: string, setup: SetupFile, options: AnalyseOptions, kind: Readings["kind"]): Result<Read> {
  if (kind === "answers") return err(`${options.file}: ${setup.procedure} is answered at the bench, not read from a file`);
  if (kind === "points") {
    const r = pointsFromFile(text, setup.dialect, setup.columns, basename(options.file));
    if (!r.ok) return err(`${options.file}: ${r.error}`);
    return unlessBad(r.value.problems, options, { readings: { kind, points: r.value.points }, remarks: [] });
  }
  const r = traceFromFile(text, setup.dialect, setup.columns);
  if (!r.ok) return err(`${options.file}: ${r.error}`);
  return unlessBad(r.value.problems, options, { readings: { kind, trace: { ...r.value.trace, events: setup.events } }, remarks: r.value.remarks });
}

function unlessBad(problems: readonly CellProblem[], options: AnalyseOptions, read: Read): Result<Read> {
  if (problems.length === 0 || options.skipBadRows) return ok(read);
  const shown = problems.slice(0, 10).map((p) => `${options.file}: ${describeProblem(p)}`);
  if (problems.length > 10) shown.push(`… and ${problems.length - 10} more`);
  return err([...shown, "Mend the file, or leave those rows out with --skip-bad-rows."].join("\n"));
}

function asJson(id: string, analysis: Analysis): string {
  return JSON.stringify(
    {
      procedure: id,
      // What a run could not state fairly is not there for whoever reads the file.
      findings: analysis.findings.filter((f) => f.value !== "not stated").map((f) => ({
        characteristic: f.characteristic,
        value: f.value,
        unit: f.unit,
        ...(f.expandedUncertainty !== undefined ? { expandedUncertainty: f.expandedUncertainty } : {}),
        ...(f.bound ? { bound: f.bound } : {}),
        ...(f.bracket ? { bracket: f.bracket } : {}),
        ...(Object.keys(f.conditions).length ? { conditions: f.conditions } : {}),
      })),
      notStated: (analysis.notStated ?? []).map(({ characteristic, conditions, code, reason }) => ({ characteristic, ...(conditions && Object.keys(conditions).length ? { conditions } : {}), code, reason })),
      notes: analysis.notes.map(({ code, message }) => ({ code, message })),
    },
    null,
    2,
  );
}

function asText(title: string, analysis: Analysis): string {
  const lines = analysis.findings.filter((f) => f.value !== "not stated").map((f) => {
    const value =
      typeof f.value === "number" ? formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: true }) : f.value;
    return `${`${f.characteristic} ${formatConditions(f.conditions)}`.padEnd(48)} ${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${value}`;
  });
  const silent = (analysis.notStated ?? []).filter((n) => n.code !== "did-not-happen").map((n) => `${`${n.characteristic} ${formatConditions(n.conditions ?? {})}`.padEnd(48)} not stated (${n.code}): ${n.reason}`);
  return [title, ...lines, ...silent, ...analysis.notes.map((n) => `note: ${n.message}`)].join("\n");
}
