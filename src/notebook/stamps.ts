import { DICTIONARY_VERSION } from "@/core/characteristics/version";
import type { HouseRules } from "@/core/measurement";
import { PROCEDURE_FACTS, procedureVersion } from "@/core/procedures/catalogue";
import { writtenDigits } from "@/core/quantities/format";

/*
 * What is worked out and kept is good only under the stamp that it was kept with: the version of everything it rests on that is no record
 * (a record that changes deletes what was kept). Versions stand before the first bar, rules behind it: where only the first part differs,
 * a better analysis moved what differs.
 */

/** Raised when the shape of what is kept of a run changes. */
const RESULTS_VERSION = 5;
/** Raised when judging itself changes, so that cached verdicts are worked out again. */
const JUDGING_VERSION = 5;
/** Raised when what a comparison shows of a board changes. */
const COMPARING_VERSION = 8;

/** Raised when how a board is judged against a need changes. */
const WEIGHING_VERSION = 1;

/** Every analysis with its version: a board may have runs of any of them. */
const analyses = (): string => PROCEDURE_FACTS.map(({ id, version }) => `${id}${version}`).join(",");

/** Stamp of a run's results. */
export const resultsStamp = (procedure: string): string =>
  `${procedure} ${procedureVersion(procedure)}, dictionary ${DICTIONARY_VERSION}, results ${RESULTS_VERSION}|`;

/** Stamp of a run's whole analysis, charts and all, with what it was given. */
export const analysisStamp = (procedure: string, given: unknown): string =>
  `${resultsStamp(procedure)}${writtenDigits()}|${JSON.stringify(given)}`;

const judged = (): string =>
  `${analyses()}, dictionary ${DICTIONARY_VERSION}, results ${RESULTS_VERSION}, judging ${JUDGING_VERSION}`;

/** Stamp of a board's summary. */
export const summaryStamp = (rules: HouseRules): string => `${judged()}|${JSON.stringify(rules)}`;

/** Stamp of a board's column and cells in the comparison. */
export const columnStamp = (rules: HouseRules): string =>
  `${judged()}, comparing ${COMPARING_VERSION}|${JSON.stringify(rules)}`;

/** Stamp of what is kept of a board for weighing it by these characteristics. */
export const candidateStamp = (rules: HouseRules, wanted: readonly string[]): string =>
  `${columnStamp(rules)}|${wanted.join(",")}`;

/** Stamp of how a board fares against needs of this checksum. */
export const outcomesStamp = (rules: HouseRules, wanted: readonly string[], needs: string): string =>
  `${candidateStamp(rules, wanted)}|weighing ${WEIGHING_VERSION}|${needs}`;

/** Whether two stamps differ in versions alone. */
export function onlyVersionsDiffer(a: string, b: string): boolean {
  const parts = (s: string): readonly [string, string] => [s.slice(0, s.indexOf("|")), s.slice(s.indexOf("|"))];
  const [[va, ra], [vb, rb]] = [parts(a), parts(b)];
  return va !== vb && ra === rb;
}
