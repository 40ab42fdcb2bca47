import {
  characteristic,
  formatConditions,
  meetsCondition,
  touchedBy,
  type BoardFunction,
  type ConditionName,
  type Conditions,
} from "../characteristics";
import { formatLimit, type Claim, type ClaimReading } from "../claims";
import type { Finding, HouseRules, NotStated } from "../measurement";
import { meterName } from "../procedures/kit/accuracies";
import { capital, formatQuantity, listed, type Unit } from "../quantities";
import { judgeEnd } from "./judge-end";
import { judgeFinding, type FindingVerdict, type VerdictWord } from "./judge-finding";

/** A run as judging sees it. */
export interface EvidenceRun {
  readonly id: string;
  readonly title: string;
  /** ISO time of its start; the newest counts. */
  readonly startUtc: string;
  /** Its start rests on the date of a file. */
  readonly startAssumed?: boolean;
  /** ISO time of its import or making: decides between runs of one moment. */
  readonly importedAt?: string;
  /** A run still under way judges nothing yet: its peak may be to come. */
  readonly finished: boolean;
  /** Why the user set it aside; it does not count then. */
  readonly setAside: string | null;
  /** It was played on the simulated bench: it judges nothing that a run with real readings states. */
  readonly simulated?: boolean;
  /** Quantities for which it was chosen to decide, whatever newer runs found. */
  readonly decides?: readonly string[];
  /** A at which its load regulation was taken, and Ω of the programming resistor that its sample had then. */
  readonly ratedLoad?: number;
  readonly programme?: number;
  /** Functions that had been modified when it was taken: it says nothing of the maker's claims on them. */
  readonly modifiedFunctions: readonly BoardFunction[];
  readonly findings: readonly Finding[];
  /** What it could have found and did not, and why. */
  readonly notStated?: readonly NotStated[];
}

export interface EvidenceSample {
  readonly id: string;
  readonly name: string;
  readonly runs: readonly EvidenceRun[];
}

/** Two runs of one sample that found one quantity apart by more than their uncertainties. */
export interface Contradiction {
  /** The run that decides, and the one that disagrees. */
  readonly runId: string;
  readonly otherId: string;
  readonly otherTitle: string;
  readonly text: string;
}

/** One finding that counted, with where it came from and how it fared. */
export interface JudgedFinding extends FindingVerdict {
  readonly sampleId: string;
  readonly sampleName: string;
  readonly runId: string;
  readonly runTitle: string;
  readonly finding: Finding;
}

export interface ReadingVerdict {
  readonly word: VerdictWord;
  readonly characteristic: string;
  readonly limitText: string;
  readonly judged: readonly JudgedFinding[];
  readonly why: readonly string[];
  readonly settle: readonly string[];
  /** Samples that gave evidence. */
  readonly samples: number;
  /** Only simulated runs state it: the verdict is about the simulated bench. */
  readonly simulated: boolean;
  /** It rests on an accuracy that nobody stated and somebody assumed. */
  readonly assumed: boolean;
  /** Runs that disagree, where nobody chose which decides. */
  readonly contradictions: readonly Contradiction[];
}

export interface ClaimVerdict {
  readonly claimId: string;
  readonly word: VerdictWord;
  /** One for each way the claim can be understood. */
  readonly readings: readonly ReadingVerdict[];
  readonly simulated: boolean;
  readonly assumed: boolean;
  readonly disagree: boolean;
}

/** What has to be said beside a verdict's word wherever it is shown. */
export function verdictRemarks(v: Pick<ClaimVerdict, "simulated" | "assumed" | "disagree">): {
  readonly remarks?: readonly string[];
} {
  const remarks = [
    ...(v.simulated ? ["simulated"] : []),
    ...(v.disagree ? ["two runs disagree"] : []),
    ...(v.assumed ? ["accuracy assumed"] : []),
  ];
  return remarks.length ? { remarks } : {};
}

/** Of several words the one that decides: a miss first, then what hinders judging, then meets. */
const WORST: readonly VerdictWord[] = [
  "misses",
  "not fairly tested",
  "too close to call",
  "claim unclear",
  "not measured",
  "meets",
];
const worst = (words: readonly VerdictWord[]): VerdictWord => WORST.find((w) => words.includes(w)) ?? "not measured";

