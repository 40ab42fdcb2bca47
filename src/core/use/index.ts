export { between, sourceOf, type Between, type PackCells, type Source } from "./source";
export {
  lossModelConverter,
  operatingPoint,
  STOPS,
  type Converter,
  type OperatingPoint,
  type Stop,
} from "./operating-point";
export {
  dutyPhases,
  highestPhase,
  highestPower,
  highestThat,
  integrate,
  meanCurrent,
  runTime,
  type LoadPhase,
  type RunTime,
} from "./run-time";
export {
  bayVoltages,
  BREAKERS,
  breakerFor,
  planStation,
  STATION_NUMBERS,
  stationDoubts,
  stationQuestion,
  stationRanges,
  stationRemedies,
  type StationAnswer,
  type StationNumber,
  type StationPlan,
  type StationQuestion,
} from "./station";
export { matchCells, type MatchCell, type PackMatch } from "./match";
export { earliestFinish, planDay, within, type ScheduleBudget } from "./schedule";
export {
  lengthOf,
  type Schedule,
  type ScheduleQuestion,
  type ScheduleStep,
  type ScheduleTask,
} from "./schedule-question";
export {
  answerFit,
  answerMatch,
  answerSchedule,
  answerStation,
  QUESTION_KINDS,
  type FitQuestion,
  type MatchQuestion,
  type QuestionKind,
} from "./questions";
export {
  DRAWS,
  highestCurrent,
  phasesAt,
  PLAIN_WIRING,
  type Draw,
  type Load,
  type LoadWiring,
  type LoadStep,
  type UseReport,
} from "./load";
export { claimedModule } from "./claimed-module";
export {
  disconnects,
  measuredColumns,
  measuredConverter,
  measuredLimits,
  type MeasuredColumn,
  type MeasuredModule,
} from "./measured-module";
export { drawnPower, meanDraw, type Drawn } from "./mean-draw";
export {
  compareFits,
  FIT_WORDS,
  fitBoard,
  fitModule,
  worstFit,
  type BoardFit,
  type FitCurvePoint,
  type FitWord,
  type UseBattery,
} from "./board-fit";
export {
  checkTopology,
  type Guard,
  type Part,
  type Safety,
  type Standing,
  type Tap,
  type Topology,
  type TopologyCheck,
  type Way,
} from "./topology";
export {
  checkAdded,
  checkCut,
  chooseFuse,
  FUSES,
  inSeries,
  joiningCurrent,
  type AddedProtection,
  type FuseAnswer,
} from "./safeguards";
export {
  batteryOf,
  orderOfConnecting,
  topologyOf,
  UNKNOWN_BOARD,
  USUAL_CURVE,
  USUAL_RESISTANCE,
  USUAL_SELF_DISCHARGE,
  type AddedGuard,
  type BoardProtection,
  type Joined,
  type UseCell,
} from "./battery";
export { BARE, cellCautions, sampleTopology, type RunGuards, type SampleBetween } from "./between";
export {
  barsOf,
  endOfDay,
  nextAct,
  replanned,
  restOfDay,
  stepsOfWork,
  troublesOf,
  type Day,
  type DayTask,
  type DayTrouble,
  type NextAct,
  type TaskAbout,
  type TaskBar,
  type TaskState,
} from "./day";
export {
  checkStart,
  drawnAt,
  forecastBay,
  laneOf,
  plannedStarts,
  roomFor,
  stackOverTime,
  type BayCell,
  type BayCharge,
  type BayForecast,
  type PlannedStart,
  type StartAsked,
  type StartCheck,
  type Waiting,
} from "./bays";
export { packEntry, packSums, type PackCell, type PackSums } from "./pack";
