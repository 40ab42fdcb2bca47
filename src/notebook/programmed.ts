import type { Compute } from "./compute";
import { programmeOfRuns, type MeasuredProgramme, type ProgrammedRun } from "@/core/fit";
import { boardDossier } from "./board-dossier";

/**
 * K of a board's charger from all its charges whose sample had a known programming resistor: finished, not set aside, fairly tested. Charges
 * after another resistor was soldered in count as well: that is how K shows. Real ones alone where there are any.
 */
export async function programmeOf(compute: Compute, boardId: string): Promise<MeasuredProgramme | null> {
  const d = await boardDossier(compute, boardId);
  if (!d) return null;
  const resistors = new Map(
    d.runs.flatMap((r) => (r.pinned.programme ? [[r.id as string, r.pinned.programme] as const] : [])),
  );
  const charges = d.evidence
    .flatMap((s) => s.runs)
    .filter((r) => r.finished && r.setAside === null && resistors.has(r.id));
  const real = charges.filter((r) => !r.simulated);
  return programmeOfRuns(
    (real.length ? real : charges).flatMap((r): ProgrammedRun[] => {
      const resistor = resistors.get(r.id);
      const f = r.findings.find((x) => x.characteristic === "charge.cc-current" && x.unfair.length === 0 && !x.bound);
      return resistor && f && typeof f.value === "number" && f.expandedUncertainty
        ? [{ ...resistor, amps: f.value, u: f.expandedUncertainty / 2 }]
        : [];
    }),
  );
}
