import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { decodeText, readLog, readSetupFile } from "@/core/files";
import { analyseReadings, NO_CORRECTIONS, PROCEDURES, procedure, type Analysis } from "@/core/procedures";
import { uncertaintyRemark } from "@/core/procedures/accuracies";
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
  const bytes = await read(options.file);
  if (!bytes.ok) return bytes;
  const setupBytes = await read(options.setup);
  if (!setupBytes.ok) return setupBytes;
  const setup = readSetupFile(decodeText(setupBytes.value).text);
  if (!setup.ok) return err(`${options.setup}: ${setup.error}`);
  const p = procedure(setup.value.procedure);
  if (!p) return err(`${options.setup}: procedure: “${setup.value.procedure}” can't be analysed; known: ${PROCEDURES.map((x) => x.id).join(", ")}`);
  const readings = readLog(bytes.value, setup.value, p, basename(options.file), options.skipBadRows);
  if (!readings.ok) return err([...readings.error.split("\n").map((line) => (line.startsWith("…") ? line : `${options.file}: ${line}`)), ...(/: Line \d/.test(`: ${readings.error}`) && !options.skipBadRows ? ["Mend the file, or skip those rows with --skip-bad-rows."] : [])].join("\n"));
  const found = analyseReadings(p, readings.value.readings, setup.value.setup, NO_CORRECTIONS);
  const analysis = { ...found, notes: [...readings.value.notes, ...found.notes] };
  return ok(options.json ? asJson(p.id, analysis) : asText(setup.value.title, analysis));
}

async function read(file: string): Promise<Result<Uint8Array>> {
  try {
    return ok(new Uint8Array(await readFile(file)));
  } catch (e) {
    return err(`${file}: can't be read (${(e as NodeJS.ErrnoException).code ?? (e as Error).message})`);
  }
}

function asJson(id: string, analysis: Analysis): string {
  return JSON.stringify(
    {
      procedure: id,
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
