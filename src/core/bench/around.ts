import type { RunSetup } from "../measurement";
import {
  ModuleSimulation,
  SIMULATED_MODULES,
  type MeterPairBench,
  type ModuleBench,
  type ModuleModel,
  type SimulatedModuleId,
} from "../simulator";
import type { ProcedureBench } from "./contract";

/** What plans may say of the bench around a module. */
export interface Around {
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
export const around = (setup: RunSetup): Around => (setup.plan ?? {}) as Around;

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

/** A cell that a plan states only the capacity of. */
export const cellOf = (plan: Around) => ({
  chemistry: "lithium-ion" as const,
  capacity: plan.capacity ?? 1,
  resistance: 0.09 / (plan.capacity ?? 1),
});

/** A bench on which one of the invented modules stands. */
export const onModule = {
  thing: "module",
  specimens: SIMULATED_MODULES,
  simulate: (id: string, setup: RunSetup, seed: number) =>
    new ModuleSimulation(moduleBench(simulatedModule(id), setup, seed)),
} as const satisfies Omit<ProcedureBench, "procedure">;
