import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const dischargeForm = {
  summary:
    "A full, rested cell taken down to a floor at a stated rate: how much it holds, its resistance from the rebound; also the preparation for repeated charges.",
  silences: {
    "cell.capacity": {
      either: [
        ["batteryVoltage", "batteryCurrent"],
        ["cellVoltage", "cellCurrent"],
      ],
      otherwise: ["not-in-log", "The log doesn't show a discharge from full to the floor."],
    },
    "cell.resistance": {
      either: [
        ["batteryVoltage", "batteryCurrent"],
        ["cellVoltage", "cellCurrent"],
      ],
      otherwise: ["not-in-log", "The log doesn't show the moment in which the load goes off."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
      { role: "cellTemperature", required: false },
    ],
    either: [
      ["batteryVoltage", "batteryCurrent"],
      ["cellVoltage", "cellCurrent"],
    ],
    derived: [],
  },
  asks: [
    { condition: "cellCapacity", label: "Rated capacity of the cell", unit: "Ah", required: false, aboveZero: true },
  ],
  marks: [
    { key: "p", kind: "load-on", what: "load put on" },
    { key: "l", kind: "load-off", what: "load removed" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
