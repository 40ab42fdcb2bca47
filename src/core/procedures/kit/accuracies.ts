import { accuracyText, ordinaryAccuracy, oscilloscopeAccuracy, type Accuracy } from "../../instruments";
import { ELEMENTS, listed } from "../../quantities";
import {
  roleLabel,
  roleUnit,
  type Role,
  type Analysis,
  type Corrections,
  type Finding,
  type Note,
  type Readings,
  type RunSetup,
} from "../../measurement";
import type { Procedure } from "../contract";

const { sampleAt } = ELEMENTS;

/** Units that a meter reads; what else stands in a table (a channel, a day) has no accuracy to state. */
const METERED = ["V", "A", "°C", "Ω"] as const;
type Metered = (typeof METERED)[number];
const metered = (role: Role): Metered | null => METERED.find((u) => u === roleUnit(role)) ?? null;

/** Whether an accuracy says anything: of a meter without any error nobody has ever heard. */
const says = (a: Accuracy | undefined): boolean =>
  a !== undefined && (a.gain > 0 || a.counts * a.resolution > 0 || a.resolution > 0);

/** The largest magnitude that the readings hold of each role that a meter read, SI. */
export function largestRead(readings: Readings): Map<Role, number> {
  const out = new Map<Role, number>();
  const see = (role: Role, v: number): void => {
    if (v - v === 0) out.set(role, Math.max(out.get(role) ?? 0, Math.abs(v)));
  };
  if (readings.kind === "points")
    for (const p of readings.points)
      for (const [role, c] of Object.entries(p.cells)) see(role as Role, c?.value ?? NaN);
  if (readings.kind === "trace")
    for (const [role, column] of Object.entries(readings.trace.columns))
      see(role as Role, largestOf(column ?? NOTHING));
  if (readings.kind === "answers")
    for (const a of readings.answers) if (a.volts !== undefined) see("batteryVoltage", a.volts);
  return out;
}

const NOTHING = new Float64Array();

/** The largest magnitude in a column; NaN where it holds no reading. */
function largestOf(column: Float64Array): number {
  let largest = -1;
  for (let k = 0; k < column.length; k++) {
    const size = Math.abs(sampleAt(column, k));
    if (size > largest && size < Infinity) largest = size;
  }
  return largest < 0 ? NaN : largest;
}

/** The instruments of a run whose accuracy nobody stated, with that of an ordinary handheld meter that shows what they read, or of an ordinary oscilloscope where it is one that reads. */
export function unstatedAccuracies(
  readings: Readings,
  setup: Pick<RunSetup, "instruments">,
  oscilloscope = false,
): Partial<Record<Role, Accuracy>> {
  const out: Partial<Record<Role, Accuracy>> = {};
  for (const [role, largest] of largestRead(readings)) {
    const unit = metered(role);
    if (unit && !says(setup.instruments[role]))
      out[role] = unit === "V" && oscilloscope ? oscilloscopeAccuracy(largest) : ordinaryAccuracy(largest, unit);
  }
  return out;
}

/** Rows that tell as well as a million which meters a finding rests on. */
const ENOUGH = 20_000;

/** Every so many-th row of a long log, its last one included; what is short as it is. */
function thinned(readings: Readings): Readings {
  const rows = readings.kind === "trace" ? (readings.trace.columns.time?.length ?? 0) : 0;
  const stride = Math.floor(rows / ENOUGH);
  if (readings.kind !== "trace" || stride < 2) return readings;
  const few = (column: Float64Array): Float64Array =>
    Float64Array.from({ length: Math.ceil(rows / stride) }, (_, k) =>
      sampleAt(column, rows - 1 - (Math.ceil(rows / stride) - 1 - k) * stride),
    );
  return {
    kind: "trace",
    trace: {
      ...readings.trace,
      columns: Object.fromEntries(Object.entries(readings.trace.columns).map(([role, c]) => [role, few(c ?? NOTHING)])),
    },
  };
}

const keyOf = (f: Finding): string => `${f.characteristic} ${JSON.stringify(Object.entries(f.conditions).sort())}`;
const restsOn = (f: Finding, role: Role): boolean => f.budget.some((b) => b.u > 0 && b.source.role === role);

