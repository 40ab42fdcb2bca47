import { SIMULATED_BOARDS } from "./boards";
import { SIMULATED_BUTTONS } from "./button-boards";
import { SIMULATED_METERS } from "./meter-pair";
import { SIMULATED_MODULES } from "./module-boards";
import { SIMULATED_CELLS, SIMULATED_PACKS } from "./pack-boards";
import { SIMULATED_PANELS } from "./panel-boards";
import { SIMULATED_PATHS } from "./path-boards";

type Offered = Readonly<Record<string, { readonly title: string }>>;
const OWN: Readonly<Record<string, Offered>> = { "power-path": SIMULATED_PATHS, "solar-input": SIMULATED_PANELS, "meter-check": SIMULATED_METERS, discharge: SIMULATED_CELLS, "pack-charge": SIMULATED_PACKS, behaviour: SIMULATED_BUTTONS, "reverse-polarity": SIMULATED_BOARDS };

/** What can stand on the simulated bench for a procedure, by id, the sound one first. */
export const simulatedFor = (procedure: string): Offered => OWN[procedure] ?? SIMULATED_MODULES;
