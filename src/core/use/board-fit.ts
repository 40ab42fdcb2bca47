import { conditionPhrase, LOAD_KINDS } from "../characteristics";
import { capital, formatQuantity } from "../quantities";
import { asHard, highestCurrent, phasesAt, startingDraw, type Load } from "./load";
import { drawnPower } from "./mean-draw";
import { measuredConverter, type MeasuredModule } from "./measured-module";
import { operatingPoint, type Converter, type Stop } from "./operating-point";
import { highestPhase, highestPower, runTime, type LoadPhase, type SocWindow } from "./run-time";
import { sourceOf, type Between, type PackCells, type Source } from "./source";

/** A battery with what is known of it; uncertainties are expanded (k = 2), 0 where none is stated. */
export interface UseBattery {
  readonly cells: PackCells;
  readonly between: Between;
  /** States of charge between which it is used; the whole charge where none is given. */
  readonly window?: SocWindow;
  /** Ah and Ω of one cell. */
  readonly capacityU: number;
  readonly resistanceU: number;
  /** V by which the cell's open-circuit curve may lie higher or lower; 0 where it is taken as exact. */
  readonly curveU: number;
}

export const FIT_WORDS = [
  "runs",
  "start not tested",
  "runs as claimed",
  "does not start",
  "does not hold",
  "not measured",
] as const;
export type FitWord = (typeof FIT_WORDS)[number];

/** One board with a load and a battery. */
export interface BoardFit {
  readonly word: FitWord;
  /** Why, in sentences; the first is the one that decides. */
  readonly why: readonly string[];
  readonly runId?: string;
  readonly simulated?: boolean;
  /** It rests on claims alone. */
  readonly claimed?: true;
  readonly sample?: string;
  /** s from full to the end, with its expanded uncertainty, and what ends it. */
  readonly seconds?: number;
  readonly secondsU?: number;
  readonly endedBy?: Stop;
  /** Cells (packs) for a day. */
  readonly perDay?: number;
  /** W and A that it holds at the output with the battery at its floor. */
  readonly atFloor?: { readonly power: number; readonly current: number };
  /** The battery over the discharge under the load's highest power. */
  readonly curve?: readonly FitCurvePoint[];
}

export interface FitCurvePoint {
  /** s from full. */
  readonly time: number;
  readonly soc: number;
  /** A from the battery and V at the module under the load's highest power. */
  readonly current: number;
  readonly input: number;
}

const DAY = 86_400;
const POINTS = 60;
/** A sweep speaks of battery voltages down to this share of its lowest. */
const NEAR = 0.97;

/** What ends a run, as a clause: `the cell is at its floor of 3 V`. */
function endText(stop: Stop, m: MeasuredModule, battery: UseBattery, input: number): string {
  const v = (x: number): string => formatQuantity(x, "V", { digits: 3 });
  const column = m.columns.reduce((best, c) =>
    Math.abs(c.battery - input) < Math.abs(best.battery - input) ? c : best,
  );
  if (m.claimed && stop === "input-limit")
    return `more is asked than the ${formatQuantity(column.held.load, "A", { digits: 3 })} claimed`;
  if (m.claimed && stop === "minimum-input") return `the board is claimed to cut off at ${v(m.cut ?? 0)}`;
  switch (stop) {
    case "power":
      return "the battery can't give that power through its resistance";
    case "trip":
      return `the protection trips at ${formatQuantity(battery.between.trip ?? NaN, "A")}`;
    case "input-limit":
      return column.fell
        ? `more is asked than it holds at ${v(column.battery)}: its output fell above ${formatQuantity(column.held.load, "A", { digits: 3 })}`
        : `more is asked than was tested at ${v(column.battery)}: ${formatQuantity(column.held.load, "A", { digits: 3 })} is the highest load it was given`;
    case "minimum-input":
      return m.cut !== null && m.cut >= (m.dropout ?? 0)
        ? `the board cuts off at ${v(m.cut)}`
        : `the output leaves its band below ${v(m.dropout ?? 0)}`;
    case "cut":
      return `the protection cuts off at ${v(battery.between.cut ?? NaN)}`;
    case "floor":
      return `the cell is at its floor of ${v(battery.cells.floor)}`;
    case "empty":
      return "the cell is empty";
    case "window":
      return `the cell is down to ${formatQuantity(battery.window?.low ?? 0, "1")}, the end of its window`;
  }
}

