export { LiveEnvelope } from "./live-envelope";
export { alignOnSteps, largestSteps, type Step } from "./align";
export { envelope, extremesOf, type Extremes, indexAt, MOST_MOVING, rowsBetween } from "./envelope";
export {
  extremeOfFive,
  finite,
  finiteWithin,
  highestMean,
  integrate,
  integrateTogether,
  interval,
  valueBefore,
  withoutSpikes,
  type Edge,
  type Integral,
  type Together,
} from "./signal";
export { plateaus, type Plateau } from "./plateaus";
export { heatPower } from "./heat-power";
