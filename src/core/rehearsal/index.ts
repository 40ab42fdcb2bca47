export { applySettings, readBench, recover, rehearse, type Rehearsal, type RehearsalOptions } from "./sweep";
