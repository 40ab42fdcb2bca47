import { withAccuracies } from "./accuracies";
import { withCircumstances } from "./circumstances";
import { withSilences } from "./silence";
import type { Role, Analysis, Corrections, NotStated, Point, RoleReading, Readings, RunSetup } from "../../measurement";
import type { Procedure, Wanted } from "../contract";

/** The readings with what a meter check found its meters to read too much taken out; the raw ones stay as they are. */
export function withoutOffsets(readings: Readings, offsets: RunSetup["offsets"]): Readings {
  const nonZero = Object.entries(offsets ?? {}).filter(([, v]) => v !== 0) as [Role, number][];
  if (nonZero.length === 0 || readings.kind === "answers") return readings;
  if (readings.kind === "trace") {
    const columns = { ...readings.trace.columns };
    for (const [role, by] of nonZero) {
      const column = columns[role];
      if (column) columns[role] = column.map((v) => v - by);
    }
    return { kind: "trace", trace: { ...readings.trace, columns } };
  }
  const taken = new Map(nonZero);
  const cell = (role: Role, c: RoleReading): RoleReading =>
    c.value === null ? c : { ...c, value: c.value - (taken.get(role) ?? 0) };
  const points: Point[] = readings.points.map((p) => ({
    ...p,
    cells: Object.fromEntries(Object.entries(p.cells).map(([role, c]) => [role, cell(role as Role, c as RoleReading)])),
  }));
  return { kind: "points", points };
}

/**
 * What a procedure finds in readings, and why it does not find the rest; the offsets that the run's bench is known to have taken out
 * first. The one door to every analysis. Where only findings are `wanted`, charts and notes may be missing.
 */
export function analyseReadings<P>(
  p: Procedure<P>,
  readings: Readings,
  setup: RunSetup<P>,
  corrections: Corrections,
  wanted: Wanted = "all",
): Analysis & { readonly notStated: readonly NotStated[] } {
  if (readings.kind !== p.readings) throw new Error(`internal: ${p.id} reads ${p.readings}, not ${readings.kind}`);
  const own = p.measures.includes("meter.offset") ? readings : withoutOffsets(readings, setup.offsets);
  const stated: RunSetup<P> = corrections.conditions
    ? { ...setup, conditions: { ...setup.conditions, ...corrections.conditions } }
    : setup;
  const analysis = withSilences(p.measures, p.silences, p.analyse(own, stated, corrections, wanted), own, stated);
  return withCircumstances(own, stated, withAccuracies(p, own, stated, corrections, analysis));
}
