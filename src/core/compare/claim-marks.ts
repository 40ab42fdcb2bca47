import { CHARACTERISTICS, characteristic, formatConditions } from "../characteristics";
import { LIMIT_LABELS, readingText, type Claim, type Limit } from "../claims";
import { formatQuantity } from "../quantities";
import { anywhere, type ClaimVerdict, type JudgedFinding, type ReadingVerdict, type VerdictWord } from "../verdicts";

/**
 * What one scale holds, so that claims of different size stand side by side: `share` is measured ÷ limit, `tolerance` is (measured − nominal)
 * ÷ tolerance, `span` the place between from and to, `kelvin` the temperature less its limit, `word` has no scale.
 */
export type ClaimAxis = "share" | "tolerance" | "span" | "kelvin" | "word";

/** One claim of one board on the scale of its kind; the numbers are NaN where nothing was measured or there is no scale. */
export interface ClaimMark {
  readonly claimId: string;
  readonly characteristic: string;
  readonly kind: Limit["kind"];
  readonly axis: ClaimAxis;
  /** The measured value, and its interval (infinite on the open side of a bound). */
  readonly at: number;
  readonly low: number;
  readonly high: number;
  /** The claimed limits in the quantity's unit; infinite where it has none on that side, NaN for words. */
  readonly limits: readonly [low: number, high: number];
  readonly word: VerdictWord;
  /** What was measured and what was claimed, in words. */
  readonly value: string;
  readonly claim: string;
  readonly simulated?: boolean;
  readonly assumed?: boolean;
  readonly disagree?: boolean;
}

/** Where on a claim's scale the claimed side lies: values from `from` to `to` meet it. */
export function goodSide(axis: ClaimAxis, kind: Limit["kind"]): { readonly from: number; readonly to: number } {
  if (axis === "tolerance") return { from: -1, to: 1 };
  if (axis === "span") return { from: 0, to: 1 };
  const edge = axis === "kelvin" ? 0 : 1;
  return kind === "at-least" ? { from: edge, to: Infinity } : { from: -Infinity, to: edge };
}

/** The scale that a claim is put on, and how a value in the quantity's unit is put there. */
function scaleOf(
  kind: Limit["kind"],
  low: number,
  high: number,
  unit: string,
): { readonly axis: ClaimAxis; readonly place: (v: number) => number } {
  const none = { axis: "word" as const, place: () => NaN };
  if (kind === "nominal")
    return high > low ? { axis: "tolerance", place: (v) => (v - (low + high) / 2) / ((high - low) / 2) } : none;
  if (kind === "from-to") return high > low ? { axis: "span", place: (v) => (v - low) / (high - low) } : none;
  if (kind !== "at-least" && kind !== "at-most") return none;
  const limit = kind === "at-least" ? low : high;
  if (unit === "°C" || unit === "K") return { axis: "kelvin", place: (v) => v - limit };
  return limit > 0 ? { axis: "share", place: (v) => v / limit } : none;
}

/** Of the findings that a reading was judged by, the one that decides: of those with the reading's word the farthest on the bad side, or, of what is claimed where it is best, the farthest on the good one. */
function decisive(v: ReadingVerdict, kind: Limit["kind"]): JudgedFinding | undefined {
  const own = v.judged.filter((j) => j.word === v.word);
  const middle = (j: JudgedFinding) => ((j.limits?.low ?? 0) + (j.limits?.high ?? 0)) / 2;
  const bad = (j: JudgedFinding): number =>
    typeof j.finding.value !== "number"
      ? 0
      : kind === "at-least"
        ? -j.finding.value
        : kind === "at-most"
          ? j.finding.value
          : Math.abs(j.finding.value - middle(j));
  const sign = anywhere(v.characteristic) ? -1 : 1;
  return own.reduce<JudgedFinding | undefined>(
    (decides, j) => (decides === undefined || sign * bad(j) > sign * bad(decides) ? j : decides),
    undefined,
  );
}

