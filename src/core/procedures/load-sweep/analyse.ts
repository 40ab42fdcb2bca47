import { LOAD_KINDS, type Conditions } from "../../characteristics";
import {
  budget,
  divide,
  ELEMENTS,
  exact,
  expandedUncertainty,
  fitPolynomial,
  formatQuantity,
  highest,
  listed,
  lowest,
  numeric,
  propagate,
  scale,
  standardUncertainty,
  subtract,
  uncertaintyOfDifference,
  withPart,
  type Uncertain,
  type Unit,
  ownUncertainty,
  scatter,
} from "../../quantities";
import type {
  Analysis,
  Corrections,
  Finding,
  Note,
  NotStated,
  ReadingsOf,
  RunSetup,
  Unfairness,
} from "../../measurement";
import type { Wanted } from "../contract";
import { sweepCharts } from "./charts";
import { fitLossModel, type LossModel } from "./loss-model";
import type { SweepPlan } from "./plan";
import { isNoLoad, LIMIT_SPREAD, sweepColumns, type SweepColumn, type SweepPoint } from "./points";
import { onlyStarts, startVoltages } from "./starts";

const { nth } = ELEMENTS;

const DEFAULT_DWELL = 5;
/** Loads below this share of the highest sustained one do not count for the lowest efficiency. */
const LIGHT_SHARE = 0.05;

export interface ColumnLimits {
  /** Highest load held in band, or null. */
  readonly held: SweepPoint | null;
  /** Lowest load at which the output fell, or null. */
  readonly fell: SweepPoint | null;
}

/** What a column shows of its limit. Only points that dwelt count as held; starts from off are another quantity. */
export function columnLimits(column: SweepColumn): ColumnLimits {
  const steady = column.points.filter((p) => !p.fromOff);
  const held = steady.filter((p) => p.inBand && p.dwelt && !isZero(p)).at(-1) ?? null;
  const fell = steady.find((p) => p.fell) ?? null;
  return { held, fell };
}
const isZero = (p: SweepPoint): boolean => p.efficiency === null;

function finding(
  characteristic: string,
  unit: Unit,
  x: Uncertain,
  conditions: Conditions,
  points: readonly SweepPoint[],
  extra: Partial<Pick<Finding, "bound" | "bracket" | "unfair">> = {},
): Finding {
  return {
    characteristic,
    conditions,
    value: x.value,
    unit,
    expandedUncertainty: expandedUncertainty(x),
    budget: budget(x),
    points: points.map((p) => p.id),
    unfair: extra.unfair ?? [],
    ...(extra.bound ? { bound: extra.bound } : {}),
    ...(extra.bracket ? { bracket: extra.bracket } : {}),
  };
}

const SUPPLY_REMEDY =
  "Raise the supply's current limit (or shorten the battery leads) and repeat from the last point held.";

/**
 * Whether the supply may have caused a collapse: seen at the point itself, or, where the module switched off and draws
 * nothing any more, because the load would have needed the supply's whole limit. What the last held load drew grows at
 * least in proportion. A limit that the battery current was read above is not the supply's, and excuses nothing.
 */
function supplyFault(fell: SweepPoint, held: SweepPoint | null, belied: ReadonlySet<number>): "seen" | "needed" | null {
  if (fell.sagged) return "seen";
  if (fell.supplyLimit === undefined || belied.has(fell.supplyLimit)) return null;
  if (fell.atLimit) return "seen";
  if (!held || held.loadSet <= 0 || fell.batteryI.value > 0.1 * held.batteryI.value) return null;
  return (held.batteryI.value * fell.loadSet) / held.loadSet >= 0.98 * fell.supplyLimit ? "needed" : null;
}

