import { formatDuration, formatQuantity } from "../../quantities";
import { AT_REST, type Seen } from "../kit/guided";
import type { Figure, Guide, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import type { DischargePlan } from "./plan";

const q = formatQuantity;
/** Share of the reading before under which a reading fell out of the blue. */
const SLIPPED = 0.6;
/** Readings without current after which the load is said to have come off. */
const LASTING = 3;

/** Takes a cell down to its floor, then watches it recover. */
export class DischargeGuide implements Guide {
  private readonly plan: DischargePlan;
  private since = NaN;
  private onAt: number | null = null;
  private offAt: number | null = null;
  private under = 0;
  private idle = 0;
  private drawn = 0;
  private last: LogRow | null = null;

  constructor(setup: RunSetup<DischargePlan>) {
    if (!setup.plan) throw new Error("internal: a discharge is led by its plan");
    this.plan = setup.plan;
  }
  /** Ah taken out so far. */
  get charge(): number {
    return this.drawn / 3600;
  }

  /** The load should draw its current and does not. */
  get interrupted(): boolean {
    return this.offAt === null && this.idle >= LASTING;
  }

  push(row: LogRow): GuideStep {
    const { plan } = this;
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    const [a, b] = [this.last?.batteryCurrent, row.batteryCurrent];
    if (a !== undefined && b !== undefined) this.drawn += ((a + b) / 2) * (time - (this.last?.time ?? time));
    const before = this.last?.batteryVoltage;
    this.last = row;
    let mark: GuideStep["mark"];
    if (this.onAt === null && time - this.since >= plan.quiet) {
      this.onAt = time;
      mark = { kind: "load-on", what: "load put on" };
    }
    const volts = row.batteryVoltage ?? NaN;
    if (this.onAt !== null && this.offAt === null) {
      // The first reading under the floor ends it; one that fell out of the blue is a clip that slipped, and waits for the next.
      const slipped = volts < SLIPPED * (before ?? volts);
      this.under = volts <= plan.floor ? this.under + 1 : 0;
      this.idle = (row.batteryCurrent ?? plan.rate) < 0.2 * plan.rate ? this.idle + 1 : 0;
      if (this.under >= (slipped ? 2 : 1)) {
        this.offAt = time;
        mark = { kind: "load-off", what: "load removed" };
      }
    }
    const more = mark ? { mark } : {};
    if (this.offAt !== null) {
      const left = plan.rebound - (time - this.offAt);
      if (left <= 0)
        return {
          settings: { ...AT_REST, supplyOn: true },
          phase: "done",
          text: "The cell is empty and has recovered. Finish the log; charge it soon, an empty cell ages.",
          done: true,
          left: 0,
          ...more,
        };
      return {
        settings: { ...AT_REST, supplyOn: true },
        phase: "recovering",
        text: `The floor is reached: load off. Log its recovery for ${formatDuration(plan.rebound)}.`,
        done: false,
        left,
        ...more,
      };
    }
    if (this.onAt === null)
      return {
        settings: { ...AT_REST, supplyOn: true },
        phase: "rested",
        text: "No load yet: the rested voltage shows whether the cell is full.",
        done: false,
        left: plan.quiet + (3600 * plan.capacity) / plan.rate,
        ...more,
      };
    if (this.interrupted)
      return {
        settings: { ...AT_REST, supplyOn: true, load: plan.rate },
        phase: "interrupted",
        text: `No current: the load is disconnected or switched itself off. Connect ${q(plan.rate, "A")} again; up to half an hour without it is not counted.`,
        done: false,
        left: plan.rebound,
        ...more,
      };
    const left = Math.max(60, (3600 * (plan.capacity - this.charge)) / plan.rate);
    return {
      settings: { ...AT_REST, supplyOn: true, load: plan.rate },
      phase: "discharging",
      text: `Load ${q(plan.rate, "A")}, down to ${q(plan.floor, "V")}. Stay within earshot.`,
      done: false,
      left: left + plan.rebound,
      ...more,
    };
  }
}

/** What came out of it so far. */
export class DischargeSeen implements Seen {
  private lost = false;
  constructor(private readonly guide: DischargeGuide) {}
  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    const was = this.lost;
    this.lost = this.guide.interrupted;
    if (this.lost && !was)
      return [
        {
          kind: "interrupted",
          time: row.time,
          message: `Interrupted after ${q(this.guide.charge, "Ah", { digits: 3 })}: no current flows. Put the load on again.`,
        },
      ];
    if (was && !this.lost)
      return [{ kind: "phase", time: row.time, message: "The load draws current again. The pause doesn't count." }];
    return step.mark?.kind === "load-off"
      ? [
          {
            kind: "phase",
            time: row.time,
            message: `The floor is reached after ${q(this.guide.charge, "Ah", { digits: 3 })}.`,
          },
        ]
      : [];
  }
  figures(): readonly Figure[] {
    return [{ label: "Delivered so far", value: this.guide.charge, unit: "Ah" }];
  }
}
