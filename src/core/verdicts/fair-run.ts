import { characteristic, formatSpec, meetsCondition, type ConditionName, type ConditionSpec } from "../characteristics";
import { testedAt, type ClaimReading } from "../claims";
import { PROCEDURES, atBench, type Procedure } from "../procedures";
import type { HouseRules, RunSetup } from "../measurement";
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

const BATTERY_ENDS = (spec: ConditionSpec | undefined, rules: HouseRules): readonly number[] =>
  !spec
    ? [rules.batteryEmpty, rules.batteryFull]
    : "at" in spec
      ? [spec.at]
      : "from" in spec
        ? [spec.from, spec.to]
        : [];

type Plan = Readonly<Record<string, unknown>>;

const at = (s: ConditionSpec | undefined): number | null =>
  s && "at" in s ? s.at : s && "from" in s ? (s.from + s.to) / 2 : null;

/** A claim's conditions as a change of a plan, by what plans call them: batteries to sweep, a battery to hold, volts of the input, the load. */
function planPatch(plan: Plan, conditions: ClaimReading["conditions"], batteries: readonly number[]): Plan {
  const out: Record<string, unknown> = {};
  if (Array.isArray(plan.batteries)) {
    const there = plan.batteries as readonly number[];
    const lacking = batteries.filter((v) => !there.some((b) => meetsCondition("battery", { at: v }, b)));
    if (lacking.length) out.batteries = [...there, ...lacking].sort((a, b) => b - a);
  } else if (typeof plan.battery === "number" && conditions.battery)
    out.battery = at(conditions.battery) ?? plan.battery;
  for (const [key, value] of [
    ["inputVolts", at(conditions.inputVoltage)],
    ["load", at(conditions.load)],
  ] as const)
    if (value !== null && typeof plan[key] === "number") out[key] = value;
  return out;
}

/** Codes of an unfairness that a larger limit of the supply mends. */
const SUPPLY: ReadonlySet<string> = new Set(["supply-gave-up", "supply-limit", "supply-below-trip"]);

/**
 * The run that would make a claim's reading fair, where none has judged it: the procedure that is made for its quantity, with the claim's
 * own conditions and the remedy of an unfair run in the plan, on a sample in the configuration that it names. Null where the claim was
 * judged, or nothing measures it.
 */
export function fairRun(
  reading: ClaimReading,
  verdict: Pick<ReadingVerdict, "word" | "why" | "settle"> & Partial<Pick<ReadingVerdict, "judged">>,
  samples: readonly FairSample[],
  rules: HouseRules,
): FairRun | null {
  if (verdict.word !== "not measured" && verdict.word !== "not fairly tested") return null;
  const entry = characteristic(reading.characteristic);
  const procedure = PROCEDURES.find((p) => p.id === entry?.run);
  if (!procedure) return null;
  const conditions = testedAt(reading);
  const wanted = conditions.configuration;
  const fits = (s: FairSample): boolean =>
    (!wanted || meetsCondition("configuration", wanted, s.configuration)) &&
    (!conditions.output || meetsCondition("output", conditions.output, s.output));
  const sample = samples.find(fits);
  const batteries = entry?.at.includes("battery") || conditions.battery ? BATTERY_ENDS(conditions.battery, rules) : [];
  const unfair = [...new Set((verdict.judged ?? []).flatMap((j) => j.unfair))];
  const named = Object.entries(conditions).flatMap(([name, spec]) =>
    spec ? [formatSpec(name as ConditionName, spec)] : [],
  );
  const ambient = at(conditions.ambient);
  // The load of a range of the battery is the rated one of its sweep.
  const rated = entry?.end?.of === "battery" ? at(conditions.load) : null;
  const words = [
    `${/^[aeiou]/i.test(procedure.title) ? "An" : "A"} ${procedure.title.toLowerCase()}${sample ? ` of sample ${sample.name}` : ""}${named.length ? ` at ${named.join(", ")}` : batteries.length ? ` at ${batteries.map((v) => formatQuantity(v, "V")).join(" and ")} (our range: the claim names no battery voltage)` : ""}.`,
    ...(!sample && samples.length && (wanted || conditions.output)
      ? [
          `No sample is set so yet: set one to ${[wanted && "word" in wanted ? wanted.word : "", conditions.output && "at" in conditions.output ? formatQuantity(conditions.output.at, "V") : ""].filter(Boolean).join(", ")}, and change its record first.`,
        ]
      : []),
    ...(samples.length === 0 ? ["Add sample first: a run belongs to one sample."] : []),
    ...(verdict.word === "not fairly tested" ? verdict.settle : []),
    ...(ambient === null
      ? []
      : [`Bring the ambient to ${formatQuantity(ambient, "°C")} before the start; it can't be set here.`]),
  ];
  return {
    procedure,
    ...(sample ? { sampleId: sample.id } : {}),
    words,
    here: atBench(procedure) !== null,
    patch: (setup, supplyMaximum) => {
      const plan = setup.plan as Plan | undefined;
      const change = plan
        ? {
            ...planPatch(plan, conditions, batteries),
            ...procedure.planFor?.({ plan, characteristic: reading.characteristic, conditions, unfair, supplyMaximum }),
          }
        : {};
      const raise = unfair.some((code) => SUPPLY.has(code)) && setup.conditions.supplyCurrentLimit !== undefined;
      return {
        ...setup,
        conditions: {
          ...setup.conditions,
          ...(raise ? { supplyCurrentLimit: Math.max(setup.conditions.supplyCurrentLimit ?? 0, supplyMaximum) } : {}),
          ...(ambient === null ? {} : { ambientTemperature: ambient }),
          ...(rated === null ? {} : { ratedLoad: rated }),
        },
        ...(plan ? { plan: { ...plan, ...(procedure.follows?.(plan, change) ?? change) } } : {}),
      };
    },
  };
}
