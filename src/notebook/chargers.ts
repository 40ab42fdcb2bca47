import type { Compute } from "./compute";
import type { StationPlan } from "@/core/use/station";
import { boardDossier, type BoardDossier } from "./board-dossier";
import { boards } from "@/storage/queries";

/** What was measured of a board's charger, as far as a station needs it. */
export interface MeasuredCharger {
  readonly boardId: string;
  readonly title: string;
  readonly numbers: Partial<StationPlan>;
}

/** Result → number of a station. */
const NUMBERS = {
  "charge.cc-current": "chargeCurrent",
  "heat.thermal-resistance": "thermalResistance",
  "charge.foldback-onset-temperature": "foldbackTemperature",
  "charge.input-minimum": "minimumInput",
} as const satisfies Readonly<Record<string, keyof StationPlan>>;

/** The newest results of a board's finished runs that were not set aside; bounds and results that depend on a setting are none. */
function numbersOf(d: BoardDossier): Partial<StationPlan> {
  const runs = d.evidence
    .flatMap((s) => s.runs)
    .filter((r) => r.finished && r.setAside === null && !r.modifiedFunctions.includes("charger"))
    .sort(
      (a, b) => Number(b.simulated ?? false) - Number(a.simulated ?? false) || a.startUtc.localeCompare(b.startUtc),
    );
  const out: Partial<Record<keyof StationPlan, number>> = {};
  for (const f of runs.flatMap((r) => r.findings)) {
    const key = (NUMBERS as Readonly<Record<string, keyof StationPlan>>)[f.characteristic];
    if (!key || f.bound || typeof f.value !== "number") continue;
    // On a board that boosts, a soak by its load warmed another part than the charger.
    if (key === "thermalResistance" && d.board.functions.includes("boost")) continue;
    out[key] = f.value;
    if (key === "chargeCurrent" && f.expandedUncertainty !== undefined)
      out.currentTolerance = f.expandedUncertainty / f.value;
  }
  return out;
}

/** The boards of a notebook whose charge current was measured. */
export async function measuredChargers(compute: Compute, notebookId: string): Promise<MeasuredCharger[]> {
  const out: MeasuredCharger[] = [];
  for (const board of (await boards(notebookId)).filter((b) => b.functions.includes("charger"))) {
    const d = await boardDossier(compute, board.id);
    const numbers = d ? numbersOf(d) : {};
    if (numbers.chargeCurrent) out.push({ boardId: board.id, title: board.title, numbers });
  }
  return out.sort((a, b) => a.title.localeCompare(b.title, "en", { numeric: true }));
}
