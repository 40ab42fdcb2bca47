export { checkChargeCurrent, type CurrentCheck } from "./charge-current";
export { forecastCharge, type Forecast, type ForecastInput, type ForecastPhase } from "./charge-forecast";
export {
  chooseProgramme,
  fitProgramme,
  programmedCurrent,
  type Programme,
  type ProgrammeChoice,
} from "./programme-resistor";
export { fitWarming, powerOn, type Warming, type WarmingPriors, type WarmingReadings } from "./warming";
export { programmeOfRuns, type MeasuredProgramme, type ProgrammedRun } from "./programme-runs";
export { readResistor, type MarkedResistor } from "./resistor-marking";
