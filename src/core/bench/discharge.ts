import { stateOfCharge } from "../cells";
import { CellSimulation, SIMULATED_CELLS, type SimulatedCellId } from "../simulator";
import { around } from "./around";
import type { ProcedureBench } from "./contract";

/** A cell alone. */
export const dischargeBench: ProcedureBench = {
  procedure: "discharge",
  thing: "module",
  specimens: SIMULATED_CELLS,
  simulate: (id, setup) => {
    const plan = around(setup);
    return new CellSimulation(
      (SIMULATED_CELLS[id as SimulatedCellId] ?? SIMULATED_CELLS["honest-cell"]).model,
      stateOfCharge("lithium-ion", plan.startVoltage ?? 4.18),
    );
  },
  demo: [
    {
      board: "Alder 12",
      place: 0,
      title: "What the Reed 2200 holds",
      sample: 0,
      specimen: "tired-cell",
      seed: 92,
      plan: { capacity: 2.2, rate: 0.5, every: 20 },
      cell: "Reed 2200",
    },
  ],
};
