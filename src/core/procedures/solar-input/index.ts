import { formatDuration, formatQuantity } from "../../quantities";
import { GuidedWatch } from "../kit/guided";
import type { AtBench, Caution, StopRule, TraceProcedure, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import { solarInputFacts } from "./facts";
import { solarInputForm } from "./form";
import { analyseSolar } from "./analyse";
import { SolarGuide, SolarSeen } from "./guide";
import { likeness } from "./likeness";
import { coldOpenVoltage } from "./panel";
import { planSolar, SOLAR_FIELDS, SOLAR_ROLES, solarRemarks, type SolarPlan } from "./plan";

export type { SolarPlan } from "./plan";
const q = formatQuantity;

const cautions = (setup: RunSetup<SolarPlan>): Caution[] => {
  const { plan } = setup;
  return [
    {
      severity: "danger",
      text: "Check the polarity at B+ and B− with a meter before the cell touches the board: reversed polarity can destroy it at once.",
    },
    {
      severity: "danger",
      text: "A cell is charged here: on a surface that can't burn, in the shade of the panel, within earshot. Never below 0 °C.",
    },
    ...(plan
      ? [
          {
            severity: "care" as const,
            text: `Measure the panel's open-circuit voltage before connecting it: in the cold it reaches ${q(coldOpenVoltage(plan.open, plan.coefficient, plan.coldest), "V", { digits: 3 })}.`,
          },
        ]
      : []),
    { severity: "care", text: "A panel can't be switched off: cover it before you connect or disconnect anything." },
    {
      severity: "care",
      text: "A halogen lamp close by heats the panel: its voltage falls as it warms. Let it settle.",
    },
  ];
};

function stopRules(setup: RunSetup<SolarPlan>): StopRule[] {
  const { plan, conditions } = setup;
  const part = conditions.partLimitTemperature ?? 85;
  const time = plan?.timeLimit ?? 8 * 3600;
  return [
    {
      role: "cellVoltage",
      above: 4.3,
      why: "The cell is above 4.3 V: it is overcharged.",
      act: "Cover the panel first, then disconnect the cell.",
    },
    ...(plan
      ? [
          {
            role: "inputVoltage" as const,
            above: plan.inputMaximum,
            why: `The panel voltage is above the input's limit of ${q(plan.inputMaximum, "V")}.`,
            act: "Cover the panel first, then disconnect it.",
          },
        ]
      : []),
    { role: "partTemperature", above: part, why: `The part is above ${q(part, "°C")}.`, act: "Cover the panel first." },
    {
      role: "time",
      above: time,
      why: `It has taken more than ${formatDuration(time)}.`,
      act: "Cover the panel first, then feel the cell.",
    },
  ];
}

function wiring(setup: RunSetup<SolarPlan>): WiringSketch {
  const { plan } = setup;
  return {
    devices: [
      {
        id: "panel",
        kind: "supply",
        title: "Panel",
        lines: plan ? [`${q(plan.open, "V", { digits: 3 })} open`, `best at ${q(plan.best, "V", { digits: 3 })}`] : [],
        right: ["+", "−"],
      },
      { id: "module", kind: "module", title: "Module", lines: [], left: ["IN+", "IN−"], right: ["B+", "B−"] },
      {
        id: "cell",
        kind: "cell",
        title: "Cell",
        lines: plan ? [q(plan.capacity, "Ah"), `now ${q(plan.startVoltage, "V")}`] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: "panel current", voltmeter: "panel voltage", clips: "right", note: "clip on at IN+ and IN−" },
      { ammeter: "cell current", voltmeter: "cell voltage", clips: "left", note: "clip on at B+ and B−" },
    ],
    notes: [
      "Four readings at the same moment, or the clouds move between them: a logger, or a lamp.",
      "Put the panel where no shadow crosses it; half a cell in the shade halves the output.",
    ],
  };
}

/** A charger on a panel: what of the panel's power reaches the cell, and at which volts the panel is held. */
export const solarInput: AtBench<TraceProcedure<SolarPlan>> = {
  ...solarInputFacts,
  ...solarInputForm,
  plan: planSolar,
  fields: SOLAR_FIELDS,
  moreConditions: [
    {
      key: "panelMaximumPower",
      label: "Panel's maximum power in this light, if known",
      unit: "W",
      low: 0.001,
      optional: true,
    },
  ],
  remarks: solarRemarks,
  roles: () => SOLAR_ROLES,
  wiring,
  cautions,
  stopRules,
  watch: (setup) => {
    const guide = new SolarGuide(setup);
    return new GuidedWatch(guide, new SolarSeen(guide));
  },
  guide: (setup) => new SolarGuide(setup),
  likeness,
  analyse: analyseSolar,
};
