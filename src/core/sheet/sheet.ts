import { meterName, uncertaintyRemark } from "../procedures/kit/accuracies";
import { roleLabel, roleUnit, type ChartSpec, type Finding, type Role, type RunSetup } from "../measurement";
import type { WiringSketch } from "../procedures";
import { FUNCTION_LABELS, type BoardFunction, touchedBy } from "../characteristics";
import { readingText, type Claim } from "../claims";
import { formatQuantity, numeric, calendarDay } from "../quantities";
import { reallyMeasured, verdictRemarks, type ClaimVerdict, type VerdictWord } from "../verdicts";
import { sentencesOf, type Found, type Piece, type Said, type Sentence } from "./sentences";

export interface SheetRun {
  readonly id: string;
  readonly title: string;
  readonly procedure: string;
  readonly procedureTitle: string;
  /** Of its analysis. */
  readonly version: number;
  /** ISO UTC. */
  readonly startUtc: string;
  /** IANA name of the time zone in which it was taken. */
  readonly zone: string;
  readonly sampleName: string;
  readonly source: "typed" | "simulated" | "file";
  readonly setAside: string | null;
  /** Functions that had been modified when it was taken: what it found of them is not the maker's. */
  readonly modifiedFunctions: readonly BoardFunction[];
  readonly setup: RunSetup;
  readonly findings: readonly Finding[];
}

export interface SheetInput {
  readonly title: string;
  readonly note: string;
  readonly functions: readonly BoardFunction[];
  readonly samples: readonly {
    readonly name: string;
    readonly configuration: string;
    readonly note: string;
    readonly modifications: readonly string[];
  }[];
  readonly claims: readonly Claim[];
  readonly verdicts: ReadonlyMap<string, ClaimVerdict>;
  /** Finished runs, in any order. */
  readonly runs: readonly SheetRun[];
  /** °C of the house rules, above which a surface is too hot to touch. */
  readonly touchLimit: number;
  /** ISO UTC of its making. */
  readonly madeAt: string;
}

export interface SheetClaim {
  readonly id: string;
  readonly wording: string;
  readonly source: string;
  readonly understood: readonly string[];
  readonly word: VerdictWord;
  /** What has to be said beside the word: that it rests on the simulated bench, that two runs disagree. */
  readonly remarks?: readonly string[];
  /** What was measured, each value with its run. */
  readonly measured: Sentence;
  /** What would make it fair, or settle it. */
  readonly settle: readonly string[];
}

/** A board's findings as a document: sentences and tables, no layout. */
export interface FindingsSheet {
  readonly title: string;
  readonly what: string;
  readonly note: string;
  readonly samples: readonly string[];
  readonly summary: string;
  readonly claims: readonly SheetClaim[];
  readonly strengths: readonly Sentence[];
  readonly weaknesses: readonly Sentence[];
  readonly modify: readonly string[];
  readonly measured: readonly { readonly about: string; readonly sentences: readonly Sentence[] }[];
  readonly open: readonly Sentence[];
  readonly fitFor: readonly Sentence[];
  readonly runs: readonly { readonly id: string; readonly text: string }[];
  readonly meters: readonly string[];
  readonly versions: string;
  readonly madeAt: string;
}

/** The number that each run has in a sheet's list of runs, from 1: numbers refer to it, since no address outlives a browser. */
export const runNumbers = (s: Pick<FindingsSheet, "runs">): ReadonlyMap<string, number> =>
  new Map(s.runs.map((r, k) => [r.id, k + 1]));

/** What lies on the paper: the document, its charts and how it was wired. */
export interface PaperContent {
  readonly sheet: FindingsSheet;
  readonly charts: readonly { readonly spec: ChartSpec; readonly from: string }[];
  readonly wiring: { readonly sketch: WiringSketch; readonly from: string } | null;
}

const ABOUT: Readonly<Record<Said["about"], string>> = {
  output: "Output",
  protection: "Protection",
  idle: "Idle",
  heat: "Heat",
  charging: "Charging",
  input: "Input and handover",
  pack: "Pack",
  behaviour: "Behaviour",
};
const WORDS: readonly VerdictWord[] = [
  "meets",
  "misses",
  "too close to call",
  "not fairly tested",
  "claim unclear",
  "not measured",
];

/** A run as far as its findings may stand on a sheet. */
type StandingRun = Pick<SheetRun, "id" | "startUtc" | "setAside" | "modifiedFunctions" | "findings"> & {
  readonly source?: SheetRun["source"];
  readonly simulated?: boolean;
};

const played = (r: { readonly source?: SheetRun["source"]; readonly simulated?: boolean }): boolean =>
  r.simulated === true || r.source === "simulated";

