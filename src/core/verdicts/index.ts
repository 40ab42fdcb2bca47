export {
  VERDICT_WORDS,
  conformityProbability,
  findingInterval,
  judgeFinding,
  writtenFor,
  type FindingVerdict,
  type VerdictWord,
} from "./judge-finding";
export {
  anywhere,
  judgeClaim,
  judgeReading,
  verdictRemarks,
  type ClaimVerdict,
  type Contradiction,
  type EvidenceRun,
  type EvidenceSample,
  type JudgedFinding,
  type ReadingVerdict,
} from "./judge-claim";
export { reallyMeasured } from "./really";
export { channelOrders, repeatsOf, type ChannelOrders, type Repeated } from "./repeats";
export { differences, type Difference } from "./difference";
export {
  changesFor,
  pointToTake,
  scaledDoubt,
  whatSettles,
  MOST_REPEATS,
  type Again,
  type Change,
  type OtherRange,
  type SettleMeans,
  type Settling,
} from "./settle";
