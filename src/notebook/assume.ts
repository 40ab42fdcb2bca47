import type { Compute } from "./compute";
import { readByOscilloscope } from "@/core/procedures/catalogue";
import { unstatedAccuracies } from "@/core/procedures/kit/accuracies";
import { change, edit } from "@/storage/door";
import { readingsIn, runDossier } from "./run-dossier";

/** Gives the meters of a run whose accuracy is not stated that of an ordinary handheld one, marked as assumed; a change that can be undone. */
export async function assumeOrdinaryMeters(compute: Compute, runId: string): Promise<void> {
  const d = await runDossier(compute, runId);
  if (!d) return;
  const assumed = unstatedAccuracies(await readingsIn(d), d.run.setup, readByOscilloscope(d.run.procedure));
  if (Object.keys(assumed).length === 0) return;
  await change(`assume ordinary meters for ${d.run.title}`, [
    edit(d.run, { ...d.run, setup: { ...d.run.setup, instruments: { ...d.run.setup.instruments, ...assumed } } }),
  ]);
}
