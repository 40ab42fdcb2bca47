/* Made by scripts/build-lists.ts from src/core/procedures/catalogue.ts; npm run lists makes it anew. */
import { chargeCycle } from "./charge-cycle";
import { chargeChannels } from "./charge-channels";
import { loadSweep } from "./load-sweep";
import { ripple } from "./ripple";
import { heatSoak } from "./heat-soak";
import { thresholdRamp } from "./threshold-ramp";
import { standby } from "./standby";
import { lightLoad } from "./light-load";
import { solarInput } from "./solar-input";
import { powerPath } from "./power-path";
import { overload } from "./overload";
import { packCharge } from "./pack-charge";
import { meterCheck } from "./meter-check";
import { discharge } from "./discharge";
import { restCheck } from "./rest-check";
import { behaviour } from "./behaviour";
import { reversePolarity } from "./reverse-polarity";
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
