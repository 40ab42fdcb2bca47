import type { ProcedureFacts, ProcedureForm } from "../contract";

/** Minutes of one charge, and of the hands that set it up. */
export const CHARGE = 165;
export const SET_UP = 15;

/** What is known of it apart from its code. */
export const chargeChannelsFacts = {
  id: "charge-channels",
  version: 3,
  title: "Charger channels",
  summary:
    "For boards with several charger ICs on one cell: where each signals done, how far apart they are, and whose light to show.",
  readings: "points",
  destructive: false,
  position: 35,
  work: [
    { minutes: SET_UP, needs: ["hands", "supply"] },
    { minutes: CHARGE, needs: ["hands", "supply"] },
  ],
  calledForBy: ["charger"],
  rare: true,
  measures: [
    "channels.done-voltage",
    "channels.done-current",
    "channels.voltage-spread",
    "channels.early-time",
    "channels.early-charge",
  ],
  headline: ["channels.voltage-spread", "channels.early-time"],
  takes: "cell",
  charges: true,
} as const satisfies ProcedureFacts;

/** What it records and asks for, and why it may stay silent. */
export const chargeChannelsForm = {
  silences: {
    "channels.done-voltage": {
      roles: ["channel", "cellVoltage"],
      otherwise: ["not-in-log", "No row names a channel."],
    },
    "channels.done-current": {
      roles: ["channel", "cellCurrent"],
      otherwise: ["not-in-log", "No row names a channel."],
    },
    "channels.voltage-spread": {
      roles: ["cellVoltage"],
      otherwise: ["not-in-log", "Only one channel is in the table."],
    },
    "channels.early-charge": {
      roles: ["time", "cellCurrent"],
      otherwise: ["not-in-log", "No repeat has the times and currents of every channel."],
    },
    "channels.early-time": { roles: ["time"], otherwise: ["not-in-log", "No repeat has the times of two channels."] },
  },
  record: {
    roles: [
      { role: "channel", required: true },
      { role: "repeat", required: false },
      { role: "time", required: false },
      { role: "cellVoltage", required: true },
      { role: "cellCurrent", required: false },
    ],
    derived: [],
  },
  asks: [],
} satisfies ProcedureForm;
