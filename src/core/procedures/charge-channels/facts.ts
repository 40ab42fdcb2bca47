import type { ProcedureFacts } from "../contract";

/** Minutes of one charge, and of the hands that set it up. */
export const CHARGE = 165;
export const SET_UP = 15;

/** What is known of it apart from its code. */
export const chargeChannelsFacts = {
  id: "charge-channels",
  version: 3,
  title: "Charger channels",
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
