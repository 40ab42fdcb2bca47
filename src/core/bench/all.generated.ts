/* Made by scripts/build-lists.ts from src/core/procedures/catalogue.ts; npm run lists makes it anew. */
import { behaviourBench } from "./behaviour";
import { chargeCycleBench } from "./charge-cycle";
import { dischargeBench } from "./discharge";
import { heatSoakBench } from "./heat-soak";
import { lightLoadBench } from "./light-load";
import { loadSweepBench } from "./load-sweep";
import { meterCheckBench } from "./meter-check";
import { overloadBench } from "./overload";
import { packChargeBench } from "./pack-charge";
import { powerPathBench } from "./power-path";
import { reversePolarityBench } from "./reverse-polarity";
import { solarInputBench } from "./solar-input";
import { standbyBench } from "./standby";
import { thresholdRampBench } from "./threshold-ramp";
import type { ProcedureBench } from "./contract";

export const BENCHES: readonly ProcedureBench[] = [
  behaviourBench,
  chargeCycleBench,
  dischargeBench,
  heatSoakBench,
  lightLoadBench,
  loadSweepBench,
  meterCheckBench,
  overloadBench,
  packChargeBench,
  powerPathBench,
  reversePolarityBench,
  solarInputBench,
  standbyBench,
  thresholdRampBench,
];
