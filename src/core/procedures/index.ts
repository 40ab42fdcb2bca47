/** All procedures at once, for those who can't wait for one to be loaded; the list follows from the catalogue. */
import { PROCEDURES } from "./all.generated";
import type { Procedure } from "./contract";

export { PROCEDURES };

export const procedure = (id: string): Procedure | undefined => PROCEDURES.find((p) => p.id === id);

export * from "./contract";
export { CONDITION_WORDS } from "./kit/silence";
export { analyseReadings, withoutOffsets } from "./kit/offsets";
export { impossibleInLog, impossibleReadings } from "./kit/impossible";
export { plannedCell, type DrawerEntry } from "./kit/planned-cell";
export { largestExpected, rangeRemarks } from "./kit/ranges";
