import { expandedUncertainty } from "../quantities";
import type { Measured, Triage, TriageCell, TriageRules } from "./triage";

/** Grades, the best first. */
export const GRADES = ["A", "B", "C"] as const;
export type Grade = (typeof GRADES)[number];

/** What a cell has to reach for a grade: share of its rated capacity at least, shares of the house's limits for resistance and fall at most. */
const BOUNDS: readonly {
  readonly grade: Grade;
  readonly capacity: number;
  readonly resistance: number;
  readonly fall: number;
}[] = [
  { grade: "A", capacity: 0.9, resistance: 0.5, fall: 0.4 },
  { grade: "B", capacity: 0.8, resistance: 0.8, fall: 0.8 },
];

export interface CellGrade {
  /** One grade, or the two that the uncertainty leaves open: `A or B`. */
  readonly best: Grade;
  readonly worst: Grade;
  /** What keeps it from a better one, in words; empty for a clear A. */
  readonly held: readonly ("capacity" | "resistance" | "fall at rest")[];
  /** What was not measured and may lower it. */
  readonly missing: readonly ("resistance" | "fall at rest")[];
}

const ORDER = (g: Grade): number => GRADES.indexOf(g);
/** The grade of one quantity at one end of its interval. */
function gradeAt(of: "capacity" | "resistance" | "fall", share: number): Grade {
  return BOUNDS.find((b) => (of === "capacity" ? share >= b.capacity : share <= b[of]))?.grade ?? "C";
}

/**
 * How good a cell is by its capacity (share of the rating), its resistance and its fall at rest (shares of the house's limits), each
 * with its interval (k = 2): the worst of the three decides. Null without a measured capacity. A pack's limits are those of one cell
 * times their number.
 */
export function gradeOf(
  cell: TriageCell,
  measured: { readonly capacity: Measured | null; readonly resistance: Measured | null },
  drop: Triage["drop"],
  rules: Pick<TriageRules, "cellResistance" | "restDrop">,
): CellGrade | null {
  const { capacity: c, resistance: r } = measured;
  if (!c) return null;
  const ohms = ((cell.series ?? 1) * rules.cellResistance) / cell.capacity;
  const rate = drop?.rate ? { value: drop.rate.value, u: expandedUncertainty(drop.rate) } : null;
  const parts = [
    {
      name: "capacity" as const,
      best: gradeAt("capacity", (c.value + c.u) / cell.capacity),
      worst: gradeAt("capacity", (c.value - c.u) / cell.capacity),
    },
    ...(r
      ? [
          {
            name: "resistance" as const,
            best: gradeAt("resistance", (r.value - r.u) / ohms),
            worst: gradeAt("resistance", (r.value + r.u) / ohms),
          },
        ]
      : []),
    ...(rate
      ? [
          {
            name: "fall at rest" as const,
            best: gradeAt("fall", (rate.value - rate.u) / rules.restDrop),
            worst: gradeAt("fall", (rate.value + rate.u) / rules.restDrop),
          },
        ]
      : []),
  ];
  const lowest = (list: readonly Grade[]): Grade => list.reduce<Grade>((a, b) => (ORDER(b) > ORDER(a) ? b : a), "A");
  const worst = lowest(parts.map((p) => p.worst));
  return {
    best: lowest(parts.map((p) => p.best)),
    worst,
    held: worst === "A" ? [] : parts.filter((p) => p.worst === worst).map((p) => p.name),
    missing: [...(r ? [] : ["resistance" as const]), ...(rate ? [] : ["fall at rest" as const])],
  };
}

/** `A`, or `A or B` where the uncertainty leaves two open. */
export const gradeText = (g: CellGrade): string => (g.best === g.worst ? g.best : `${g.best} or ${g.worst}`);
