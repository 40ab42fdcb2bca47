import type { Point, RunSetup } from "../../measurement";
import type { RecordShape } from "../contract";
import { cellValue, isNoLoad } from "./points";

function power(
  point: Point,
  volts: "batteryVoltage" | "outputVoltage",
  amps: "batteryCurrent" | "outputCurrent",
): number | null {
  const v = cellValue(point, volts);
  const i = cellValue(point, amps);
  return v === null || i === null ? null : v * i;
}

/** Volts at the module's own terminals, from volts read at the far end of the leads. */
function atTerminals(point: Point, setup: RunSetup): Point {
  const vb = cellValue(point, "batteryVoltage");
  const ib = cellValue(point, "batteryCurrent");
  const vo = cellValue(point, "outputVoltage");
  const io = cellValue(point, "outputCurrent");
  const cells = { ...point.cells };
  if (vb !== null && ib !== null)
    cells.batteryVoltage = { value: vb - ib * (setup.conditions.inputLeadResistance ?? 0), status: "ok" };
  if (vo !== null && io !== null)
    cells.outputVoltage = { value: vo + io * (setup.conditions.outputLeadResistance ?? 0), status: "ok" };
  return { ...point, cells };
}

/** Efficiency of one point, null with no load or a missing reading. */
export function pointEfficiency(point: Point, setup: RunSetup): number | null {
  const p = atTerminals(point, setup);
  const input = power(p, "batteryVoltage", "batteryCurrent");
  const output = power(p, "outputVoltage", "outputCurrent");
  const io = cellValue(p, "outputCurrent");
  if (input === null || output === null || io === null || input <= 0 || isNoLoad(io, setup)) return null;
  return output / input;
}

/** Heat in the module at one point, W. */
export function pointLoss(point: Point, setup: RunSetup): number | null {
  const p = atTerminals(point, setup);
  const input = power(p, "batteryVoltage", "batteryCurrent");
  const output = power(p, "outputVoltage", "outputCurrent");
  return input === null || output === null ? null : input - output;
}

export const record: RecordShape = {
  roles: [
    { role: "batteryVoltage", required: true },
    { role: "batteryCurrent", required: true },
    { role: "outputVoltage", required: true },
    { role: "outputCurrent", required: true },
    { role: "partTemperature", required: false },
  ],
  derived: [
    { id: "efficiency", label: "Efficiency", unit: "1", of: pointEfficiency },
    { id: "loss", label: "Heat in the module", unit: "W", of: pointLoss },
  ],
};
