/** The simulated benches that there are, one a procedure; the list follows from the catalogue and the files here. */
import { BENCHES } from "./all.generated";
import type { ProcedureBench } from "./contract";

export { BENCHES };
export type { DemoRun, ProcedureBench } from "./contract";

/** A procedure's simulated bench; undefined where nothing simulated can stand in for what it is about. */
export const benchOf = (procedure: string): ProcedureBench | undefined =>
  BENCHES.find((b) => b.procedure === procedure);
