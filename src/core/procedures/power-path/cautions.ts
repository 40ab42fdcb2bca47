import { formatDuration, formatQuantity } from "../../quantities";
import type { Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import type { PathPlan } from "./plan";

const q = formatQuantity;

export function pathCautions(): Caution[] {
  return [
    {
      severity: "danger",
      text: "Check the polarity at B+ and B− with a meter before the cell touches the board: reversed polarity can destroy it at once.",
    },
    {
      severity: "danger",
      text: "A cell is charged here: on a surface that can't burn, away from anything that can, within earshot until the input is out.",
    },
    {
      severity: "danger",
      text: "Put a resistor or an electronic load on the output, not the device that it is meant for: an overshoot could kill that.",
    },
    {
      severity: "care",
      text: "Input minus and output minus need not be one wire on the board: an earthed scope on both joins them.",
    },
    {
      severity: "care",
      text: "A handover lasts milliseconds and a multimeter misses it. Use a scope triggered on the output, or a logger with 1,000 samples per second.",
    },
  ];
}

export function pathStopRules(setup: RunSetup<PathPlan>): StopRule[] {
  const { plan, conditions } = setup;
  const part = conditions.partLimitTemperature ?? 85;
  const most = plan?.loadMaximum ?? (conditions.nominalOutput ? 1.2 * conditions.nominalOutput : null);
  const time = plan?.timeLimit ?? 12 * 3600;
  return [
    {
      role: "partTemperature",
      above: part,
      why: `The part is above ${q(part, "°C")}.`,
      act: "Unplug the input first, then the load.",
    },
    {
      role: "cellVoltage",
      above: 4.3,
      why: "The cell is above 4.3 V: it is overcharged.",
      act: "Unplug the input first, then disconnect the cell.",
    },
    ...(plan?.part === "handover" && most !== null
      ? [
          {
            role: "outputVoltage" as const,
            above: 1.25 * most,
            why: `The output is above ${q(1.25 * most, "V", { digits: 3 })}, far above the load's limit.`,
            act: "Remove the load first, then unplug the input.",
          },
        ]
      : []),
    {
      role: "time",
      above: time,
      why: `It has taken more than ${formatDuration(time)}.`,
      act: "Unplug the input first, then feel the cell.",
    },
  ];
}

export function pathWiring(setup: RunSetup<PathPlan>): WiringSketch {
  const { plan } = setup;
  const charging = plan?.part === "charging";
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Input supply",
        lines: plan ? [q(plan.inputVolts, "V"), `limit ${q(plan.inputLimit, "A")}`] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: ["its cell at B+ and B−", ...(plan ? [q(plan.capacity, "Ah")] : [])],
        left: ["IN+", "IN−"],
        right: ["OUT+", "OUT−"],
      },
      {
        id: "load",
        kind: "load",
        title: "Load",
        lines: plan ? [charging ? `off, half, ${q(plan.load, "A")}` : q(plan.load, "A")] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      {
        ammeter: charging ? "input current" : null,
        voltmeter: "input voltage",
        clips: "right",
        note: "clip on at IN+ and IN−",
      },
      {
        ammeter: "load current",
        voltmeter: charging ? "output voltage" : "scope on the output",
        clips: "left",
        note: "clip on at OUT+ and OUT−",
      },
    ],
    notes: [
      charging
        ? "A third ammeter sits in the cell's plus wire: three currents, three meters, or input and cell current can't be separated."
        : "Trigger the scope on the output falling, 10 ms a division.",
      "Unplug input itself, not the supply's switch: a supply's output falls slowly.",
    ],
  };
}
