import { CHARACTERISTICS, characteristic, type BoardFunction, type Characteristic } from "../characteristics";
import { readingText, type Claim } from "../claims";
import type { Finding } from "../procedures";
import { formatQuantity, type Unit } from "../quantities";
import { functionOf, type ClaimVerdict, type EvidenceSample, type VerdictWord } from "../verdicts";

/** Which way a quantity is better; null where neither is, or it depends on what it is for. */
export type Better = "more" | "less" | null;

/** Those whose usual claim does not say it. */
const OTHERS: Readonly<Record<string, Better>> = {
  "boost.collapse-current": "more",
  "boost.lowest-efficiency": "more",
  "boost.start-current": "more",
  "boost.input-current-limit": "more",
  "boost.output-resistance": "less",
  "boost.line-regulation": "less",
  "standby.life": "more",
  "heat.steady-temperature": "less",
  "heat.thermal-resistance": "less",
  "charge.peak-temperature-rise": "less",
  "charge.peak-dissipation": "less",
  "charge.total-time": "less",
  "channels.voltage-spread": "less",
  "channels.early-time": "less",
  "channels.early-charge": "less",
  "path.dip": "less",
  "path.overshoot": "less",
  "protect.residual-current": "less",
  "solar.harvest": "more",
  "cell.capacity": "more",
  "cell.resistance": "less",
  "cell.rest-drop-rate": "less",
};

export function better(c: Pick<Characteristic, "name" | "kind" | "usualLimit">): Better {
  if (c.name in OTHERS) return OTHERS[c.name] ?? null;
  if (c.kind !== "number") return null;
  return c.usualLimit === "at-least" ? "more" : c.usualLimit === "at-most" ? "less" : null;
}

/** What a matrix shows of one board's characteristic. */
export interface MatrixCell {
  /** The value that decides: the worst over samples and conditions where one way is better, else the first. */
  readonly value: number | string | null;
  readonly text: string;
  /** How many values it stands for, and over how many samples. */
  readonly count: number;
  readonly samples: number;
  /** Lowest and highest of them, as text, where they differ. */
  readonly spread?: string;
  readonly runId?: string;
  readonly claims: readonly { readonly id: string; readonly text: string; readonly word: VerdictWord }[];
}

/** One board's column; small, so that a thousand of them are kept and read at once. */
export interface BoardColumn {
  readonly boardId: string;
  readonly title: string;
  readonly functions: readonly BoardFunction[];
  readonly cells: Readonly<Record<string, MatrixCell>>;
}

export interface ColumnInput {
  readonly boardId: string;
  readonly title: string;
  readonly functions: readonly BoardFunction[];
  readonly claims: readonly Claim[];
  readonly verdicts: ReadonlyMap<string, ClaimVerdict>;
  readonly evidence: readonly EvidenceSample[];
}

interface Value {
  readonly finding: Finding;
  readonly runId: string;
  readonly sample: string;
}

/** The newest value of each quantity at each condition of each sample, from finished runs that count. */
function valuesOf(evidence: readonly EvidenceSample[]): Map<string, Value[]> {
  const newest = new Map<string, Value>();
  for (const s of evidence)
    for (const run of [...s.runs].filter((r) => r.finished && !r.setAside).sort((a, b) => a.startUtc.localeCompare(b.startUtc)))
      for (const finding of run.findings) {
        const own = functionOf(finding.characteristic);
        if (finding.value === "not stated" || (own && run.modifiedFunctions.includes(own))) continue;
        newest.set(`${s.id} ${finding.characteristic} ${JSON.stringify(Object.entries(finding.conditions).sort())}`, { finding, runId: run.id, sample: s.id });
      }
  const out = new Map<string, Value[]>();
  for (const v of newest.values()) out.set(v.finding.characteristic, [...(out.get(v.finding.characteristic) ?? []), v]);
  return out;
}

