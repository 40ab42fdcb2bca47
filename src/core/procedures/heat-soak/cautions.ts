import { formatDuration, formatQuantity } from "../../quantities";
import type { Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { TOUCH, type HeatPlan } from "./plan";

const q = formatQuantity;

export function heatCautions(setup: RunSetup<HeatPlan>): Caution[] {
  return [
    {
      severity: "danger",
      text: "Check the polarity at B+ and B− with a meter before the supply touches the board: reversed polarity can destroy it at once.",
    },
    {
      severity: "danger",
      text: "Put the board on a surface that can't burn, with nothing over it. Stay within earshot while it soaks.",
    },
    ...(setup.plan?.by === "charge"
      ? [
          {
            severity: "danger" as const,
            text: "The supply in place of the cell must carry a preload that draws more than the charge current: a supply can't sink current, and its voltage would rise.",
          },
        ]
      : []),
    {
      severity: "care",
      text: `Parts may be above ${q(setup.plan?.touchLimit ?? TOUCH, "°C")} within a minute: no fingers, and let it cool before you move it.`,
    },
    {
      severity: "care",
      text: "Fix the probe to the hottest part with a dab of paste and tape; a loose one reads the air. Keep draughts and lamps away.",
    },
    { severity: "care", text: "Put the second thermometer beside the board, not above it: warm air rises." },
  ];
}

export function heatStopRules(setup: RunSetup<HeatPlan>): StopRule[] {
  const part = setup.conditions.partLimitTemperature ?? 85;
  const nominal = setup.conditions.nominalOutput;
  const time = setup.plan?.timeLimit ?? 2 * 3600;
  return [
    {
      role: "partTemperature",
      above: part,
      why: `The part is above its limit of ${q(part, "°C")}.`,
      act: "Remove the load first, then the supply; let it cool before you touch it.",
    },
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
      why: `The soak has taken more than ${formatDuration(time)}.`,
      act: "Remove the load first, then the supply.",
    },
  ];
}

export function heatWiring(setup: RunSetup<HeatPlan>): WiringSketch {
  const { plan } = setup;
  const infrared = plan?.thermometer !== "probe";
  if (plan?.by === "charge")
    return {
      devices: [
        {
          id: "supply",
          kind: "supply",
          title: "Input supply",
          lines: [`limit above ${q(plan.chargeCurrent ?? 0.5, "A")}`],
          right: ["+", "−"],
        },
        {
          id: "module",
          kind: "module",
          title: "Module",
          lines: [infrared ? "matt tape" : "probe", "on its hottest part"],
          left: ["IN+", "IN−"],
          right: ["B+", "B−"],
        },
        {
          id: "cell",
          kind: "supply",
          title: "Supply as a low cell",
          lines: [q(plan.battery, "V"), "with its preload"],
          left: ["+", "−"],
        },
      ],
      gaps: [
        { ammeter: "input current", voltmeter: "input voltage", clips: "right", note: "clip on at IN+ and IN−" },
        { ammeter: "charge current", voltmeter: "cell voltage", clips: "left", note: "clip on at B+ and B−" },
      ],
      notes: [
        "The heat is input power less the power into the cell, so all four meters matter.",
        "The preload resistor hangs across the supply that plays the cell: it takes the charge current that the supply can't.",
        "A second thermometer reads the air beside the board.",
      ],
    };
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Supply as the battery",
        lines: plan ? [q(plan.battery, "V"), `limit ${q(setup.conditions.supplyCurrentLimit ?? 3, "A")}`] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: [infrared ? "matt tape" : "probe", "on its hottest part"],
        left: ["B+", "B−"],
        right: ["OUT+", "OUT−"],
      },
      { id: "load", kind: "load", title: "Load", lines: plan ? [q(plan.load, "A")] : [], left: ["+", "−"] },
    ],
    gaps: [
      { ammeter: "battery current", voltmeter: "battery voltage", clips: "right", note: "clip on at B+ and B−" },
      { ammeter: "load current", voltmeter: "output voltage", clips: "left", note: "clip on at OUT+ and OUT−" },
    ],
    notes: [
      "The heat is battery power less output power, so all four meters matter: a clip in the wrong place counts the lead's heat as the part's.",
      "Load resistors get hot too: keep them away from the board.",
      "A second thermometer reads the air beside the board.",
    ],
  };
}
