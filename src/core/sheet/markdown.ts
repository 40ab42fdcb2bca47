import { calendarDay } from "../quantities";
import { shortCode } from "../cells/code";
import { runNumbers, type FindingsSheet } from "./sheet";
import type { Sentence } from "./sentences";

/** Text as one line of Markdown that says just that: no line feed of it begins a new block, no sign of it means anything. */
const escaped = (text: string): string =>
  text
    .replace(/\s*[\r\n\u0085\u2028\u2029]+\s*/g, " ")
    .replace(/([\\`*_[\]<>|#])/g, "\\$1")
    .replace(/^(\s*)([-+=~]|\d+(?=[.)]\s))/, (_, space: string, sign: string) =>
      /\d/.test(sign) ? `${space}${sign}\\` : `${space}\\${sign}`,
    );

/** A findings sheet as Markdown. Every number names its run by the number that the run has in the list at the end, its date is that in a time zone (IANA name). */
export function sheetMarkdown(s: FindingsSheet, zone: string): string {
  const numbers = runNumbers(s);
  const reference = (runId: string): string => (numbers.has(runId) ? ` \\[${numbers.get(runId)}\\]` : "");
  const line = (sentence: Sentence): string =>
    sentence.map((p) => (typeof p === "string" ? escaped(p) : `${escaped(p.text)}${reference(p.runId)}`)).join("");
  const list = (title: string, sentences: readonly Sentence[]): string[] =>
    sentences.length ? [`## ${title}`, "", ...sentences.map((x) => `- ${line(x)}`), ""] : [];
  const words = (title: string, texts: readonly string[]): string[] =>
    list(
      title,
      texts.map((t) => [t]),
    );
  return [
    `# ${escaped(s.title)}`,
    "",
    escaped([s.what, s.note].filter(Boolean).join(". ")),
    "",
    ...s.samples.map((x) => `- ${escaped(x)}`),
    "",
    `**${escaped(s.summary)}**`,
    "",
    ...(s.claims.length
      ? [
          "## Claims",
          "",
          "| claimed | read as | measured | verdict |",
          "|---|---|---|---|",
          ...s.claims.map(
            (c) =>
              `| “${escaped(c.wording)}” (${escaped(c.source)}) | ${c.understood.map(escaped).join("<br>or ")} | ${line(c.measured)} | ${[c.word, ...(c.remarks ?? [])].join(", ")} |`,
          ),
          "",
        ]
      : []),
    ...list("Fit for", s.fitFor),
    ...list("Strengths", s.strengths),
    ...list("Weaknesses", s.weaknesses),
    ...words("Modifications", s.modify),
    ...s.measured.flatMap((m) => list(m.about, m.sentences)),
    ...list("Open", s.open),
    ...(s.runs.length
      ? ["## Runs", "", ...s.runs.map((r, k) => `${k + 1}. ${escaped(r.text)} (${shortCode(r.id)})`), ""]
      : []),
    ...words("Meters, k = 2 throughout", s.meters),
    `Made ${calendarDay(s.madeAt, zone)} with the analyses ${escaped(s.versions)}.`,
    "",
  ].join("\n");
}
