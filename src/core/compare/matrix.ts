import {
  touchedBy,
  CHARACTERISTICS,
  characteristic,
  type Better,
  type BoardFunction,
  type Characteristic,
} from "../characteristics";
import { readingText, type Claim } from "../claims";
import type { Finding } from "../measurement";
import { formatQuantity, numeric, type Unit } from "../quantities";
import type { BoardColumn, MatrixCell } from "./column";
import { layColumn, type PackedColumn } from "./packed";
import { reallyMeasured, type ClaimVerdict, type EvidenceSample } from "../verdicts";

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
  readonly simulated: boolean;
}

/** The newest value of each quantity at each condition of each sample, from finished runs that count. */
function valuesOf(evidence: readonly EvidenceSample[]): Map<string, Value[]> {
  const newest = new Map<string, Value>();
  const counting = evidence.flatMap((s) => s.runs.filter((r) => r.finished && !r.setAside));
  const real = reallyMeasured(counting);
  for (const s of evidence)
    for (const run of s.runs.filter((r) => counting.includes(r)).sort((a, b) => a.startUtc.localeCompare(b.startUtc)))
      for (const finding of run.findings) {
        if (
          finding.value === "not stated" ||
          touchedBy(finding.characteristic, run.modifiedFunctions) ||
          (run.simulated && real.has(finding.characteristic))
        )
          continue;
        newest.set(`${s.id} ${finding.characteristic} ${JSON.stringify(Object.entries(finding.conditions).sort())}`, {
          finding,
          runId: run.id,
          sample: s.id,
          simulated: run.simulated === true,
        });
      }
  const out = new Map<string, Value[]>();
  for (const v of newest.values()) out.set(v.finding.characteristic, [...(out.get(v.finding.characteristic) ?? []), v]);
  return out;
}

const shown = (f: Finding): string =>
  typeof f.value === "string"
    ? f.value
    : `${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty })}${f.unstated?.length ? " (± not stated)" : f.assumed?.length ? " (± assumed)" : ""}`;

function cellOf(c: Characteristic, values: readonly Value[]): Omit<MatrixCell, "claims"> {
  const numbers = values.filter((v) => typeof v.finding.value === "number");
  const way = c.better;
  const sorted = [...numbers].sort((a, b) => numeric(a.finding.value) - numeric(b.finding.value));
  const pick =
    c.kind === "yes/no"
      ? (values.find((v) => v.finding.value === "no") ?? values[0])
      : way === "more"
        ? sorted[0]
        : way === "less"
          ? sorted.at(-1)
          : values[0];
  const [low, high] = [sorted[0], sorted.at(-1)];
  return {
    value: pick ? pick.finding.value : null,
    text: pick ? shown(pick.finding) : "",
    ...(pick && typeof pick.finding.value === "number" && pick.finding.expandedUncertainty !== undefined
      ? { uncertainty: pick.finding.expandedUncertainty }
      : {}),
    count: values.length,
    samples: new Set(values.map((v) => v.sample)).size,
    ...(low && high && low !== high && shown(low.finding) !== shown(high.finding)
      ? { spread: `${shown(low.finding)} to ${shown(high.finding)}` }
      : {}),
    ...(pick ? { runId: pick.runId } : {}),
    ...(pick?.simulated ? { simulated: true } : {}),
  };
}

/** A board's column of the matrix: what was claimed, measured and judged, a cell a characteristic; what neither names is absent. */
export function boardColumn(b: ColumnInput): BoardColumn {
  const values = valuesOf(b.evidence);
  const claims = new Map<string, MatrixCell["claims"][number][]>();
  for (const c of b.claims)
    for (const [k, r] of c.readings.entries()) {
      const v = b.verdicts.get(c.id)?.readings[k];
      claims.set(r.characteristic, [
        ...(claims.get(r.characteristic) ?? []),
        {
          id: c.id,
          text: readingText(r).replace(/^[^:]*:\s*/, ""),
          word: v?.word ?? "not measured",
          ...(v?.simulated ? { simulated: true } : {}),
          ...(v?.assumed ? { assumed: true } : {}),
          ...(v?.contradictions.length ? { disagree: true } : {}),
        },
      ]);
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
  /** Whether any of the boards was measured in it. */
  readonly measured: boolean;
  /** Boards whose value is the best and the worst of those measured; empty where fewer than two were, or all are alike. */
  readonly best: ReadonlySet<string>;
  readonly worst: ReadonlySet<string>;
}

/** The rows that any of the columns has something in, in the order of the dictionary, best and worst found. `family` keeps one function's. */
export function matrixRows(columns: readonly PackedColumn[], family: BoardFunction | null = null): MatrixRow[] {
  const none: ReadonlySet<string> = new Set();
  const laid = columns.map((b) => ({ boardId: b.boardId, ...layColumn(b) }));
  // With a thousand columns this is done again whenever some come in: numbers only, no cell is read for it.
  return CHARACTERISTICS.flatMap((c, k): MatrixRow[] => {
    if (family && c.of !== family) return [];
    let [low, high, count, there, measured] = [Infinity, -Infinity, 0, false, false];
    for (const b of laid) {
      const state = b.there[k] ?? 0;
      there ||= state > 0;
      measured ||= state > 1;
      const v = b.values[k] ?? NaN;
      if (Number.isNaN(v)) continue;
      count++;
      if (v < low) low = v;
      if (v > high) high = v;
    }
    if (!there) return [];
    const way = c.better;
    const at = (v: number): ReadonlySet<string> => new Set(laid.flatMap((b) => (b.values[k] === v ? [b.boardId] : [])));
    const apart = way !== null && count > 1 && low < high;
    return [
      {
        name: c.name,
        label: c.label,
        unit: c.unit,
        way,
        measured,
        best: apart ? at(way === "more" ? high : low) : none,
        worst: apart ? at(way === "more" ? low : high) : none,
      },
    ];
  });
}
