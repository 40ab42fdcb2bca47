import { accuracyAt } from "../../instruments";
import { formatQuantity, formatRoughly } from "../../quantities";
import { AT_REST, type Seen } from "../kit/guided";
import type { Figure, Guide, GuideStep, LiveEvent, LogRow, LogValues, RunSetup } from "../../measurement";
import type { PackPlan } from "./plan";
import { PackStream, type PackEvent } from "./stream";

const q = formatQuantity;
/** s of rest between the charge and the discharge, and logged at the end; s without any current after which nothing more comes. */
const REST = 120;
const AFTER = 120;
const DEAD = 300;

/** A that the ammeter can't tell from nothing. */
export const packFloor = (setup: RunSetup): number =>
  2 * accuracyAt(setup.instruments.cellCurrent ?? { gain: 0, counts: 2, resolution: 0.001 }, 0) + 0.002;

/** V under the claimed cut at which a stop of the current is not the board's: a pulled plug, a charger's timer. */
export const NO_CUT = 0.2;
/** V of the highest cell of a row; NaN where none was read. */
function highestOf(row: LogRow): number {
  let most = NaN;
  for (const [role, v] of Object.entries(row))
    if (/^cell\d+Voltage$/.test(role) && v !== undefined && !(v <= most)) most = v;
  return most;
}

type Stage =
  "before" | "charging" | "waiting" | "resting" | "discharging" | "after" | "waking" | "woken" | "again" | "end";
const PHASES: Readonly<Record<Stage, string>> = {
  before: "rested",
  charging: "charging",
  waiting: "waiting for the release",
  resting: "resting",
  discharging: "discharging",
  after: "after the low cut",
  waking: "waking on its own?",
  woken: "charger on",
  again: "woken by the charger?",
  end: "resting",
};
/** Share of the load with which waking is tried: a light one, or the weak cell is cut off again at once. */
const LIGHT = 0.1;

/** Charges until the board cuts, waits for its release, and discharges to the low cut. */
export class PackGuide implements Guide {
  private readonly plan: PackPlan;
  private readonly stream: PackStream;
  private stage: Stage = "before";
  private since = NaN;
  private row = 0;
  readonly events: PackEvent[] = [];

  constructor(setup: RunSetup<PackPlan>) {
    if (!setup.plan) throw new Error("internal: a pack charge is led by its plan");
    this.plan = setup.plan;
    this.stream = new PackStream(packFloor(setup), this.plan.cut - NO_CUT);
  }

  /** The charge stopped otherwise than by the board, and has not gone on yet. */
  private get interrupted(): boolean {
    return this.events[this.events.length - 1]?.kind === "interrupted";
  }

  push(row: LogRow): GuideStep {
    const { plan } = this;
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    const seen = this.stream.push(this.row++, time, row.cellCurrent ?? NaN, highestOf(row));
    this.events.push(...seen);
    this.go(time, seen);
    const past = time - this.since;
    const on = { ...AT_REST, supplyOn: true };
    const light = this.stage === "waking" || this.stage === "again";
    const settings = {
      ...on,
      input: this.stage === "charging" || this.stage === "waiting" || this.stage === "woken",
      load: this.stage === "discharging" ? plan.load : light ? LIGHT * plan.load : 0,
    };
    const says: Readonly<Record<Stage, string>> = {
      before: "Charger and load off: log the rested cells for a moment.",
      charging: this.interrupted
        ? "The current has stopped long before the cut: look at the charger and its plug, and put it on again."
        : `Charger on, ${q(plan.current, "A")}: log until the current stops.`,
      waiting: "The charge has stopped. Leave the charger on: when is charging allowed again?",
      resting: `Charger off. Let the cells rest for ${formatRoughly(REST)}.`,
      discharging: `Load ${q(plan.load, "A")}: log until the board cuts it off.`,
      after: "It has cut. Load off: log how the cells recover.",
      waking: `Connect a light load of ${q(LIGHT * plan.load, "A", { digits: 2 })}: does the output recover on its own?`,
      woken: "It stays off. Load off, charger on for a moment: that wakes some boards.",
      again: `Charger off, the light load of ${q(LIGHT * plan.load, "A", { digits: 2 })} on again: did the charger wake it?`,
      end: "Load off.",
    };
    const done = this.stage === "end" || (this.stage === "after" && past >= AFTER && !plan.discharge);
    if (done)
      return {
        settings: on,
        phase: "done",
        text: "Cut, release, low cut and waking have been seen. Finish the log, and charge the pack soon.",
        done: true,
        left: 0,
      };
    const mark = past === 0 && light ? { mark: { kind: "load-again", what: "light load on: does it wake?" } } : {};
    return {
      settings,
      phase: PHASES[this.stage],
      text: says[this.stage],
      ...mark,
      done: false,
      left: this.stage === "charging" ? 7200 : this.stage === "discharging" ? 3600 : AFTER,
    };
  }

