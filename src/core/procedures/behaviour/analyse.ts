import { accuracyAt, meterSource } from "../../instruments";
import { capital, formatQuantity, rectangular, uncertain, sampling, type ErrorSource } from "../../quantities";
import {
  asSaid,
  type Analysis,
  type Answer,
  type ChartSpec,
  type Finding,
  type Note,
  type ReadingsOf,
  type RunSetup,
} from "../../measurement";
import { logFinding, wordFinding } from "../kit/log-reading";
import { itemsOf, type BehaviourPlan } from "./plan";

const q = formatQuantity;

interface Step {
  readonly volts: number;
  readonly lights: number;
  readonly id: string;
}

/** Answers of a gauge in the order they were looked at; what is no number of lights is passed over. */
function gaugeSteps(answers: readonly Answer[], item: string, way: "falling" | "rising"): Step[] {
  const sign = way === "falling" ? -1 : 1;
  return answers
    .flatMap((a) =>
      a.item === item && a.volts !== undefined && /^\d+$/.test(a.word)
        ? [{ volts: a.volts, lights: Number(a.word), id: a.id }]
        : [],
    )
    .sort((a, b) => sign * (a.volts - b.volts));
}

/** Whether a gauge follows the battery: it may only go one way, and must go. */
function follows(steps: readonly Step[], way: "falling" | "rising"): "follows" | "stays" | "jumps" {
  const sign = way === "falling" ? -1 : 1;
  const moves = steps.slice(1).map((s, k) => sign * (s.lights - (steps[k] as Step).lights));
  if (moves.some((m) => m < 0)) return "jumps";
  return moves.some((m) => m > 0) ? "follows" : "stays";
}

/** The last word for each item, in the order of the checklist: an answer given anew stands for the earlier one. */
function lastWords(answers: readonly Answer[], setup: RunSetup<BehaviourPlan>): Map<string, Answer> {
  const order = new Map(itemsOf(setup).map((i, k) => [i.id, k]));
  const last = new Map(
    [...answers]
      .filter((a) => a.volts === undefined)
      .sort((a, b) => a.at.localeCompare(b.at))
      .map((a) => [a.item, a]),
  );
  return new Map([...last].sort(([a], [b]) => (order.get(a) ?? Infinity) - (order.get(b) ?? Infinity)));
}

/** What each action led to, where the gauge steps, and what is to be said of it. */
export function analyseBehaviour(readings: ReadingsOf<"answers">, setup: RunSetup<BehaviourPlan>): Analysis {
  const { answers } = readings;
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const words = lastWords(answers, setup);
  for (const a of words.values())
    findings.push({ ...wordFinding("behaviour.response", a.word, [], { action: a.item }), points: [a.id] });
  const series: ChartSpec["series"][number][] = [];
  for (const [way, tone] of [
    ["falling", 0],
    ["rising", 1],
  ] as const) {
    const steps = gaugeSteps(answers, `gauge ${way}`, way);
    if (steps.length < 2) continue;
    const word = follows(steps, way);
    findings.push({
      ...wordFinding("behaviour.response", word, [], { action: `gauge ${way}` }),
      points: steps.map((s) => s.id),
    });
    findings.push(...changes(steps, way, setup));
    series.push({
      id: way,
      label: `battery ${way}`,
      tone,
      points: steps.map((s) => ({ x: s.volts, y: s.lights, id: s.id, state: "counts" as const })),
      fit: staircase(steps),
    });
    if (word === "stays")
      notes.push({
        code: "gauge-stays",
        message: `The gauge doesn't follow a ${way} battery: it showed ${steps[0]?.lights} of its lights from ${q(steps[0]?.volts ?? 0, "V")} to ${q(steps.at(-1)?.volts ?? 0, "V")}.`,
      });
    if (word === "jumps")
      notes.push({
        code: "gauge-jumps",
        message: `The gauge jumps back and forth with a ${way} battery: nothing can be read from it.`,
      });
  }
  remark(words, setup, notes);
  const chart: ChartSpec = {
    id: "gauge",
    title: "Gauge against the battery",
    namesX: true,
    x: { label: "Battery", unit: "V" },
    y: { label: "Lights lit", unit: "" },
    claims: [{ characteristic: "behaviour.gauge-step", axis: "x" }],
    series,
  };
  return { findings, notes, charts: series.length ? [chart] : [] };
}

