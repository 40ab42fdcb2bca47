export { SUMS } from "./sums";
export type { Sum, SumAnswer, SumField, SumResult, SumRules } from "./sum";
export { FED_ROLES, feedsOf, feedsOfOpen, type Fed, type OpenBeside } from "./feeds";
