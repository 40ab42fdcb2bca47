import { formatDuration, formatQuantity, highest, numeric } from "../../quantities";
import type { Corrections, Point, RunSetup } from "../../measurement";
import type { Proposal, Remark } from "../contract";
import type { ChannelsPlan } from "./plan";
import { readingOf, signals, type Signal } from "./signals";

/** What the tester ended before all of its channels had signalled; the charges go by their numbers. */
const ended = (repeat: number): string => `repeat ${repeat}`;

interface Progress {
  /** The charge under way; null where all are done. */
  readonly repeat: number | null;
  /** Signals that count, of all charges. */
  readonly all: readonly Signal[];
  readonly own: readonly Signal[];
}

function progressOf(plan: ChannelsPlan, points: readonly Point[], corrections: Corrections): Progress {
  const all = signals(points.filter((p) => !corrections.leftOut.has(p.id)));
  for (let repeat = 1; repeat <= plan.repeats; repeat++) {
    const own = all.filter((s) => s.repeat === repeat);
    if (new Set(own.map((s) => s.channel)).size < plan.channels && !corrections.closed.has(ended(repeat)))
      return { repeat, all, own };
  }
  return { repeat: null, all, own: [] };
}

/** The channel that signalled next in an earlier charge, with what was read then; null where there was none. */
function likely(all: readonly Signal[], repeat: number, seen: ReadonlySet<number>): Signal | null {
  for (let r = repeat - 1; r >= 1; r--) {
    const next = all
      .filter((s) => s.repeat === r && !seen.has(s.channel))
      .sort((a, b) => (a.time ?? Infinity) - (b.time ?? Infinity))[0];
    if (next) return next;
  }
  return null;
}

/** The next done signal: of which charge, how many channels still charge, and what is likely to come. */
export function nextSignal(
  setup: RunSetup<ChannelsPlan>,
  points: readonly Point[],
  corrections: Corrections,
): Proposal {
  const { plan } = setup;
  if (!plan) throw new Error("internal: an imported table has no next step");
  const { repeat, all, own } = progressOf(plan, points, corrections);
  const of = plan.channels * plan.repeats;
  const progress = { taken: all.length, of };
  if (repeat === null)
    return {
      kind: "done",
      text: "Every charge is recorded. Open the result.",
      settings: {},
      expect: {},
      progress: { taken: all.length, of: Math.max(1, all.length) },
    };
  const seen = new Set(own.map((s) => s.channel));
  const left = plan.channels - seen.size;
  const next = likely(all, repeat, seen);
  const expect = next
    ? {
        channel: next.channel,
        ...(next.time !== null ? { time: next.time } : {}),
        ...(next.volts !== null ? { cellVoltage: next.volts } : {}),
        ...(next.amps !== null ? { cellCurrent: next.amps } : {}),
      }
    : left === 1
      ? { channel: numeric(Array.from({ length: plan.channels }, (_, k) => k + 1).find((c) => !seen.has(c))) }
      : {};
  const text =
    own.length === 0
      ? `Charge ${repeat} of ${plan.repeats}: discharge the cell, then plug in the input and start a clock. Record the first channel that signals done.`
      : `Charge ${repeat} of ${plan.repeats}: ${left === 1 ? "one channel still charges" : `${left} channels still charge`}. Record the next that signals done.`;
  return {
    kind: "point",
    text,
    settings: {},
    expect,
    given: { repeat },
    progress,
    column: ended(repeat),
    columnName: "charge",
  };
}

/** V above which a done signal is doubted, over the full voltage. */
const OVER = 0.05;

/** What to say of a signal as it is recorded: a channel twice, a clock that runs backwards, a current that rises. */
export function checkSignal(
  point: Point,
  setup: RunSetup<ChannelsPlan>,
  earlier: readonly Point[],
  corrections: Corrections,
): Remark[] {
  const { plan } = setup;
  if (!plan) return [];
  const out: Remark[] = [];
  const channel = readingOf(point, "channel");
  const repeat = readingOf(point, "repeat") ?? 1;
  const own = signals(earlier.filter((p) => !corrections.leftOut.has(p.id))).filter((s) => s.repeat === repeat);
  if (channel === null || !Number.isInteger(channel) || channel < 1 || channel > plan.channels) {
    out.push({
      code: "no-channel",
      severity: "stop",
      message: `Channels are numbered 1 to ${plan.channels}.`,
      role: "channel",
      ask: true,
    });
    return out;
  }
  if (own.some((s) => s.channel === channel))
    out.push({
      code: "twice",
      severity: "stop",
      message: `Channel ${channel} has signalled done in charge ${repeat} already. Exclude the earlier signal first if this one is right.`,
      role: "channel",
      ask: true,
    });
  const time = readingOf(point, "time");
  const latest = highest([-Infinity, ...own.flatMap((s) => s.time ?? [])]);
  if (time !== null && time < latest)
    out.push({
      code: "earlier",
      severity: "doubt",
      message: `${formatDuration(time)} is before the last signal at ${formatDuration(latest)}. Check the time.`,
      role: "time",
      ask: true,
    });
  const amps = readingOf(point, "cellCurrent");
  const least = own.reduce((low, s) => Math.min(low, s.amps ?? Infinity), Infinity);
  if (amps !== null && amps > least)
    out.push({
      code: "rises",
      severity: "doubt",
      message: `${formatQuantity(amps, "A")} is more than at an earlier signal (${formatQuantity(least, "A")}): the current only falls from one to the next.`,
      role: "cellCurrent",
    });
  const volts = readingOf(point, "cellVoltage");
  if (volts !== null && volts > plan.fullVoltage + OVER)
    out.push({
      code: "high",
      severity: "doubt",
      message: `${formatQuantity(volts, "V")} is more than ${formatQuantity(OVER, "V")} above the full voltage.`,
      role: "cellVoltage",
    });
  return out;
}
