import { characteristic, touchedBy, type ConditionName, type Conditions } from "../characteristics";
import type { Finding, NotStated, Role } from "../measurement";
import type { EvidenceRun, EvidenceSample } from "./judge-claim";

/*
 * Results of a sample that no run of it can give alone: from which to which input it charges with its full current, what its current and its
 * output can be set to, from which to which battery it holds its rated load. Each stands with the run that shows the end, and lists them all.
 */

/** Share of the highest charge current that counts as the full one, and of the rated load that counts as it. */
const FULL = 0.95;
const RATED = 0.97;
const SAGGED = "input-sagged";
/** Share by which two voltages differ that were set differently. */
const APART = 0.03;

/** A quantity as one run found it. */
interface Seen {
  readonly run: EvidenceRun;
  readonly finding: Finding;
}
/** A voltage at which something was tried, V, with what its meter leaves of doubt (k = 2; null where nobody stated its accuracy), and whether it was kept there. */
interface Tried extends Seen {
  readonly volts: number;
  readonly doubt: number | null;
  readonly kept: boolean;
}

/** Its fair findings of a quantity; `but` is an unfairness that does not matter. */
const fair = (runs: readonly EvidenceRun[], name: string, but?: string): Seen[] =>
  runs.flatMap((run) =>
    touchedBy(name, run.modifiedFunctions)
      ? []
      : run.findings.flatMap((finding) =>
          finding.characteristic === name &&
          typeof finding.value === "number" &&
          finding.unfair.every((u) => u.code === but)
            ? [{ run, finding }]
            : [],
        ),
  );

function grouped<T>(of: readonly T[], key: (x: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const x of of) groups.set(key(x), [...(groups.get(key(x)) ?? []), x]);
  return [...groups.values()];
}

const pick = (c: Conditions, names: readonly ConditionName[]): Conditions =>
  Object.fromEntries(names.flatMap((n) => (c[n] === undefined ? [] : [[n, c[n]]])));
const settingOf = ({ run, finding }: Seen): string =>
  `${finding.conditions.configuration ?? ""}|${run.programme ?? ""}`;
const listed = (of: readonly Seen[]): Finding["over"] => [
  ...new Map(of.map(({ run }) => [run.id, { runId: run.id, title: run.title }])).values(),
];

/** A finding of the sample, standing with the run that shows it. */
interface Pooled {
  readonly runId: string;
  readonly finding: Finding;
}

function ofSample(name: string, at: Seen, value: number, over: readonly Seen[], rest: Partial<Finding>): Pooled {
  const c = characteristic(name);
  const { unstated, assumed, like } = at.finding;
  const under = pick(at.finding.under ?? {}, c?.under ?? []);
  return {
    runId: at.run.id,
    finding: {
      characteristic: name,
      conditions: pick(at.finding.conditions, c?.at ?? []),
      value,
      unit: c?.unit ?? "",
      budget: [],
      points: [],
      unfair: [],
      over: listed(over) ?? [],
      ...(Object.keys(under).length ? { under } : {}),
      ...(unstated ? { unstated } : {}),
      ...(assumed ? { assumed } : {}),
      ...(like ? { like } : {}),
      ...rest,
    },
  };
}

/** Both ends of where something was kept: the outermost voltage that kept it, and beside it the next that did not, if one was tried. */
function ends(low: string, high: string, tried: readonly Tried[], meter: Role, under?: Conditions): Pooled[] {
  const passes = tried.filter((t) => t.kept).sort((a, b) => a.volts - b.volts);
  const [first, last] = [passes[0], passes.at(-1)];
  if (!first || !last || tried.every((t) => Math.abs(t.volts - first.volts) <= APART * first.volts)) return [];
  const gone = tried.filter((t) => !t.kept).map((t) => t.volts);
  const next = gone.filter((v) => v < first.volts).sort((a, b) => b - a)[0];
  const past = gone.filter((v) => v > last.volts).sort((a, b) => a - b)[0];
  const end = (name: string, at: Tried, rest: Partial<Finding>) =>
    ofSample(name, at, at.volts, tried, {
      ...(at.doubt === null
        ? { unstated: [...(at.finding.unstated ?? []), meter] }
        : { expandedUncertainty: at.doubt }),
      ...(under ? { under } : {}),
      ...rest,
    });
  return [
    end(low, first, next === undefined ? { bound: "at-most" } : { bracket: { low: next, high: first.volts } }),
    end(high, last, past === undefined ? { bound: "at-least" } : { bracket: { low: last.volts, high: past } }),
  ];
}

/** From which to which input a charger gives its full current, at each setting of it: V. */
function inputEnds(runs: readonly EvidenceRun[]): Pooled[] {
  const currents = fair(runs, "charge.cc-current", SAGGED).filter(
    (s) => typeof s.finding.under?.inputVoltage === "number",
  );
  return grouped(currents, settingOf).flatMap((group) => {
    const full = group.reduce((most, s) => Math.max(most, Number(s.finding.value)), 0);
    const tried = group.flatMap((s): Tried[] => {
      const reached = Number(s.finding.value) + (s.finding.expandedUncertainty ?? 0) >= FULL * full;
      // An input that sagged shows where the current was lost only where it was lost for most of that phase: else its voltage is not that of the loss.
      return reached && s.finding.unfair.length > 0
        ? []
        : [
            {
              ...s,
              volts: Number(s.finding.under?.inputVoltage),
              doubt: s.finding.within?.inputVoltage ?? null,
              kept: reached,
            },
          ];
    });
    return ends("charge.input-minimum", "charge.input-maximum", tried, "inputVoltage");
  });
}