const shown = (f: Finding): string => (typeof f.value === "string" ? f.value : `${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty })}`);

function cellOf(c: Characteristic, values: readonly Value[]): Omit<MatrixCell, "claims"> {
  const numbers = values.filter((v) => typeof v.finding.value === "number");
  const way = better(c);
  const sorted = [...numbers].sort((a, b) => (a.finding.value as number) - (b.finding.value as number));
  const pick = c.kind === "yes/no" ? (values.find((v) => v.finding.value === "no") ?? values[0]) : way === "more" ? sorted[0] : way === "less" ? sorted.at(-1) : values[0];
  const [low, high] = [sorted[0], sorted.at(-1)];
  return {
    value: pick ? pick.finding.value : null,
    text: pick ? shown(pick.finding) : "",
    count: values.length,
    samples: new Set(values.map((v) => v.sample)).size,
    ...(low && high && low !== high && shown(low.finding) !== shown(high.finding) ? { spread: `${shown(low.finding)} to ${shown(high.finding)}` } : {}),
    ...(pick ? { runId: pick.runId } : {}),
  };
}

/** A board's column of the matrix: what was claimed, measured and judged, a cell a characteristic; what neither names is absent. */
export function boardColumn(b: ColumnInput): BoardColumn {
  const values = valuesOf(b.evidence);
  const claims = new Map<string, { id: string; text: string; word: VerdictWord }[]>();
  for (const c of b.claims)
    for (const [k, r] of c.readings.entries()) {
      const word = b.verdicts.get(c.id)?.readings[k]?.word ?? "not measured";
      claims.set(r.characteristic, [...(claims.get(r.characteristic) ?? []), { id: c.id, text: readingText(r).replace(/^[^:]*:\s*/, ""), word }]);
    }
  const cells: Record<string, MatrixCell> = {};
  for (const name of new Set([...values.keys(), ...claims.keys()])) {
    const c = characteristic(name);
    if (c) cells[name] = { ...cellOf(c, values.get(name) ?? []), claims: claims.get(name) ?? [] };
  }
  return { boardId: b.boardId, title: b.title, functions: b.functions, cells };
}

export interface MatrixRow {
  readonly name: string;
  readonly label: string;
  readonly unit: Unit;
  readonly way: Better;
  /** Boards whose value is the best and the worst of those measured; empty where fewer than two were, or all are alike. */
  readonly best: ReadonlySet<string>;
  readonly worst: ReadonlySet<string>;
}

/** The rows that any of the columns has something in, in the order of the dictionary, best and worst found. `family` keeps one function's. */
export function matrixRows(columns: readonly BoardColumn[], family: BoardFunction | null = null): MatrixRow[] {
  // One pass over the columns: with a thousand of them this is done again whenever some come in.
  const seen = new Map<string, { low: number; high: number; count: number }>();
  for (const b of columns)
    for (const name in b.cells) {
      const range = seen.get(name) ?? { low: Infinity, high: -Infinity, count: 0 };
      seen.set(name, range);
      const v = b.cells[name]?.value;
      if (typeof v !== "number") continue;
      range.count++;
      if (v < range.low) range.low = v;
      if (v > range.high) range.high = v;
    }
  const none: ReadonlySet<string> = new Set();
  return CHARACTERISTICS.flatMap((c): MatrixRow[] => {
    const range = seen.get(c.name);
    if (!range || (family && functionOf(c.name) !== family)) return [];
    const way = better(c);
    const at = (v: number): ReadonlySet<string> => new Set(columns.flatMap((b) => (b.cells[c.name]?.value === v ? [b.boardId] : [])));
    const apart = way !== null && range.count > 1 && range.low < range.high;
    return [{ name: c.name, label: c.label, unit: c.unit, way, best: apart ? at(way === "more" ? range.high : range.low) : none, worst: apart ? at(way === "more" ? range.low : range.high) : none }];
  });
}