/** Between two readings a gauge changes somewhere: half way is as good as any place. */
function staircase(steps: readonly Step[]): { x: number; y: number }[] {
  const out: { x: number; y: number }[] = [];
  steps.forEach((s, k) => {
    const before = steps[k - 1];
    if (before && before.lights !== s.lights) {
      const middle = (before.volts + s.volts) / 2;
      out.push({ x: middle, y: before.lights }, { x: middle, y: s.lights });
    }
    out.push({ x: s.volts, y: s.lights });
  });
  // Charts draw from left to right.
  return steps.length > 1 && (steps[0] as Step).volts > (steps.at(-1) as Step).volts ? out.reverse() : out;
}

function changes(steps: readonly Step[], way: string, setup: RunSetup): Finding[] {
  const meter = setup.instruments.batteryVoltage;
  return steps.slice(1).flatMap((s, k) => {
    const b = steps[k] as Step;
    if (s.lights === b.lights) return [];
    const [low, high] = [Math.min(s.volts, b.volts), Math.max(s.volts, b.volts)];
    const x = uncertain((low + high) / 2, [
      [sampling("step between two looks"), rectangular((high - low) / 2)],
      ...(meter
        ? ([[meterSource("batteryVoltage", "gain"), rectangular(accuracyAt(meter, high))]] as [ErrorSource, number][])
        : []),
    ]);
    const f = logFinding("behaviour.gauge-step", x, setup, {
      conditions: { action: `${way}, ${b.lights} to ${s.lights}` },
    });
    return f ? [{ ...f, points: [b.id, s.id] }] : [];
  });
}

/** What several answers say together, and what differs from what was printed. */
function remark(words: ReadonlyMap<string, Answer>, setup: RunSetup<BehaviourPlan>, notes: Note[]): void {
  const word = (item: string) => words.get(item)?.word.toLowerCase();
  for (const item of itemsOf(setup)) {
    const got = word(item.id);
    if (item.said && got && !asSaid(item.said, got))
      notes.push({
        code: "unlike-said",
        message: `${capital(item.id)}: “${got}”, claimed “${item.said}”.`,
        points: [words.get(item.id)?.id ?? ""],
      });
  }
  const [a, c] = [word("charges from an A-to-C cable"), word("charges from a C-to-C cable")];
  if (a === "yes" && c === "no")
    notes.push({
      code: "no-pull-downs",
      message:
        "It charges from an A-to-C cable and stays dead on C-to-C: its two 5.1 kΩ pull-downs are missing. Solder 5.1 kΩ from CC1 and from CC2 to ground, or keep to A-to-C cables.",
    });
  if (word("by-pass jumper") === "closed")
    notes.push({
      code: "bypassed",
      message:
        "The jumper that bypasses its protection is closed. This is only for a cell with its own protection: open it before you connect a bare cell.",
    });
  if (word("polarity marks") === "wrong")
    notes.push({
      code: "wrong-marks",
      message:
        "A polarity mark is wrong: cross it out on the board and write the right one before anything is connected.",
    });
  const [none, charging, full] = [word("lights with no cell"), word("lights while charging"), word("lights when full")];
  if (none && none === full)
    notes.push({
      code: "no-cell-looks-full",
      message: `With no cell it shows the same light as when full (${none}): a cell that lost contact looks charged.`,
    });
  if (none && none === charging)
    notes.push({
      code: "no-cell-looks-charging",
      message: `With no cell it shows the same light as while charging (${none}).`,
    });
  const removed = word("lights with the cell removed");
  if (removed && removed === charging)
    notes.push({ code: "removal-unseen", message: "Its lights don't show that a charging cell was removed." });
  const dead = word("lights with a dead cell");
  if (dead && dead === full)
    notes.push({ code: "dead-looks-full", message: "A dead cell shows the light of a full one." });
}
