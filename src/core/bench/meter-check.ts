import { MeterPairSimulation, SIMULATED_METERS, type SimulatedMetersId } from "../simulator";
import { around } from "./around";
import type { ProcedureBench } from "./contract";

/** Two meters on one voltage. */
export const meterCheckBench: ProcedureBench = {
  procedure: "meter-check",
  thing: "module",
  specimens: SIMULATED_METERS,
  simulate: (id, setup) => {
    const plan = around(setup);
    const { leads, offset, gain } = SIMULATED_METERS[id as SimulatedMetersId] ?? SIMULATED_METERS["four-wire"];
    const checks = plan.checks ?? "outputVoltage";
    // A meter on the battery's side of its leads reads more, not less.
    const sign = checks === "outputVoltage" || checks === "cellVoltage" ? 1 : -1;
    return new MeterPairSimulation({
      volts: checks === "outputVoltage" ? 5.05 : checks === "inputVoltage" ? 5.1 : 3.7,
      source: 0.05,
      leads: sign * leads,
      offset,
      gain,
      checks,
    });
  },
  demo: [
    {
      board: "Sedge 51",
      place: 0,
      title: "The load's display against the multimeter",
      sample: 0,
      specimen: "two-wire-display",
      seed: 70,
    },
  ],
};
