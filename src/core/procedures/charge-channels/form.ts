import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const chargeChannelsForm = {
  summary:
    "For boards with several charger ICs on one cell: where each signals done, how far apart they are, and whose light to show.",
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