/** s from full, state of charge, battery current and input voltage on the way down. */
function curveOf(
  source: Source,
  module: Converter,
  phases: readonly LoadPhase[],
  [top, endSoc]: readonly [number, number],
  seconds: number,
): FitCurvePoint[] {
  const power = highestPhase(phases);
  const points = Array.from({ length: POINTS + 1 }, (_, k) => {
    const soc = top - ((top - endSoc) * k) / POINTS;
    const p = operatingPoint(source, module, power, soc);
    return { soc, current: p.current, input: p.input };
  });
  // Time goes with the charge that is out, in proportion to the mean current between.
  let sum = 0;
  const parts = points.map((p, k) => (k === 0 ? 0 : (sum += 2 / (p.current + (points[k - 1]?.current ?? p.current)))));
  return points.map((p, k) => ({ ...p, time: sum > 0 ? (seconds * (parts[k] ?? 0)) / sum : 0 }));
}

/** Whether it starts into the load with the battery at its floor, as far as that was measured with a load that draws alike, or one that is harder to start into. */
function startOf(
  m: MeasuredModule,
  load: Load,
  amps: number,
  floor: number,
): { readonly word: FitWord; readonly why: string } {
  const draw = startingDraw(load);
  const a = (x: number): string => formatQuantity(x, "A", { digits: 3 });
  const v = (x: number): string => formatQuantity(x, "V");
  const near = m.starts.filter((s) => s.battery <= floor * 1.1);
  const proof = near.find((s) => asHard(draw).includes(s.draw) && s.amps >= amps);
  if (proof) return { word: "runs", why: `It starts into ${a(proof.amps)} at ${v(proof.battery)}.` };
  const lowest = near.find((s) => s.draw === draw);
  if (!lowest) {
    const other = near.length ? ` ${conditionPhrase("kind", LOAD_KINDS[draw])}` : "";
    return {
      word: "start not tested",
      why: `It was not tested whether it starts into ${a(amps)}${other} at ${v(floor)}: run a load sweep with starts.`,
    };
  }
  if (lowest.more)
    return {
      word: "start not tested",
      why: `Starts were tested up to ${a(lowest.amps)} at ${v(lowest.battery)} only.`,
    };
  return {
    word: "does not start",
    why: `It starts into ${a(lowest.amps)} at ${v(lowest.battery)} at most; the load asks for ${a(amps)}.`,
  };
}

/** What a load that changes takes from the battery, in a sentence. */
function drawnText(m: MeasuredModule, load: Load): string[] {
  const d = drawnPower(m, load);
  const w = (x: number): string => formatQuantity(x, "W", { digits: 3 });
  return d && d.most > 1.05 * d.least
    ? [`From the battery it takes ${w(d.least)} at least, ${w(d.mean)} in the mean, ${w(d.most)} at most.`]
    : [];
}

