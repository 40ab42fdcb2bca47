import { formatQuantity } from "../../quantities";
import type { Caution, StopRule } from "../contract";
import type { RunSetup } from "../../measurement";
import { supplyNeeds, type SweepPlan } from "./plan";

export function sweepCautions(setup: RunSetup<SweepPlan>): Caution[] {
  const list: Caution[] = [
    {
      severity: "danger",
      text: "Use a current-limited supply in place of the cell. Set its voltage and limit before the module is connected.",
    },
    {
      severity: "danger",
      text: "Check polarity at B+ and B− with a meter before the supply touches the board: reversed polarity can destroy it at once.",
    },
    {
      severity: "care",
      text: "Put both ammeters in their ampere jack and range before the first load; a milliamp range adds burden voltage or blows its fuse.",
    },
    {
      severity: "care",
      text: "The module and the load get hot near the maximum: nothing that burns beneath them, and no fingers above 60 °C.",
    },
  ];
  if (setup.plan?.drawer)
    list.splice(2, 0, {
      severity: "danger",
      text: "Power resistors reach well over 100 °C. Put them on ceramic and let them cool between points.",
    });
  const limit = setup.conditions.supplyCurrentLimit;
  const [needs, top, low] = [supplyNeeds(setup), setup.plan?.loads.at(-1), setup.plan?.batteries.at(-1)];
  if (limit && needs && top && low && needs > limit)
    list.push({
      severity: "care",
      text: `The supply's limit of ${formatQuantity(limit, "A")} may be reached before ${formatQuantity(top, "A")} at ${formatQuantity(low, "V")}: a collapse there would come from the supply, not the module.`,
    });
  return list;
}

export function sweepStopRules(setup: RunSetup<SweepPlan>): StopRule[] {
  const part = setup.plan?.partLimit ?? setup.conditions.partLimitTemperature ?? 85;
  const nominal = setup.conditions.nominalOutput;
  return [
    {
      role: "partTemperature",
      above: part,
      why: `The part is above ${formatQuantity(part, "°C")}.`,
      act: "Remove the load first, then the supply.",
    },
    ...(nominal
      ? [
          {
            role: "outputVoltage" as const,
            above: nominal * 1.2,
            why: `The output is more than 20 % over ${formatQuantity(nominal, "V")}: it has lost its regulation and can kill what hangs on it.`,
            act: "Switch the supply off first.",
          },
        ]
      : []),
  ];
}
