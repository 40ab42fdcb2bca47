import { formatDuration, formatQuantity } from "../../quantities";
import type { Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import type { StandbyPlan } from "./plan";

const q = formatQuantity;

export function standbyCautions(setup: RunSetup<StandbyPlan>): Caution[] {
  return [
    {
      severity: "danger",
      text: "Check the polarity at B+ and B− with a meter before the supply touches the board: reversed polarity can destroy it at once.",
    },
    {
      severity: "danger",
      text: "Start the board with the ammeter bypassed: on a microamp range the starting current blows its fuse, or its burden stops the board from starting.",
    },
    {
      severity: "care",
      text: "Disconnect everything that feeds the board: a voltmeter on the output draws half a microamp, a forgotten charger feeds it.",
    },
    ...(setup.plan?.states.includes("cut-off")
      ? [
          {
            severity: "care" as const,
            text: "After the cut-off keep the battery below the release voltage, or the module wakes up.",
          },
        ]
      : []),
  ];
}

export function standbyStopRules(setup: RunSetup<StandbyPlan>): StopRule[] {
  const time = setup.plan?.timeLimit ?? 4 * 3600;
  return [
    {
      role: "batteryCurrent",
      above: 0.4,
      why: `The battery current is above ${q(0.4, "A")}: that is not standby.`,
      act: "Bypass the ammeter first, then find the load that is still on.",
    },
    {
      role: "time",
      above: time,
      why: `It has taken more than ${formatDuration(time)}.`,
      act: "Switch the supply off.",
    },
  ];
}

export function standbyWiring(setup: RunSetup<StandbyPlan>): WiringSketch {
  const { plan } = setup;
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as the battery",
        lines: plan ? [q(plan.battery, "V")] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: ["nothing on its output"],
        left: ["B+", "B−"],
        right: ["OUT+", "OUT−"],
      },
    ],
    gaps: [
      {
        ammeter: "battery current, µA range",
        voltmeter: "battery voltage",
        clips: "left",
        note: plan && plan.shunt > 0 ? `burden ${q(plan.shunt, "Ω")}; bypass to start` : "bypass to start",
      },
    ],
    notes: [
      "The voltmeter sits on the supply's side of the ammeter: behind it, its own current would be measured too.",
      "Let the logger average over each interval, or sample faster than the wake pulses are long.",
    ],
  };
}
