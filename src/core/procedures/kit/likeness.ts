import type { Role } from "../../measurement";
import { ELEMENTS } from "../../quantities";

const { nth, sampleAt } = ELEMENTS;

/** How one column of a log runs, from its readings in their order; missing ones are passed over. */
export interface ColumnShape {
  /** Readings, thinned evenly to at most `THINNED` rows; NaN where one is missing. */
  readonly values: Float64Array;
  readonly first: number;
  readonly last: number;
  readonly least: number;
  readonly most: number;
  readonly median: number;
  /** Between the 5th and the 95th percentile: what is left when spikes are left out. */
  readonly spread: number;
}

/** What a log looks like to whoever has to tell which procedure made it: its columns, SI, without its heads. */
export interface LogShape {
  readonly rows: number;
  /** s from the first row to the last; null where no column is the time. */
  readonly seconds: number | null;
  has(...roles: readonly Role[]): boolean;
  /** Null where the log has no such column, or not one reading in it. */
  of(role: Role): ColumnShape | null;
  readonly roles: readonly Role[];
}

/** Rows that a shape keeps of a log: enough for every step of a staircase, few enough to look at in milliseconds. */
const THINNED = 4000;

const isReading = (x: number): boolean => Number.isFinite(x);

/** The shape of a column; null where nothing was read. */
function columnShape(values: ArrayLike<number>): ColumnShape | null {
  const stride = Math.max(1, Math.ceil(values.length / THINNED));
  const thin = new Float64Array(Math.ceil(values.length / stride));
  for (let k = 0; k < thin.length; k++) thin[k] = nth(values, k * stride);
  const sorted = thin.filter(isReading).sort();
  if (sorted.length === 0) return null;
  const at = (share: number) => sampleAt(sorted, Math.round(share * (sorted.length - 1)));
  const readings = thin.filter(isReading);
  return {
    values: thin,
    first: sampleAt(readings, 0),
    last: sampleAt(readings, readings.length - 1),
    least: at(0),
    most: at(1),
    median: at(0.5),
    spread: at(0.95) - at(0.05),
  };
}

/** The shape of a log from its columns, SI. Rows are taken to be in the order in which they were read. */
export function logShape(columns: Readonly<Partial<Record<Role, ArrayLike<number>>>>): LogShape {
  const shapes = new Map<Role, ColumnShape>();
  let rows = 0;
  for (const [role, values] of Object.entries(columns) as [Role, ArrayLike<number> | undefined][]) {
    if (!values) continue;
    rows = Math.max(rows, values.length);
    const shape = columnShape(values);
    if (shape) shapes.set(role, shape);
  }
  const time = shapes.get("time");
  return {
    rows,
    seconds: time ? time.most - time.least : null,
    has: (...roles) => roles.every((r) => shapes.has(r)),
    of: (role) => shapes.get(role) ?? null,
    roles: [...shapes.keys()],
  };
}

/** Ah that a current carried over the log's own time; NaN without one of the two. Gaps count with the current before them. */
export function chargePassed(log: LogShape, role: Role): number {
  const [time, current] = [log.of("time"), log.of(role)];
  if (!time || !current) return NaN;
  let sum = 0;
  let [before, amps] = [NaN, NaN];
  for (let k = 0; k < time.values.length; k++) {
    const [t, i] = [sampleAt(time.values, k), sampleAt(current.values, k)];
    if (!isReading(t) || !isReading(i)) continue;
    if (t > before) sum += amps * (t - before);
    [before, amps] = [t, i];
  }
  return sum / 3600;
}

/** Share of the rows with a current in which it is within 5 % of its usual value there: near one where one load stands. */
export function steadyShare(column: ColumnShape): number {
  const flowing = column.values
    .filter((v) => isReading(v) && Math.abs(v) > 0.1 * Math.max(Math.abs(column.most), Math.abs(column.least)))
    .sort();
  if (flowing.length < 5) return 0;
  const usual = sampleAt(flowing, Math.floor(flowing.length / 2));
  return flowing.filter((v) => Math.abs(v - usual) < 0.05 * Math.abs(usual)).length / flowing.length;
}

/** Levels, each 5 % of the largest magnitude wide, on which at least half a per cent of the rows stand: a staircase has many. */
export function levels(column: ColumnShape): number {
  const most = Math.max(Math.abs(column.most), Math.abs(column.least));
  if (!(most > 0)) return 1;
  const tally = new Map<number, number>();
  for (const v of column.values)
    if (isReading(v)) tally.set(Math.round((20 * v) / most), (tally.get(Math.round((20 * v) / most)) ?? 0) + 1);
  return [...tally.values()].filter((n) => n >= Math.max(1, 0.005 * column.values.length)).length;
}

