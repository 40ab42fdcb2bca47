import { formatQuantity, highest, lowest } from "../quantities";

/** What can stand between wall or panel and a charger, each with the numbers that describe it (SI units). */
export const STAGE_KINDS = ["supply", "panel", "cable", "linear", "switching", "port"] as const;
export type StageKind = (typeof STAGE_KINDS)[number];

/**
 * One stage of a feed. `supply`, `panel`: V it holds and A it gives at most (a panel's best voltage and its current there, in full light).
 * `cable`: Ω there and back. `linear`: V it regulates to, its dropout in V, A at most; °C its junction may reach, K/W from junction to sink.
 * `switching`: V it regulates to, efficiency 0 to 1, A at its output at most, least V at its input. `port`: A that it gives at most to all, and
 * A that others draw from it.
 */
export type FeedStage =
  | { readonly kind: "supply" | "panel"; readonly volts: number; readonly limit: number }
  | { readonly kind: "cable"; readonly resistance: number }
  | {
      readonly kind: "linear";
      readonly volts: number;
      readonly dropout: number;
      readonly limit: number;
      readonly hottest: number;
      readonly junctionSink: number;
    }
  | {
      readonly kind: "switching";
      readonly volts: number;
      readonly efficiency: number;
      readonly limit: number;
      readonly least: number;
    }
  | { readonly kind: "port"; readonly limit: number; readonly others: number };

/** The charger at the end of a feed, and the cell behind it. */
export interface FeedCharger {
  /** A linear charger passes its input current on; a switching one converts with this efficiency, 0 to 1. */
  readonly kind: "linear" | "switching";
  readonly efficiency: number;
  /** A it is set to, and A it draws for itself. */
  readonly current: number;
  readonly quiescent: number;
  /** V it needs at its input, and V above the cell's that it needs besides. */
  readonly least: number;
  readonly dropout: number;
  /** V of the cell at the lowest, and as it reaches the constant-voltage phase. */
  readonly cellLow: number;
  readonly cellFull: number;
  /** °C at which the part cuts its own current, and K/W from part to ambient; 0 where heat is left out. */
  readonly foldback: number;
  readonly thermal: number;
}
export const CHARGER_NUMBERS = [
  "efficiency",
  "current",
  "quiescent",
  "least",
  "dropout",
  "cellLow",
  "cellFull",
  "foldback",
  "thermal",
] as const satisfies readonly (keyof FeedCharger)[];

/** From wall or panel to the cell: the first stage is the source, the last stands before the charger. */
export interface FeedPlan {
  readonly stages: readonly FeedStage[];
  readonly charger: FeedCharger;
  /** °C. */
  readonly ambient: number;
  /** Of use where a panel is the source: s of full sun a day, mean W of the load at the battery, Wh of the cells. */
  readonly day: { readonly sun: number; readonly load: number; readonly energy: number };
  /** Shares, 0 to below 1, by which its voltages, the charge current, and resistances (cables, heat path) may stray; absent: taken as exact. */
  readonly tolerance?: Readonly<Record<FeedTolerance, number>>;
}
export const FEED_TOLERANCES = ["volts", "current", "resistance"] as const;
export type FeedTolerance = (typeof FEED_TOLERANCES)[number];

/** What one stage does at a charge current: V and A in and out, W it turns into heat. */
export interface StageState {
  readonly voltsIn: number;
  readonly voltsOut: number;
  readonly ampsIn: number;
  readonly ampsOut: number;
  readonly heat: number;
}

/** A feed while it charges with `current` A into a cell of `cell` V. */
export interface FeedState {
  readonly cell: number;
  readonly current: number;
  readonly stages: readonly StageState[];
  /** V and A at the charger's input, W that the charger turns into heat. */
  readonly boardVolts: number;
  readonly boardAmps: number;
  readonly chargerHeat: number;
}

