import { characteristic } from "../../characteristics";
import {
  roleLabel,
  type Analysis,
  type Finding,
  type NotStated,
  type Readings,
  type RunConditions,
  type RunSetup,
  type Role,
} from "../../measurement";
import type { Silence } from "../contract";
import { listed } from "../../quantities";

const plain = (role: Role): string => roleLabel(role).toLowerCase();

/** Whether the readings hold a role at all. */
function holds(readings: Readings, role: Role): boolean {
  if (readings.kind === "answers") return true;
  if (readings.kind === "points")
    return readings.points.some((p) => p.cells[role]?.status === "ok" || p.cells[role]?.status === "overload");
  return readings.trace.columns[role]?.some((v) => v - v === 0) ?? false;
}

function explained(
  name: string,
  silence: Silence | undefined,
  readings: Readings,
  setup: RunSetup,
  analysis: Analysis,
): NotStated {
  const lacks = (roles: readonly Role[]) => roles.filter((role) => !holds(readings, role));
  const missing = lacks(silence?.roles ?? []);
  const groups = silence?.either ?? [];
  if (missing.length || (groups.length && groups.every((g) => lacks(g).length))) {
    const roles = missing.length ? missing : (groups[0] ?? []);
    return {
      characteristic: name,
      code: "needs",
      reason: `The readings have no ${listed(roles.map(plain))}.`,
      needs: { roles },
    };
  }
  const condition = silence?.condition;
  if (condition !== undefined && setup.conditions[condition] === undefined)
    return {
      characteristic: name,
      code: "needs",
      reason: `${CONDITION_WORDS[condition] ?? "A condition of the run"} is not stated.`,
      needs: { condition },
    };
  const note = analysis.findings.length === 0 ? analysis.notes[analysis.notes.length - 1]?.message : undefined;
  const [code, reason] = silence?.otherwise ?? ["not-in-log", "The readings do not show it."];
  return {
    characteristic: name,
    code: note && code === "did-not-happen" ? "not-in-log" : code,
    reason: note ?? reason,
  };
}

/** What a condition is called where it is missing. */
export const CONDITION_WORDS: Readonly<Partial<Record<keyof RunConditions, string>>> = {
  ambientTemperature: "The ambient temperature",
  partLimitTemperature: "The highest temperature that the part may reach",
  foldbackTemperature: "The temperature at which the charger cuts its current back",
  bandwidth: "The bandwidth of the instrument",
  dissipation: "The power turned into heat",
  usableCapacity: "The usable capacity of the cell",
  cellCapacity: "The rated capacity of the cell",
  nominalOutput: "The nominal output voltage",
  panelMaximumPower: "The panel's maximum power in that light",
  ratedLoad: "The rated load",
  supplyCurrentLimit: "The supply's current limit",
  programmedCurrent: "The programmed current",
  terminationCurrent: "The termination current",
};

/** A word that a run found but could not state fairly. */
const unfair = (f: Finding): NotStated => ({
  characteristic: f.characteristic,
  conditions: f.conditions,
  code: "disturbed",
  reason: f.unfair[0]?.message ?? "The run was not a fair test of it.",
});

/** The analysis with a reason for every quantity of the procedure that is not among its findings, each once. */
export function withSilences(
  measures: readonly string[],
  silences: Readonly<Record<string, Silence>>,
  analysis: Analysis,
  readings: Readings,
  setup: RunSetup,
): Analysis & { readonly notStated: readonly NotStated[] } {
  const statedNames = new Set(analysis.findings.filter((f) => f.value !== "not stated").map((f) => f.characteristic));
  const told = new Set<string>();
  const notStated: NotStated[] = [];
  for (const f of analysis.findings) if (f.value === "not stated") notStated.push(unfair(f));
  for (const n of analysis.notStated ?? []) {
    if (statedNames.has(n.characteristic) && !n.conditions) continue;
    const key = `${n.characteristic} ${JSON.stringify(n.conditions ?? {})}`;
    if (told.has(key) || (!n.conditions && notStated.some((x) => x.characteristic === n.characteristic))) continue;
    told.add(key);
    // The first reason is the one that stands before all others, unless a missing column explains it better.
    notStated.push(n);
  }
  for (const name of measures) {
    if (statedNames.has(name) || notStated.some((n) => n.characteristic === name) || !characteristic(name)) continue;
    notStated.push(explained(name, silences[name], readings, setup, analysis));
  }
  const notes =
    analysis.findings.length || analysis.notes.length
      ? analysis.notes
      : [{ code: "nothing-found", message: "Nothing of what this procedure looks for is in the readings." }];
  return { ...analysis, notes, notStated };
}
