import type { ProcedureFacts } from "../contract";
import { BOARD_FUNCTIONS } from "../../characteristics/functions";

/** What is known of it apart from its code. */
export const meterCheckFacts = {
  id: "meter-check",
  version: 1,
  title: "Meter check",
  readings: "trace",
  destructive: false,
  position: 5,
  work: [{ minutes: 5, needs: ["hands", "supply", "load"] }],
  calledForBy: BOARD_FUNCTIONS,
  anyTime: true,
  measures: ["meter.offset", "meter.lead-resistance"],
  headline: ["meter.lead-resistance", "meter.offset"],
} as const satisfies ProcedureFacts;