/** What holds the charge current down: the stage by its place, the charger's heat, the voltage that reaches it, or what it is set to. */
export type FeedBottleneck =
  | { readonly what: "set" }
  | { readonly what: "heat" }
  | { readonly what: "voltage" }
  | { readonly what: "limit" | "least"; readonly stage: number };

export interface FeedAnswer {
  readonly state: FeedState;
  readonly bottleneck: FeedBottleneck;
}

/** Rounds after which a feed that has not settled is one that collapses: a switching stage then draws more the lower its input falls. */
const ROUNDS = 400;
/** Of the interval that a current is looked for in: what is left is 10⁻¹² of it. */
const HALVINGS = 40;

/**
 * Voltages along a feed at a charge current (A) into a cell (V); null where it has no steady state. Currents go from the charger back to the
 * source, voltages from the source on, until both agree. Worked: 5 V, 0.5 Ω, a linear charger at 0.5 A with 5 mA of its own: 4.7475 V at the board.
 */
export function feedState({ stages, charger }: FeedPlan, current: number, cell: number): FeedState | null {
  // From no current upwards: each round draws more than the one before, up to the steady state or past it.
  let board = { volts: NaN, amps: 0 };
  let out: StageState[] = stages.map(() => ({ voltsIn: 0, voltsOut: 0, ampsIn: 0, ampsOut: 0, heat: 0 }));
  for (let round = 0; round < ROUNDS; round++) {
    let volts = 0;
    const forward = stages.map((s, k) => {
      const voltsIn = k === 0 && (s.kind === "supply" || s.kind === "panel") ? s.volts : volts;
      volts = voltsAfter(s, voltsIn, out[k]?.ampsOut ?? 0);
      return { voltsIn, voltsOut: volts };
    });
    if (!(volts > 0)) return null;
    const boardAmps =
      charger.kind === "linear"
        ? current + charger.quiescent
        : (cell * current) / (charger.efficiency * volts) + charger.quiescent;
    let amps = boardAmps;
    const next: StageState[] = [];
    for (let k = stages.length - 1; k >= 0; k--) {
      const [s, v] = [stages[k], forward[k]];
      if (!s || !v) continue;
      const ampsOut = amps;
      amps = ampsBefore(s, v.voltsIn, v.voltsOut, ampsOut);
      const taken = s.kind === "port" ? s.others * v.voltsOut : 0;
      next.unshift({ ...v, ampsIn: amps, ampsOut, heat: v.voltsIn * amps - v.voltsOut * ampsOut - taken });
    }
    const moved =
      next.some(
        (n, k) =>
          Math.abs(n.ampsIn - (out[k]?.ampsIn ?? 0)) > 1e-10 || Math.abs(n.ampsOut - (out[k]?.ampsOut ?? 0)) > 1e-10,
      ) ||
      Math.abs(volts - board.volts) > 1e-10 ||
      Number.isNaN(board.volts);
    out = next;
    board = { volts, amps: boardAmps };
    if (!moved)
      return {
        cell,
        current,
        stages: out,
        boardVolts: volts,
        boardAmps,
        chargerHeat: volts * boardAmps - cell * current,
      };
  }
  return null;
}

function voltsAfter(s: FeedStage, volts: number, amps: number): number {
  switch (s.kind) {
    case "cable":
      return volts - amps * s.resistance;
    case "linear":
      // Short of input it drops out and follows.
      return Math.min(s.volts, volts - s.dropout);
    case "switching":
      return volts > 0 ? s.volts : NaN;
    default:
      return volts;
  }
}

function ampsBefore(s: FeedStage, voltsIn: number, voltsOut: number, amps: number): number {
  if (s.kind === "switching") return (voltsOut * amps) / (s.efficiency * voltsIn);
  return s.kind === "port" ? amps + s.others : amps;
}

/** V that a charger needs at its input to charge a cell of `cell` V: its least input, or its dropout above the cell. */
export const feedNeeds = ({ charger }: FeedPlan, cell: number): number =>
  Math.max(charger.least, cell + charger.dropout);

