import type { Accuracy } from "../instruments";
import { expandedUncertainty, formatQuantity, numeric } from "../quantities";
import { CHEMISTRY_LIMITS, type Chemistry } from "./chemistry";
import { restDrop, type RestDrop } from "./rest-drop";

export interface TriageCell {
  readonly chemistry: Chemistry;
  /** Cells in series; one where nothing is said. Looks give the volts of the whole, limits speak of one cell. */
  readonly series?: number;
  /** Rated, Ah. */
  readonly capacity: number;
  readonly rejected?: { readonly date: string; readonly why: string };
}

/** One look at a cell: volts at rest, and what was noticed. */
export interface CellLook {
  /** ms since 1970. */
  readonly at: number;
  readonly volts: number | null;
  /** It had just come off the charger. */
  readonly charged: boolean;
  /** It was used since it was read before: its rest is over. */
  readonly used?: boolean;
  readonly sign?: string;
  readonly meter?: Accuracy;
}

/** A quantity with its k = 2 interval's half width. */
export interface Measured {
  readonly value: number;
  readonly u: number;
}

export interface TriageRules {
  readonly rejectFloor: number;
  readonly restDrop: number;
  readonly restDays: number;
  readonly cellResistance: number;
  readonly cellShare: number;
}

export interface TriageReason {
  readonly code: "sign" | "low-start" | "falls-at-rest" | "resistance" | "capacity" | "said";
  /** `reject`: it is beyond a limit with all of its interval. `doubt`: it can't be told yet. */
  readonly severity: "reject" | "doubt";
  readonly text: string;
}

export interface Triage {
  /** `unknown`: nothing was measured that speaks for or against it. */
  readonly word: "rejected" | "reject it" | "in doubt" | "sound" | "unknown";
  readonly reasons: readonly TriageReason[];
  /** Since it last came off a charger. */
  readonly drop: RestDrop | null;
  readonly last: CellLook | null;
  /** When it is to be read again, ms since 1970, and why; null where nothing is waiting. */
  readonly due: { readonly at: number; readonly why: string } | null;
}

const DAY = 86_400_000;
const q = formatQuantity;
const REJECTING: Readonly<Record<string, string>> = {
  hot: "it got hot while little current flowed",
  "takes no charge": "it takes no charge",
  swollen: "it is swollen",
  leaking: "it leaks",
  dented: "it is dented",
};

/** The looks from the last charge on, up to its next use: what came before or after says nothing of its fall at rest. */
export function sinceCharge<
  L extends { readonly volts: number | null; readonly charged?: boolean; readonly used?: boolean },
>(looks: readonly L[]): readonly L[] {
  const from = looks.map((l) => l.charged === true && l.volts !== null).lastIndexOf(true);
  if (from < 0) return [];
  const rest = looks.slice(from);
  const used = rest.findIndex((l) => l.used === true);
  return (used < 0 ? rest : rest.slice(0, used)).filter((l) => l.volts !== null);
}

/** Gathers the reasons against a cell. */
type Add = (code: TriageReason["code"], severity: TriageReason["severity"], text: string) => void;

/** What was said and seen of a cell, and how low it was found. */
function looked(cell: TriageCell, sorted: readonly CellLook[], rules: TriageRules, add: Add): void {
  if (cell.rejected) add("said", "reject", cell.rejected.why);
  for (const sign of new Set(sorted.flatMap((l) => (l.sign ? [l.sign] : []))))
    if (REJECTING[sign] !== cell.rejected?.why) add("sign", "reject", REJECTING[sign] ?? sign);
  const floor = chargeFloor(cell, rules);
  const lowest = sorted.reduce((low, l) => (l.volts !== null && l.volts < low ? l.volts : low), Infinity);
  if (lowest < floor)
    add("low-start", "reject", `it was found at ${q(lowest, "V", { digits: 3 })}, under the floor of ${q(floor, "V")}`);
}

/** Whether it falls too fast at rest. */
function falls(drop: RestDrop | null, rules: TriageRules, add: Add): void {
  if (!drop?.rate) return;
  const [rate, u] = [drop.rate.value, expandedUncertainty(drop.rate)];
  const fallText = `it falls by ${q(rate, "V/day", { digits: 2 })}`;
  // A cell that has not settled yet may still fall faster than it will: that rejects nothing.
  if (rate - u > rules.restDrop)
    add(
      "falls-at-rest",
      drop.settled ? "reject" : "doubt",
      drop.settled
        ? `${fallText} at rest, more than ${q(rules.restDrop, "V/day")}`
        : `${fallText} while it settles; read it again`,
    );
  else if (rate + u > rules.restDrop)
    add("falls-at-rest", "doubt", `${fallText} at rest, too close to ${q(rules.restDrop, "V/day")} to call`);
}

