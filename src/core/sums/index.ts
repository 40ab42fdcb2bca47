export { SUMS, type Sum, type SumAnswer, type SumField, type SumResult, type SumRules } from "./sums";
export { FED_ROLES, feedsOf, feedsOfOpen, type Fed, type OpenBeside } from "./feeds";
