export { SUMS, type Sum, type SumAnswer, type SumField, type SumResult } from "./sums";
export { feedsOf, type Fed } from "./feeds";
