import { GuidedWatch } from "../kit/guided";
import type { AtBench, TraceProcedure } from "../contract";
import { heatSoakFacts } from "./facts";
import { heatSoakForm } from "./form";
import { analyseHeat } from "./analyse";
import { heatCautions, heatStopRules, heatWiring } from "./cautions";
import { HeatGuide, HeatSeen } from "./guide";
import { likeness } from "./likeness";
import { CHARGE_HEAT_ROLES, HEAT_FIELDS, HEAT_ROLES, heatRemarks, planHeat, type HeatPlan } from "./plan";

export type { HeatPlan } from "./plan";

/** A part's temperature over time at a steady load, and where it will settle. */
export const heatSoak: AtBench<TraceProcedure<HeatPlan>> = {
  ...heatSoakFacts,
  ...heatSoakForm,
  plan: planHeat,
  planFor: ({ unfair, characteristic }) => ({
    ...(unfair.includes("infrared-shiny") ? { thermometer: "probe" as const } : {}),
    ...(characteristic === "heat.lowest-cell-voltage" ? { by: "charge" as const } : {}),
  }),
  fields: HEAT_FIELDS,
  moreConditions: [
    { key: "ambientTemperature", label: "Ambient, if not measured", unit: "°C", low: -40 },
    {
      key: "foldbackTemperature",
      label: "Charger cuts its current back at",
      unit: "°C",
      low: 30,
      optional: true,
      reads: "cellCurrent",
    },
  ],
  remarks: heatRemarks,
  roles: (setup) => (setup.plan?.by === "charge" ? CHARGE_HEAT_ROLES : HEAT_ROLES),
  wiring: heatWiring,
  cautions: heatCautions,
  stopRules: heatStopRules,
  watch: (setup) => {
    const guide = new HeatGuide(setup);
    return new GuidedWatch(guide, new HeatSeen(guide, setup));
  },
  guide: (setup) => new HeatGuide(setup),
  likeness,
  analyse: analyseHeat,
};