/** Whether a claim of this characteristic is kept by any one battery voltage: a peak is claimed where it is best. */
export const anywhere = (name: string): boolean =>
  name === "boost.peak-efficiency" || name === "boost.peak-efficiency-current";

const conditionKey = (c: Conditions): string =>
  Object.entries(c)
    .map(([k, v]) => `${k}=${v}`)
    .sort()
    .join(";");

function speaksOf(reading: ClaimReading, f: Finding): boolean {
  if (f.characteristic !== reading.characteristic) return false;
  return Object.entries(reading.conditions).every(
    ([name, spec]) =>
      spec === undefined ||
      meetsCondition(
        name as ConditionName,
        spec,
        f.conditions[name as ConditionName] ?? f.under?.[name as ConditionName],
        f.within?.[name as ConditionName],
      ),
  );
}

/** Every claim's verdict from the runs that count. Pure: the same evidence always gives the same words. */
export function judgeClaim(claim: Claim, samples: readonly EvidenceSample[], rules: HouseRules): ClaimVerdict {
  const readings = claim.readings.map((r) => judgeReading(r, samples, rules));
  const words = [...new Set(readings.map((r) => r.word))];
  return {
    claimId: claim.id,
    readings,
    simulated: readings.some((r) => r.simulated),
    assumed: readings.some((r) => r.assumed),
    disagree: readings.some((r) => r.contradictions.length > 0),
    word: words.length === 1 ? (words[0] as VerdictWord) : words.length === 0 ? "not measured" : "claim unclear",
  };
}

export function judgeReading(
  reading: ClaimReading,
  samples: readonly EvidenceSample[],
  rules: HouseRules,
): ReadingVerdict {
  const entry = characteristic(reading.characteristic);
  const unit: Unit = entry?.unit ?? "";
  const limitText = formatLimit(reading.limit, unit);
  // What was really read stands before what was played, on whichever sample of the board.
  const real = samples.some((s) =>
    s.runs.some(
      (r) => !r.simulated && counts(reading, r) && r.findings.some((f) => f.characteristic === reading.characteristic),
    ),
  );
  const evidence = real ? samples.map((s) => ({ ...s, runs: s.runs.filter((r) => !r.simulated) })) : samples;
  const perSample = evidence
    .map((s) => judgeSample(reading, s, unit, rules))
    .filter((v): v is NonNullable<typeof v> => v !== null);
  if (perSample.length === 0)
    return {
      word: "not measured",
      characteristic: reading.characteristic,
      limitText,
      judged: [],
      why: missingReasons(reading, evidence),
      settle: [],
      samples: 0,
      simulated: false,
      assumed: false,
      contradictions: [],
    };
  const word = worst(perSample.map((s) => s.word));
  return {
    word,
    characteristic: reading.characteristic,
    limitText,
    judged: perSample.flatMap((s) => s.judged),
    why: perSample.filter((s) => s.word === word).flatMap((s) => s.why),
    settle: [...new Set(perSample.filter((s) => s.word === word).flatMap((s) => s.settle))],
    samples: perSample.length,
    simulated: !real,
    assumed: perSample.some((s) => s.judged.some((j) => j.finding.assumed?.length)),
    contradictions: perSample.flatMap((s) => s.contradictions),
  };
}

/** Why no run speaks of a claim, so that the user knows which one would. */
function missingReasons(reading: ClaimReading, samples: readonly EvidenceSample[]): string[] {
  const runs = samples.flatMap((s) => s.runs);
  const same = runs.filter((r) => r.findings.some((f) => f.characteristic === reading.characteristic));
  if (same.length === 0) return silentReasons(reading, runs) ?? ["No run has measured it yet."];
  if (same.every((r) => !r.finished))
    return ["The run that measures it is still under way; finish it, and it is judged."];
  if (same.every((r) => r.setAside !== null)) return ["Every run that measured it was set aside."];
  if (same.every((r) => touchedBy(reading.characteristic, r.modifiedFunctions)))
    return ["Measured only after that part of the board was modified."];
  return ["It was measured, but under other conditions than the claim's."];
}