/** The stated supply limits that battery currents of the run were read above. */
const beliedLimits = (columns: readonly SweepColumn[]): ReadonlySet<number> =>
  new Set(
    columns.flatMap((c) =>
      c.points.flatMap((p) =>
        p.supplyLimit !== undefined && p.batteryI.value > (1 + LIMIT_SPREAD) * p.supplyLimit ? [p.supplyLimit] : [],
      ),
    ),
  );

function supplyUnfair(fell: SweepPoint, held: SweepPoint | null, belied: ReadonlySet<number>): Unfairness[] {
  const fault = supplyFault(fell, held, belied);
  if (!fault) return [];
  const load = formatQuantity(fell.loadSet, "A");
  return [
    {
      code: "supply-gave-up",
      message:
        fault === "seen"
          ? `When the output fell at ${load}, the supply was at its own limit or its voltage had sagged: the supply collapsed, not the module.`
          : `The output switched off at ${load}, which would have needed the supply's whole limit of ${formatQuantity(fell.supplyLimit ?? NaN, "A")}: the supply may have caused it.`,
      remedy: SUPPLY_REMEDY,
      pushes: "low",
    },
  ];
}

/** A current measured at a point: the meter reading, or for a collapse the load that was set. */
function collapseCurrent(p: SweepPoint): Uncertain {
  const set = p.loadSet;
  // The set current of an electronic load is only as good as the reading beside it; a resistor's is nominal ÷ R.
  const measured = p.outputI;
  return Math.abs(measured.value - set) <= 0.02 * Math.abs(set)
    ? measured
    : propagate(set, [[set / (measured.value || set), measured]]);
}

/** Whether an efficiency can be one: a point that comes to more than 1 beyond its uncertainty was misread, and never counts by itself. */
const credible = (p: SweepPoint): boolean =>
  p.efficiency !== null && p.efficiency.value - 2 * standardUncertainty(p.efficiency) <= 1;

/** Times the uncertainty of the surest peak that another point's may have to be one. */
const AS_SURE = 2;

function peak(points: readonly SweepPoint[], conditions: Conditions): Finding[] {
  const loaded = points.filter(credible);
  if (loaded.length === 0) return [];
  // Among those that are about as well known as the one that is surely high: a light load read in a meter's last digits comes out anyhow.
  const u = (p: SweepPoint) => standardUncertainty(p.efficiency as Uncertain);
  const sure = loaded.reduce((a, b) =>
    (b.efficiency as Uncertain).value - 2 * u(b) > (a.efficiency as Uncertain).value - 2 * u(a) ? b : a,
  );
  const best = loaded
    .filter((p) => u(p) <= AS_SURE * u(sure))
    .reduce((a, b) => ((b.efficiency as Uncertain).value > (a.efficiency as Uncertain).value ? b : a), sure);
  const e = best.efficiency as Uncertain;
  // The peak is flat: every load whose efficiency can't be told from the best (shared errors cancel) may be the place.
  const rivals = loaded.filter((p) => {
    const other = p.efficiency as Uncertain;
    return e.value - other.value <= 2 * uncertaintyOfDifference(e, other);
  });
  // Between the points it was not looked for: it lies somewhere between the neighbours of those that may be it.
  const order = [...loaded].sort((a, b) => a.outputI.value - b.outputI.value);
  const at = (end: number) => numeric(order[Math.min(order.length - 1, Math.max(0, end))]?.outputI.value);
  const places = rivals.map((p) => order.indexOf(p));
  const [low, high] = [at(lowest(places) - 1), at(highest(places) + 1)];
  return [
    finding("boost.peak-efficiency", "1", e, conditions, [best]),
    finding(
      "boost.peak-efficiency-current",
      "A",
      best.outputI,
      conditions,
      rivals,
      high > low ? { bracket: { low, high } } : {},
    ),
  ];
}

