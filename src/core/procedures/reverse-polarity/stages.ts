import type { Corrections, Point } from "../../measurement";

/** What a point was taken for. */
export interface Stages {
  readonly before: { readonly noLoad: Point | null; readonly load: Point | null };
  readonly reversed: readonly Point[];
  readonly after: { readonly noLoad: Point | null; readonly load: Point | null };
}

const read = (
  p: Point,
  role: "batteryVoltage" | "batteryCurrent" | "outputVoltage" | "outputCurrent",
): number | null => {
  const c = p.cells[role];
  return c?.status === "ok" ? c.value : null;
};
export { read as readingOfPoint };

/** Whether the leads were swapped: as it was set, or as the battery volts say (a table from elsewhere). */
export const isReversed = (p: Point): boolean =>
  p.settings.reversed !== undefined || (read(p, "batteryVoltage") ?? 0) < -0.02;

const loadOf = (p: Point): number => p.settings.load?.value ?? read(p, "outputCurrent") ?? 0;
/** A under which an output counts as unloaded. */
const UNLOADED = 0.003;

/** Sorts a run's points: what stands before the first reversal, the reversals, and what stands after the last. The last of a kind counts. */
export function stagesOf(points: readonly Point[], corrections: Pick<Corrections, "leftOut">): Stages {
  const counted = points.filter((p) => !corrections.leftOut.has(p.id));
  const first = counted.findIndex(isReversed);
  const lastReversed = counted.reduce((at, p, k) => (isReversed(p) ? k : at), -1);
  const pick = (list: readonly Point[], unloaded: boolean) =>
    list.filter((p) => !isReversed(p) && loadOf(p) <= UNLOADED === unloaded).at(-1) ?? null;
  const before = first < 0 ? counted : counted.slice(0, first);
  const after = first < 0 ? [] : counted.slice(lastReversed + 1);
  return {
    before: { noLoad: pick(before, true), load: pick(before, false) },
    reversed: counted.filter(isReversed),
    after: { noLoad: pick(after, true), load: pick(after, false) },
  };
}