/** What a charge current would ask too much of, seen from the source; null where nothing. */
function exceeded(plan: FeedPlan, state: FeedState | null): FeedBottleneck | null {
  // Nothing steady: the voltage falls as the current rises until it is gone.
  if (!state) return { what: "voltage" };
  const { charger, ambient } = plan;
  for (const [k, s] of plan.stages.entries()) {
    const at = state.stages[k];
    if (!at) continue;
    const drawn = s.kind === "port" ? at.ampsIn : at.ampsOut;
    if (s.kind !== "cable" && drawn > s.limit) return { what: "limit", stage: k };
    if (s.kind === "switching" && at.voltsIn < s.least) return { what: "least", stage: k };
  }
  if (state.boardVolts < feedNeeds(plan, state.cell)) return { what: "voltage" };
  if (charger.thermal > 0 && ambient + state.chargerHeat * charger.thermal > charger.foldback) return { what: "heat" };
  return null;
}

/**
 * The highest current (A) with which a feed lets its charger charge a cell of `cell` V, and what holds it there: what it is set to, its own heat, or
 * a stage of the feed. Null where it does not charge at all. By bisection: every limit that a current exceeds, a higher one exceeds too.
 */
export function feedCurrent(plan: FeedPlan, cell: number): FeedAnswer | null {
  const { current } = plan.charger;
  const whole = feedState(plan, current, cell);
  const first = exceeded(plan, whole);
  if (!first && whole) return { state: whole, bottleneck: { what: "set" } };
  let [held, over, bottleneck] = [0, current, first];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (held + over) / 2;
    const why = exceeded(plan, feedState(plan, middle, cell));
    if (why) [over, bottleneck] = [middle, why];
    else held = middle;
  }
  const state = feedState(plan, held, cell);
  return state && bottleneck && held > current * 1e-6 ? { state, bottleneck } : null;
}

/** Least and most of a figure. */
export type FeedRange = readonly [low: number, high: number];

/** What the tolerances of a feed's inputs leave open at one cell voltage. */
export interface FeedRanges {
  /** A into the cell, W in the charger; the least is 0 where it may not charge at all. */
  readonly current: FeedRange;
  readonly heat: FeedRange;
  /** What may limit the charge besides what does at the stated values. */
  readonly others: readonly FeedBottleneck[];
}

const same = (a: FeedBottleneck, b: FeedBottleneck): boolean =>
  a.what === b.what && ("stage" in a ? a.stage : -1) === ("stage" in b ? b.stage : -1);

/** The plan with its voltages, charge current and resistances moved by so many of their tolerances, −1 to 1 each. */
function strayed(plan: FeedPlan, by: Readonly<Record<FeedTolerance, number>>): FeedPlan {
  const t = plan.tolerance ?? { volts: 0, current: 0, resistance: 0 };
  const [v, i, r] = [1 + by.volts * t.volts, 1 + by.current * t.current, 1 + by.resistance * t.resistance];
  const stage = (s: FeedStage): FeedStage =>
    s.kind === "cable" ? { ...s, resistance: s.resistance * r } : "volts" in s ? { ...s, volts: s.volts * v } : s;
  return {
    ...plan,
    stages: plan.stages.map(stage),
    charger: { ...plan.charger, current: plan.charger.current * i, thermal: plan.charger.thermal * r },
  };
}

/**
 * The charge current and the charger's heat over the corners of a feed's tolerances, at a cell of `cell` V. All regulators and the source stray
 * alike, as do all resistances: each figure moves one way with each of the three, so its extremes stand at corners.
 */
