export {
  BOARD_FUNCTIONS,
  CHARACTERISTICS,
  CONDITION_LABELS,
  CONDITION_UNITS,
  FUNCTION_LABELS,
  characteristic,
  usualClaims,
  type BoardFunction,
  type Characteristic,
  type ConditionName,
  type ValueKind,
} from "./dictionary";
export {
  formatConditions,
  formatConditionValue,
  formatSpec,
  meetsCondition,
  type Conditions,
  type ConditionSpec,
  type ConditionSpecs,
} from "./conditions";
