export { alignOnSteps, largestSteps, type Step } from "./align";
export { envelope, indexAt } from "./envelope";
export { heatPower } from "./heat-power";