/**
 * The findings with what is known of the meters behind them. One that rests on a meter whose accuracy is not stated has no uncertainty:
 * not zero, and not the part that is left of it. Which those are is found by analysing the readings once more with ordinary meters in
 * place of the missing ones, and looking whose share appears; times that only the clock decides keep theirs. Accuracies that were assumed,
 * or that a like meter's stands in for, are named.
 */
export function withAccuracies<P, A extends Analysis>(
  p: Pick<Procedure<P>, "analyse">,
  readings: Readings,
  setup: RunSetup<P>,
  corrections: Corrections,
  analysis: A,
): A {
  const lacking = unstatedAccuracies(readings, setup);
  const roles = Object.keys(lacking) as Role[];
  const again = (of: Readings): Map<string, Finding> =>
    new Map(
      p
        .analyse(of, { ...setup, instruments: { ...setup.instruments, ...lacking } }, corrections, "findings")
        .findings.map((f) => [keyOf(f), f]),
    );
  let probe = roles.length ? again(thinned(readings)) : null;
  // What a thinned log does not show is looked for in the whole one.
  if (probe && !analysis.findings.every((f) => probe?.has(keyOf(f)))) probe = again(readings);
  const findings = analysis.findings.map((f) => marked(f, setup, roles, probe));
  return { ...analysis, findings, notes: [...analysis.notes, ...notesOn(findings, setup)] };
}

function marked(
  f: Finding,
  setup: RunSetup,
  lacking: readonly Role[],
  probe: ReadonlyMap<string, Finding> | null,
): Finding {
  if (typeof f.value !== "number" || f.unit === "count") return f;
  const twin = probe?.get(keyOf(f));
  const unstated = probe ? lacking.filter((r) => (twin ? restsOn(twin, r) : f.unit !== "s")) : [];
  if (unstated.length) {
    const { expandedUncertainty: _u, ...rest } = f;
    void _u;
    return { ...rest, budget: [], unstated };
  }
  const own = Object.keys(setup.instruments) as Role[];
  const assumed = own.filter((r) => setup.instruments[r]?.assumed && restsOn(f, r));
  const like = own.flatMap((r) =>
    setup.instruments[r]?.like && restsOn(f, r) ? [[r, setup.instruments[r]?.like as Role] as const] : [],
  );
  return { ...f, ...(assumed.length ? { assumed } : {}), ...(like.length ? { like } : {}) };
}

/** What has to be said beside a value of its uncertainty; empty text where there is nothing. */
export const uncertaintyRemark = (f: Pick<Finding, "unstated" | "assumed">): string =>
  f.unstated?.length ? "uncertainty not stated" : f.assumed?.length ? "accuracy assumed" : "";

/** `output voltage`, for sentences on its meter. */
export const meterName = (role: Role): string => roleLabel(role).toLowerCase();

function notesOn(findings: readonly Finding[], setup: Pick<RunSetup, "instruments">): Note[] {
  const all = <T>(of: (f: Finding) => readonly T[] | undefined): T[] => findings.flatMap((f) => of(f) ?? []);
  const unstated = [...new Set(all((f) => f.unstated))];
  const assumed = [...new Set(all((f) => f.assumed))];
  const like = new Map(all((f) => f.like));
  const meters = (roles: readonly Role[]) => `the ${listed(roles.map(meterName))} meter${roles.length > 1 ? "s" : ""}`;
  return [
    ...(unstated.length
      ? [
          {
            code: "no-accuracy",
            message: `The accuracy of ${meters(unstated)} is not stated: what rests on ${unstated.length > 1 ? "them" : "it"} has no uncertainty, and no verdict.`,
          },
        ]
      : []),
    ...(assumed.length
      ? [
          {
            code: "assumed-accuracy",
            message: `The accuracy of ${meters(assumed)} is assumed: ${assumed.map((r) => accuracyText(setup.instruments[r] as Accuracy, roleUnit(r))).join("; ")}. State the meter's own and the uncertainties follow.`,
          },
        ]
      : []),
    ...(like.size
      ? [
          {
            code: "like-accuracy",
            message: `${[...like].map(([role, of]) => `The accuracy of the ${meterName(role)} meter is not stated: that of the ${meterName(of)} meter is used for it.`).join(" ")}`,
          },
        ]
      : []),
  ];
}
