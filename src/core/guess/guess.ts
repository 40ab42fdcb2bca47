/** What a log most likely is, from its columns and the shape of its curves: a guess, with what else it may be beside it. */
import { PROCEDURES, type Procedure } from "../procedures";
import { logShape, type LogShape } from "../procedures/kit/likeness";
import type { Role } from "../measurement";
import { missingRoles } from "../files/read-log";

export interface Alternative {
  readonly procedure: string;
  /** In [0, 1]; all of them together make one. */
  readonly share: number;
}
export interface Guess {
  /** Null where nothing is likely enough, or two are as likely. */
  readonly procedure: string | null;
  /** All that are at all likely, the likeliest first. */
  readonly alternatives: readonly Alternative[];
  /** How well the likeliest fits, in [0, 1]. */
  readonly likeness: number;
}

/** Likeness below which nothing is said, share of the likelihood below which two are too close, and share that is still listed. */
const LEAST_LIKENESS = 0.5;
const LEAST_LEAD = 0.55;
const LEAST_LISTED = 0.03;
/** What a column that a procedure has no use for takes from its likeness. */
const USELESS_COLUMN = 0.6;

function likenessOf(p: Procedure, shape: LogShape): number {
  if (!p.likeness || missingRoles(p, shape.roles)) return 0;
  const used = new Set<Role>(p.record.roles.map((r) => r.role));
  const useless = shape.roles.filter((r) => r !== "time" && !used.has(r)).length;
  return p.likeness(shape) * USELESS_COLUMN ** useless;
}

/** Which procedure columns of this shape most likely come from. */
export function guessFromShape(shape: LogShape): Guess {
  const all = PROCEDURES.map((p) => ({ procedure: p.id, likeness: likenessOf(p, shape) })).sort(
    (a, b) => b.likeness - a.likeness,
  );
  const sum = all.reduce((s, a) => s + a.likeness, 0);
  const alternatives = all
    .filter((a) => a.likeness > LEAST_LISTED * sum)
    .map((a) => ({ procedure: a.procedure, share: a.likeness / sum }));
  const [best] = all;
  const sure = best !== undefined && best.likeness >= LEAST_LIKENESS && best.likeness >= LEAST_LEAD * sum;
  return { procedure: sure ? best.procedure : null, alternatives, likeness: best?.likeness ?? 0 };
}

/** Which procedure columns most likely come from; each holds its role's readings in SI, NaN where one is missing. */
export const guessFromColumns = (columns: Readonly<Partial<Record<Role, ArrayLike<number>>>>): Guess =>
  guessFromShape(logShape(columns));
