import { SIMULATED_BOARDS } from "./boards";
import { SIMULATED_BUTTONS } from "./button-boards";
import { SIMULATED_CHARGERS } from "./charge-boards";
import { SIMULATED_METERS } from "./meter-pair";
import { SIMULATED_MODULES } from "./module-boards";
import { SIMULATED_CELLS, SIMULATED_PACKS } from "./pack-boards";
import { SIMULATED_PANELS } from "./panel-boards";
import { SIMULATED_PATHS } from "./path-boards";

type Offered = Readonly<Record<string, { readonly title: string }>>;
const OWN: Readonly<Record<string, Offered>> = {
  "power-path": SIMULATED_PATHS,
  "solar-input": SIMULATED_PANELS,
  "meter-check": SIMULATED_METERS,
  discharge: SIMULATED_CELLS,
  "charge-cycle": SIMULATED_CHARGERS,
  "load-sweep": SIMULATED_BOARDS,
  "pack-charge": SIMULATED_PACKS,
  behaviour: SIMULATED_BUTTONS,
  "reverse-polarity": SIMULATED_BOARDS,
  "charge-channels": {},
};

/** What can stand on the simulated bench for a procedure, by id, the sound one first. None for lights that somebody watches: a simulated charge has them marked in its log. */
export const simulatedFor = (procedure: string): Offered => OWN[procedure] ?? SIMULATED_MODULES;

/** What such a thing is called. */
export const simulatedThing = (procedure: string): "charger" | "module" =>
  procedure === "charge-cycle" ? "charger" : "module";

/** Whether a board keeps which of them stands in for it: the boosts that most of its runs are made on. */
export const keptByBoard = (procedure: string): boolean => procedure === "load-sweep";