function columnFindings(
  column: SweepColumn,
  setup: RunSetup<SweepPlan>,
  at: Conditions,
  belied: ReadonlySet<number>,
): Finding[] {
  const out: Finding[] = [];
  const conditions: Conditions = { battery: column.battery, ...at };
  const nominal = setup.conditions.nominalOutput;
  const steady = column.points.filter((p) => !p.fromOff);
  const inBand = steady.filter((p) => p.inBand);
  const idle = steady.find((p) => isNoLoad(p.outputI.value, setup)) ?? null;
  if (idle) out.push(finding("boost.no-load-voltage", "V", idle.outputV, conditions, [idle]));
  out.push(...peak(inBand, conditions));
  // Without a nominal output there is no band: nothing was held, and nothing fell.
  if (!nominal) return out;
  const { held, fell } = columnLimits(column);
  if (held) {
    const counted = inBand.filter((p) => credible(p) && p.outputI.value >= LIGHT_SHARE * held.outputI.value);
    if (counted.length) {
      const low = counted.reduce((a, b) =>
        (b.efficiency as Uncertain).value < (a.efficiency as Uncertain).value ? b : a,
      );
      out.push(finding("boost.lowest-efficiency", "1", low.efficiency as Uncertain, conditions, [low]));
    }
    const bracketed = fell !== null && fell.loadSet > held.outputI.value;
    out.push(
      finding("boost.max-current", "A", held.outputI, conditions, fell ? [held, fell] : [held], {
        ...(fell === null ? { bound: "at-least" as const } : {}),
        ...(bracketed ? { bracket: { low: held.outputI.value, high: collapseCurrent(fell).value } } : {}),
        unfair: fell ? supplyUnfair(fell, held, belied) : [],
      }),
    );
    const rated = ratedPoint(column, held, setup.conditions.ratedLoad);
    if (idle && rated)
      out.push(
        finding("boost.load-regulation", "1", scale(subtract(idle.outputV, rated.volts), 1 / nominal), conditions, [
          idle,
          ...rated.points,
        ]),
      );
  }
  if (fell)
    out.push(
      finding("boost.collapse-current", "A", collapseCurrent(fell), conditions, [fell], {
        unfair: supplyUnfair(fell, held, belied),
      }),
    );
  const resistance = outputResistance(inBand);
  if (resistance) out.push(finding("boost.output-resistance", "Ω", resistance, conditions, inBand));
  out.push(...startFindings(column, nominal, conditions, belied));
  return out;
}

/** A that it started into. A constant power, which takes more the lower the output stands within its band, is told by its current at the nominal output. */
const startedInto = (p: SweepPoint): Uncertain =>
  p.mode === "power" ? propagate(p.loadSet, [[p.loadSet / (p.outputI.value || p.loadSet), p.outputI]]) : p.outputI;

/** A that it did not start into, told as what it started into is: a resistance by its current at the output that it then had (V). */
const notStartedInto = (p: SweepPoint, nominal: number, volts: number): number =>
  p.mode === "resistance" ? (p.loadSet * volts) / nominal : p.loadSet;

/** The highest load that the output starts into, for each kind of load that was tried. */
function startFindings(
  column: SweepColumn,
  nominal: number,
  conditions: Conditions,
  belied: ReadonlySet<number>,
): Finding[] {
  return Object.entries(LOAD_KINDS).flatMap(([mode, kind]): Finding[] => {
    const starts = column.points.filter((p) => p.fromOff && p.mode === mode);
    const started = starts.filter((p) => p.inBand).at(-1);
    const refused = starts.find((p) => !p.inBand && (!started || p.loadSet > started.loadSet));
    const at: Conditions = { ...conditions, kind };
    if (!started)
      return refused
        ? [
            finding("boost.start-current", "A", collapseCurrent(refused), at, [refused], {
              bound: "at-most",
              unfair: supplyUnfair(refused, null, belied),
            }),
          ]
        : [];
    return [
      finding("boost.start-current", "A", startedInto(started), at, refused ? [started, refused] : [started], {
        ...(refused
          ? {
              bracket: {
                low: startedInto(started).value,
                high: notStartedInto(refused, nominal, started.outputV.value),
              },
            }
          : { bound: "at-least" as const }),
        unfair: refused ? supplyUnfair(refused, started, belied) : [],
      }),
    ];
  });
}

