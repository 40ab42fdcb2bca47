import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const overloadForm = {
  summary:
    "The load is raised until the module limits or trips. Then the output is shorted several times, from a limited supply: current and recovery.",
  silences: {
    "protect.over-current": {
      roles: ["outputVoltage", "outputCurrent"],
      otherwise: ["did-not-happen", "The load was not raised to a limit or a trip."],
    },
    "protect.short-current": {
      roles: ["batteryCurrent"],
      otherwise: ["did-not-happen", "The output was not shorted."],
    },
    "protect.short-peak": { roles: ["batteryCurrent"], otherwise: ["did-not-happen", "The output was not shorted."] },
    "protect.short-present": {
      roles: ["batteryCurrent"],
      otherwise: ["did-not-happen", "The output was not shorted."],
    },
    "protect.short-recovery": { otherwise: ["did-not-happen", "The output was not shorted."] },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "batteryCurrent", required: true },
      { role: "outputVoltage", required: true },
      { role: "outputCurrent", required: true },
      { role: "batteryVoltage", required: false },
      { role: "partTemperature", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
    { condition: "supplyCurrentLimit", label: "Supply current limit", unit: "A", required: true, aboveZero: true },
  ],
  marks: [
    { key: "h", kind: "short-on", what: "short" },
    { key: "j", kind: "short-off", what: "short removed" },
    { key: "l", kind: "load-off", what: "load removed" },
    { key: "d", kind: "supply-off", what: "supply switched off" },
    { key: "w", kind: "supply-on", what: "supply switched on" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
