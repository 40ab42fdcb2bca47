import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { formatConditions } from "@/core/characteristics";
import { decodeText } from "@/core/files";
import type { Analysis } from "@/core/measurement";
import { uncertaintyRemark } from "@/core/procedures/kit/accuracies";
import { err, formatQuantity, ok, type Result } from "@/core/quantities";
import { analyseFile, reportJson, type FileRefusal } from "@/core/report";

export interface AnalyseOptions {
  readonly file: string;
  /** Absent where what the file is has to be told from the file itself. */
  readonly setup?: string;
  readonly json: boolean;
  readonly skipBadRows: boolean;
}

/** Reads a log and prints what the procedure finds; every refusal names file, place and remedy. */
export async function analyse(options: AnalyseOptions): Promise<Result<string>> {
  const bytes = await read(options.file);
  if (!bytes.ok) return bytes;
  const setup = options.setup === undefined ? null : await read(options.setup);
  if (setup && !setup.ok) return setup;
  const report = analyseFile({
    name: basename(options.file),
    bytes: bytes.value,
    setup: setup?.ok ? decodeText(setup.value).text : null,
    skipBadRows: options.skipBadRows,
  });
  if (!report.ok) return err(refusalText(report, options));
  return ok(options.json ? JSON.stringify(reportJson(report), null, 2) : asText(report.title, report.analysis));
}

/** What to do about a refusal, on the command line. */
const REMEDY: Readonly<Partial<Record<FileRefusal["code"], string>>> = {
  unclear:
    "Name the columns in the head for what they are, such as “Cell voltage (V)”, or name a set-up file with --setup.",
  rows: "Mend the file, or skip those rows with --skip-bad-rows.",
};

function refusalText({ code, found }: FileRefusal, { file, setup }: AnalyseOptions): string {
  const where = code === "setup" || code === "procedure" ? (setup ?? file) : file;
  const lines = found.map((line) => (line.startsWith("…") ? line : `${where}: ${line}`));
  const remedy = REMEDY[code];
  // What is unknown is said with its remedy in one paragraph.
  return remedy === undefined
    ? lines.join("\n")
    : code === "unclear"
      ? `${lines.join("\n")} ${remedy}`
      : [...lines, remedy].join("\n");
}

async function read(file: string): Promise<Result<Uint8Array>> {
  try {
    return ok(new Uint8Array(await readFile(file)));
  } catch (e) {
    return err(`${file}: can't be read (${(e as NodeJS.ErrnoException).code ?? (e as Error).message})`);
  }
}

function asText(title: string, analysis: Analysis): string {
  const lines = analysis.findings
    .filter((f) => f.value !== "not stated")
    .map((f) => {
      const value =
        typeof f.value === "number"
          ? formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: true })
          : f.value;
      return `${`${f.characteristic} ${formatConditions(f.conditions)}`.padEnd(48)} ${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${value}${uncertaintyRemark(f) ? ` (${uncertaintyRemark(f)})` : ""}`;
    });
  const silent = (analysis.notStated ?? [])
    .filter((n) => n.code !== "did-not-happen")
    .map(
      (n) =>
        `${`${n.characteristic} ${formatConditions(n.conditions ?? {})}`.padEnd(48)} not stated (${n.code}): ${n.reason}`,
    );
  return [title, ...lines, ...silent, ...analysis.notes.map((n) => `note: ${n.message}`)].join("\n");
}
