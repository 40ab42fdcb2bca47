import { benchOf } from "../bench";
import type { Guide, RunSetup } from "../measurement";
import type { AtBench, TraceProcedure } from "../procedures";
import type { BenchSimulation } from "../simulator";
import type { LiveModuleOptions } from "./live-module";

/** What stands on the simulated bench of a procedure that a guide drives, new; the sound one of its kind where the id is unknown. */
export function simulate(procedure: string, id: string, setup: RunSetup, seed: number): BenchSimulation {
  const bench = benchOf(procedure);
  if (!bench?.simulate) throw new Error(`internal: no guide drives a bench of ${procedure}`);
  return bench.simulate(id, setup, seed);
}

/** What a log needs that a guide drives on the simulated bench; `simulation` stands in for the invented one of that id. */
export function liveOptions<P>(
  p: AtBench<TraceProcedure<P>>,
  id: string,
  setup: RunSetup<P>,
  seed: number,
  simulation?: () => BenchSimulation,
): LiveModuleOptions {
  const { guide } = p;
  if (!guide) throw new Error(`internal: nothing leads a ${p.id}`);
  const plain = setup as RunSetup;
  return {
    simulation: simulation ?? (() => simulate(p.id, id, plain, seed)),
    guide: (): Guide => guide(setup),
    setup: plain,
    roles: p.roles?.(setup) ?? [],
    every: (setup.plan as { readonly every?: number } | undefined)?.every ?? 1,
    seed,
  };
}
