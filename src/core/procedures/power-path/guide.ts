import { formatDuration, formatQuantity } from "../../quantities";
import { accuracyAt } from "../../instruments";
import { AT_REST, type Seen } from "../kit/guided";
import type {
  BenchSettings,
  Figure,
  Guide,
  GuideStep,
  LiveEvent,
  LogRow,
  LogValues,
  RunSetup,
} from "../../measurement";
import { ChargeEnding, type Ending } from "./ending";
import { pathLoads, type PathPlan } from "./plan";

const q = formatQuantity;
/** s logged after a charge ended. */
const AFTER = 60;

interface Part {
  readonly phase: string;
  readonly text: string;
  readonly seconds: number;
  readonly settings: BenchSettings;
  readonly mark?: NonNullable<GuideStep["mark"]>;
  /** Until the charge ends or stands still. */
  readonly toTheEnd?: boolean;
}

/** A that the cell's ammeter can't tell from nothing. */
export const currentFloor = (setup: RunSetup): number =>
  2 * accuracyAt(setup.instruments.cellCurrent ?? { gain: 0, counts: 2, resolution: 0.001 }, 0) + 0.001;

/** Plugs the input in and pulls it under load; or takes the charging through its loads and to its end. */
export class PathGuide implements Guide {
  private readonly parts: readonly Part[];
  private readonly ending: ChargeEnding;
  private at = 0;
  private since = NaN;
  private endedAt: number | null = null;
  /** How the charge under load came out, once it did. */
  outcome: Exclude<Ending, "charging"> | null = null;

  constructor(setup: RunSetup<PathPlan>) {
    const { plan } = setup;
    if (!plan) throw new Error("internal: a power path is led by its plan");
    this.parts = plan.part === "handover" ? handOver(plan) : charging(plan);
    this.ending = new ChargeEnding(currentFloor(setup), plan.patience);
  }

  push(row: LogRow): GuideStep {
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    const part = this.parts[this.at];
    let mark: GuideStep["mark"];
    if (part?.toTheEnd && this.endedAt === null) {
      const state = this.ending.push(time, row.cellCurrent ?? NaN);
      if (state !== "charging") {
        this.endedAt = time;
        this.outcome = state;
      }
    }
    const over =
      part &&
      (part.toTheEnd ? this.endedAt !== null && time - this.endedAt >= AFTER : time - this.since >= part.seconds);
    if (over) {
      this.at++;
      this.since = time;
      mark = this.parts[this.at]?.mark;
    }
    const now = this.parts[this.at];
    if (!now)
      return {
        settings: { ...AT_REST, supplyOn: true, load: 0 },
        phase: "done",
        text: "Everything has been seen. Finish the log.",
        done: true,
        left: 0,
        ...(mark ? { mark } : {}),
      };
    const left = this.parts.slice(this.at).reduce((s, p) => s + p.seconds, 0) - (time - this.since);
    return {
      settings: now.settings,
      phase: now.phase,
      text: now.text,
      done: false,
      left: Math.max(0, left),
      ...(mark ? { mark } : {}),
    };
  }
}

function handOver(plan: PathPlan): Part[] {
  const { dwell } = plan;
  const on = { ...AT_REST, supplyOn: true, load: plan.load };
  const out: Part[] = [
    {
      phase: "input absent",
      text: `Cell on, input out: set the load to ${q(plan.load, "A")} and log for ${formatDuration(dwell)}.`,
      seconds: dwell,
      settings: on,
    },
  ];
  for (let k = 1; k <= plan.repeats; k++) {
    out.push({
      phase: "input present",
      text: `Plug the input in (${k} of ${plan.repeats}); read the output, and what a scope caught.`,
      seconds: dwell,
      settings: { ...on, input: true },
      mark: { kind: "plugged", what: "input plugged in" },
    });
    out.push({
      phase: "input absent",
      text: `Unplug the input (${k} of ${plan.repeats}); read the output, and what a scope caught.`,
      seconds: dwell,
      settings: on,
      mark: { kind: "unplugged", what: "input pulled" },
    });
  }
  return out;
}

function charging(plan: PathPlan): Part[] {
  const on = { ...AT_REST, supplyOn: true, input: true };
  const out: Part[] = pathLoads(plan).map((load) => ({
    phase: load ? `charging, load ${q(load, "A")}` : "charging, no load",
    text: `Input in, load ${load ? q(load, "A") : "off"}: log for ${formatDuration(plan.dwell)}.`,
    seconds: plan.dwell,
    settings: { ...on, load },
  }));
  if (plan.toTheEnd)
    out.push({
      phase: "charging to its end",
      text: `Leave ${q(plan.load, "A")} on and log until the charge ends, or until nothing changes any more. Mark the done light when it comes.`,
      seconds: 3600 * (plan.capacity / 0.5),
      settings: { ...on, load: plan.load },
      toTheEnd: true,
    });
  return out;
}

const SAYS: Readonly<Record<Exclude<Ending, "charging">, string>> = {
  ended: "The charge has ended, the load still on.",
  "is steady": "Nothing changes any more: with this load the charge doesn't end.",
  discharges: "The cell is emptied though the input is in: the load takes more than the charger gives.",
};

/** Lowest and highest output since the input last came or went; for charging, where the input's current goes. */
export class PathSeen implements Seen {
  private low = Infinity;
  private high = -Infinity;
  private phase = "";
  private row: LogValues = {};
  private said = false;

  constructor(
    private readonly guide: PathGuide,
    private readonly plan: PathPlan,
  ) {}

  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    this.row = row;
    if (step.phase !== this.phase) {
      this.phase = step.phase;
      this.low = Infinity;
      this.high = -Infinity;
    }
    for (const v of [row.outputVoltage, row.outputLow, row.outputHigh]) {
      if (v === undefined || v - v !== 0) continue;
      this.low = Math.min(this.low, v);
      this.high = Math.max(this.high, v);
    }
    if (this.guide.outcome && !this.said) {
      this.said = true;
      return [{ kind: "phase", time: row.time, message: SAYS[this.guide.outcome] }];
    }
    return [];
  }
  figures(): readonly Figure[] {
    const { row } = this;
    if (this.plan.part === "handover")
      return Number.isFinite(this.low)
        ? [
            { label: "Lowest output here", value: this.low, unit: "V" },
            { label: "Highest output here", value: this.high, unit: "V" },
          ]
        : [];
    return row.inputCurrent !== undefined && row.cellCurrent !== undefined
      ? [
          { label: "Input carries", value: row.inputCurrent, unit: "A" },
          { label: "of it into the cell", value: Math.max(0, row.cellCurrent), unit: "A" },
        ]
      : [];
  }
}
