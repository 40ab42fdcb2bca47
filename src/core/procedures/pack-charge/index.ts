import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../kit/guided";
import type { AtBench, Caution, StopRule, TraceProcedure, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { packChargeFacts } from "./facts";
import { packChargeForm } from "./form";
import { analysePack } from "./analyse";
import { PackGuide, PackSeen } from "./guide";
import { likeness } from "./likeness";
import { followPack, PACK_FIELDS, packOf, packRemarks, packRoles, planPack, type PackPlan } from "./plan";

export type { PackPlan } from "./plan";
const q = formatQuantity;

const cautions = (): Caution[] => [
  { severity: "danger", text: "Join only cells within 50 mV of each other, and check each polarity." },
  {
    severity: "danger",
    text: "Charge on a surface that can't burn, away from anything that can, and stay within earshot until it is done.",
  },
  {
    severity: "danger",
    text: "Meters on cells are at different potentials: none may be earthed, or its lead shorts the cells below.",
  },
  { severity: "care", text: "Connect the balance leads from minus upwards, and disconnect them in reverse order." },
  { severity: "care", text: "The cell maker's data sheet decides, not the board." },
];

function stopRules(setup: RunSetup<PackPlan>): StopRule[] {
  const { plan } = setup;
  const n = plan?.cells ?? 4;
  const most = Math.max(4.3, (plan?.cut ?? 4.25) + 0.08);
  const least = Math.max(1.8, Math.min(plan?.lowCut ?? 2.8, plan?.cellLeast ?? 2.5) - 0.2);
  const time = plan?.timeLimit ?? 12 * 3600;
  return [
    ...Array.from({ length: n }, (_, k) => ({
      role: `cell${k + 1}Voltage` as const,
      above: most,
      why: `Cell ${k + 1} is above ${q(most, "V", { digits: 3 })} and the board has not cut: it is overcharged.`,
      act: "Unplug the charger first, then disconnect the pack.",
    })),
    ...Array.from({ length: n }, (_, k) => ({
      role: `cell${k + 1}Voltage` as const,
      below: least,
      why: `Cell ${k + 1} is below ${q(least, "V", { digits: 3 })} and the board has not cut: it is being ruined.`,
      act: "Remove the load first.",
    })),
    {
      role: "time",
      above: time,
      why: `It has taken more than ${formatDuration(time)}.`,
      act: "Unplug the charger and remove the load, then feel the cells.",
    },
  ];
}

function wiring(setup: RunSetup<PackPlan>): WiringSketch {
  const { plan } = setup;
  return {
    devices: [
      {
        id: "charger",
        kind: "supply",
        title: "Charger, then load",
        lines: plan
          ? [
              `${q(plan.chargerVolts, "V", { digits: 4 })}, ${q(plan.current, "A")}`,
              ...(plan.discharge ? [`then ${q(plan.load, "A")} out`] : []),
            ]
          : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Board",
        lines: ["protection, balancer"],
        left: ["P+", "P−"],
        right: ["B+", "B−"],
      },
      {
        id: "cells",
        kind: "cell",
        title: "Cells in series",
        lines: plan ? [`${plan.cells} of them`] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: null, voltmeter: null, clips: "right", note: "" },
      { ammeter: "cell current", voltmeter: "each cell's voltage", clips: "right", note: "clip on at each cell" },
    ],
    notes: [
      "The ammeter sits between board and cells and counts both ways: into the pack is plus.",
      "Each cell voltage is measured at its own terminals, at the ends of the balance leads.",
    ],
  };
}

/** Cells in series behind one protection and balancing board, each cell logged: up to the cut, the release, down to the low cut. */
export const packCharge: AtBench<TraceProcedure<PackPlan>> = {
  ...packChargeFacts,
  ...packChargeForm,
  plan: planPack,
  planFor: ({ characteristic }) =>
    characteristic === "pack.low-cutoff-cell-voltage" || characteristic === "behaviour.response"
      ? { discharge: true }
      : {},
  fields: PACK_FIELDS,
  remarks: packRemarks,
  follows: followPack,
  withCell: packOf,
  roles: packRoles,
  wiring,
  cautions,
  stopRules,
  watch: (setup) => {
    const guide = new PackGuide(setup);
    return new GuidedWatch(guide, new PackSeen(guide));
  },
  guide: (setup) => new PackGuide(setup),
  likeness,
  analyse: analysePack,
};
