export { BOARD_FUNCTIONS, FUNCTION_CHOICES, FUNCTION_LABELS, type BoardFunction } from "./functions";
export {
  CHARACTERISTICS,
  CONDITION_LABELS,
  CONDITION_UNITS,
  characteristic,
  conditionsOf,
  touchedBy,
  type Better,
  type Phrase,
  usualClaims,
  type Characteristic,
  type RangeEnd,
  type ConditionName,
  type ValueKind,
} from "./dictionary";
export {
  conditionPhrase,
  LOAD_KINDS,
  formatConditions,
  formatConditionValue,
  formatSpec,
  conditionTolerance,
  meetsCondition,
  type Conditions,
  type ConditionSpec,
  type ConditionSpecs,
} from "./conditions";