/** The marks of a board's claims, one for each reading of each. */
export function claimMarks(claims: readonly Claim[], verdicts: ReadonlyMap<string, ClaimVerdict>): ClaimMark[] {
  return claims.flatMap((c) =>
    c.readings.flatMap((r, k): ClaimMark[] => {
      const entry = characteristic(r.characteristic);
      const v = verdicts.get(c.id)?.readings[k];
      if (!entry) return [];
      const j = v && decisive(v, r.limit.kind);
      const [low, high] = [j?.limits?.low ?? NaN, j?.limits?.high ?? NaN];
      const { axis, place } = scaleOf(r.limit.kind, low, high, entry.unit);
      const value = typeof j?.finding.value === "number" ? j.finding.value : NaN;
      const end = (x: number | undefined): number =>
        x === undefined ? place(value) : Number.isFinite(x) ? place(x) : x;
      return [
        {
          claimId: c.id,
          characteristic: r.characteristic,
          kind: r.limit.kind,
          axis: j
            ? axis
            : r.limit.kind === "yes-no" || r.limit.kind === "one-of"
              ? "word"
              : axisOf(r.limit, entry.unit),
          at: place(value),
          low: end(j?.interval?.low),
          high: end(j?.interval?.high),
          limits: [low, high],
          word: v?.word ?? "not measured",
          value: !j
            ? ""
            : typeof j.finding.value === "string"
              ? j.finding.value
              : [
                  `${j.finding.bound === "at-least" ? "at least " : j.finding.bound === "at-most" ? "at most " : ""}${formatQuantity(j.finding.value, j.finding.unit, { uncertainty: j.finding.expandedUncertainty, withUncertainty: true })}`,
                  formatConditions(j.finding.conditions),
                ]
                  .filter(Boolean)
                  .join(" "),
          claim: readingText(r).replace(/^[^:]*:\s*/, ""),
          ...(v?.simulated ? { simulated: true } : {}),
          ...(v?.assumed ? { assumed: true } : {}),
          ...(v?.contradictions.length ? { disagree: true } : {}),
        },
      ];
    }),
  );
}

/** The scale of a claim that nothing was measured for. */
const axisOf = (limit: Limit, unit: string): ClaimAxis =>
  limit.kind === "nominal"
    ? "tolerance"
    : limit.kind === "from-to"
      ? "span"
      : unit === "°C" || unit === "K"
        ? "kelvin"
        : "share";

/** A mark with the board it is of. */
export interface BoardMark extends ClaimMark {
  readonly boardId: string;
}

/** All claims of one kind on one quantity, on one scale. */
export interface ClaimRow {
  readonly key: string;
  readonly label: string;
  /** `at least`, `nominal ± tolerance` … */
  readonly kindLabel: string;
  readonly kind: Limit["kind"];
  readonly axis: ClaimAxis;
  readonly marks: readonly BoardMark[];
}

const ORDER: ReadonlyMap<string, number> = new Map(CHARACTERISTICS.map((c, k) => [c.name, k]));

/** The rows of the claims view in the order of the dictionary: a row a quantity and kind of limit, a mark a board's claim. */
export function claimRows(
  boards: readonly { readonly boardId: string; readonly marks: readonly ClaimMark[] }[],
  keep: (characteristic: string) => boolean = () => true,
): ClaimRow[] {
  const rows = new Map<string, BoardMark[]>();
  for (const { boardId, marks } of boards)
    for (const m of marks) {
      if (!keep(m.characteristic)) continue;
      const key = `${m.characteristic} ${m.axis} ${m.axis === "share" || m.axis === "kelvin" ? m.kind : ""}`;
      const row = rows.get(key);
      if (row) row.push({ ...m, boardId });
      else rows.set(key, [{ ...m, boardId }]);
    }
  return [...rows]
    .map(([key, marks]) => {
      const first = marks[0] as BoardMark;
      return {
        key,
        label: characteristic(first.characteristic)?.label ?? first.characteristic,
        kindLabel: LIMIT_LABELS[first.kind],
        kind: first.kind,
        axis: first.axis,
        marks,
      };
    })
    .sort(
      (a, b) =>
        (ORDER.get((a.marks[0] as BoardMark).characteristic) ?? 0) -
          (ORDER.get((b.marks[0] as BoardMark).characteristic) ?? 0) || a.key.localeCompare(b.key),
    );
}
