import { stateOfCharge } from "../cells";
import { PathSimulation, SIMULATED_PATHS, type SimulatedPathId } from "../simulator";
import { around, cellOf } from "./around";
import type { ProcedureBench } from "./contract";

/** A path with its supply, its cell and a load. */
export const powerPathBench: ProcedureBench = {
  procedure: "power-path",
  thing: "module",
  specimens: SIMULATED_PATHS,
  simulate: (id, setup) => {
    const plan = around(setup);
    const { model } = SIMULATED_PATHS[id as SimulatedPathId] ?? SIMULATED_PATHS["seamless-path"];
    return new PathSimulation({
      module: model,
      supply: { volts: plan.inputVolts ?? 5.1, limit: plan.inputLimit ?? 2, cable: plan.inputCable ?? 0.08 },
      cell: cellOf(plan),
      soc: stateOfCharge("lithium-ion", plan.startVoltage ?? 3.8),
    });
  },
  demo: [
    {
      board: "Willow Sun",
      place: 1,
      title: "Plugged in and pulled under load",
      sample: 0,
      specimen: "hangs-on-cell",
      seed: 102,
      plan: { repeats: 2, dwell: 0.4, every: 0.002 },
    },
    {
      board: "Willow Sun",
      place: 2,
      title: "Charging while the recorder runs",
      sample: 0,
      specimen: "hangs-on-cell",
      seed: 103,
      plan: { part: "charging", every: 20, patience: 1200, capacity: 2.2 },
    },
  ],
};
