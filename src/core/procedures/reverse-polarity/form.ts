import type { ProcedureForm } from "../contract";
import { REVERSE_ROLES } from "./plan";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const reversePolarityForm = {
  summary:
    "Destructive, and last: the battery terminals reversed through a resistor from a limited supply, then the no-load and one load reading repeated to see whether the board lives.",
  record: {
    roles: REVERSE_ROLES.map((role) => ({ role, required: role !== "partTemperature" && role !== "outputCurrent" })),
    derived: [],
  },

  silences: {
    "reverse.current": { roles: ["batteryCurrent"], otherwise: ["did-not-happen", "No reversal was made."] },
    "reverse.survived": {
      roles: ["outputVoltage"],
      otherwise: ["not-in-log", "The board was not read both before and after."],
    },
  },
  asks: [
    {
      condition: "nominalOutput",
      label: "Nominal output, if known",
      unit: "V",
      required: false,
      claim: "boost.no-load-voltage",
      aboveZero: true,
    },
    {
      condition: "supplyCurrentLimit",
      label: "Supply's current limit, if known",
      unit: "A",
      required: false,
      aboveZero: true,
    },
  ],
} satisfies ProcedureForm;
