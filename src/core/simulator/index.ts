export { BENCH_METERS, VirtualBench, type BenchConfig, type BenchMeter, type BenchTruth } from "./bench";
export { batteryCurrentFor, boostState, loadCurrent, type BoostModel, type Load } from "./boost";
export { BENCH_ACCURACY, SIMULATED_BOARDS, benchFor, randomBoost, type SimulatedBoardId } from "./boards";
export { BENCH_ADDRESSES, TextInstruments, type BenchAddress } from "./commands";
export { drawMeter, showReading, type Meter } from "./meter";
export { seeded, type Random } from "./random";
export { agedCapacity, agedResistance, type CellModel } from "./cell";
export { ChargeSimulation, type ChannelModel, type ChargeBench, type ChargeLandmark, type ChargeReading, type ChargerModel, type ChargeSupply } from "./charge";
export { HONEST_CHARGE, SIMULATED_CHARGERS, chargeBench, type SimulatedChargerId } from "./charge-boards";
