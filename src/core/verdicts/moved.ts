import { characteristic, formatConditions, type Conditions } from "../characteristics";
import type { Finding } from "../measurement";
import { formatQuantity } from "../quantities";
import type { VerdictWord } from "./index";

/** A result that another version of the analysis gave otherwise from the same readings. */
export interface MovedResult {
  readonly characteristic: string;
  readonly conditions: Conditions;
  /** As text with unit; null where it was, or is, not stated. */
  readonly from: string | null;
  readonly to: string | null;
}

/** A verdict that moved with it. */
export interface MovedVerdict {
  readonly claimId: string;
  readonly from: VerdictWord;
  readonly to: VerdictWord;
}

const key = (f: Finding): string => `${f.characteristic} ${JSON.stringify(Object.entries(f.conditions).sort())}`;
const text = (f: Finding): string =>
  `${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${typeof f.value === "number" ? formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: true }) : f.value}`;

/** What differs between the results of two analyses of the same readings, as far as it can be read off their texts. */
export function movedResults(before: readonly Finding[], after: readonly Finding[]): MovedResult[] {
  const [was, is] = [before, after].map((list) => new Map(list.map((f) => [key(f), f]))) as [
    Map<string, Finding>,
    Map<string, Finding>,
  ];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((k) => {
    const [a, b] = [was.get(k), is.get(k)];
    const { characteristic: name, conditions } = (a ?? b) as Finding;
    const [from, to] = [a ? text(a) : null, b ? text(b) : null];
    return from === to ? [] : [{ characteristic: name, conditions, from, to }];
  });
}

/** A moved result in words. */
export const movedText = (m: MovedResult): string =>
  `${characteristic(m.characteristic)?.label ?? m.characteristic} ${formatConditions(m.conditions)}`.trim() +
  `: ${m.from ?? "not stated"} → ${m.to ?? "not stated"}`;
