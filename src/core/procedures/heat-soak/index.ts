import { GuidedWatch } from "../guided";
import type { BenchProcedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseHeat } from "./analyse";
import { heatCautions, heatStopRules, heatWiring } from "./cautions";
import { HeatGuide, HeatSeen } from "./guide";
import { likeness } from "./likeness";
import { CHARGE_HEAT_ROLES, HEAT_FIELDS, HEAT_ROLES, heatRemarks, planHeat, type HeatPlan } from "./plan";

export type { HeatPlan } from "./plan";

/** A part's temperature over time at a steady load, and where it will settle. */
export const heatSoak: BenchProcedure<HeatPlan> = {
  id: "heat-soak",
  version: PROCEDURE_FACTS["heat-soak"].version,
  title: procedureTitle("heat-soak"),
  summary:
    "Part temperature at a steady load: where it settles (predicted from the first minutes), how fast, and the highest ambient.",
  readings: PROCEDURE_FACTS["heat-soak"].readings,
  destructive: false,
  position: 55,
  work: [
    { minutes: 5, needs: ["hands", "supply", "load", "logger"] },
    { minutes: 20, needs: ["supply", "load", "logger"] },
  ],
  calledForBy: ["boost", "charger", "power-path"],
  silences: {
    "heat.steady-temperature": {
      roles: ["partTemperature"],
      otherwise: ["not-in-log", "The log doesn't show enough of the warming."],
    },
    "heat.time-constant": {
      roles: ["partTemperature"],
      otherwise: ["not-in-log", "The log doesn't show enough of the warming."],
    },
    "heat.thermal-resistance": {
      roles: ["partTemperature"],
      otherwise: ["not-in-log", "The power turned into heat is not known."],
    },
    "heat.max-ambient": {
      roles: ["partTemperature"],
      condition: "partLimitTemperature",
      otherwise: ["not-in-log", "The log doesn't show enough of the warming."],
    },
    "heat.lowest-cell-voltage": {
      roles: ["partTemperature", "inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"],
      otherwise: ["not-in-log", "The log doesn't show enough of the warming by a charge."],
    },
  },
  headline: ["heat.steady-temperature", "heat.max-ambient"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "partTemperature", required: true },
      { role: "ambientTemperature", required: false },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
      { role: "outputVoltage", required: false },
      { role: "outputCurrent", required: false },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "partLimitTemperature",
      label: "Highest temperature the part may reach",
      unit: "°C",
      required: false,
      first: 85,
      aboveZero: true,
    },
    {
      condition: "ambientTemperature",
      label: "Ambient, where no column has it",
      unit: "°C",
      required: false,
      aboveZero: false,
    },
    {
      condition: "foldbackTemperature",
      label: "Temperature at which the charger cuts its current back",
      unit: "°C",
      required: false,
      aboveZero: true,
    },
    { condition: "dissipation", label: "Dissipation, if not logged", unit: "W", required: false, aboveZero: true },
    {
      condition: "emissivity",
      label: "Emissivity of the surface, where read by infrared",
      unit: "1",
      required: false,
      aboveZero: true,
    },
  ],
  measures: [
    "heat.steady-temperature",
    "heat.time-constant",
    "heat.thermal-resistance",
    "heat.max-ambient",
    "heat.lowest-cell-voltage",
  ],
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
