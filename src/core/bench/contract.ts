import type { Accuracy } from "../instruments";
import type { Role, RunSetup } from "../measurement";
import type { BenchSimulation } from "../simulator";

/** A run of the demo that a guide drives on the simulated bench; what departs from the plan that claims and rules suggest. */
export interface DemoRun {
  /** Title of the demo's board, and the place of this run among its guided ones. */
  readonly board: string;
  readonly place: number;
  readonly title: string;
  readonly sample: number;
  readonly specimen: string;
  readonly seed: number;
  readonly plan?: Readonly<Record<string, unknown>>;
  /** A. */
  readonly supplyLimit?: number;
  /** Name of the demo's cell that it is made with. */
  readonly cell?: string;
}

/** The simulated bench of one procedure. */
export interface ProcedureBench {
  readonly procedure: string;
  /** What can stand on it, by id, the sound one first. */
  readonly specimens: Readonly<Record<string, { readonly title: string }>>;
  /** What such a thing is called. */
  readonly thing: "charger" | "module";
  /** A board keeps which of them stands in for it. */
  readonly keptByBoard?: true;
  /** What its meters hold, where they are not those of the other benches. */
  readonly meters?: Readonly<Partial<Record<Role, Accuracy>>>;
  /** What a guide drives, new; the sound one where the id is unknown. Absent where no guide does. */
  simulate?(id: string, setup: RunSetup, seed: number): BenchSimulation;
  readonly demo?: readonly DemoRun[];
}
