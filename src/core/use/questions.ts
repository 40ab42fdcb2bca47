import { err, ok, type Result } from "../quantities";
import { seeded } from "../simulator/random";
import { matchCells, type MatchCell } from "./match";
import { lossModelConverter } from "./operating-point";
import { dutyPhases, runTime } from "./run-time";
import { planDay, SCHEDULE_BUDGET } from "./schedule";
import type { ScheduleQuestion } from "./schedule-question";
import { sourceOf, type Between, type PackCells } from "./source";
import { planStation, type StationQuestion } from "./station";

/** Kinds of planning questions that a file can hold. */
export const QUESTION_KINDS = ["fit", "station", "schedule", "match"] as const;
export type QuestionKind = (typeof QUESTION_KINDS)[number];

export interface FitQuestion {
  readonly load: { readonly power: number; readonly duty?: number; readonly sleepPower?: number };
  readonly module: {
    readonly outputVoltage: number;
    readonly loss: readonly number[];
    readonly inputCurrentLimit: number;
    readonly minimumInput: number;
    readonly standbyCurrent: number;
  };
  readonly cell: PackCells;
  readonly between: Between;
}

export interface MatchQuestion {
  readonly series: number;
  readonly parallel: number;
  readonly cells: readonly (MatchCell & { readonly resistance?: number })[];
}

type Answer = Readonly<Record<string, unknown>>;
/** An answer of the planner of a question's kind, or what of the question can't be: where, what was found, what to do. */
type Answered = Result<Answer>;

/** The same question gives the same plan. */
const SEED = 1;

/** Does the load run, for how long and why does it end. SI units; `runTime` in s. */
export function answerFit(q: FitQuestion): Answered {
  const curve = q.cell.openCircuit;
  for (const [k, [soc, volts]] of curve.entries()) {
    const before = curve[k - 1];
    if (before && soc <= before[0])
      return err(
        `cell.openCircuit[${k}]: state of charge ${soc} does not rise above ${before[0]}; list the pairs from empty to full`,
      );
    if (before && volts < before[1])
      return err(
        `cell.openCircuit[${k}]: ${volts} V at ${soc} is below ${before[1]} V at ${before[0]}; an open-circuit voltage rises with the charge`,
      );
  }
  const [first, last] = [curve[0], curve.at(-1)];
  if (!first || !last || first[0] > 0 || last[0] < 1)
    return err(
      `cell.openCircuit: goes from ${first?.[0]} to ${last?.[0]}; the curve is needed from 0 (empty) to 1 (full)`,
    );
  const { power, duty = 1, sleepPower = 0 } = q.load;
  if (sleepPower > power)
    return err(`load.sleepPower: ${sleepPower} W is more than the load's power, ${power} W; change them over`);
  const answer = runTime(
    sourceOf(q.cell, q.between),
    lossModelConverter(q.module),
    dutyPhases({ power, duty, sleepPower }),
  );
  if (!answer.holds) return ok(answer);
  const { seconds, ...rest } = answer;
  return ok({ ...rest, runTime: seconds });
}

export const answerStation = (q: StationQuestion): Answered => ok({ ...planStation(q) });

/** Starts of a day's tasks in whole minutes. `spent` gives the share of the search's time that is used up. */
export function answerSchedule(q: ScheduleQuestion, spent?: () => number): Answered {
  const ids = new Set<string>();
  for (const [k, t] of q.tasks.entries()) {
    if (ids.has(t.id)) return err(`tasks[${k}].id: “${t.id}” is there twice; give each task a name of its own`);
    ids.add(t.id);
    for (const [i, s] of t.steps.entries())
      for (const [name, need] of Object.entries(s.needs)) {
        const count = Object.hasOwn(q.instruments, name) ? (q.instruments[name] ?? 0) : 0;
        if (need > count)
          return err(
            `tasks[${k}].steps[${i}].needs.${name}: “${t.id}” needs ${need}, there ${count === 1 ? "is" : "are"} ${count}; add it to instruments or leave the task for another day`,
          );
      }
  }
  for (const [k, t] of q.tasks.entries()) {
    const strange = t.after?.find((a) => !ids.has(a));
    if (strange !== undefined)
      return err(`tasks[${k}].after: “${strange}” is no task of this day; known: ${[...ids].join(", ")}`);
  }
  const ring = inRing(q);
  if (ring)
    return err(`tasks: ${ring.map((id) => `“${id}”`).join(", ")} wait for each other; take one of their “after” out`);
  return ok({ ...planDay(q, seeded(SEED), { ...SCHEDULE_BUDGET, ...(spent ? { spent } : {}) }) });
}

/** Tasks that can never begin, as each waits for another of them. */
function inRing(q: ScheduleQuestion): string[] | null {
  let left = [...q.tasks];
  for (;;) {
    const waiting = new Set(left.map((t) => t.id));
    const next = left.filter((t) => (t.after ?? []).some((a) => waiting.has(a)));
    if (next.length === left.length) return left.length ? left.map((t) => t.id) : null;
    left = next;
  }
}

/** Series groups of parallel cells, by their codes, the weakest group first; capacities in Ah. */
export function answerMatch(q: MatchQuestion, over?: () => boolean): Answered {
  const codes = q.cells.map((c) => c.code);
  const twice = codes.findIndex((c, k) => codes.indexOf(c) !== k);
  if (twice >= 0) return err(`cells[${twice}].code: “${codes[twice]}” is there twice; each cell has a code of its own`);
  const wanted = q.series * q.parallel;
  if (q.cells.length < wanted)
    return err(
      `cells: ${q.cells.length} are too few for ${q.series} in series × ${q.parallel} in parallel; add ${wanted - q.cells.length} or choose a smaller pack`,
    );
  const m = matchCells(q.cells, q.series, q.parallel, seeded(SEED), {
    nodes: 300_000,
    rounds: 400,
    ...(over ? { over } : {}),
  });
  return ok({
    groups: m.groups.map((g) => g.map((c) => c.code)),
    packCapacity: m.packCapacity,
    spread: m.spread,
    proved: m.proved,
  });
}