/** Lowest and highest of what something was set to, where it was set at least twice: a bound, for nobody tried to set it further. */
function settings(low: string, high: string, seen: readonly Seen[], setting: (s: Seen) => string): Pooled[] {
  if (new Set(seen.map(setting)).size < 2) return [];
  const sorted = [...seen].sort((a, b) => Number(a.finding.value) - Number(b.finding.value));
  const end = (name: string, at: Seen, bound: Finding["bound"]) =>
    ofSample(name, at, Number(at.finding.value), seen, {
      ...(at.finding.expandedUncertainty === undefined ? {} : { expandedUncertainty: at.finding.expandedUncertainty }),
      budget: at.finding.budget,
      ...(bound ? { bound } : {}),
    });
  return [end(low, sorted[0] as Seen, "at-most"), end(high, sorted.at(-1) as Seen, "at-least")];
}

/** From which to which battery the output holds the rated load in its band: V. A battery of which nothing tells is left out. */
function batteryEnds(runs: readonly EvidenceRun[]): Pooled[] {
  const tried = fair(runs, "boost.max-current").flatMap((s): Tried[] => {
    const { ratedLoad } = s.run;
    const volts = s.finding.conditions.battery;
    if (ratedLoad === undefined || typeof volts !== "number") return [];
    const most = Number(s.finding.value);
    const holds = most >= RATED * ratedLoad;
    const fell = s.finding.bracket !== undefined && s.finding.bracket.high <= ratedLoad / RATED;
    return holds || fell ? [{ ...s, volts, doubt: s.finding.within?.battery ?? null, kept: holds }] : [];
  });
  return grouped(
    tried,
    ({ run, finding }) =>
      `${finding.conditions.output ?? ""}|${finding.conditions.configuration ?? ""}|${run.ratedLoad}`,
  ).flatMap((group) =>
    ends("boost.input-minimum", "boost.input-maximum", group, "batteryVoltage", { load: group[0]?.run.ratedLoad ?? 0 }),
  );
}

/** No-load voltages at the middle battery of each setting of an adjustable output. */
function unloaded(runs: readonly EvidenceRun[]): Seen[] {
  const outputs = fair(runs, "boost.no-load-voltage").filter((s) => typeof s.finding.conditions.output === "number");
  return grouped(
    outputs,
    ({ finding }) => `${finding.conditions.output}|${finding.conditions.configuration ?? ""}`,
  ).flatMap((group) => {
    const sorted = [...group].sort(
      (a, b) => Number(a.finding.conditions.battery) - Number(b.finding.conditions.battery),
    );
    return sorted[sorted.length >> 1] ?? [];
  });
}

/** What would let the sample's runs state it, by the quantity that they found instead. */
const LACKS: readonly (readonly [names: readonly string[], from: string, reason: string])[] = [
  [
    ["charge.input-minimum", "charge.input-maximum"],
    "charge.cc-current",
    "It takes charges at several input voltages, with the input voltage logged.",
  ],
  [
    ["charge.set-current-minimum", "charge.set-current-maximum"],
    "charge.cc-current",
    "It takes charges at several settings of the current, each stated in the sample’s record.",
  ],
  [
    ["boost.output-minimum", "boost.output-maximum"],
    "boost.no-load-voltage",
    "It takes load sweeps at several settings of the output, each stated in the sample’s record.",
  ],
  [
    ["boost.input-minimum", "boost.input-maximum"],
    "boost.max-current",
    "It takes load sweeps at several battery voltages, with the rated load stated.",
  ],
];

const NAMES: ReadonlySet<string> = new Set(LACKS.flatMap(([names]) => names));

/**
 * A sample with what all its runs together show. Runs count as they do for a verdict: finished, not excluded, and those of the simulated
 * bench only where there is no other. Pure, and the same when done again: what an earlier call added is taken out first.
 */
export function overRuns(sample: EvidenceSample): EvidenceSample {
  const runs = sample.runs.map((r) => ({
    ...r,
    findings: r.findings.filter((f) => !f.over),
    ...(r.notStated ? { notStated: r.notStated.filter((n) => !NAMES.has(n.characteristic)) } : {}),
  }));
  const counting = runs.filter((r) => r.finished && r.setAside === null);
  const real = counting.filter((r) => !r.simulated);
  const pooled = [
    ...(real.length ? [real] : []),
    ...(real.length < counting.length ? [counting.filter((r) => r.simulated)] : []),
  ].flatMap((of) => [
    ...inputEnds(of),
    ...settings("charge.set-current-minimum", "charge.set-current-maximum", fair(of, "charge.cc-current"), settingOf),
    ...settings("boost.output-minimum", "boost.output-maximum", unloaded(of), ({ finding }) =>
      String(finding.conditions.output),
    ),
    ...batteryEnds(of),
  ]);
  const lacking = (r: EvidenceRun): NotStated[] =>
    LACKS.flatMap(([names, from, reason]) =>
      r.findings.some((f) => f.characteristic === from)
        ? names
            .filter((name) => !pooled.some((p) => p.finding.characteristic === name))
            .map((name): NotStated => ({ characteristic: name, code: "needs", reason }))
        : [],
    );
  return {
    ...sample,
    runs: runs.map((r) => {
      const own = pooled.filter((p) => p.runId === r.id).map((p) => p.finding);
      const lacks = lacking(r);
      return own.length || lacks.length
        ? { ...r, findings: [...r.findings, ...own], notStated: [...(r.notStated ?? []), ...lacks] }
        : r;
    }),
  };
}
