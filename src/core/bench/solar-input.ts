import { stateOfCharge } from "../cells";
import { PanelSimulation, SIMULATED_PANELS, type SimulatedPanelId } from "../simulator";
import { around, cellOf } from "./around";
import type { ProcedureBench } from "./contract";

/** A charger on a panel under clouds. */
export const solarInputBench: ProcedureBench = {
  procedure: "solar-input",
  thing: "module",
  specimens: SIMULATED_PANELS,
  simulate: (id, setup, seed) => {
    const plan = around(setup);
    const { panel, charger, clouds } = SIMULATED_PANELS[id as SimulatedPanelId] ?? SIMULATED_PANELS["holding-switcher"];
    return new PanelSimulation({
      panel,
      charger,
      clouds,
      seed,
      cell: cellOf(plan),
      soc: stateOfCharge("lithium-ion", plan.startVoltage ?? 3.6),
    });
  },
  demo: [
    {
      board: "Willow Sun",
      place: 0,
      title: "Sun and clouds",
      sample: 0,
      specimen: "holding-switcher",
      seed: 101,
      plan: { seconds: 1200, steady: 400, every: 1 },
    },
  ],
};
