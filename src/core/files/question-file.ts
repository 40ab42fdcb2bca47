import { err, type Result } from "../quantities";
import {
  answerFit,
  answerMatch,
  answerSchedule,
  answerStation,
  type FitQuestion,
  type MatchQuestion,
  type QuestionKind,
  type ScheduleQuestion,
  type StationQuestion,
} from "../use";
import * as validators from "./questions.generated";
import { reason } from "./validate";

/**
 * Answers a planning question as a file holds it (JSON, SI units, minutes in a day's plan). Every refusal names the field, what it
 * holds and what to do. `spent` gives the share of a search's time that is used up.
 */
export function answerQuestion(
  kind: QuestionKind,
  json: string,
  spent?: () => number,
): Result<Readonly<Record<string, unknown>>> {
  let raw: unknown;
  try {
    raw = JSON.parse(json);
  } catch (e) {
    return err(`not valid JSON: ${(e as Error).message}`);
  }
  const check = validators[kind];
  if (!check(raw)) return err(reason(raw, check.errors, "question"));
  switch (kind) {
    case "fit":
      return answerFit(raw as FitQuestion);
    case "station":
      return answerStation(raw as StationQuestion);
    case "schedule":
      return answerSchedule(raw as ScheduleQuestion, spent);
    case "match":
      return answerMatch(raw as MatchQuestion, spent && (() => spent() >= 1));
  }
}
