import type { ConditionField, PlanEntry } from "../kit/plan-fields";

export const SWEEP_FIELDS: readonly PlanEntry[] = [
  { key: "batteries", label: "Battery voltages, fullest first", unit: "V", list: "descending", low: 0.1 },
  { key: "loads", label: "Load currents, from none to past the claim", unit: "A", list: "ascending", low: 0 },
  { key: "dwell", label: "Dwell before a point counts", unit: "s", low: 0, high: 3600 },
  { key: "resolution", label: "Resolution of the highest load", unit: "A", low: 1e-6, high: 100 },
  { key: "partLimit", label: "Part temperature limit", unit: "°C", low: 0, high: 200 },
  { key: "starts", label: "Also find the highest load it starts into from off", tick: true },
  {
    key: "startKinds",
    label: "Start from off into",
    of: [
      { value: "current", label: "constant current" },
      { value: "resistance", label: "resistance" },
      { value: "power", label: "constant power" },
    ],
    many: true,
    why: "A resistance is the easiest to start into, constant power the hardest. A drawer of resistors gives a resistance only.",
    where: { key: "starts", is: true },
  },
  {
    key: "startLoad",
    label: "Start voltage, into a load of",
    unit: "A",
    low: 0,
    high: 20,
    optional: true,
    why: "empty: not searched",
  },
];

export const SWEEP_CONDITIONS: readonly ConditionField[] = [
  { key: "nominalOutput", label: "Nominal output", unit: "V", low: 0.1 },
  { key: "regulationBand", label: "Regulation band, ±", unit: "1", low: 1e-4, high: 0.5, first: 0.05 },
  { key: "supplyCurrentLimit", label: "Supply current limit", unit: "A", low: 1e-3 },
  { key: "ratedLoad", label: "Rated load, for the load regulation", unit: "A", low: 1e-6, optional: true },
];
