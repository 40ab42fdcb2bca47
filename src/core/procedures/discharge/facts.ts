import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const dischargeFacts = {
  id: "discharge",
  version: 3,
  title: "Discharge",
  readings: "trace",
  destructive: false,
  position: 12,
  work: [
    { minutes: 10, needs: ["hands", "load", "logger"] },
    { minutes: 290, needs: ["load", "logger"] },
  ],
  calledForBy: ["charger", "protection", "balancer"],
  anyTime: true,
  measures: ["cell.capacity", "cell.resistance"],
  headline: ["cell.capacity", "cell.resistance"],
  takes: "either",
} as const satisfies ProcedureFacts;