/**
 * How far a column rises (+1) or falls (−1) with its rows: Pearson's correlation of reading and row number, over the rows that `where`
 * takes. Zero where fewer than four are left, or nothing moves.
 */
export function trend(column: ColumnShape, where: (k: number) => boolean = () => true): number {
  let [n, sx, sy, sxx, syy, sxy] = [0, 0, 0, 0, 0, 0];
  column.values.forEach((y, x) => {
    if (!isReading(y) || !where(x)) return;
    n++;
    sx += x;
    sy += y;
    sxx += x * x;
    syy += y * y;
    sxy += x * y;
  });
  const variances = (n * sxx - sx * sx) * (n * syy - sy * sy);
  return n < 4 || !(variances > 0) ? 0 : (n * sxy - sx * sy) / Math.sqrt(variances);
}

/** Ω that a source shows where it is loaded: the slope of its voltage over the current drawn; NaN where the current does not vary. */
export function sourceResistance(log: LogShape, voltage: Role, current: Role): number {
  const [v, i] = [log.of(voltage), log.of(current)];
  if (!v || !i) return NaN;
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let k = 0; k < Math.min(v.values.length, i.values.length); k++) {
    const [y, x] = [sampleAt(v.values, k), sampleAt(i.values, k)];
    // A lead that was pulled says nothing of the source.
    if (!isReading(x) || !isReading(y) || y < 1) continue;
    n++;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
  }
  const spread = n * sxx - sx * sx;
  return n < 4 || !(spread > 1e-9 * n * sxx) ? NaN : -(n * sxy - sx * sy) / spread;
}

/** A likeness in [0, 1] from one to begin with and what speaks for or against it, each as a factor. */
export const likenessBy = (
  first: number,
  ...factors: readonly (readonly [applies: boolean, factor: number])[]
): number =>
  Math.min(
    1,
    factors.reduce((x, [applies, factor]) => (applies ? x * factor : x), first),
  );

/** V that a current's own sense resistor or leads account for: a held supply moves no more than this. */
const MOST_MOVED = 0.08;
/** Whether a voltage stood where it was set for nearly all of the log, or of the part of it in which a current flowed. */
export function stoodWhereSet(column: ColumnShape | null, current?: ColumnShape | null): boolean {
  if (!column || !current) return column !== null && column.spread < MOST_MOVED;
  const least = 0.1 * Math.max(Math.abs(current.most), Math.abs(current.least));
  const flowing = column.values.filter((v, k) => isReading(v) && Math.abs(current.values[k] ?? 0) > least).sort();
  return (
    flowing.length < 5 ||
    sampleAt(flowing, Math.round(0.95 * (flowing.length - 1))) -
      sampleAt(flowing, Math.round(0.05 * (flowing.length - 1))) <
      MOST_MOVED
  );
}

/** V that tell one level of a supply from the next, and levels that are more than a few settings. */
const LEVEL = 0.02;
const MANY = 8;
/** Whether a voltage was moved through many levels, as a ramp does, and not just set to a few. */
export function travels(column: ColumnShape): boolean {
  const tally = new Map<number, number>();
  for (const v of column.values)
    if (isReading(v)) tally.set(Math.round(v / LEVEL), (tally.get(Math.round(v / LEVEL)) ?? 0) + 1);
  return [...tally.values()].filter((n) => n >= Math.max(1, 0.005 * column.values.length)).length >= MANY;
}

/** V of a panel above what comes from a USB socket; V under which no USB socket is, however long its cable. */
const ABOVE_USB = 5.7;
const BELOW_USB = 4.35;
/** Ω of a source that no cable has. */
const YIELDING = 1.5;

/**
 * Whether what feeds a charger yields as a panel does: it gives way by more than any cable, or lies where no socket is while the current
 * jumps with the light.
 */
export function looksLikePanel(log: LogShape): boolean {
  const [volts, amps] = [log.of("inputVoltage"), log.of("inputCurrent")];
  if (!volts || !amps) return false;
  const ohms = sourceResistance(log, "inputVoltage", "inputCurrent");
  const loaded = volts.values.filter((v, k) => Number.isFinite(v) && (amps.values[k] ?? 0) > 0.2 * amps.most).sort();
  const usual = loaded[Math.floor(loaded.length / 2)] ?? NaN;
  const open = volts.most / usual;
  return (
    (ohms > YIELDING && volts.most > 4) ||
    (volts.most > ABOVE_USB && usual < 8 && open > (usual > ABOVE_USB ? 1.1 : 1.25)) ||
    (usual < BELOW_USB && usual > 2 && steadyShare(amps) < 0.98 && Math.abs(ohms) < 0.1)
  );
}
