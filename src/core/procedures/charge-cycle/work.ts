import { rectangular, type Uncertain } from "../../quantities";
import { logFinding } from "../kit/log-reading";
import type { Finding, Note, NotStated, RunSetup } from "../../measurement";
import type { Phases } from "./phases";

/** A charge cycle while it is analysed: what its log is, and what was found of it so far. */
export interface Work {
  readonly p: Phases;
  readonly setup: RunSetup;
  readonly findings: Finding[];
  readonly notes: Note[];
  readonly notStated: NotStated[];
}

/** Puts a quantity among the findings; one that is no number is left out. */
export function find(
  w: Work,
  name: string,
  x: Uncertain,
  unfair: Finding["unfair"] = [],
  more: Pick<Finding, "bound" | "under"> = {},
): void {
  const { under, ...rest } = more;
  const f = logFinding(name, x, w.setup, { unfair, ...rest });
  if (f) w.findings.push(under ? { ...f, under } : f);
}
export const AT_LEAST = { bound: "at-least" } as const;
/** Says why quantities are not stated. */
export function silent(w: Work, code: NotStated["code"], reason: string, ...names: string[]): void {
  for (const characteristic of names) w.notStated.push({ characteristic, code, reason });
}

/** Half a sampling interval either way at an edge, s, as a standard uncertainty. */
export const edgeTime = (p: Phases): number => rectangular(p.usual / 2);
