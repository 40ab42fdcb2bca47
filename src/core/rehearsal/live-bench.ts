import { stateOfCharge } from "../cells";
import type { RunSetup } from "../measurement";
import type { ChargePlan } from "../procedures/charge-cycle";
import { HONEST_CHARGE, SIMULATED_CHARGERS, type SimulatedChargerId } from "../simulator";
import { LiveCharge } from "./live-charge";

/** What a plan of a charge has where nobody changed it: V of the supply, Ω of its cable. */
const USUAL = { volts: 5, cable: 0.1 } as const;

/** The invented charger of that name with the planned cell on it, as full as its rested volts say. */
export function liveChargeFor(charger: string, seed: number, every: number, setup: RunSetup): LiveCharge {
  const board = SIMULATED_CHARGERS[charger as SimulatedChargerId] ?? SIMULATED_CHARGERS["honest-ampere"];
  const plan = setup.plan as ChargePlan | undefined;
  const cell = plan?.cell;
  const made = HONEST_CHARGE.cell;
  const scale = cell ? made.capacity / cell.capacity : 1;
  return new LiveCharge(
    {
      ...HONEST_CHARGE,
      charger: board.charger,
      // What the plan sets otherwise than usual is set so here too: the supply's volts, a better cable.
      supply: {
        ...board.supply,
        volts: board.supply.volts + ((plan?.supplyVoltage ?? USUAL.volts) - USUAL.volts),
        cable: plan && plan.cable < USUAL.cable ? Math.min(board.supply.cable, plan.cable) : board.supply.cable,
      },
      ambient: setup.conditions.ambientTemperature ?? HONEST_CHARGE.ambient,
      // A smaller cell has more resistance.
      cell: {
        ...made,
        ...(cell ? { chemistry: cell.chemistry, capacity: cell.capacity } : {}),
        resistance: made.resistance * scale,
        relaxations: [
          { ...made.relaxations[0], ohms: made.relaxations[0].ohms * scale },
          { ...made.relaxations[1], ohms: made.relaxations[1].ohms * scale },
        ],
      },
      soc: cell && plan?.startVoltage ? stateOfCharge(cell.chemistry, plan.startVoltage) : HONEST_CHARGE.soc,
    },
    seed,
    every,
  );
}
