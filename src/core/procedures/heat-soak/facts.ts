import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const heatSoakFacts = {
  id: "heat-soak",
  version: 5,
  title: "Heat soak",
  readings: "trace",
  destructive: false,
  position: 55,
  work: [
    { minutes: 5, needs: ["hands", "supply", "load", "logger"] },
    { minutes: 20, needs: ["supply", "load", "logger"] },
  ],
  calledForBy: ["boost", "charger", "power-path"],
  measures: [
    "heat.steady-temperature",
    "heat.time-constant",
    "heat.thermal-resistance",
    "heat.max-ambient",
    "heat.lowest-cell-voltage",
  ],
  headline: ["heat.steady-temperature", "heat.max-ambient"],
  onPaper: 3,
} as const satisfies ProcedureFacts;
