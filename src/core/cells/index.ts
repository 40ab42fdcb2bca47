export { CHEMISTRIES, CHEMISTRY_LIMITS, type Chemistry, type ChemistryLimits } from "./chemistry";
export { openCircuit, stateOfCharge } from "./open-circuit";
export { restDrop, type RestDrop, type RestReading } from "./rest-drop";
export { storageAdvice, type StorageAdvice, type WaitingCell } from "./storage";
export { cellCode, cellNamed, readCode } from "./code";
export { gradeOf, GRADES, gradeText, type CellGrade, type Grade } from "./grade";
export { readIntake, readReadings, type IntakeCell, type ListedReading } from "./intake";
export { CELL_STAGES, stageOf, type CellStage, type StageAt, type StageFacts } from "./stage";
export {
  chargeFloor,
  rejection,
  sinceCharge,
  triage,
  type CellLook,
  type Measured,
  type Triage,
  type TriageCell,
  type TriageReason,
  type TriageRules,
} from "./triage";
