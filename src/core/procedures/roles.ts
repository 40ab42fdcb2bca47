import type { Unit } from "../quantities";

/** What a column or a meter can stand for. Cells of a pack are numbered (`cell1Voltage` …) and checked by `isRole`. */
export const ROLES = {
  time: { unit: "s", label: "Time" },
  inputVoltage: { unit: "V", label: "Input volts" },
  inputCurrent: { unit: "A", label: "Input amps" },
  cellVoltage: { unit: "V", label: "Cell volts" },
  cellCurrent: { unit: "A", label: "Cell amps" },
  batteryVoltage: { unit: "V", label: "Battery volts" },
  batteryCurrent: { unit: "A", label: "Battery amps" },
  outputVoltage: { unit: "V", label: "Output volts" },
  outputCurrent: { unit: "A", label: "Output amps" },
  partTemperature: { unit: "°C", label: "Part temperature" },
  ambientTemperature: { unit: "°C", label: "Ambient" },
  channel: { unit: "", label: "Channel" },
  repeat: { unit: "", label: "Repeat" },
  cell: { unit: "", label: "Cell number" },
} as const satisfies Record<string, { unit: Unit; label: string }>;

export type Role = keyof typeof ROLES | `cell${number}Voltage`;

export const isRole = (name: string): name is Role => name in ROLES || /^cell\d+Voltage$/.test(name);

export function roleUnit(role: Role): Unit {
  return role in ROLES ? ROLES[role as keyof typeof ROLES].unit : "V";
}

export function roleLabel(role: Role): string {
  if (role in ROLES) return ROLES[role as keyof typeof ROLES].label;
  return `Cell ${/\d+/.exec(role)?.[0] ?? ""} volts`;
}
