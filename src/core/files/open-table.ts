import type { Role } from "../measurement";

/** Column labels of the open battery data table, by what a column stands for; further columns are named in the same manner. */
export const OPEN_TABLE: Readonly<Partial<Record<Role, string>>> = {
  time: "Test Time / s",
  cellVoltage: "Voltage / V",
  cellCurrent: "Current / A",
  ambientTemperature: "Ambient Temperature / degC",
  partTemperature: "Part Temperature / degC",
  inputVoltage: "Input Voltage / V",
  inputCurrent: "Input Current / A",
};
