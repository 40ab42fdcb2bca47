import { stateOfCharge } from "../cells";
import type { BenchProcedure, Guide, RunSetup } from "../procedures";
import {
  CellSimulation,
  MeterPairSimulation,
  ModuleSimulation,
  PackSimulation,
  PanelSimulation,
  PathSimulation,
  SIMULATED_CELLS,
  SIMULATED_METERS,
  SIMULATED_MODULES,
  SIMULATED_PACKS,
  SIMULATED_PANELS,
  SIMULATED_PATHS,
  type BenchSimulation,
  type MeterPairBench,
  type ModuleBench,
  type ModuleModel,
  type SimulatedCellId,
  type SimulatedMetersId,
  type SimulatedModuleId,
  type SimulatedPackId,
  type SimulatedPanelId,
  type SimulatedPathId,
} from "../simulator";

import type { LiveModuleOptions } from "./live-module";

/** What plans may say of the bench around a module. */
interface Around {
  readonly groundsJoined?: boolean;
  readonly thermometer?: string;
  readonly startVoltage?: number;
  readonly capacity?: number;
  readonly inputVolts?: number;
  readonly inputLimit?: number;
  readonly inputCable?: number;
  readonly checks?: MeterPairBench["checks"];
  readonly current?: number;
  readonly chargerVolts?: number;
}
const around = (setup: RunSetup): Around => (setup.plan ?? {}) as Around;

/** Share of its heat radiation that a bare part gives off, and matt tape. */
const SHINY = 0.2;
const MATT = 0.96;

/** A bench around a module, as the plan has it: the supply's limit, whether a meter joins its grounds, what reads its heat. */
export function moduleBench(module: ModuleModel, setup: RunSetup, seed = 0): ModuleBench {
  const { groundsJoined, thermometer } = around(setup);
  return {
    module,
    supplyLimit: setup.conditions.supplyCurrentLimit ?? 3,
    leads: setup.conditions.inputLeadResistance ?? 0,
    groundsJoined: groundsJoined ?? false,
    ambient: setup.conditions.ambientTemperature ?? 22,
    ...(thermometer ? { drift: ((seed % 13) - 6) * 1e-4 } : {}),
    ...(thermometer === "infrared-shiny"
      ? { emissivity: SHINY }
      : thermometer === "infrared-matt"
        ? { emissivity: MATT }
        : {}),
  };
}

/** The invented module of that name; the sound one where the name is unknown. */
export const simulatedModule = (id: string): ModuleModel =>
  (SIMULATED_MODULES[id as SimulatedModuleId] ?? SIMULATED_MODULES["steady-synchronous"]).model;

const cellOf = (plan: Around) => ({
  chemistry: "lithium-ion" as const,
  capacity: plan.capacity ?? 1,
  resistance: 0.09 / (plan.capacity ?? 1),
});

/** What stands on the simulated bench for a procedure, new; the sound one of its kind where the id is unknown. */
export function simulate(procedure: string, id: string, setup: RunSetup, seed: number): BenchSimulation {
  const plan = around(setup);
  switch (procedure) {
    case "power-path": {
      const { model } = SIMULATED_PATHS[id as SimulatedPathId] ?? SIMULATED_PATHS["seamless-path"];
      return new PathSimulation({
        module: model,
        supply: { volts: plan.inputVolts ?? 5.1, limit: plan.inputLimit ?? 2, cable: plan.inputCable ?? 0.08 },
        cell: cellOf(plan),
        soc: stateOfCharge("lithium-ion", plan.startVoltage ?? 3.8),
      });
    }
    case "solar-input": {
      const { panel, charger, clouds } =
        SIMULATED_PANELS[id as SimulatedPanelId] ?? SIMULATED_PANELS["holding-switcher"];
      return new PanelSimulation({
        panel,
        charger,
        clouds,
        seed,
        cell: cellOf(plan),
        soc: stateOfCharge("lithium-ion", plan.startVoltage ?? 3.6),
      });
    }
    case "meter-check": {
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
    }
    case "discharge":
      return new CellSimulation(
        (SIMULATED_CELLS[id as SimulatedCellId] ?? SIMULATED_CELLS["honest-cell"]).model,
        stateOfCharge("lithium-ion", plan.startVoltage ?? 4.18),
      );
    case "pack-charge": {
      const { bench } = SIMULATED_PACKS[id as SimulatedPackId] ?? SIMULATED_PACKS["balanced-three"];
      return new PackSimulation({
        ...bench,
        charger: {
          ...bench.charger,
          current: plan.current ?? bench.charger.current,
          volts: plan.chargerVolts ?? bench.charger.volts,
        },
      });
    }
    default:
      return new ModuleSimulation(moduleBench(simulatedModule(id), setup, seed));
  }
}

/** What a log needs that a guide drives on the simulated bench; `simulation` stands in for the invented one of that id. */
export function liveOptions<P>(
  p: BenchProcedure<P>,
  id: string,
  setup: RunSetup<P>,
  seed: number,
  simulation?: () => BenchSimulation,
): LiveModuleOptions {
  const { guide } = p;
  if (!guide) throw new Error(`internal: nothing leads a ${p.id}`);
  const plain = setup as RunSetup;
  return {
    simulation: simulation ?? (() => simulate(p.id, id, plain, seed)),
    guide: (): Guide => guide(setup),
    setup: plain,
    roles: p.roles?.(setup) ?? [],
    every: (setup.plan as { readonly every?: number } | undefined)?.every ?? 1,
    seed,
  };
}