/** What the runs that could have measured it say of why they did not: an interrupted charge, a column that is missing. */
function silentReasons(reading: ClaimReading, runs: readonly EvidenceRun[]): string[] | null {
  const newest = [...runs].filter((r) => r.finished && r.setAside === null).sort(newestFirst);
  for (const run of newest) {
    const silent = run.notStated?.find((n) => n.characteristic === reading.characteristic);
    if (silent) return [`“${run.title}” doesn't state it: ${silent.reason}`];
  }
  return null;
}

/** Whether a run may judge a claim's reading at all. */
const counts = (reading: ClaimReading, r: EvidenceRun): boolean =>
  r.finished && r.setAside === null && !touchedBy(reading.characteristic, r.modifiedFunctions);

/** The latest first reading counts; of one moment, what was imported last. */
const newestFirst = (a: EvidenceRun, b: EvidenceRun): number =>
  b.startUtc.localeCompare(a.startUtc) || (b.importedAt ?? "").localeCompare(a.importedAt ?? "");

/** A finding that speaks of a claim, and the run it is from; not judged yet. */
type SpeakingFinding = Pick<JudgedFinding, "runId" | "runTitle" | "finding">;

/** The first that was fairly tested, or the first: no more of them are judged than it takes, since a board may have dozens. */
function firstFair(
  candidates: readonly SpeakingFinding[],
  judge: (c: SpeakingFinding) => JudgedFinding,
): JudgedFinding {
  let first: JudgedFinding | null = null;
  for (const c of candidates) {
    const judged = judge(c);
    if (judged.word !== "not fairly tested") return judged;
    first ??= judged;
  }
  return first as JudgedFinding;
}

interface SampleVerdict {
  readonly word: VerdictWord;
  readonly judged: JudgedFinding[];
  readonly why: string[];
  readonly settle: string[];
  readonly contradictions: Contradiction[];
}

function judgeSample(
  reading: ClaimReading,
  sample: EvidenceSample,
  unit: Unit,
  rules: HouseRules,
): SampleVerdict | null {
  const counting = sample.runs.filter((r) => counts(reading, r)).sort(newestFirst);
  // For each set of conditions the run that was chosen counts, else the newest fair one, else the newest.
  const byCondition = new Map<string, SpeakingFinding[]>();
  for (const run of counting)
    for (const finding of run.findings) {
      if (!speaksOf(reading, finding)) continue;
      const key = conditionKey(finding.conditions);
      const own = byCondition.get(key);
      const speaking = { runId: run.id, runTitle: run.title, finding };
      if (own) own.push(speaking);
      else byCondition.set(key, [speaking]);
    }
  const judge = (c: SpeakingFinding): JudgedFinding => ({
    ...(judgeEnd(c.finding, reading.limit, unit, rules) ?? judgeFinding(c.finding, reading.limit, unit, rules)),
    sampleId: sample.id,
    sampleName: sample.name,
    ...c,
  });
  if (byCondition.size === 0) return null;
  const judged: JudgedFinding[] = [];
  const why: string[] = [];
  const contradictions: Contradiction[] = [];
  const decides = new Set(counting.filter((r) => r.decides?.includes(reading.characteristic)).map((r) => r.id));
  for (const candidates of byCondition.values()) {
    const picked = candidates.find((c) => decides.has(c.runId));
    const chosen = picked ? judge(picked) : firstFair(candidates, judge);
    const against = candidates.filter((c) => c.finding !== chosen.finding && disagree(chosen.finding, c.finding));
    // Beside a run that says otherwise no number is sure.
    judged.push(against.length && !picked ? { ...chosen, probability: null } : chosen);
    why.push(...assumedDates(chosen, candidates, counting));
    const choice = `“${picked?.runTitle}” was chosen to decide.`;
    if (picked && candidates.length > 1 && !why.includes(choice)) why.push(choice);
    for (const other of against) {
      const text = disagreement(chosen, other, unit);
      why.push(text);
      if (!picked) contradictions.push({ runId: chosen.runId, otherId: other.runId, otherTitle: other.runTitle, text });
    }
  }
  const assumed = [...new Set(judged.flatMap((j) => j.finding.assumed ?? []))];
  if (assumed.length)
    why.push(`The accuracy of the ${listed(assumed.map(meterName))} meter${assumed.length > 1 ? "s" : ""} is assumed.`);
  const words = judged.map((j) => j.word);
  if (anywhere(reading.characteristic) && !reading.conditions.battery) {
    const best =
      (["meets", "too close to call", "not fairly tested", "not measured", "misses"] as const).find((w) =>
        words.includes(w),
      ) ?? "not measured";
    const speaking = judged.filter((j) => j.word === best);
    return {
      word: best,
      judged,
      contradictions,
      why: [...speaking.flatMap((j) => j.why.map((w) => at(j, w))), ...why],
      settle: speaking.flatMap((j) => j.settle),
    };
  }
  const decided = worst(words);
  const open = missingEnds(reading, judged, rules);
  const word = decided === "meets" && open.length > 0 ? "not measured" : decided;
  const speaking = judged.filter((j) => j.word === decided);
  return {
    word,
    judged,
    contradictions,
    why: [
      ...speaking.flatMap((j) => j.why.map((w) => at(j, w))),
      ...(word === "not measured" || decided === "not measured" ? open : []),
      ...why,
    ],
    settle: speaking.flatMap((j) => j.settle),
  };
}

