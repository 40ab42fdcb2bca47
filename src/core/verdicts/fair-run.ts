import { characteristic, formatSpec, meetsCondition, type ConditionName, type ConditionSpec } from "../characteristics";
import type { ClaimReading } from "../claims";
import { PROCEDURES, atBench, type HouseRules, type Procedure, type RunSetup } from "../procedures";
import { formatQuantity } from "../quantities";
import type { ReadingVerdict } from "./judge-claim";

/** A piece of the board as a run would find it. */
export interface FairSample {
  readonly id: string;
  readonly name: string;
  readonly configuration: string;
  readonly output?: number;
}

/** The run that would judge a claim fairly. */
export interface FairRun {
  readonly procedure: Procedure;
  /** The piece to make it with; absent where none fits yet. */
  readonly sampleId?: string;
  /** What it has to be like, in sentences, the first one naming it. */
  readonly words: readonly string[];
  /** Changes the set-up that claims, rig and house rules suggest. */
  patch(setup: RunSetup, supplyMaximum: number): RunSetup;
  /** Whether it can be prepared here, or only brought from a file. */
  readonly here: boolean;
}

const BATTERY_ENDS = (spec: ConditionSpec | undefined, rules: HouseRules): readonly number[] => (!spec ? [rules.batteryEmpty, rules.batteryFull] : "at" in spec ? [spec.at] : "from" in spec ? [spec.from, spec.to] : []);

type Plan = Readonly<Record<string, unknown>>;

/** A claim's condition as a change of a plan: states to measure, battery volts to sweep or to soak at, volts of the input, the load. */
function planPatch(plan: Plan, conditions: ClaimReading["conditions"], batteries: readonly number[]): Plan {
  const out: Record<string, unknown> = {};
  if (Array.isArray(plan.batteries)) {
    const there = plan.batteries as readonly number[];
    const lacking = batteries.filter((v) => !there.some((b) => meetsCondition("battery", { at: v }, b)));
    if (lacking.length) out.batteries = [...there, ...lacking].sort((a, b) => b - a);
  } else if (typeof plan.battery === "number" && batteries[0] !== undefined && conditions.battery) out.battery = batteries[0];
  const word = (s: ConditionSpec | undefined) => (s && "word" in s ? s.word : null);
  const at = (s: ConditionSpec | undefined) => (s && "at" in s ? s.at : s && "from" in s ? s.from : null);
  const state = word(conditions.state);
  if (state && Array.isArray(plan.states) && !plan.states.includes(state)) out.states = [...(plan.states as string[]), state];
  const input = at(conditions.inputVoltage);
  if (input !== null && typeof plan.inputVolts === "number") out.inputVolts = input;
  const load = at(conditions.load);
  if (load !== null && typeof plan.load === "number") out.load = load;
  return out;
}

/** Why a run was not fair that a larger limit of the supply mends. */
const SUPPLY = /supply|limit of the bench/i;

/**
 * The run that would make a claim's reading fair, where none has judged it: the procedure that measures its quantity, with the claim's
 * own conditions in the plan, on a piece in the configuration that it names. Null where the claim was judged, or nothing measures it.
 */
export function fairRun(reading: ClaimReading, verdict: Pick<ReadingVerdict, "word" | "why" | "settle">, samples: readonly FairSample[], rules: HouseRules): FairRun | null {
  if (verdict.word !== "not measured" && verdict.word !== "not fairly tested") return null;
  const measures = PROCEDURES.filter((p) => p.measures.includes(reading.characteristic));
  const procedure = measures.find((p) => p.id === characteristic(reading.characteristic)?.run) ?? measures[0];
  if (!procedure) return null;
  const { conditions } = reading;
  const wanted = conditions.configuration;
  const fits = (s: FairSample): boolean => (!wanted || meetsCondition("configuration", wanted, s.configuration)) && (!conditions.output || meetsCondition("output", conditions.output, s.output));
  const sample = samples.find(fits);
  const batteries = characteristic(reading.characteristic)?.at.includes("battery") || conditions.battery ? BATTERY_ENDS(conditions.battery, rules) : [];
  const raise = verdict.word === "not fairly tested" && verdict.settle.some((s) => SUPPLY.test(s));
  const named = Object.entries(conditions).flatMap(([name, spec]) => (spec ? [formatSpec(name as ConditionName, spec)] : []));
  const words = [
    `${/^[aeiou]/i.test(procedure.title) ? "An" : "A"} ${procedure.title.toLowerCase()}${sample ? ` of sample ${sample.name}` : ""}${named.length ? ` at ${named.join(", ")}` : batteries.length ? ` at ${batteries.map((v) => formatQuantity(v, "V")).join(" and ")} (our range: the claim names no battery voltage)` : ""}.`,
    ...(!sample && samples.length && (wanted || conditions.output) ? [`No piece stands so yet: set one to ${[wanted && "word" in wanted ? wanted.word : "", conditions.output && "at" in conditions.output ? formatQuantity(conditions.output.at, "V") : ""].filter(Boolean).join(", ")}, and write it down at the sample first.`] : []),
    ...(samples.length === 0 ? ["Write a sample down first: a run speaks of one piece."] : []),
    ...(verdict.word === "not fairly tested" ? verdict.settle : []),
    ...(conditions.inputVoltage || conditions.ambient ? [`Set the bench itself to ${[conditions.inputVoltage ? formatSpec("inputVoltage", conditions.inputVoltage) : "", conditions.ambient ? formatSpec("ambient", conditions.ambient) : ""].filter(Boolean).join(" and ")}: the run can't do that for you.`] : []),
  ];
  return {
    procedure,
    ...(sample ? { sampleId: sample.id } : {}),
    words,
    here: atBench(procedure) !== null,
    patch: (setup, supplyMaximum) => {
      const plan = setup.plan as Plan | undefined;
      const change = plan ? planPatch(plan, conditions, batteries) : {};
      const ambient = conditions.ambient && "at" in conditions.ambient ? conditions.ambient.at : null;
      return {
        ...setup,
        conditions: { ...setup.conditions, ...(raise && setup.conditions.supplyCurrentLimit !== undefined ? { supplyCurrentLimit: Math.max(setup.conditions.supplyCurrentLimit, supplyMaximum) } : {}), ...(ambient === null ? {} : { ambientTemperature: ambient }) },
        ...(plan ? { plan: { ...plan, ...(procedure.follows?.(plan, change) ?? change) } } : {}),
      };
    },
  };
}
