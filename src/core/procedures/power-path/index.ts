import { GuidedWatch } from "../guided";
import type { BenchProcedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analysePath } from "./analyse";
import { pathCautions, pathStopRules, pathWiring } from "./cautions";
import { PathGuide, PathSeen } from "./guide";
import { likeness } from "./likeness";
import { followPath, PATH_FIELDS, pathRemarks, pathRoles, planPath, type PathPlan } from "./plan";

export type { PathPlan } from "./plan";

/** The output while the input comes and goes, and the charging while the output carries a load. */
export const powerPath: BenchProcedure<PathPlan> = {
  id: "power-path",
  version: PROCEDURE_FACTS["power-path"].version,
  title: procedureTitle("power-path"),
  summary:
    "Output while the input is plugged and unplugged under load: dip, overshoot, time out of band. Charging while a load runs: the three currents, and whether the charge ends.",
  readings: PROCEDURE_FACTS["power-path"].readings,
  destructive: false,
  position: 76,
  work: [{ minutes: 20, needs: ["hands", "supply", "load", "logger"] }],
  calledForBy: ["power-path"],
  silences: {
    "path.output-voltage": { roles: ["outputVoltage"], otherwise: ["not-in-log", "The log holds no settled output."] },
    "path.dip": {
      roles: ["outputVoltage"],
      otherwise: ["did-not-happen", "The input was neither plugged in nor pulled under load."],
    },
    "path.overshoot": {
      roles: ["outputVoltage"],
      otherwise: ["did-not-happen", "The input was neither plugged in nor pulled under load."],
    },
    "path.handover-time": {
      roles: ["outputVoltage"],
      otherwise: ["did-not-happen", "The input was neither plugged in nor pulled under load."],
    },
    "path.charge-current": {
      roles: ["cellCurrent"],
      otherwise: ["not-in-log", "The log holds no stretch of charging at a steady load."],
    },
    "path.input-current": {
      roles: ["inputCurrent"],
      otherwise: ["not-in-log", "The log holds no stretch of charging at a steady load."],
    },
    "path.finishes-under-load": {
      roles: ["cellCurrent"],
      otherwise: ["not-in-log", "The log does not show whether charging ends while the load runs."],
    },
  },
  headline: ["path.handover-time", "path.dip", "path.finishes-under-load"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "outputVoltage", required: true },
      { role: "outputCurrent", required: false },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
      { role: "outputLow", required: false },
      { role: "outputHigh", required: false },
      { role: "outsideTime", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
  ],
  measures: [
    "path.output-voltage",
    "path.dip",
    "path.overshoot",
    "path.handover-time",
    "path.charge-current",
    "path.input-current",
    "path.finishes-under-load",
  ],
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
  marks: [
    { key: "p", kind: "plugged", what: "input plugged in" },
    { key: "w", kind: "unplugged", what: "input pulled" },
    { key: "l", kind: "done-light", what: "done light" },
  ],
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
