import { GuidedWatch } from "../kit/guided";
import type { AtBench, TraceProcedure } from "../contract";
import { powerPathFacts } from "./facts";
import { powerPathForm } from "./form";
import { analysePath } from "./analyse";
import { pathCautions, pathStopRules, pathWiring } from "./cautions";
import { PathGuide, PathSeen } from "./guide";
import { likeness } from "./likeness";
import { followPath, PATH_FIELDS, pathRemarks, pathRoles, planPath, type PathPlan } from "./plan";

export type { PathPlan } from "./plan";

/** The output while the input comes and goes, and the charging while the output carries a load. */
export const powerPath: AtBench<TraceProcedure<PathPlan>> = {
  ...powerPathFacts,
  ...powerPathForm,
  plan: planPath,
  planFor: ({ plan, characteristic, unfair, supplyMaximum }) => ({
    part: ["path.charge-current", "path.input-current", "path.finishes-under-load"].includes(characteristic)
      ? "charging"
      : "handover",
    ...(characteristic === "path.finishes-under-load" ? { toTheEnd: true } : {}),
    ...(unfair.includes("supply-limit") ? { inputLimit: Math.max(plan.inputLimit, supplyMaximum) } : {}),
    // What the cable takes at the limit is put back at the supply.
    ...(unfair.includes("input-sagged")
      ? {
          inputVolts: plan.inputVolts + plan.inputCable * plan.inputLimit,
          inputLimit: Math.max(plan.inputLimit, supplyMaximum),
        }
      : {}),
  }),
  fields: PATH_FIELDS,
  remarks: pathRemarks,
  follows: followPath,
  roles: pathRoles,
  wiring: pathWiring,
  cautions: pathCautions,
  stopRules: pathStopRules,
  watch: (setup) => {
    const guide = new PathGuide(setup);
    if (!setup.plan) throw new Error("internal: a power path is led by its plan");
    return new GuidedWatch(guide, new PathSeen(guide, setup.plan));
  },
  guide: (setup) => new PathGuide(setup),
  likeness,
  analyse: analysePath,
};
