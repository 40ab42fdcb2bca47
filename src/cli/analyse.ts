import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { decodeText, notTable, readLog, readSetupFile, type SetupFile } from "@/core/files";
import { assumedSetup, guessText, type LogGuess } from "@/core/guess";
import { analyseReadings, NO_CORRECTIONS, PROCEDURES, procedure, type Analysis } from "@/core/procedures";
import { uncertaintyRemark } from "@/core/procedures/accuracies";
import { err, formatQuantity, ok, type Result } from "@/core/quantities";
import { formatConditions } from "@/core/characteristics";

export interface AnalyseOptions {
  readonly file: string;
  /** Absent where what the file is has to be told from the file itself. */
  readonly setup?: string;
  readonly json: boolean;
  readonly skipBadRows: boolean;
}

interface Told {
  readonly setup: SetupFile;
  readonly guess?: LogGuess;
}

/** What a set-up file says. */
async function fromSetup(path: string): Promise<Result<Told>> {
  const bytes = await read(path);
  if (!bytes.ok) return bytes;
  const setup = readSetupFile(decodeText(bytes.value).text);
  return setup.ok ? ok({ setup: setup.value }) : err(`${path}: ${setup.error}`);
}

/** What the file itself tells: its columns by their heads, its procedure by its curves. */
function fromFile(file: string, bytes: Uint8Array): Result<Told> {
  const strange = notTable(bytes);
  if (strange) return err(`${file}: ${strange}`);
  const read = guessText(decodeText(bytes).text);
  if (!read.ok) return err(`${file}: ${read.error}`);
  const { table, guess } = read.value;
  const named = Object.entries(guess.columns).map(([role, c]) => `“${c?.header}” as ${role}`);
  const likely = guess.alternatives.slice(0, 3).map((a) => `${a.procedure} (${Math.round(100 * a.share)} %)`);
  if (guess.procedure === null)
    return err(`${file}: What was measured is unknown: this file doesn't say. Columns: ${table.headers.join(", ")}; understood: ${named.join(", ") || "none"}. ${likely.length ? `It may be ${likely.join(", ")}. ` : ""}Name the columns in the head for what they are, such as “Cell voltage (V)”, or name a set-up file with --setup.`);
  return ok({ setup: { procedure: guess.procedure, title: basename(file), dialect: table.dialect, columns: guess.columns, setup: { conditions: {}, instruments: {} }, events: [] }, guess });
}

/** Reads a log and prints what the procedure finds; every refusal names file, place and remedy. */
export async function analyse(options: AnalyseOptions): Promise<Result<string>> {
  const bytes = await read(options.file);
  if (!bytes.ok) return bytes;
  const told = options.setup === undefined ? fromFile(options.file, bytes.value) : await fromSetup(options.setup);
  if (!told.ok) return told;
  const { setup, guess } = told.value;
  const p = procedure(setup.procedure);
  if (!p) return err(`${options.setup}: procedure: “${setup.procedure}” can't be analysed; known: ${PROCEDURES.map((x) => x.id).join(", ")}`);
  const readings = readLog(bytes.value, setup, p, basename(options.file), options.skipBadRows);
  if (!readings.ok) return err([...readings.error.split("\n").map((line) => (line.startsWith("…") ? line : `${options.file}: ${line}`)), ...(/: Line \d/.test(`: ${readings.error}`) && !options.skipBadRows ? ["Mend the file, or skip those rows with --skip-bad-rows."] : [])].join("\n"));
  const taken = guess ? assumedSetup(p, readings.value.readings) : { setup: setup.setup, assumed: [] };
  const found = analyseReadings(p, readings.value.readings, taken.setup, NO_CORRECTIONS);
  const analysis = { ...found, notes: [...taken.assumed.map((a) => ({ code: "assumed", message: a.text })), ...readings.value.notes, ...found.notes] };
  return ok(options.json ? asJson(p.id, analysis, guess) : asText(guess ? `${setup.title}: ${p.title.toLowerCase()}, by its columns and curves` : setup.title, analysis));
}

async function read(file: string): Promise<Result<Uint8Array>> {
  try {
    return ok(new Uint8Array(await readFile(file)));
  } catch (e) {
    return err(`${file}: can't be read (${(e as NodeJS.ErrnoException).code ?? (e as Error).message})`);
  }
}

function asJson(id: string, analysis: Analysis, guess?: LogGuess): string {
  return JSON.stringify(
    {
      procedure: id,
      ...(guess ? { guess: { procedure: guess.procedure, columns: guess.columns, alternatives: guess.alternatives } } : {}),
      // What a run could not state fairly is not there for whoever reads the file.
      findings: analysis.findings.filter((f) => f.value !== "not stated").map((f) => ({
        characteristic: f.characteristic,
        value: f.value,
        // The dictionary has no unit for counts: they are numbers of dimension one.
        unit: f.unit === "count" ? "1" : f.unit,
        ...(f.expandedUncertainty !== undefined ? { expandedUncertainty: f.expandedUncertainty } : {}),
        ...(f.unstated?.length ? { accuracyNotStated: f.unstated } : {}),
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
    return `${`${f.characteristic} ${formatConditions(f.conditions)}`.padEnd(48)} ${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${value}${uncertaintyRemark(f) ? ` (${uncertaintyRemark(f)})` : ""}`;
  });
  const silent = (analysis.notStated ?? []).filter((n) => n.code !== "did-not-happen").map((n) => `${`${n.characteristic} ${formatConditions(n.conditions ?? {})}`.padEnd(48)} not stated (${n.code}): ${n.reason}`);
  return [title, ...lines, ...silent, ...analysis.notes.map((n) => `note: ${n.message}`)].join("\n");
}
