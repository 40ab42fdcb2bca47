import { buildDemo } from "@/core/demo";
import { loadProcedure } from "@/core/procedures/load";
import { judgeClaim } from "@/core/verdicts";
import type { Tasks } from "./protocol";

// One module for what needs the procedures, so that a worker loads them once.

export async function findings({ run, readings, corrections }: Tasks["findings"]["ask"]): Promise<Tasks["findings"]["give"]> {
  return (await loadProcedure(run.procedure))?.analyse(readings, run.setup, corrections).findings ?? [];
}

export function verdicts({ claims, evidence, rules }: Tasks["verdicts"]["ask"]): Tasks["verdicts"]["give"] {
  return claims.map((c) => judgeClaim(c, evidence, rules));
}

export function demo({ now, zone }: Tasks["demo"]["ask"]): Tasks["demo"]["give"] {
  return buildDemo({ now, zone, newId: () => crypto.randomUUID() });
}