/** Output voltage at the run's rated load, or at the highest load held where none is stated; null where the rated load was not held. */
function ratedPoint(
  column: SweepColumn,
  held: SweepPoint,
  rated: number | undefined,
): { volts: Uncertain; points: SweepPoint[] } | null {
  if (rated === undefined) return { volts: held.outputV, points: [held] };
  // A load that is set to the rated one may be read a little below it.
  const near = Math.abs(held.outputI.value - rated) <= 0.01 * rated ? held : null;
  return near ? { volts: near.outputV, points: [near] } : outputAt(column, rated);
}

/** Slope of output volts against load current by least squares, sign reversed; null below three loads. */
function outputResistance(points: readonly SweepPoint[]): Uncertain | null {
  if (points.length < 3) return null;
  const x = points.map((p) => p.outputI.value);
  const y = points.map((p) => p.outputV.value);
  const fit = fitPolynomial(x, y, 1);
  if (!fit) return null;
  const rows = fit.sensitivity[1] as readonly number[];
  const slope = nth(fit.coefficients, 1);
  const terms: [number, Uncertain][] = points.map((p, i) => [-nth(rows, i), p.outputV]);
  // An error of the current moves a point along the line: ∂slope/∂x = −slope·∂slope/∂y.
  for (const [i, p] of points.entries()) terms.push([nth(rows, i) * slope, p.outputI]);
  const fromReadings = propagate(-slope, terms);
  // What the line itself leaves over: curvature and thermal drift show in the residuals.
  const n = points.length;
  const mean = x.reduce((s, v) => s + v, 0) / n;
  const sxx = x.reduce((s, v) => s + (v - mean) ** 2, 0);
  const residual = Math.sqrt(fit.residuals.reduce((s, r) => s + r * r, 0) / Math.max(1, n - 2) / sxx);
  const own = Math.sqrt(points.reduce((s, p, i) => s + (nth(rows, i) * ownUncertainty(p.outputV)) ** 2, 0));
  return residual > own
    ? withPart(fromReadings, scatter("scatter about the line"), Math.sqrt(residual ** 2 - own ** 2))
    : fromReadings;
}

/** Output voltage at a load by interpolation between the two in-band points around it; null outside them. */
function outputAt(column: SweepColumn, amps: number): { volts: Uncertain; points: SweepPoint[] } | null {
  const points = column.points.filter((p) => !p.fromOff && p.inBand).sort((a, b) => a.outputI.value - b.outputI.value);
  const above = points.find((p) => p.outputI.value >= amps * (1 - 1e-9));
  const below = points.filter((p) => p.outputI.value <= amps * (1 + 1e-9)).at(-1);
  if (!above || !below) return null;
  if (above === below) return { volts: above.outputV, points: [above] };
  const span = above.outputI.value - below.outputI.value;
  const k = span > 0 ? (amps - below.outputI.value) / span : 0;
  return {
    volts: propagate((1 - k) * below.outputV.value + k * above.outputV.value, [
      [1 - k, below.outputV],
      [k, above.outputV],
    ]),
    points: [below, above],
  };
}

