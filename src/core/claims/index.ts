export {
  LIMIT_LABELS,
  SOURCE_KINDS,
  claimedEnd,
  formatLimit,
  limitBounds,
  testedAt,
  type Bounds,
  type Claim,
  type ClaimReading,
  type ClaimSource,
  type Limit,
  type Tolerance,
} from "./claim";
export { conditionText, limitText, parseConditionSpec, parseLimit } from "./parse-limit";
export { readingText } from "./reading-text";
export { overlap, relate, saidTwice, type Relation, type TwiceSaid } from "./twice";
