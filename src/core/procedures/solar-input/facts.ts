import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const solarInputFacts = {
  id: "solar-input",
  version: 1,
  title: "Solar input",
  readings: "trace",
  destructive: false,
  position: 40,
  work: [
    { minutes: 10, needs: ["hands", "supply", "logger"] },
    { minutes: 20, needs: ["supply", "logger"] },
  ],
  calledForBy: ["solar-input"],
  measures: ["solar.conversion-efficiency", "solar.harvest", "solar.panel-voltage"],
  headline: ["solar.conversion-efficiency", "solar.panel-voltage"],
  onPaper: 5,
} as const satisfies ProcedureFacts;