/** The runs that a sheet rests on: none that was set aside, and no rehearsal of what was really measured. */
export function countedRuns<R extends Pick<StandingRun, "setAside" | "findings" | "source" | "simulated">>(
  runs: readonly R[],
): R[] {
  const standing = runs.filter((r) => !r.setAside);
  const real = reallyMeasured(standing.map((r) => ({ simulated: played(r), findings: r.findings })));
  return standing.filter((r) => !(played(r) && r.findings.every((f) => real.has(f.characteristic))));
}

/** The newest finding of each quantity at each of its conditions, from runs that were not set aside and of functions that were not modified. */
export function standing(runs: readonly StandingRun[]): Found[] {
  const out = new Map<string, Found>();
  const real = reallyMeasured(
    runs.filter((r) => !r.setAside).map((r) => ({ simulated: played(r), findings: r.findings })),
  );
  for (const run of [...runs].filter((r) => !r.setAside).sort((a, b) => a.startUtc.localeCompare(b.startUtc)))
    for (const finding of run.findings) {
      if (touchedBy(finding.characteristic, run.modifiedFunctions) || (played(run) && real.has(finding.characteristic)))
        continue;
      out.set(finding.characteristic + JSON.stringify(Object.entries(finding.conditions).sort()), {
        finding,
        runId: run.id,
        ...(played(run) ? { simulated: true } : {}),
      });
    }
  return [...out.values()];
}

const interval = (f: Finding): string => {
  if (typeof f.value === "string") return f.value;
  const value = formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: true });
  const remark = uncertaintyRemark(f);
  return `${f.bound === "at-least" ? "at least " : f.bound === "at-most" ? "at most " : ""}${value}${remark ? ` (${remark})` : ""}`;
};

function claimRow(c: Claim, v: ClaimVerdict | undefined): SheetClaim {
  const judged = (v?.readings ?? []).flatMap((r) => r.judged);
  const measured: Piece[] = [];
  // At most three values: the worst stand first, the verdict's page has them all.
  for (const j of judged.slice(0, 3))
    measured.push(measured.length ? "; " : "", { text: interval(j.finding), runId: j.runId });
  if (judged.length > 3) measured.push(` and ${judged.length - 3} more`);
  return {
    id: c.id,
    wording: c.source.wording,
    source: `${c.source.kind}, ${c.source.date}`,
    understood: c.readings.map(readingText),
    word: v?.word ?? "not measured",
    ...(v ? verdictRemarks(v) : {}),
    measured: measured.filter((p) => p !== ""),
    settle: [...new Set((v?.readings ?? []).flatMap((r) => [...r.settle, ...r.judged.flatMap((j) => j.settle)]))],
  };
}

/** A count of the verdicts as a sentence. */
function summaryOf(claims: readonly SheetClaim[]): string {
  if (claims.length === 0) return "No claims, so nothing was judged.";
  const words: Readonly<Record<VerdictWord, string>> = {
    meets: "met",
    misses: "missed",
    "too close to call": "too close to call",
    "not fairly tested": "not fairly tested",
    "claim unclear": "unclear",
    "not measured": "not measured",
  };
  const counts = WORDS.flatMap((w) => {
    const n = claims.filter((c) => c.word === w).length;
    return n ? [`${n} ${words[w]}`] : [];
  });
  return `Of ${claims.length} ${claims.length === 1 ? "claim" : "claims"}: ${counts.join(", ")}.`;
}

/** What it can carry down to an empty battery, and what it costs to leave it idle. */
function fitOf(found: readonly Found[]): Sentence[] {
  const out: Sentence[] = [];
  const held = found
    .filter((f) => f.finding.characteristic === "boost.max-current" && typeof f.finding.conditions.battery === "number")
    .sort((a, b) => numeric(a.finding.conditions.battery) - numeric(b.finding.conditions.battery));
  const low = held[0];
  const volts =
    low &&
    found.find(
      (f) =>
        f.finding.characteristic === "boost.no-load-voltage" &&
        f.finding.conditions.battery === low.finding.conditions.battery,
    );
  if (
    low &&
    volts &&
    !low.finding.unstated?.length &&
    typeof low.finding.value === "number" &&
    typeof volts.finding.value === "number"
  ) {
    const amps = low.finding.value - (low.finding.expandedUncertainty ?? 0);
    out.push([
      "A load of up to ",
      {
        text: `${formatQuantity(amps, "A", { digits: 2 })} (${formatQuantity(amps * volts.finding.value, "W", { digits: 2 })} at ${formatQuantity(volts.finding.value, "V", { digits: 3 })})`,
        runId: low.runId,
      },
      `, held down to a battery of ${formatQuantity(numeric(low.finding.conditions.battery), "V")}.`,
    ]);
    const start = found.find(
      (f) =>
        f.finding.characteristic === "boost.start-current" &&
        f.finding.conditions.battery === low.finding.conditions.battery,
    );
    if (!start) out.push(["Whether it starts into that load was not tested."]);
  }
  const life = found
    .filter((f) => f.finding.characteristic === "standby.life")
    .sort((a, b) => numeric(a.finding.value) - numeric(b.finding.value))[0];
  if (life && typeof life.finding.value === "number") {
    const days = life.finding.value / 86400;
    out.push([
      `${days > 180 ? "Waiting for months" : days > 30 ? "Waiting for weeks" : "Not for waiting"}: left ${String(life.finding.conditions.state ?? "idle")} it empties the cell in `,
      { text: formatQuantity(life.finding.value, "s", { digits: 2 }), runId: life.runId },
      ".",
    ]);
  }
  return out;
}