/** Findings that compare the battery voltages. */
function acrossColumns(
  columns: readonly SweepColumn[],
  setup: RunSetup<SweepPlan>,
  at: Conditions,
  belied: ReadonlySet<number>,
): Finding[] {
  const out: Finding[] = [];
  const nominal = setup.conditions.nominalOutput;
  const limits = columns.map((c) => ({ column: c, ...columnLimits(c) }));
  const heldAll = limits.filter((l) => l.held !== null);
  if (nominal && columns.length >= 2 && heldAll.length === columns.length) {
    const common = lowest(heldAll.map((l) => (l.held as SweepPoint).outputI.value));
    const outputs = columns.map((c) => outputAt(c, common)).filter((o): o is NonNullable<typeof o> => o !== null);
    if (outputs.length === columns.length) {
      const high = outputs.reduce((a, b) => (b.volts.value > a.volts.value ? b : a));
      const low = outputs.reduce((a, b) => (b.volts.value < a.volts.value ? b : a));
      out.push(
        finding("boost.line-regulation", "1", divide(subtract(high.volts, low.volts), exact(nominal)), at, [
          ...high.points,
          ...low.points,
        ]),
      );
    }
  }
  const collapsed = limits.filter(
    (l) => l.fell !== null && l.held !== null && supplyFault(l.fell, l.held, belied) === null,
  );
  const reached = collapsed.flatMap((l) => l.column.points.filter((p) => p.inBand && !p.fromOff));
  if (reached.length) {
    const top = reached.reduce((a, b) => (b.batteryI.value > a.batteryI.value ? b : a));
    const beyond = collapsed.map((l) => (l.fell as SweepPoint).batteryI.value).filter((i) => i > top.batteryI.value);
    out.push(
      finding(
        "boost.input-current-limit",
        "A",
        top.batteryI,
        at,
        [top],
        beyond.length ? { bracket: { low: top.batteryI.value, high: highest(beyond) } } : {},
      ),
    );
  }
  return out;
}

export interface SweepAnalysis extends Analysis {
  readonly columns: readonly (SweepColumn & { readonly model: LossModel | null })[];
}

/**
 * From the points of a load sweep to its findings, notes and charts.
 *
 * Voltages are taken to the module's terminals (stated lead resistances), points left out with a reason do not count,
 * extremes and limits are those of the points taken. A highest load without a collapse is a lower bound. Nothing is
 * guessed: what the points do not show is absent.
 */
export function analyseSweep(
  readings: ReadingsOf<"points">,
  setup: RunSetup<SweepPlan>,
  corrections: Corrections,
  wanted: Wanted = "all",
): SweepAnalysis {
  const all = sweepColumns(readings.points, setup, corrections, setup.plan?.dwell ?? DEFAULT_DWELL);
  const swept = all.filter((c) => !onlyStarts(c));
  const at: Conditions = {
    ...(setup.conditions.output !== undefined ? { output: setup.conditions.output } : {}),
    ...(setup.conditions.configuration ? { configuration: setup.conditions.configuration } : {}),
  };
  const counted = swept.filter((c) => c.points.length > 0);
  const belied = beliedLimits(counted);
  const starts = setup.conditions.nominalOutput
    ? startVoltages(all, at, (p, held) => supplyFault(p, held, belied) !== null)
    : [];
  const findings = [
    ...counted.flatMap((c) => columnFindings(c, setup, at, belied)),
    ...acrossColumns(counted, setup, at, belied),
    ...starts,
  ];
  const notStated = notRated(counted, findings, setup, at);
  if (wanted === "findings" && findings.length) return { findings, notStated, notes: [], charts: [], columns: [] };
  const columns = swept.map((c) => ({
    ...c,
    model: fitLossModel(c.points.filter((p) => !p.fromOff && (p.efficiency === null || credible(p)))),
  }));
  return {
    findings,
    notStated,
    notes: sweepNotes(
      columns,
      readings.points.length - all.filter(onlyStarts).reduce((n, c) => n + c.points.length + c.leftOut.length, 0),
      setup,
      corrections,
    ),
    charts: sweepCharts(columns, setup),
    columns,
  };
}