/** Whether its resistance is too high. */
function resists(r: Measured | undefined, limit: number, add: Add): void {
  if (!r || !(r.value + r.u > limit)) return;
  const [value, most] = [q(r.value, "Ω", { digits: 2 }), q(limit, "Ω", { digits: 2 })];
  if (r.value - r.u > limit) add("resistance", "reject", `its resistance of ${value} is more than ${most}`);
  else add("resistance", "doubt", `its resistance of ${value} is too close to ${most} to call`);
}

/** Whether it holds too little of what it is rated for. */
function holds(c: Measured | undefined, rated: number, rules: TriageRules, add: Add): void {
  const least = rules.cellShare * rated;
  if (!c || !(c.value - c.u < least)) return;
  const value = q(c.value, "Ah", { digits: 3 });
  if (c.value + c.u < least) add("capacity", "reject", `it holds ${value} of the ${q(rated, "Ah")} it is rated for`);
  else add("capacity", "doubt", `its ${value} are too close to ${q(least, "Ah", { digits: 3 })} to call`);
}

/** How it fell since it was last charged; null where nothing tells. */
function fallSince(since: readonly CellLook[]): RestDrop | null {
  const first = since[0];
  if (!first) return null;
  return restDrop(
    since.map((l) => ({ days: (l.at - first.at) / DAY, volts: numeric(l.volts) })),
    first.meter,
  );
}

/**
 * Whether a cell is fit for use: signs that somebody noticed, a start under the reject floor, a fall at rest, a resistance and a
 * capacity beyond the house's limits. A limit rejects only where the whole interval lies beyond it; where it reaches across, the cell
 * is in doubt. `looks` in any order.
 */
export function triage(
  cell: TriageCell,
  looks: readonly CellLook[],
  measured: { readonly capacity?: Measured; readonly resistance?: Measured },
  rules: TriageRules,
): Triage {
  const series = cell.series ?? 1;
  const inOrder = [...looks].sort((a, b) => a.at - b.at);
  const sorted = inOrder.map((l) => (l.volts === null ? l : { ...l, volts: l.volts / series }));
  const reasons: TriageReason[] = [];
  const add: Add = (code, severity, text) => void reasons.push({ code, severity, text });
  looked(cell, sorted, rules, add);
  const since = sinceCharge(sorted);
  const drop = fallSince(since);
  falls(drop, rules, add);
  resists(measured.resistance, (series * rules.cellResistance) / cell.capacity, add);
  holds(measured.capacity, cell.capacity, rules, add);

  const last = inOrder.filter((l) => l.volts !== null || l.sign).at(-1) ?? null;
  const reject = reasons.some((x) => x.severity === "reject");
  const tested = drop?.rate || measured.resistance || measured.capacity;
  const unrejected = reasons.length ? "in doubt" : tested ? "sound" : "unknown";
  const word = cell.rejected ? "rejected" : reject ? "reject it" : unrejected;
  const used = sorted.at(-1)?.used === true;
  return { word, reasons, drop, last, due: cell.rejected || reject || used ? null : due(since, drop, rules) };
}

/** V of one cell below which it must not be charged: the chemistry's floor, raised by the house for lithium-ion. */
export function chargeFloor(
  { chemistry }: Pick<TriageCell, "chemistry">,
  rules: Pick<TriageRules, "rejectFloor">,
): number {
  const floor = CHEMISTRY_LIMITS[chemistry].rejectFloor;
  return chemistry === "lithium-ion" ? Math.max(rules.rejectFloor, floor) : floor;
}

/** Why a cell must not be charged any more; null where nothing speaks against it. */
export function rejection(t: Pick<Triage, "word" | "reasons">): string | null {
  if (t.word !== "reject it" && t.word !== "rejected") return null;
  return t.reasons.flatMap((r) => (r.severity === "reject" ? [r.text] : [])).join("; ");
}

/** A charged cell is read a week later; one whose fall still holds its settling, too. */
function due(since: readonly CellLook[], drop: RestDrop | null, rules: TriageRules): Triage["due"] {
  const charged = since[0];
  if (!charged || drop?.settled) return null;
  return {
    at: charged.at + rules.restDays * DAY,
    why: since.length > 1 ? "its fall at rest holds its settling" : "charged and labelled, not read since",
  };
}
