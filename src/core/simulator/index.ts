export { BENCH_METERS, VirtualBench, type BenchConfig, type BenchMeter, type BenchTruth } from "./bench";
export { batteryCurrentFor, boostState, loadCurrent, type BoostModel, type Load, type ReverseModel } from "./boost";
export {
  BENCH_ACCURACY,
  SIMULATED_BOARDS,
  benchFor,
  randomBoost,
  randomReverse,
  type SimulatedBoardId,
} from "./boards";
export { BENCH_ADDRESSES, TextInstruments, type BenchAddress } from "./commands";
export { drawMeter, showReading, type Meter } from "./meter";
export { seeded, type Random } from "./random";
export { agedCapacity, agedResistance, type CellModel } from "./cell";
export {
  ChargeSimulation,
  type ChannelModel,
  type ChargeBench,
  type ChargeLandmark,
  type ChargeReading,
  type ChargerModel,
  type ChargeSupply,
} from "./charge";
export { HONEST_CHARGE, SIMULATED_CHARGERS, chargeBench, type SimulatedChargerId } from "./charge-boards";
export {
  ModuleSimulation,
  type ModuleBench,
  type ModuleModel,
  type ModuleReading,
  type ModuleSettings,
  type BenchSimulation,
  type SimulatedQuantity,
  type ThresholdModel,
  type Warming,
} from "./module";
export { SIMULATED_MODULES, randomModule, type SimulatedModuleId } from "./module-boards";
export { PathSimulation, transientAt, type PathBench, type PathModel, type Transient } from "./path";
export { SIMULATED_PATHS, randomPath, type SimulatedPathId } from "./path-boards";
export {
  PanelSimulation,
  panelBest,
  panelCurrent,
  panelOpen,
  type PanelBench,
  type PanelModel,
  type SolarChargerModel,
} from "./panel";
export { SIMULATED_PANELS, randomSolar, type SimulatedPanelId } from "./panel-boards";
export { MeterPairSimulation, SIMULATED_METERS, type MeterPairBench, type SimulatedMetersId } from "./meter-pair";
export { CellSimulation, CellState, PackSimulation, type PackBench, type PackBoard } from "./pack";
export { ButtonBoard, type ButtonModel, type ButtonState } from "./buttons";
export { SIMULATED_BUTTONS, randomButtons, type SimulatedButtonsId } from "./button-boards";
export {
  SIMULATED_CELLS,
  SIMULATED_PACKS,
  randomCell,
  randomPack,
  type SimulatedCellId,
  type SimulatedPackId,
} from "./pack-boards";
