/** The list of procedures: adding one is a folder and a line here. */
import { behaviour } from "./behaviour";
import { chargeChannels } from "./charge-channels";
import { chargeCycle } from "./charge-cycle";
import { discharge } from "./discharge";
import { heatSoak } from "./heat-soak";
import { lightLoad } from "./light-load";
import { loadSweep } from "./load-sweep";
import { meterCheck } from "./meter-check";
import { overload } from "./overload";
import { packCharge } from "./pack-charge";
import { powerPath } from "./power-path";
import { restCheck } from "./rest-check";
import { reversePolarity } from "./reverse-polarity";
import { ripple } from "./ripple";
import { solarInput } from "./solar-input";
import { standby } from "./standby";
import { thresholdRamp } from "./threshold-ramp";
import type { Procedure } from "./contract";

export const PROCEDURES: readonly Procedure[] = [
  chargeCycle,
  chargeChannels,
  loadSweep,
  ripple,
  heatSoak,
  thresholdRamp,
  standby,
  lightLoad,
  solarInput,
  powerPath,
  overload,
  packCharge,
  meterCheck,
  discharge,
  restCheck,
  behaviour,
  reversePolarity,
];

export const procedure = (id: string): Procedure | undefined => PROCEDURES.find((p) => p.id === id);

export * from "./contract";
export { CONDITION_WORDS } from "./kit/silence";
export { analyseReadings, withoutOffsets } from "./kit/offsets";
export { impossibleInLog, impossibleReadings } from "./kit/impossible";
export { plannedCell, type DrawerEntry } from "./kit/planned-cell";
export { largestExpected, rangeRemarks } from "./kit/ranges";