/** Where several runs found it and their order rests on the date of a file, that is said. */
function assumedDates(
  chosen: JudgedFinding,
  candidates: readonly SpeakingFinding[],
  runs: readonly EvidenceRun[],
): string[] {
  if (candidates.length < 2) return [];
  const assumed = candidates.map((c) => runs.find((r) => r.id === c.runId)).filter((r) => r?.startAssumed);
  const [first] = assumed;
  return first
    ? [`“${chosen.runTitle}” counts as the newest run; the date of “${first.title}” is assumed from its file.`]
    : [];
}

const at = (j: JudgedFinding, sentence: string): string => {
  const c = formatConditions(j.finding.conditions);
  return c ? `${capital(c)}: ${sentence.charAt(0).toLowerCase()}${sentence.slice(1)}` : sentence;
};

/**
 * A claim over a range is met only when both ends were tested. A claim that names no battery voltage is taken over the
 * house's own range, from nearly empty to full, and the sentence says that this is ours.
 */
function missingEnds(reading: ClaimReading, judged: readonly JudgedFinding[], rules: HouseRules): string[] {
  const entry = characteristic(reading.characteristic);
  if (!entry?.at.includes("battery")) return [];
  const spec = reading.conditions.battery;
  if (spec && !("from" in spec)) return [];
  const range = spec ?? { from: rules.batteryEmpty, to: rules.batteryFull };
  const tested = judged.map((j) => Number(j.finding.conditions.battery)).filter(Number.isFinite);
  const lack = [range.from, range.to].filter(
    (end) => !tested.some((t) => (end === range.from ? t <= end * 1.03 : t >= end * 0.97)),
  );
  if (lack.length === 0) return [];
  return [
    `Not tested at ${lack.map((v) => formatQuantity(v, "V")).join(" and ")}, an end of the range${spec ? "" : " (ours: the claim names no battery voltage)"}.`,
  ];
}

/** Whether two findings of the same quantity differ by more than their combined expanded uncertainty. */
function disagree(a: Finding, b: Finding): boolean {
  if (typeof a.value !== "number" || typeof b.value !== "number") return a.value !== b.value;
  if (a.bound || b.bound || a.unstated?.length || b.unstated?.length) return false;
  const step = (f: Finding) => (f.bracket ? f.bracket.high - f.bracket.low : 0);
  return (
    Math.abs(a.value - b.value) >
    Math.hypot(a.expandedUncertainty ?? 0, b.expandedUncertainty ?? 0) + Math.max(step(a), step(b))
  );
}

function disagreement(chosen: JudgedFinding, other: SpeakingFinding, unit: Unit): string {
  const v = (j: SpeakingFinding) =>
    typeof j.finding.value === "number"
      ? formatQuantity(j.finding.value, unit, { uncertainty: j.finding.expandedUncertainty, withUncertainty: true })
      : j.finding.value;
  return at(
    chosen,
    `“${other.runTitle}” gave ${v(other)}, which disagrees with ${v(chosen)} beyond the combined uncertainty.`,
  );
}
