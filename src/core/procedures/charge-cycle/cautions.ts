import { CHEMISTRY_LIMITS } from "../../cells";
import { formatDuration, formatQuantity } from "../../quantities";
import type { Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import type { ChargePlan } from "./plan";

const q = formatQuantity;

export function chargeCautions(setup: RunSetup<ChargePlan>): Caution[] {
  return [
    {
      severity: "danger",
      text: "Check the cell: never charge one that is swollen, dented, leaking, hot, or colder than 0 °C.",
    },
    {
      severity: "danger",
      text: "Check the polarity at B+ and B− with a meter before the cell touches the board: reversed polarity can destroy it at once.",
    },
    {
      severity: "danger",
      text: "Put the cell on a surface that can't burn, away from anything that can. Stay within earshot until the end.",
    },
    {
      severity: "care",
      text: "Put the ammeters in their ampere jack and range: a milliamp range adds burden voltage and lowers the charge current.",
    },
    {
      severity: "care",
      text:
        setup.plan?.charger === "switching"
          ? "A switching charger is hottest where the cell takes the most power, near the end of its full current; its coil too. No fingers above 60 °C."
          : "A linear charger is hottest just after it begins: no fingers on the part above 60 °C.",
    },
    { severity: "care", text: "The maker's data sheet of the cell decides, not this plan." },
  ];
}

export function chargeStopRules(setup: RunSetup<ChargePlan>): StopRule[] {
  const { plan } = setup;
  const part = plan?.partLimit ?? setup.conditions.partLimitTemperature ?? 85;
  const most = plan?.cell ? CHEMISTRY_LIMITS[plan.cell.chemistry].maximum : CHEMISTRY_LIMITS["lithium-ion"].maximum;
  const time = plan?.timeLimit ?? 12 * 3600;
  return [
    {
      role: "cellVoltage",
      above: most,
      why: `The cell is above ${q(most, "V")}: it is overcharged.`,
      act: "Disconnect the cell first, then unplug the input.",
    },
    {
      role: "cellTemperature",
      above: plan?.cellLimit ?? 45,
      why: `The cell is above ${q(plan?.cellLimit ?? 45, "°C")}.`,
      act: "Unplug the input first, then disconnect the cell and put it where it can't burn anything.",
    },
    {
      role: "partTemperature",
      above: part,
      why: `The part is above ${q(part, "°C")}.`,
      act: "Unplug the input first; let it cool before you touch it.",
    },
    {
      role: "time",
      above: time,
      why: `The charge has taken more than ${formatDuration(time)}.`,
      act: "Unplug the input first, then check the cell for heat.",
    },
  ];
}

/** Supply → module → cell, an ammeter in each plus wire, volts at the module's own terminals. */
export function chargeWiring(setup: RunSetup<ChargePlan>): WiringSketch {
  const { plan, conditions } = setup;
  const cell = plan?.cell;
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Input supply",
        lines: plan ? [q(plan.supplyVoltage, "V"), `limit ${q(plan.supplyLimit, "A")}`] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: conditions.programmedCurrent
          ? [`set to ${q(conditions.programmedCurrent, "A")}`, ...(plan ? [`full at ${q(plan.fullVoltage, "V")}`] : [])]
          : [],
        left: ["IN+", "IN−"],
        right: ["B+", "B−"],
      },
      {
        id: "cell",
        kind: "cell",
        title: cell ? cell.title : "Cell",
        lines: cell ? [q(cell.capacity, "Ah"), ...(plan.startVoltage ? [`now ${q(plan.startVoltage, "V")}`] : [])] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: "input current", voltmeter: "input voltage", clips: "right", note: "clip on at the module" },
      { ammeter: "cell current", voltmeter: "cell voltage", clips: "right", note: "clip on at the cell" },
    ],
    notes: [
      "Clip the cell's voltmeter to its own terminals: an ammeter's leads drop tenths of a volt at an amp.",
      "Connect the cell first, with the log running, then plug in the input: the step is the start of the charge.",
      "Leave the output open, unless charging under load is what you test.",
    ],
  };
}
