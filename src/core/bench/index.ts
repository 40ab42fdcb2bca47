/** The simulated benches that there are, one a procedure: adding one is a file and a line here. */
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

export type { DemoRun, ProcedureBench } from "./contract";

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

/** A procedure's simulated bench; undefined where nothing simulated can stand in for what it is about. */
export const benchOf = (procedure: string): ProcedureBench | undefined =>
  BENCHES.find((b) => b.procedure === procedure);
