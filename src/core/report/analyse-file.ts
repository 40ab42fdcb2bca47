import { decodeText, notTable, readLog, readSetupFile, type SetupFile } from "../files";
import { assumedSetup, guessText, type LogGuess } from "../guess";
import { analyseReadings, PROCEDURES, procedure } from "../procedures";
import { NO_CORRECTIONS, type Analysis } from "../measurement";

/** A log as it came, with the set-up file beside it; without one, what was measured is told from the log itself. */
export interface FileAsked {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** Text of the set-up file. */
  readonly setup: string | null;
  readonly skipBadRows: boolean;
}

/** What a file gives. */
export interface FileReport {
  readonly ok: true;
  readonly procedure: string;
  readonly title: string;
  readonly analysis: Analysis;
  /** Where procedure and columns were told from the file. */
  readonly guess?: LogGuess;
}

/**
 * Why a file gives nothing: `setup` the set-up file is wrong, `procedure` it names one that is not known, `strange` the log is no table,
 * `unclear` nobody can tell what was measured, `rows` some of its rows can't be read (others can: they may be skipped), `log` it can't be
 * read as what it is said to be.
 */
export interface FileRefusal {
  readonly ok: false;
  readonly code: "setup" | "procedure" | "strange" | "unclear" | "rows" | "log";
  /** What was found, each line for one place. */
  readonly found: readonly string[];
}

interface Told {
  readonly ok: true;
  readonly setup: SetupFile;
  readonly guess?: LogGuess;
}

const refused = (code: FileRefusal["code"], ...found: string[]): FileRefusal => ({ ok: false, code, found });

/** What the file itself tells: its columns by their heads, its procedure by its curves. */
function fromFile(name: string, bytes: Uint8Array): Told | FileRefusal {
  const strange = notTable(bytes);
  if (strange) return refused("strange", strange);
  const read = guessText(decodeText(bytes).text);
  if (!read.ok) return refused("strange", read.error);
  const { table, guess } = read.value;
  const named = Object.entries(guess.columns).map(([role, c]) => `“${c?.header}” as ${role}`);
  const likely = guess.alternatives.slice(0, 3).map((a) => `${a.procedure} (${Math.round(100 * a.share)} %)`);
  if (guess.procedure === null)
    return refused(
      "unclear",
      `What was measured is unknown: this file doesn't say. Columns: ${table.headers.join(", ")}; understood: ${named.join(", ") || "none"}.${likely.length ? ` It may be ${likely.join(", ")}.` : ""}`,
    );
  return {
    ok: true,
    setup: {
      procedure: guess.procedure,
      title: name,
      dialect: table.dialect,
      columns: guess.columns,
      setup: { conditions: {}, instruments: {} },
      events: [],
    },
    guess,
  };
}

function fromSetup(text: string): Told | FileRefusal {
  const setup = readSetupFile(text);
  return setup.ok ? { ok: true, setup: setup.value } : refused("setup", setup.error);
}

/** Lines of an error that are about rows. */
const ABOUT_ROWS = /(^|: )Line \d/;

/** Reads a log and works out what its procedure finds. */
export function analyseFile({ name, bytes, setup: given, skipBadRows }: FileAsked): FileReport | FileRefusal {
  const told = given !== null ? fromSetup(given) : fromFile(name, bytes);
  if (!told.ok) return told;
  const { setup, guess } = told;
  const p = procedure(setup.procedure);
  if (!p)
    return refused(
      "procedure",
      `procedure: “${setup.procedure}” can't be analysed; known: ${PROCEDURES.map((x) => x.id).join(", ")}`,
    );
  const read = readLog(bytes, setup, p, name, skipBadRows);
  if (!read.ok) return refused(ABOUT_ROWS.test(read.error) && !skipBadRows ? "rows" : "log", ...read.error.split("\n"));
  const taken = guess ? assumedSetup(p, read.value.readings) : { setup: setup.setup, assumed: [] };
  const outcome = analyseReadings(p, read.value.readings, taken.setup, NO_CORRECTIONS);
  const analysis = {
    ...outcome,
    notes: [...taken.assumed.map((a) => ({ code: "assumed", message: a.text })), ...read.value.notes, ...outcome.notes],
  };
  return {
    ok: true,
    procedure: p.id,
    title: guess ? `${setup.title}: ${p.title.toLowerCase()}, by its columns and curves` : setup.title,
    analysis,
    ...(guess ? { guess } : {}),
  };
}

/** A report as scripts read it, SI units: findings with their expanded uncertainty (k = 2), what is not stated and why, notes. */
export function reportJson({ procedure: id, analysis, guess }: FileReport): object {
  return {
    procedure: id,
    ...(guess
      ? { guess: { procedure: guess.procedure, columns: guess.columns, alternatives: guess.alternatives } }
      : {}),
    // What a run could not state fairly is not there for whoever reads the file.
    findings: analysis.findings
      .filter((f) => f.value !== "not stated")
      .map((f) => ({
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
    notStated: (analysis.notStated ?? []).map(({ characteristic, conditions, code, reason }) => ({
      characteristic,
      ...(conditions && Object.keys(conditions).length ? { conditions } : {}),
      code,
      reason,
    })),
    notes: analysis.notes.map(({ code, message }) => ({ code, message })),
  };
}
