import type { ConditionField, PlanEntry } from "../kit/plan-fields";

export const CHARGE_FIELDS: readonly PlanEntry[] = [
  {
    key: "charger",
    label: "Type of charger",
    of: [
      { value: "linear", label: "linear: the rest becomes heat in the part" },
      { value: "switching", label: "switching: with a coil, at an efficiency" },
    ],
  },
  {
    key: "startVoltage",
    label: "Cell voltage now, rested and not connected",
    unit: "V",
    low: -60,
    high: 60,
    optional: true,
  },
  {
    key: "efficiency",
    label: "Efficiency, claimed or estimated",
    unit: "1",
    low: 0.3,
    high: 1,
    where: { key: "charger", is: "switching" },
  },
  { key: "fullVoltage", label: "Full voltage", unit: "V", low: 0.1, high: 60 },
  { key: "leastInput", label: "Lowest input voltage", unit: "V", low: 0.1, high: 60 },
  { key: "supplyVoltage", label: "Supply set to", unit: "V", low: 0.1, high: 60 },
  { key: "supplyLimit", label: "Supply current limit", unit: "A", low: 0.001, high: 100, bench: "supplyCurrentLimit" },
  { key: "cable", label: "Input cable, both wires", unit: "Ω", low: 0, high: 100 },
  { key: "thermalResistance", label: "Thermal resistance of the part", unit: "K/W", low: 0.1, high: 1000 },
  { key: "partLimit", label: "Part temperature limit", unit: "°C", low: 0, high: 200 },
  { key: "cellLimit", label: "Cell temperature limit", unit: "°C", low: 0, high: 100 },
  { key: "timeLimit", label: "Time limit", unit: "s", low: 60, high: 1e6 },
];

export const CHARGE_CONDITIONS: readonly ConditionField[] = [
  { key: "programmedCurrent", label: "Charge current set", unit: "A", low: 1e-6 },
  { key: "ambientTemperature", label: "Ambient", unit: "°C", low: -40, first: 22 },
];
