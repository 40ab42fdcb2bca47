export { LiveEnvelope } from "./live-envelope";
export { alignOnSteps, largestSteps, type Step } from "./align";
export { envelope, indexAt, rowsBetween } from "./envelope";
export { heatPower } from "./heat-power";
