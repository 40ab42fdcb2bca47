import type { ProcedureFacts } from "../contract";
import { chargeMeasures } from "./measures";

/** What is known of it apart from its code. */
export const chargeCycleFacts = {
  id: "charge-cycle",
  version: 5,
  title: "Charge cycle",
  readings: "trace",
  destructive: false,
  position: 30,
  work: [
    { minutes: 15, needs: ["hands", "supply", "logger"] },
    { minutes: 165, needs: ["supply", "logger"] },
  ],
  calledForBy: ["charger"],
  measures: chargeMeasures,
  headline: ["charge.cc-current", "charge.cv-voltage"],
  takes: "cell",
  charges: true,
  programmed: true,
  usualMeters: true,
  onPaper: 2,
} as const satisfies ProcedureFacts;