  /** s that each try of waking is given: enough samples to be sure. */
  private get patience(): number {
    return Math.max(20, 5 * this.plan.every);
  }

  private go(time: number, seen: readonly PackEvent[]): void {
    const { plan } = this;
    const past = time - this.since;
    const enter = (stage: Stage) => {
      this.stage = stage;
      this.since = time;
    };
    const has = (kind: PackEvent["kind"]) => seen.some((e) => e.kind === kind);
    const next = (): Stage => (plan.discharge ? "discharging" : "after");
    switch (this.stage) {
      case "before":
        if (past >= 20) enter("charging");
        return;
      case "charging":
        if (has("charge-cut")) enter("waiting");
        else if (has("tapered")) enter("resting");
        else if (past >= DEAD && !this.events.some((e) => e.kind === "charge")) enter("resting");
        return;
      case "waiting":
        if (has("charge-again") || past >= plan.wait) enter("resting");
        return;
      case "resting":
        if (past >= REST) enter(next());
        return;
      case "discharging":
        if (has("low-cut") || (past >= DEAD && !this.events.some((e) => e.kind === "discharge"))) enter("after");
        return;
      case "after":
        if (past >= AFTER && plan.discharge) enter("waking");
        return;
      case "waking":
        if (has("discharge")) enter("end");
        else if (past >= this.patience) enter("woken");
        return;
      case "woken":
        if (past >= this.patience) enter("again");
        return;
      case "again":
        if (has("discharge") || past >= this.patience) enter("end");
        return;
      case "end":
        return;
    }
  }
}

/** Highest and lowest cell as they stand. */
export class PackSeen implements Seen {
  private row: LogValues = {};
  private said = 0;
  constructor(private readonly guide: PackGuide) {}

  push(row: LogRow): readonly LiveEvent[] {
    this.row = row;
    const fresh = this.guide.events.slice(this.said);
    this.said = this.guide.events.length;
    const words: Readonly<Partial<Record<PackEvent["kind"], string>>> = {
      resumed: "The charge resumes. The pause doesn't count.",
      "charge-cut": "The board has cut the charge.",
      "charge-again": "Charging is allowed again.",
      tapered: "The charger has ended the charge.",
      "low-cut": "The board has cut the discharge.",
    };
    const lost = fresh.find((e) => e.kind === "interrupted");
    if (lost)
      return [
        {
          kind: "interrupted",
          time: lost.time,
          message: "Interrupted: the current stopped long before the board's cut. Look at the charger and its plug.",
        },
      ];
    return fresh.flatMap((e) =>
      words[e.kind] ? [{ kind: "phase" as const, time: e.time, message: words[e.kind] as string }] : [],
    );
  }
  figures(): readonly Figure[] {
    const cells = Object.entries(this.row).flatMap(([role, v]) =>
      /^cell\d+Voltage$/.test(role) && v !== undefined ? [{ n: Number(/\d+/.exec(role)?.[0]), v }] : [],
    );
    if (cells.length < 2) return [];
    const [top, low] = [cells.reduce((a, b) => (b.v > a.v ? b : a)), cells.reduce((a, b) => (b.v < a.v ? b : a))];
    return [
      { label: `Highest: cell ${top.n}`, value: top.v, unit: "V" },
      { label: `Lowest: cell ${low.n}`, value: low.v, unit: "V" },
      { label: "Apart", value: top.v - low.v, unit: "V", digits: 3 },
    ];
  }
}
