import { PackSimulation, SIMULATED_PACKS, type SimulatedPackId } from "../simulator";
import { around } from "./around";
import type { ProcedureBench } from "./contract";

/** A pack on its board and charger. */
export const packChargeBench: ProcedureBench = {
  procedure: "pack-charge",
  thing: "module",
  specimens: SIMULATED_PACKS,
  simulate: (id, setup) => {
    const plan = around(setup);
    const { bench } = SIMULATED_PACKS[id as SimulatedPackId] ?? SIMULATED_PACKS["balanced-three"];
    return new PackSimulation({
      ...bench,
      charger: {
        ...bench.charger,
        current: plan.current ?? bench.charger.current,
        volts: plan.chargerVolts ?? bench.charger.volts,
      },
    });
  },
  demo: [
    {
      board: "Heath Four",
      place: 0,
      title: "Four cells that have drifted apart",
      sample: 0,
      specimen: "drifted-four",
      seed: 111,
      plan: { every: 20 },
      cell: "Torch pack",
    },
    {
      board: "Heath Four",
      place: 1,
      title: "The same with the balancer joined",
      sample: 0,
      specimen: "drifted-balancer",
      seed: 112,
      plan: { every: 20 },
      cell: "Torch pack",
    },
  ],
};
