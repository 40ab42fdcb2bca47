import type { Procedure } from "../shape";
import { PROCEDURE_VERSIONS } from "../versions";
import { analyseCharge } from "./analyse";

export { ChargeStream, type ChargeEvent, type ChargeEventKind, type ChargeSample } from "./stream";
export { findPhases, type Phases } from "./phases";

/** What is known of a charge cycle so far: how its log is understood. It can't be prepared or logged live yet. */
export const chargeCycle: Pick<Procedure, "id" | "version" | "title" | "readings" | "measures" | "analyse"> = {
  id: "charge-cycle",
  version: PROCEDURE_VERSIONS["charge-cycle"],
  title: "Charge cycle",
  readings: "trace",
  measures: [
    "charge.precharge-current",
    "charge.precharge-threshold",
    "charge.cc-current",
    "charge.cc-end-voltage",
    "charge.cc-duration",
    "charge.cv-voltage",
    "charge.termination-current",
    "charge.termination-voltage",
    "charge.rest-voltage",
    "charge.total-time",
    "charge.capacity",
    "charge.energy-delivered",
    "charge.energy-drawn",
    "charge.efficiency",
    "charge.input-sag",
    "charge.peak-dissipation",
    "charge.peak-temperature-rise",
    "charge.foldback-onset-temperature",
    "charge.recharge-threshold",
  ],
  analyse: analyseCharge,
};
