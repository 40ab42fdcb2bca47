import { SIMULATED_CHARGERS } from "../simulator";
import { CHARGE_METERS } from "./charge-meters";
import type { ProcedureBench } from "./contract";

/** A charger on a cell. */
export const chargeCycleBench: ProcedureBench = {
  procedure: "charge-cycle",
  thing: "charger",
  specimens: SIMULATED_CHARGERS,
  meters: CHARGE_METERS,
};
