import type { PointsProcedure } from "../contract";
import { analyseRest } from "./analyse";
import { restCheckFacts } from "./facts";
import { restCheckForm } from "./form";
import { likeness } from "./likeness";

export type { RestPlan } from "./analyse";

/** Rest voltages of charged cells on the day and days later. */
export const restCheck: PointsProcedure = {
  ...restCheckFacts,
  ...restCheckForm,
  likeness,
  analyse: analyseRest,
};
