import Papa from "papaparse";
import { plainNumber } from "../quantities";
import {
  correctedText,
  currentOfSetting,
  roleLabel,
  roleUnit,
  type Analysis,
  type Answer,
  type Point,
  type RunSetup,
} from "../measurement";
import type { Procedure } from "../procedures";
import type { RunRecord } from "./records";
import { stableJson } from "./versions";

const ASCII_UNIT: Readonly<Record<string, string>> = { "°C": "degC", Ω: "ohm" };
const columnLabel = (label: string, unit: string): string => `${label} / ${ASCII_UNIT[unit] ?? unit}`;

/** A text cell that a spreadsheet would take for a formula is given an apostrophe first; numbers stay as they are. */
const SAFE = { newline: "\r\n", escapeFormulae: /^[=+\-@\t\r\n]/ } as const;

/** A of a load setting: as it was set, or what a power or a resistance comes to. */
function settingCurrent(load: NonNullable<Point["settings"]["load"]>, nominal: number | undefined): number | string {
  const amps = currentOfSetting(load, nominal);
  return amps === null || amps === undefined ? "" : load.mode === "current" ? amps : Number(plainNumber(amps));
}

/**
 * A run's points as CSV: comma, decimal point, SI units in the header, settings beside the readings, and whether a
 * point counts. Readings are written as they were read, and reading them back gives the same; what is worked out from them is cut to twelve digits.
 */
export function pointsToCsv(
  procedure: Procedure,
  setup: RunSetup,
  points: readonly Point[],
  leftOut: ReadonlyMap<string, string>,
): string {
  const roles = procedure.record.roles.map((r) => r.role);
  const header = [
    "Point",
    columnLabel("Set battery voltage", "V"),
    columnLabel("Set load current", "A"),
    "Load mode",
    columnLabel("Dwell", "s"),
  ];
  for (const role of roles) header.push(columnLabel(roleLabel(role), roleUnit(role)));
  for (const d of procedure.record.derived) header.push(columnLabel(d.label, d.unit));
  header.push("Corrected", "Excluded because");
  const rows = points.map((p, i) => {
    const load = p.settings.load;
    const row: (string | number)[] = [
      i + 1,
      p.settings.supplyVoltage ?? "",
      load ? settingCurrent(load, setup.conditions.nominalOutput) : "",
      load?.mode ?? "",
      p.dwell ?? "",
    ];
    for (const role of roles) {
      const c = p.cells[role];
      row.push(c?.status === "overload" ? "OL" : (c?.value ?? ""));
    }
    for (const d of procedure.record.derived) {
      const worked = d.of(p, setup);
      row.push(worked === null ? "" : Number(plainNumber(worked)));
    }
    row.push(correctedText(p), leftOut.get(p.id) ?? "");
    return row;
  });
  return `${Papa.unparse([header, ...rows], SAFE)}\r\n`;
}

/** A checklist's answers as CSV, oldest first: action, battery volts where they were asked for, what was seen, what was said, when (UTC). */
export function answersToCsv(procedure: Procedure, setup: RunSetup, answers: readonly Answer[]): string {
  const remarks = new Map(
    (procedure.readings === "answers" ? procedure.items(setup) : []).map((i) => [i.id, i.said ?? ""]),
  );
  const rows = answers.map((a) => [a.item, a.volts ?? "", a.word, remarks.get(a.item) ?? "", a.at]);
  return `${Papa.unparse([["Action", columnLabel("Battery voltage", "V"), "Seen", "Claimed", "Time / UTC"], ...rows], SAFE)}\r\n`;
}

/** A run with its points or answers, analysis and what it was pinned to, as JSON for other programs. */
export function runToJson(
  run: RunRecord,
  points: readonly Point[],
  leftOut: ReadonlyMap<string, string>,
  analysis: Analysis,
  version: number,
  answers: readonly Answer[] = [],
): string {
  return `${JSON.stringify(
    JSON.parse(
      stableJson({
        run,
        points: points.map((p) => ({ ...p, ...(leftOut.has(p.id) ? { leftOut: leftOut.get(p.id) } : {}) })),
        ...(answers.length ? { answers } : {}),
        analysisVersion: version,
        findings: analysis.findings,
        notes: analysis.notes,
      }),
    ),
    null,
    2,
  )}\n`;
}
