export { PortError, type InstrumentPort, type PortAbilities, type PortReading } from "./port";
export { GuardedPort, PATIENCE, SILENT, UNCONFIRMED } from "./guarded-port";
export { TextCommandPort, type TextBenchLayout, type TextTransport } from "./text-port";
export { TypedPort } from "./typed-port";
export { STEADY, isSteady, type SteadyRule } from "./steady";
export { openSimulatedBench } from "./simulated";
export { watchRestart } from "./restart";
