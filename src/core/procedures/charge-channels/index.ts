import type { BenchProcedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseChannels } from "./analyse";
import { channelsCautions, channelsStopRules, channelsWiring } from "./cautions";
import { checkSignal, nextSignal } from "./guide";
import { likeness } from "./likeness";
import { CHANNELS_FIELDS, CHANNELS_ROLES, channelsOf, channelsRemarks, planChannels, type ChannelsPlan } from "./plan";

/** Minutes of one charge, and of the hands that set it up. */
const CHARGE = 165;
const SET_UP = 15;

/** Several chargers on one cell, from a table of their done signals. */
export const chargeChannels: BenchProcedure<ChannelsPlan> = {
  id: "charge-channels",
  version: PROCEDURE_FACTS["charge-channels"].version,
  title: procedureTitle("charge-channels"),
  readings: PROCEDURE_FACTS["charge-channels"].readings,
  summary:
    "For boards with several charger ICs on one cell: where each signals done, how far apart they are, and whose light to show.",
  destructive: false,
  position: 35,
  work: [
    { minutes: SET_UP, needs: ["hands", "supply"] },
    { minutes: CHARGE, needs: ["hands", "supply"] },
  ],
  workFor: ({ plan }) =>
    plan
      ? Array.from({ length: plan.repeats }, () => [
          { minutes: SET_UP, needs: ["hands", "supply"] as const },
          { minutes: CHARGE, needs: ["hands", "supply"] as const },
        ]).flat()
      : null,
  calledForBy: ["charger"],
  rare: true,
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
  headline: ["channels.voltage-spread", "channels.early-time"],
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
  measures: [
    "channels.done-voltage",
    "channels.done-current",
    "channels.voltage-spread",
    "channels.early-time",
    "channels.early-charge",
  ],
  plan: planChannels,
  fields: CHANNELS_FIELDS,
  conditionFields: [],
  takes: "cell",
  withCell: channelsOf,
  charges: true,
  remarks: channelsRemarks,
  roles: () => CHANNELS_ROLES,
  wiring: channelsWiring,
  cautions: channelsCautions,
  stopRules: channelsStopRules,
  next: nextSignal,
  check: checkSignal,
  likeness,
  analyse: analyseChannels,
};
