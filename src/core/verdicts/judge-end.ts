import { characteristic, type RangeEnd } from "../characteristics";
import { claimedEnd, type Limit } from "../claims";
import type { Finding, HouseRules } from "../measurement";
import { formatQuantity, type Unit } from "../quantities";
import { findingInterval, type FindingVerdict } from "./judge-finding";

/** What is kept over the range of each condition. */
const ENDS_HELD: Readonly<Record<RangeEnd["of"], string>> = {
  inputVoltage: "The full charge current was seen",
  battery: "The rated load was held",
  output: "The output was set",
};

/**
 * Judges an end of a range of voltages, such as the lowest input at which a charger gives its full current. A claim on it is met once it was
 * kept there: a test at the claimed voltage itself, as closely as its meter tells, is a test of the claim. It is missed where it was not kept
 * there; in between nobody has looked. Null where the finding is no such end, or can't be judged so.
 */
export function judgeEnd(f: Finding, limit: Limit, unit: Unit, rules: HouseRules): FindingVerdict | null {
  const range = characteristic(f.characteristic)?.end;
  const claimed = claimedEnd({ characteristic: f.characteristic, limit });
  const interval = findingInterval(f, rules.coverage);
  if (!range?.tested || claimed === null || !interval || typeof f.value !== "number") return null;
  const end = range.side;
  const q = (v: number) => formatQuantity(v, unit, { digits: 4 });
  const doubt = ((f.expandedUncertainty ?? 0) / 2) * rules.coverage;
  // Turned so that less is always better.
  const turn = end === "low" ? 1 : -1;
  const margin = turn * (f.value - claimed);
  const gone = f.bracket ? turn * ((end === "low" ? f.bracket.low : f.bracket.high) - claimed) : -Infinity;
  const base = {
    interval,
    limits: end === "low" ? { low: -Infinity, high: claimed } : { low: claimed, high: Infinity },
    probability: null,
    unfair: [],
  };
  const upTo = `${ENDS_HELD[range.of]} ${end === "low" ? "down to" : "up to"} ${q(f.value)}`;
  const same =
    margin > -doubt && margin <= doubt && margin !== 0
      ? ` That is the claimed voltage as closely as its meter tells, ±${formatQuantity(doubt, unit, { digits: 2 })}.`
      : "";
  if (margin <= doubt)
    return { ...base, word: "meets", why: [`${upTo}; the claim is ${q(claimed)}.${same}`], settle: [] };
  if (gone >= -doubt)
    return {
      ...base,
      word: "misses",
      why: [`${upTo}, and no longer at ${q(claimed + turn * gone)}; the claim is ${q(claimed)}.`],
      settle: [],
    };
  return {
    ...base,
    word: "not measured",
    why: [`${upTo}. Not tested at ${q(claimed)}, the claimed end.`],
    settle: [`Take a run at ${q(claimed)}.`],
  };
}
