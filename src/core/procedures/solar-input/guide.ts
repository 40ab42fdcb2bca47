import { formatDuration } from "../../quantities";
import { AT_REST, type Seen } from "../kit/guided";
import type { Figure, Guide, GuideStep, LiveEvent, LogRow, LogValues, RunSetup } from "../../measurement";
import type { SolarPlan } from "./plan";
import { SteadyFinder } from "./steady";

/** W under which a panel gives nothing worth a window. */
export const LEAST_POWER = 0.02;

/** Waits for steady light, and ends once there was enough of it. */
export class SolarGuide implements Guide {
  private readonly plan: SolarPlan;
  readonly finder = new SteadyFinder(LEAST_POWER);
  private since = NaN;
  private row = 0;

  constructor(setup: RunSetup<SolarPlan>) {
    if (!setup.plan) throw new Error("internal: a solar log is led by its plan");
    this.plan = setup.plan;
  }

  push(row: LogRow): GuideStep {
    const { plan, finder } = this;
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    finder.push(this.row++, time, (row.inputVoltage ?? NaN) * (row.inputCurrent ?? NaN));
    const settings = { ...AT_REST, supplyOn: true, input: true };
    const past = time - this.since;
    const done = past >= plan.seconds || finder.seconds >= plan.steady;
    if (done)
      return {
        settings,
        phase: "done",
        text:
          finder.seconds > 0
            ? `${formatDuration(finder.seconds)} of steady light are in. Finish the log.`
            : "No steady light. Finish the log and use a lamp.",
        done: true,
        left: 0,
      };
    const share = past > 30 && finder.seconds > 0 ? finder.seconds / past : 0.4;
    return {
      settings,
      phase: "logging",
      text:
        finder.seconds > 0
          ? `Steady light. Continue until it reaches ${formatDuration(plan.steady)}.`
          : "Light on the panel, input plugged in. Wait for steady light.",
      done: false,
      left: Math.min(plan.seconds - past, (plan.steady - finder.seconds) / share),
    };
  }
}

/** What the panel gives, and the efficiency as it stands. */
export class SolarSeen implements Seen {
  private row: LogValues = {};
  private windows = 0;
  private charging = false;
  private best = 0;

  constructor(private readonly guide: SolarGuide) {}

  push(row: LogRow): readonly LiveEvent[] {
    this.row = row;
    const time = row.time;
    const out: LiveEvent[] = [];
    if (this.guide.finder.windows.length > this.windows) {
      this.windows = this.guide.finder.windows.length;
      const w = this.guide.finder.windows[this.windows - 1];
      if (w) out.push({ kind: "step", time, message: `A steady stretch of ${formatDuration(w.to - w.from)} is in.` });
    }
    const amps = row.cellCurrent ?? 0;
    this.best = Math.max(this.best, amps);
    const now = amps > 0.1 * this.best && amps > 0.005;
    if (this.charging && !now)
      out.push({ kind: "no-current", time, message: "The light went: the cell takes no current." });
    else if (!this.charging && now && this.best > 0) out.push({ kind: "phase", time, message: "It charges." });
    this.charging = now;
    return out;
  }
  figures(): readonly Figure[] {
    const { row } = this;
    const panel = (row.inputVoltage ?? NaN) * (row.inputCurrent ?? NaN);
    const cell = (row.cellVoltage ?? NaN) * (row.cellCurrent ?? NaN);
    const out: Figure[] = [{ label: "Steady light so far", value: this.guide.finder.seconds, unit: "s" }];
    if (Number.isFinite(panel)) out.push({ label: "Panel gives", value: panel, unit: "W" });
    if (panel > LEAST_POWER && Number.isFinite(cell))
      out.push({ label: "Efficiency now", value: cell / panel, unit: "1" });
    return out;
  }
}
