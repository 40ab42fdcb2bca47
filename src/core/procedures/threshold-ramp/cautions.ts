import { formatDuration, formatQuantity } from "../../quantities";
import type { Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import type { RampPlan } from "./plan";

const q = formatQuantity;

export function rampCautions(setup: RunSetup<RampPlan>): Caution[] {
  const charge = setup.plan?.way === "charge";
  return [
    {
      severity: "danger",
      text: "No cell in this test: use a current-limited supply as the battery. Set its voltage and limit before the module is connected.",
    },
    {
      severity: "danger",
      text: "Check the polarity at B+ and B− with a meter before anything is connected: reversed polarity can destroy the board at once.",
    },
    ...(charge
      ? [
          {
            severity: "danger" as const,
            text: "The source in place of the cell must carry a preload that draws more than the charging current: a supply can't sink current, and its voltage would rise.",
          },
        ]
      : []),
    { severity: "danger", text: "Open any jumper that bypasses the protection." },
    {
      severity: "care",
      text: "If the protection is in the minus wire, B− and OUT− differ: an earthed logger or scope on both joins and bypasses it.",
    },
    {
      severity: "care",
      text: "Put the ammeter in its ampere jack and range for the ramp. Microamps after the cut-off need a finer range: change it only with the ammeter bypassed.",
    },
  ];
}

export function rampStopRules(setup: RunSetup<RampPlan>): StopRule[] {
  const { plan, conditions } = setup;
  const part = plan?.partLimit ?? conditions.partLimitTemperature ?? 85;
  const nominal = conditions.nominalOutput;
  const time = plan?.timeLimit ?? 2 * 3600;
  return [
    {
      role: "partTemperature",
      above: part,
      why: `The part is above ${q(part, "°C")}.`,
      act: "Remove the load first, then the supply.",
    },
    ...(plan?.way === "charge"
      ? [
          {
            role: "cellVoltage" as const,
            above: Math.max(4.6, plan.farthest + 0.1),
            why: `The source is above ${q(Math.max(4.6, plan.farthest + 0.1), "V")}.`,
            act: "Switch the charging supply off first, then the source.",
          },
        ]
      : []),
    ...(nominal
      ? [
          {
            role: "outputVoltage" as const,
            above: 1.2 * nominal,
            why: `The output is more than 20 % over ${q(nominal, "V")}.`,
            act: "Switch the supply off first.",
          },
        ]
      : []),
    {
      role: "time",
      above: time,
      why: `The ramp has taken more than ${formatDuration(time)}.`,
      act: "Switch the supply off; look whether the ramp still runs.",
    },
  ];
}

/** Supply → module → load for a ramp down; charging supply → module → source with its preload for a ramp up. */
export function rampWiring(setup: RunSetup<RampPlan>): WiringSketch {
  const { plan, conditions } = setup;
  if (plan?.way === "charge")
    return {
      devices: [
        {
          id: "charger",
          kind: "supply",
          title: "Charging supply",
          lines: [`limit ${q(plan.chargeCurrent, "A")}`],
          right: ["+", "−"],
        },
        {
          id: "module",
          kind: "module",
          title: "Module",
          lines: ["protection"],
          left: ["P+", "P−"],
          right: ["B+", "B−"],
        },
        {
          id: "source",
          kind: "supply",
          title: "Source as the cell",
          lines: [`${q(plan.start, "V")} to ${q(plan.farthest, "V")}`, `preload ${q(plan.preload, "A")}`],
          left: ["+", "−"],
        },
      ],
      gaps: [
        { ammeter: null, voltmeter: null, clips: "right", note: "" },
        { ammeter: "cell current", voltmeter: "cell voltage", clips: "left", note: "clip on at B+ and B−" },
      ],
      notes: [
        "The preload resistor hangs across the source: it takes the charging current that the source can't.",
        "Push current in where a charger would: at the protection's own terminals, at slightly more than the cell voltage.",
      ],
    };
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as the battery",
        lines: plan
          ? [
              `${q(plan.start, "V")} to ${q(plan.farthest, "V")}`,
              ...(conditions.supplyCurrentLimit ? [`limit ${q(conditions.supplyCurrentLimit, "A")}`] : []),
            ]
          : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: conditions.nominalOutput ? [`output ${q(conditions.nominalOutput, "V")}`] : [],
        left: ["B+", "B−"],
        right: ["OUT+", "OUT−"],
      },
      { id: "load", kind: "load", title: "Load", lines: plan ? [q(plan.load, "A")] : [], left: ["+", "−"] },
    ],
    gaps: [
      { ammeter: "battery current", voltmeter: "battery voltage", clips: "right", note: "clip on at B+ and B−" },
      { ammeter: null, voltmeter: "output voltage", clips: "left", note: "clip on at OUT+ and OUT−" },
    ],
    notes: [
      "Keep the two voltmeters apart: neither may join B− and OUT−.",
      "The load stays on all the way, also after the cut: whether the module comes back into it is part of the test.",
    ],
  };
}
