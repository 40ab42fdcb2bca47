import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const heatSoakForm = {
  summary:
    "Part temperature at a steady load: where it settles (predicted from the first minutes), how fast, and the highest ambient.",
  silences: {
    "heat.steady-temperature": {
      roles: ["partTemperature"],
      otherwise: ["not-in-log", "The log doesn't show enough of the warming."],
    },
    "heat.time-constant": {
      roles: ["partTemperature"],
      otherwise: ["not-in-log", "The log doesn't show enough of the warming."],
    },
    "heat.thermal-resistance": {
      roles: ["partTemperature"],
      otherwise: ["not-in-log", "The power turned into heat is not known."],
    },
    "heat.max-ambient": {
      roles: ["partTemperature"],
      condition: "partLimitTemperature",
      otherwise: ["not-in-log", "The log doesn't show enough of the warming."],
    },
    "heat.lowest-cell-voltage": {
      roles: ["partTemperature", "inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"],
      otherwise: ["not-in-log", "The log doesn't show enough of the warming by a charge."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "partTemperature", required: true },
      { role: "ambientTemperature", required: false },
      { role: "batteryVoltage", required: false },
      { role: "batteryCurrent", required: false },
      { role: "outputVoltage", required: false },
      { role: "outputCurrent", required: false },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "cellVoltage", required: false },
      { role: "cellCurrent", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "partLimitTemperature",
      label: "Highest temperature the part may reach",
      unit: "°C",
      required: false,
      first: 85,
      aboveZero: true,
    },
    {
      condition: "ambientTemperature",
      label: "Ambient, where no column has it",
      unit: "°C",
      required: false,
      aboveZero: false,
    },
    {
      condition: "foldbackTemperature",
      label: "Temperature at which the charger cuts its current back",
      unit: "°C",
      required: false,
      aboveZero: true,
    },
    { condition: "dissipation", label: "Dissipation, if not logged", unit: "W", required: false, aboveZero: true },
    {
      condition: "emissivity",
      label: "Emissivity of the surface, where read by infrared",
      unit: "1",
      required: false,
      aboveZero: true,
    },
  ],
} satisfies ProcedureForm;
