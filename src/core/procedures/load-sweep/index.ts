import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import type { BenchProcedure } from "../shape";
import { analyseSweep } from "./analyse";
import { sweepCautions, sweepStopRules } from "./cautions";
import { checkSweepPoint } from "./check";
import { nextSweepStep } from "./guide";
import { likeness } from "./likeness";
import { SWEEP_CONDITIONS, SWEEP_FIELDS } from "./fields";
import { planSweep, sweepRemarks, sweepWork, wantedKinds, wantedStart, type SweepPlan } from "./plan";
import { record } from "./record";
import { sweepWiring } from "./setup";

export { chooseLoads, type DrawerResistor, type LoadChoice } from "./resistors";
export { loadLadder, supplyNeeds, type SweepPlan } from "./plan";
export { analyseSweep } from "./analyse";
export { efficiencyAt, fitLossModel, lossAt, type LossModel } from "./loss-model";

export const loadSweep: BenchProcedure<SweepPlan> = {
  id: "load-sweep",
  version: PROCEDURE_FACTS["load-sweep"].version,
  title: procedureTitle("load-sweep"),
  summary: "Output voltage, efficiency and the highest load held, at a full, a nominal and a nearly empty battery.",
  readings: PROCEDURE_FACTS["load-sweep"].readings,
  destructive: false,
  position: 50,
  work: [{ minutes: 45, needs: ["hands", "supply", "load"] }],
  workFor: sweepWork,
  calledForBy: ["boost"],
  measures: [
    "boost.no-load-voltage",
    "boost.peak-efficiency",
    "boost.peak-efficiency-current",
    "boost.lowest-efficiency",
    "boost.max-current",
    "boost.collapse-current",
    "boost.load-regulation",
    "boost.output-resistance",
    "boost.line-regulation",
    "boost.start-current",
    "boost.start-voltage",
    "boost.input-current-limit",
  ],
  silences: {
    "boost.no-load-voltage": {
      roles: ["outputVoltage"],
      otherwise: ["not-in-log", "No point was recorded without a load."],
    },
    "boost.peak-efficiency": {
      roles: ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"],
      otherwise: ["not-in-log", "No point under load holds all four readings."],
    },
    "boost.peak-efficiency-current": {
      roles: ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"],
      otherwise: ["not-in-log", "No point under load holds all four readings."],
    },
    "boost.lowest-efficiency": {
      roles: ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "No point in regulation holds all four readings."],
    },
    "boost.max-current": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "No point under load was held."],
    },
    "boost.collapse-current": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "The output did not leave its band."],
    },
    "boost.load-regulation": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "No load was held at that battery voltage besides no load."],
    },
    "boost.output-resistance": {
      roles: ["outputVoltage", "outputCurrent"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "Too few points in regulation."],
    },
    "boost.line-regulation": {
      roles: ["batteryVoltage", "outputVoltage"],
      condition: "nominalOutput",
      otherwise: ["not-in-log", "Fewer than two battery voltages held a common load."],
    },
    "boost.start-current": {
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "No load was started from off."],
    },
    "boost.start-voltage": {
      roles: ["batteryVoltage", "outputVoltage"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "No load was started from several battery voltages."],
    },
    "boost.input-current-limit": {
      roles: ["batteryCurrent"],
      condition: "nominalOutput",
      otherwise: ["did-not-happen", "No collapse shows a limit of the battery current."],
    },
  },
  headline: ["boost.max-current"],
  record,
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
    {
      condition: "supplyCurrentLimit",
      label: "Supply current limit, if known",
      unit: "A",
      required: false,
      aboveZero: true,
    },
    {
      condition: "inputLeadResistance",
      label: "Battery leads, both wires",
      unit: "Ω",
      required: false,
      first: 0,
      aboveZero: false,
    },
    {
      condition: "outputLeadResistance",
      label: "Load leads, both wires",
      unit: "Ω",
      required: false,
      first: 0,
      aboveZero: false,
    },
  ],
  plan: planSweep,
  fields: SWEEP_FIELDS,
  conditionFields: SWEEP_CONDITIONS,
  remarks: sweepRemarks,
  resistors: true,
  usualMeters: true,
  planFor: ({ characteristic, conditions, plan }) =>
    characteristic === "boost.start-current"
      ? {
          starts: true,
          startKinds: plan.drawer ? ["resistance"] : wantedKinds([{ readings: [{ characteristic, conditions }] }]),
        }
      : characteristic === "boost.start-voltage"
        ? {
            startLoad: wantedStart(
              [{ readings: [{ characteristic, conditions }] }],
              [characteristic],
              plan.claimedMaximum,
            ),
          }
        : {},
  wiring: sweepWiring,
  cautions: sweepCautions,
  stopRules: sweepStopRules,
  next: nextSweepStep,
  check: checkSweepPoint,
  likeness,
  analyse: analyseSweep,
};
