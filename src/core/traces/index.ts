export { alignOnSteps, largestSteps, type Step } from "./align";
export { envelope, indexAt, rowsBetween } from "./envelope";
export { heatPower } from "./heat-power";
