import type { ProcedureFacts } from "../contract";

/** What is known of it apart from its code. */
export const packChargeFacts = {
  id: "pack-charge",
  version: 5,
  title: "Pack charge",
  readings: "trace",
  destructive: false,
  position: 45,
  work: [
    { minutes: 15, needs: ["hands", "supply", "logger"] },
    { minutes: 225, needs: ["supply", "logger"] },
  ],
  calledForBy: ["balancer"],
  measures: [
    "behaviour.response",
    "pack.cutoff-cell-voltage",
    "pack.current-at-cutoff",
    "pack.release-cell-voltage",
    "pack.spread-at-cutoff",
    "pack.low-cutoff-cell-voltage",
    "pack.voltage-at-cutoff",
    "pack.charge-at-cutoff",
    "pack.rebound",
    "pack.missing-charge",
  ],
  headline: ["pack.cutoff-cell-voltage", "pack.spread-at-cutoff"],
  takes: "pack",
  charges: true,
  onPaper: 4,
} as const satisfies ProcedureFacts;
