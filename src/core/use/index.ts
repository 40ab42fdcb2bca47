export { between, sourceOf, type Between, type PackCells, type Source } from "./source";
export { lossModelConverter, operatingPoint, STOPS, type Converter, type OperatingPoint, type Stop } from "./operating-point";
export { highestPower, highestThat, integrate, meanCurrent, runTime, type DutyLoad, type RunTime } from "./run-time";
export { bayVoltages, breakerFor, planStation, type StationAnswer, type StationQuestion } from "./station";
export { matchCells, type MatchCell, type PackMatch } from "./match";
export { earliestFinish, planDay, type ScheduleBudget } from "./schedule";
export { lengthOf, type Schedule, type ScheduleQuestion, type ScheduleStep, type ScheduleTask } from "./schedule-question";
export { answerFit, answerMatch, answerSchedule, answerStation, QUESTION_KINDS, type FitQuestion, type MatchQuestion, type QuestionKind } from "./questions";