/** One sample with a load and a battery: holds, starts, for how long, what ends it. Source: the constant-power sums of `runTime`. */
export function fitModule(m: MeasuredModule, load: Load, battery: UseBattery): BoardFit {
  const lowest = m.columns[0];
  if (!lowest)
    return {
      word: "not measured",
      why: ["No load sweep with a loss model: run one with at least four loads per battery voltage."],
    };
  const about = m.claimed ? { claimed: m.claimed } : { runId: m.runId, simulated: m.simulated, sample: m.sample };
  const byClaims = m.claimed ? ["By its claims alone: nothing of it was measured."] : [];
  const output = lowest.output;
  const phases = phasesAt(load, output);
  if (!phases.ok) return { ...about, word: "does not hold", why: [phases.error] };
  if (phases.value.some((p) => p.power === null) && m.off === null)
    return {
      ...about,
      word: "not measured",
      why: ["The load switches the output off, and the standby current with the output off is not known: run standby."],
    };
  const converter = measuredConverter(m);
  const source = sourceOf(battery.cells, battery.between);
  const answer = runTime(source, converter, phases.value, battery.window);
  const floor = battery.cells.floor * (battery.cells.series ?? 1);
  const power = highestPower(
    {
      ...source,
      packResistance: 0,
      resistance: battery.between.resistance,
      openCircuit: () => floor,
      floor: -Infinity,
    },
    converter,
    0,
  );
  const atFloor = { power, current: power / output };
  if (!answer.holds) {
    const input = operatingPoint(source, converter, highestPhase(phases.value), battery.window?.high ?? 1).input;
    return {
      ...about,
      word: "does not hold",
      why: [`${capital(endText(answer.endedBy, m, battery, input))}.`, ...byClaims],
      atFloor,
      endedBy: answer.endedBy,
    };
  }
  const end = operatingPoint(source, converter, highestPhase(phases.value), answer.endSoc);
  const start = m.claimed
    ? { word: "runs as claimed" as const, why: byClaims[0] ?? "" }
    : startOf(m, load, highestCurrent(load, output), floor);
  const below =
    !m.claimed && end.input < NEAR * lowest.battery
      ? [
          `Below ${formatQuantity(lowest.battery, "V")} nothing was measured: its loss and limit there are taken as at ${formatQuantity(lowest.battery, "V")}.`,
        ]
      : [];
  // What a claim is worth nobody knows.
  const secondsU = m.claimed ? undefined : runTimeUncertainty(m, phases.value, battery, answer.seconds);
  return {
    ...about,
    word: start.word,
    why: [
      start.why,
      ...drawnText(m, load),
      `It ends when ${endText(answer.endedBy, m, battery, end.input)}.`,
      ...below,
    ],
    seconds: answer.seconds,
    ...(secondsU === undefined ? {} : { secondsU }),
    endedBy: answer.endedBy,
    perDay: Math.max(1, Math.ceil(DAY / answer.seconds - 1e-9)),
    atFloor,
    curve: curveOf(source, converter, phases.value, [battery.window?.high ?? 1, answer.endSoc], answer.seconds),
  };
}

/**
 * Expanded uncertainty (k = 2) of a run time, s: what the cell's capacity, resistance and curve, the power drawn and the standby current
 * change it by, each alone, combined as independent (JCGM 100).
 */
function runTimeUncertainty(m: MeasuredModule, phases: readonly LoadPhase[], b: UseBattery, seconds: number): number {
  const alone = (cells: PackCells, module: Converter): number => {
    const t = runTime(sourceOf(cells, b.between), module, phases, b.window);
    return t.holds ? t.seconds - seconds : -seconds;
  };
  const plain = measuredConverter(m);
  const spread = m.columns.reduce((s, c) => Math.max(s, c.spread), 0);
  const parts = [
    alone({ ...b.cells, capacity: b.cells.capacity + b.capacityU }, plain),
    b.resistanceU ? alone({ ...b.cells, resistance: b.cells.resistance + b.resistanceU }, plain) : 0,
    b.curveU
      ? alone(
          { ...b.cells, openCircuit: b.cells.openCircuit.map(([soc, volts]) => [soc, volts - b.curveU] as const) },
          plain,
        )
      : 0,
    alone(b.cells, { ...measuredConverter(m, 2 * spread), inputLimit: plain.inputLimit }),
    m.off?.u ? alone(b.cells, { ...plain, standbyCurrent: m.off.value + m.off.u }) : 0,
  ];
  return Math.sqrt(parts.reduce((s, x) => s + x * x, 0));
}

const ORDER = new Map(FIT_WORDS.map((w, k) => [w, k]));

/** A board by its samples: the worst of them decides; without a measured sample nothing is said. */
export const fitBoard = (modules: readonly MeasuredModule[], load: Load, battery: UseBattery): BoardFit =>
  worstFit(modules.map((m) => fitModule(m, load, battery))) ?? {
    word: "not measured",
    why: [
      "No load sweep that counts, and no claims on output, highest load and efficiency: run one with at least four loads per battery voltage.",
    ],
  };

/** Of a board's samples the worst decides. */
export const worstFit = (fits: readonly BoardFit[]): BoardFit | null =>
  fits.reduce<BoardFit | null>((worst, f) => (worst === null || compareFits(f, worst) > 0 ? f : worst), null);

/** The better fit first: what runs, then for how long. */
export function compareFits(a: BoardFit, b: BoardFit): number {
  const word = (ORDER.get(a.word) ?? 0) - (ORDER.get(b.word) ?? 0);
  return word !== 0 ? word : (b.seconds ?? 0) - (a.seconds ?? 0);
}