export function feedRanges(plan: FeedPlan, cell: number): FeedRanges {
  const corners = [-1, 1].flatMap((volts) =>
    [-1, 1].flatMap((current) => [-1, 1].map((resistance) => strayed(plan, { volts, current, resistance }))),
  );
  const answers = corners.map((p) => ({ p, answer: feedCurrent(p, cell) }));
  const range = (values: readonly number[]): FeedRange => [lowest(values), highest(values)];
  const stated = feedCurrent(plan, cell)?.bottleneck;
  const others: FeedBottleneck[] = [];
  for (const { p, answer } of answers) {
    const b = answer?.bottleneck ?? feedRefusal(p, cell);
    if (!(stated && same(b, stated)) && !others.some((o) => same(o, b))) others.push(b);
  }
  return {
    current: range(answers.map((a) => a.answer?.state.current ?? 0)),
    heat: range(answers.map((a) => a.answer?.state.chargerHeat ?? 0)),
    others,
  };
}

/** Why nothing charges at all: what even the least current asks too much of. */
export const feedRefusal = (plan: FeedPlan, cell: number): FeedBottleneck =>
  exceeded(plan, feedState(plan, plan.charger.current * 1e-6, cell)) ?? { what: "voltage" };

/**
 * Heat sink for a linear regulator, K/W at most: R_sa ≤ (T_max − T_ambient) ÷ P − R_js. Null where it loses nothing; 0 or less: none is enough.
 * Worked: 2 W, 110 °C, 40 °C ambient, 6 K/W to the sink: 29 K/W.
 */
export const sinkFor = (
  stage: { readonly hottest: number; readonly junctionSink: number },
  heat: number,
  ambient: number,
): number | null => (heat > 0 ? (stage.hottest - ambient) / heat - stage.junctionSink : null);

/** A panel's day: Wh into the cell, Wh the load takes, days that the cells bridge without sun, days until they are empty (null: never). */
export interface PanelDay {
  readonly gained: number;
  readonly taken: number;
  readonly bridged: number | null;
  readonly emptyAfter: number | null;
}

/**
 * E = cell power × sun hours against the load's day.
 * Worked: 0.5 A into 3.7 V for 3 h are 5.55 Wh; a load of 0.2 W takes 4.8 Wh a day.
 */
export function panelDay(state: FeedState, { sun, load, energy }: FeedPlan["day"]): PanelDay {
  const [gained, taken] = [(state.cell * state.current * sun) / 3600, load * 24];
  return {
    gained,
    taken,
    bridged: taken > 0 ? energy / taken : null,
    emptyAfter: taken > gained ? energy / (taken - gained) : null,
  };
}

const NAMES: Readonly<Record<StageKind, string>> = {
  supply: "supply",
  panel: "panel",
  cable: "cable",
  linear: "linear regulator",
  switching: "switching regulator",
  port: "shared port",
};
export const stageName = (kind: StageKind): string => NAMES[kind];

/** What holds the charge down, in words that say what to do about it. */
export function bottleneckText(plan: FeedPlan, b: FeedBottleneck): string {
  const { charger } = plan;
  const q = (x: number, unit: "A" | "V" | "°C") => formatQuantity(x, unit, { digits: 3 });
  if (b.what === "set")
    return `The charger's own setting limits it: the feed would carry more than ${q(charger.current, "A")}.`;
  if (b.what === "heat")
    return `The charger's own heat limits it: the part reaches ${q(charger.foldback, "°C")} and cuts its current. Lower the input voltage, cool the part or set less current.`;
  if (b.what === "voltage")
    return "The voltage at the board limits it, not the charger: use a shorter or thicker cable, or a source of a higher voltage.";
  const s = plan.stages[b.stage];
  if (!s || s.kind === "cable") return "";
  if (b.what === "least")
    return `The switching regulator's input falls too low (it needs ${q(s.kind === "switching" ? s.least : NaN, "V")}): use a shorter or thicker cable before it.`;
  const others = s.kind === "port" && s.others > 0 ? `, of which others draw ${q(s.others, "A")}` : "";
  return `The ${NAMES[s.kind]} limits it: it gives ${q(s.limit, "A")} at most${others}. A low charge current here says nothing about the charger.`;
}
