import { CHEMISTRY_LIMITS } from "../../cells";
import { formatQuantity } from "../../quantities";
import type { Caution, StopRule, WiringSketch } from "../contract";
import type { RunSetup } from "../../measurement";
import type { ChannelsPlan } from "./plan";

const q = formatQuantity;

export const channelsCautions = ({ plan }: RunSetup<ChannelsPlan>): Caution[] => [
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
  ...(plan?.cell && !plan.cell.ownProtection
    ? [
        {
          severity: "danger" as const,
          text: "This cell has no protection of its own: several chargers on one cell add up their currents. Don't leave it for a moment.",
        },
      ]
    : []),
  {
    severity: "care",
    text: "The currents of all channels add up: check the cell's highest charge current against their sum.",
  },
];

export function channelsStopRules({ plan }: RunSetup<ChannelsPlan>): StopRule[] {
  const most = plan?.cell ? CHEMISTRY_LIMITS[plan.cell.chemistry].maximum : CHEMISTRY_LIMITS["lithium-ion"].maximum;
  return [
    {
      role: "cellVoltage",
      above: most,
      why: `The cell is above ${q(most, "V")}: it is overcharged.`,
      act: "Disconnect the cell first, then unplug the input.",
    },
  ];
}

export function channelsWiring({ plan }: RunSetup<ChannelsPlan>): WiringSketch {
  const cell = plan?.cell;
  return {
    devices: [
      {
        id: "supply",
        kind: "supply",
        title: "Input supply",
        lines: plan ? [q(plan.supplyVoltage, "V")] : [],
        right: ["+", "−"],
      },
      {
        id: "module",
        kind: "module",
        title: "Module",
        lines: plan ? [`${plan.channels} channels`, `full at ${q(plan.fullVoltage, "V")}`] : [],
        left: ["IN+", "IN−"],
        right: ["B+", "B−"],
      },
      {
        id: "cell",
        kind: "cell",
        title: cell ? cell.title : "Cell",
        lines: cell ? [q(cell.capacity, "Ah")] : [],
        left: ["+", "−"],
      },
    ],
    gaps: [
      { ammeter: null, voltmeter: null, clips: "right", note: "" },
      { ammeter: "cell current", voltmeter: "cell voltage", clips: "right", note: "clip on at the cell" },
    ],
    notes: [
      "The ammeter reads the sum of all channels.",
      "Every channel's light has to be in sight; number them on the board.",
    ],
  };
}