const METERS_SHOWN = 10;

/** The sheet of one board: what it is, what was claimed, measured and judged, its sides, what to do about them, how it was measured. */
export function findingsSheet(input: SheetInput): FindingsSheet {
  const counted = countedRuns(input.runs);
  const standings = standing(input.runs);
  const sentences = sentencesOf(standings, input.touchLimit);
  const claims = input.claims.map((c) => claimRow(c, input.verdicts.get(c.id)));
  const missed = claims.filter((c) => c.word === "misses");
  const fulfilled = claims.filter((c) => c.word === "meets");
  const quoted = (c: SheetClaim, word: string): Sentence => [
    `“${c.wording}” is ${word}: measured `,
    ...c.measured,
    ".",
  ];
  const abouts = (Object.keys(ABOUT) as Said["about"][]).flatMap((about) => {
    const own = sentences.filter((s) => s.about === about && s.side === null).map((s) => s.sentence);
    return own.length ? [{ about: ABOUT[about], sentences: own }] : [];
  });
  const meters = new Map<string, string>();
  for (const r of counted)
    for (const [role, a] of Object.entries(r.setup.instruments))
      if (a) {
        const meter = r.setup.meters?.[role as Role];
        meters.set(
          `${role}${meter?.title ?? ""}${a.gain}${a.counts}${a.resolution}`,
          `${roleLabel(role as Role).toLowerCase()}${meter ? ` with ${meter.title}` : ""}: ±(${formatQuantity(a.gain, "1")} + ${a.counts} × ${formatQuantity(a.resolution, roleUnit(role as Role))})${a.assumed ? ", assumed" : a.like ? `, as of the ${meterName(a.like as Role)} meter` : ""}`,
        );
      }
  const all = [...meters.values()];
  const words: Readonly<Record<SheetRun["source"], string>> = {
    typed: "typed by hand",
    simulated: "simulated bench",
    file: "from a file",
  };
  return {
    title: input.title,
    what: input.functions.map((f) => FUNCTION_LABELS[f]).join(", "),
    note: input.note,
    samples: input.samples.map((s) =>
      [`Sample ${s.name}`, s.configuration, ...s.modifications.map((m) => `modified: ${m}`), s.note]
        .filter(Boolean)
        .join(", "),
    ),
    summary: summaryOf(claims),
    claims,
    strengths: [
      ...sentences.filter((s) => s.side === "strength").map((s) => s.sentence),
      ...fulfilled
        .filter((c) => c.measured.some((p) => typeof p !== "string" && /\d/.test(p.text)))
        .map((c) => quoted(c, "kept")),
    ],
    weaknesses: [
      ...missed.map((c) => quoted(c, "missed")),
      ...sentences.filter((s) => s.side === "weakness").map((s) => s.sentence),
    ],
    modify: [...new Set(sentences.flatMap((s) => (s.modify ? [s.modify] : [])))],
    measured: abouts,
    open: claims
      .filter((c) => c.word !== "meets" && c.word !== "misses")
      .map((c) => [`“${c.wording}”: ${c.word}.${c.settle.length ? ` ${c.settle.join(" ")}` : ""}`]),
    fitFor: fitOf(standings),
    runs: [...counted]
      .sort((a, b) => a.startUtc.localeCompare(b.startUtc))
      .map((r) => ({
        id: r.id,
        text: `${r.title.toLowerCase().startsWith(r.procedureTitle.toLowerCase()) ? "" : `${r.procedureTitle}: `}${r.title}, sample ${r.sampleName}, ${calendarDay(r.startUtc, r.zone)}, ${words[r.source]}${r.setup.conditions.supplyCurrentLimit ? `, supply limit ${formatQuantity(r.setup.conditions.supplyCurrentLimit, "A")}` : ""}`,
      })),
    meters:
      all.length > METERS_SHOWN ? [...all.slice(0, METERS_SHOWN), `and ${all.length - METERS_SHOWN} more ranges`] : all,
    versions: [...new Map(counted.map((r) => [r.procedure, `${r.procedure} ${r.version}`])).values()].sort().join(", "),
    madeAt: input.madeAt,
  };
}
