import { formatQuantity, median, standardUncertainty } from "../../quantities";
import { logFinding, meterReading, wordFinding } from "../kit/log-reading";
import type {
  Role,
  Analysis,
  Corrections,
  Finding,
  Note,
  Point,
  ReadingsOf,
  RunSetup,
  Unfairness,
} from "../../measurement";
import type { ReversePlan } from "./plan";
import { readingOfPoint, stagesOf } from "./stages";

const q = formatQuantity;

/** Two readings at the same setting, before and after, with how far apart they may lie for what their meters leave of doubt. */
interface Repeat {
  readonly what: string;
  readonly unit: "V" | "A";
  readonly before: number;
  readonly after: number;
  /** k = 2 of their difference, each reading with all of its doubt: meters may have been swapped or drifted between. */
  readonly allowed: number;
  readonly points: readonly string[];
}

/** Share of a reading that is allowed where nobody said how accurate its meter is. */
const UNKNOWN_METER = 0.01;

function repeat(
  what: string,
  role: Role & ("outputVoltage" | "batteryCurrent"),
  before: Point | null,
  after: Point | null,
  setup: RunSetup,
): Repeat | null {
  const [b, a] = [before && readingOfPoint(before, role), after && readingOfPoint(after, role)];
  if (b === null || a === null || !before || !after) return null;
  const u = (v: number, when: string) =>
    setup.instruments[role]
      ? standardUncertainty(meterReading(v, role, setup, when))
      : (UNKNOWN_METER * Math.abs(v)) / 2;
  const allowed = 2 * Math.hypot(u(b, "before"), u(a, "after"));
  return {
    what,
    unit: role === "outputVoltage" ? "V" : "A",
    before: b,
    after: a,
    allowed,
    points: [before.id, after.id],
  };
}

/** What flowed while the terminals were reversed, and whether the board does afterwards what it did before. */
export function analyseReverse(
  readings: ReadingsOf<"points">,
  setup: RunSetup<ReversePlan>,
  corrections: Corrections,
): Analysis {
  const s = stagesOf(readings.points, corrections);
  const findings: Finding[] = [];
  const notes: Note[] = [];
  current(s.reversed, setup, findings, notes);
  survival(s, setup, findings, notes);
  return { findings, notes, charts: [] };
}

function current(reversed: readonly Point[], setup: RunSetup<ReversePlan>, findings: Finding[], notes: Note[]): void {
  const amps = reversed.flatMap((p) => {
    const v = readingOfPoint(p, "batteryCurrent");
    return v === null ? [] : [Math.abs(v)];
  });
  if (amps.length === 0) {
    notes.push({ code: "not-reversed", message: "No reading was taken with the terminals reversed." });
    return;
  }
  const value = median(amps);
  const limit = setup.plan?.reverseLimit ?? reversed[0]?.settings.supplyCurrentLimit;
  const limited = limit !== undefined && value >= 0.97 * limit;
  const unfair: Unfairness[] = limited
    ? [
        {
          code: "supply-limit",
          message: `The current was the supply's own limit of ${q(limit, "A")}.`,
          remedy: "Raise the limit, with a resistor rated for it.",
          pushes: "low",
        },
      ]
    : [];
  const f = logFinding(
    "reverse.current",
    meterReading(value, "batteryCurrent", setup, "reversed", amps.length),
    setup,
    { unfair, ...(limited ? { bound: "at-least" as const } : {}) },
  );
  if (f) findings.push({ ...f, points: reversed.map((p) => p.id) });
  const ohms = setup.plan?.ohms ?? reversed[0]?.settings.reversed?.ohms;
  const volts = reversed.flatMap((p) => readingOfPoint(p, "batteryVoltage") ?? []).map(Math.abs);
  const across = volts.length ? median(volts) : null;
  const through = ohms ? ` through ${q(ohms, "Ω")}` : "";
  const doubt = f?.expandedUncertainty ?? 0;
  if (value <= Math.max(1e-4, doubt))
    notes.push({
      code: "blocks",
      message: `It blocks: with the terminals reversed no more than ${q(value + doubt, "A", { digits: 2 })} flowed.`,
    });
  else if (across !== null)
    notes.push({
      code: "conducts",
      message: `It conducts: ${q(value, "A", { digits: 3 })} flowed${through} with ${q(across, "V", { digits: 2 })} left at the terminals. Without the resistor a cell would drive amperes through that.`,
    });
}

function survival(s: ReturnType<typeof stagesOf>, setup: RunSetup, findings: Finding[], notes: Note[]): void {
  if (s.reversed.length === 0) return;
  const nominal = setup.conditions.nominalOutput;
  const was = s.before.noLoad && readingOfPoint(s.before.noLoad, "outputVoltage");
  if (nominal && was !== null && was < 0.5 * nominal) {
    notes.push({
      code: "dead-before",
      message: `The output was ${q(was, "V", { digits: 3 })} before the reversal, so survival can't be judged.`,
    });
    return;
  }
  const pairs = [
    repeat("output with no load", "outputVoltage", s.before.noLoad, s.after.noLoad, setup),
    repeat("output at the load", "outputVoltage", s.before.load, s.after.load, setup),
    repeat("battery current at the load", "batteryCurrent", s.before.load, s.after.load, setup),
  ];
  const off = pairs.filter((p): p is Repeat => p !== null && Math.abs(p.after - p.before) > p.allowed);
  const complete = pairs[0] !== null && pairs[1] !== null;
  for (const p of pairs)
    if (p)
      notes.push({
        code: off.includes(p) ? "changed" : "repeats",
        message: `${p.what[0]?.toUpperCase()}${p.what.slice(1)}: ${q(p.before, p.unit, { digits: 4 })} before, ${q(p.after, p.unit, { digits: 4 })} after; ${off.includes(p) ? "more" : "no more"} apart than the ${q(p.allowed, p.unit, { digits: 2 })} that the meters leave open.`,
        points: p.points,
      });
  // One thing that changed says no; only both readings repeated say yes.
  if (off.length === 0 && !complete) {
    notes.push({
      code: "not-checked",
      message: "It was not checked whether the board survived: repeat the no-load reading and the load point.",
    });
    return;
  }
  findings.push({
    ...wordFinding("reverse.survived", off.length ? "no" : "yes"),
    points: pairs.flatMap((p) => p?.points ?? []),
  });
}