/** Where the rated load was not held, the regulation to it is not stated. */
function notRated(
  columns: readonly SweepColumn[],
  findings: readonly Finding[],
  setup: RunSetup,
  at: Conditions,
): NotStated[] {
  const rated = setup.conditions.ratedLoad;
  if (rated === undefined || !setup.conditions.nominalOutput) return [];
  const names = new Set(
    findings.filter((f) => f.characteristic === "boost.load-regulation").map((f) => f.conditions.battery),
  );
  return columns
    .filter((c) => !names.has(c.battery) && columnLimits(c).held)
    .map((c) => ({
      characteristic: "boost.load-regulation",
      conditions: { battery: c.battery, ...at },
      code: "did-not-happen",
      reason: `The rated load of ${formatQuantity(rated, "A")} was not held at ${formatQuantity(c.battery, "V")}.`,
    }));
}

function sweepNotes(
  columns: SweepAnalysis["columns"],
  taken: number,
  setup: RunSetup<SweepPlan>,
  corrections: Corrections,
): Note[] {
  const notes: Note[] = [];
  const volts = (c: { battery: number }) => formatQuantity(c.battery, "V");
  const usable = columns.reduce((n, c) => n + c.points.length + c.leftOut.length, 0);
  if (usable < taken)
    notes.push({
      code: "incomplete-points",
      message: `${taken - usable} of ${taken} points lack one of the four readings and don't count.`,
    });
  if (setup.conditions.nominalOutput === undefined)
    notes.push({
      code: "no-nominal",
      message:
        "No nominal output is stated: the regulation band, and so the collapse and the highest load, can't be found.",
    });
  for (const limit of beliedLimits(columns))
    notes.push({
      code: "limit-belied",
      message: `Battery currents above the stated supply limit of ${formatQuantity(limit, "A")} were measured. Correct the limit.`,
    });
  for (const c of columns) {
    const short = c.points.filter((p) => !p.dwelt && !p.fell && !p.fromOff);
    if (short.length)
      notes.push({
        code: "not-held",
        message: `At ${volts(c)} ${short.length === 1 ? "the point" : "the points"} at ${listed(short.map((p) => formatQuantity(p.loadSet, "A")))} was shorter than the dwell: drawn, but not counted as held.`,
        points: short.map((p) => p.id),
      });
    const { held, fell } = columnLimits(c);
    if (held && fell && fell.loadSet <= held.outputI.value)
      notes.push({
        code: "not-repeatable",
        message: `At ${volts(c)} the output fell at ${formatQuantity(fell.loadSet, "A")} though it held ${formatQuantity(held.outputI.value, "A")}: the limit moves, most likely with temperature.`,
        points: [held.id, fell.id],
      });
    for (const p of c.points) {
      const recovery = corrections.recoveries.get(p.id);
      if (recovery)
        notes.push({
          code: "restart",
          message: `After the collapse at ${volts(c)} and ${formatQuantity(p.loadSet, "A")} the output came back: ${recovery}.`,
          points: [p.id],
        });
      if (p.efficiency && !credible(p))
        notes.push({
          code: "efficiency-over-one",
          message: `At ${volts(c)} and ${formatQuantity(p.outputI.value, "A")} the efficiency is ${formatQuantity(p.efficiency.value, "1", { digits: 4 })}: a reading or the wiring is wrong, and the point doesn't count for the efficiency.`,
          points: [p.id],
        });
      if (c.model?.outliers.includes(p.id))
        notes.push({
          code: "outlier",
          message: `At ${volts(c)} and ${formatQuantity(p.outputI.value, "A")} the loss is off the curve through the other points. Check it again.`,
          points: [p.id],
        });
      if (p.atLimit || p.sagged)
        notes.push({
          code: "supply-gave-up",
          message: `At ${volts(c)} and ${formatQuantity(p.loadSet, "A")} the supply was at its limit or its voltage had sagged.`,
          points: [p.id],
        });
    }
    for (const p of c.leftOut)
      notes.push({
        code: "left-out",
        message: `Excluded at ${volts(c)}, ${formatQuantity(p.outputI.value, "A")}: ${p.leftOut}.`,
        points: [p.id],
      });
  }
  return notes;
}
