import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../kit/guided";
import type { AtBench, Caution, StopRule, TraceProcedure, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { dischargeFacts } from "./facts";
import { dischargeForm } from "./form";
import { analyseDischarge } from "./analyse";
import { DischargeGuide, DischargeSeen } from "./guide";
import { likeness } from "./likeness";
import {
  DISCHARGE_FIELDS,
  DISCHARGE_ROLES,
  dischargeOf,
  dischargeRemarks,
  followDischarge,
  planDischarge,
  type DischargePlan,
} from "./plan";

export type { DischargePlan } from "./plan";
const q = formatQuantity;

const cautions = (): Caution[] => [
  { severity: "danger", text: "Check the cell: never load one that is swollen, dented, leaking or hot." },
  {
    severity: "danger",
    text: "Put the cell on a surface that can't burn, and stay within earshot. Switch the load off at the floor.",
  },
  {
    severity: "care",
    text: "Clip the voltmeter to the cell itself: an ampere through the leads of the load looks like an empty cell.",
  },
  { severity: "care", text: "Charge from a cell that was not full is not its capacity, nor is the charge delivered." },
];

function stopRules(setup: RunSetup<DischargePlan>): StopRule[] {
  const { plan } = setup;
  const series = plan?.series ?? 1;
  const least = Math.max(series * 1.9, (plan?.floor ?? 3) - series * 0.25);
  const time = plan?.timeLimit ?? 24 * 3600;
  return [
    {
      role: "batteryVoltage",
      below: least,
      why: `The cell is below ${q(least, "V")}: it is being ruined.`,
      act: "Remove the load at once.",
    },
    {
      role: "cellTemperature",
      above: plan?.cellLimit ?? 60,
      why: `The cell is above ${q(plan?.cellLimit ?? 60, "°C")}.`,
      act: "Remove the load first, then put the cell where it can't burn anything.",
    },
    {
      role: "time",
      above: time,
      why: `The discharge has taken more than ${formatDuration(time)}.`,
      act: "Remove the load.",
    },
  ];
}

function wiring(setup: RunSetup<DischargePlan>): WiringSketch {
  const { plan } = setup;
  return {
    devices: [
      {
        id: "cell",
        kind: "cell",
        title: "Cell, full and rested",
        lines: plan ? [q(plan.capacity, "Ah"), `now ${q(plan.startVoltage, "V")}`] : [],
        right: ["+", "−"],
      },
      {
        id: "load",
        kind: "load",
        title: "Load",
        lines: plan ? [q(plan.rate, "A"), `off at ${q(plan.floor, "V")}`] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [{ ammeter: "battery current", voltmeter: "battery voltage", clips: "left", note: "clip on at the cell" }],
    notes: [
      "A thermometer on the cell is read as its temperature.",
      "A resistor can be the load: its current falls with the voltage and is integrated as measured.",
    ],
  };
}

/** A full, rested cell taken down to a floor at a stated rate: what it holds, and its resistance. */
export const discharge: AtBench<TraceProcedure<DischargePlan>> = {
  ...dischargeFacts,
  ...dischargeForm,
  plan: planDischarge,
  planFor: ({ conditions }) => ({
    ...(conditions.rate && "at" in conditions.rate ? { rate: conditions.rate.at } : {}),
    ...(conditions.floor && "at" in conditions.floor ? { floor: conditions.floor.at } : {}),
  }),
  fields: DISCHARGE_FIELDS,
  remarks: dischargeRemarks,
  follows: followDischarge,
  withCell: dischargeOf,
  roles: () => DISCHARGE_ROLES,
  wiring,
  cautions,
  stopRules,
  watch: (setup) => {
    const guide = new DischargeGuide(setup);
    return new GuidedWatch(guide, new DischargeSeen(guide));
  },
  guide: (setup) => new DischargeGuide(setup),
  likeness,
  analyse: analyseDischarge,
};
