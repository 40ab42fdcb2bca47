export {
  FACTS,
  LEVELS,
  type AddedBoard,
  type Fact,
  type Facts,
  type Level,
  type Need,
  type OwnBuild,
  type Requirement,
} from "./need";
export {
  FACT_LABELS,
  OUTCOME_WORDS,
  currentForLife,
  judgeNeed,
  judgeRequirement,
  readingFor,
  requirementText,
  type Basis,
  type Candidate,
  type Outcome,
  type OutcomeWord,
} from "./judge-need";
export { rank, tally, type Ranked, type RankedBoard, type Tally } from "./rank";
export { voltsBehind } from "./behind-resistance";
export { ways, type Way } from "./ways";
