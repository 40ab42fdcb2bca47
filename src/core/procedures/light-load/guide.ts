import { formatDuration, formatQuantity } from "../../quantities";
import { AT_REST, LiveOutput, type Seen } from "../kit/guided";
import type { Figure, Guide, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import { ladder, type LightLoadPlan } from "./plan";

const q = formatQuantity;
/** s logged after the output went off. */
const AFTER = 15;

/** Lowers the load step by step until the output switches itself off. */
export class LightLoadGuide implements Guide {
  private readonly loads: readonly number[];
  private at = 0;
  private since = NaN;
  private off = 0;
  private offAt: number | null = null;
  private held = false;
  private readonly plan: LightLoadPlan;

  private readonly output: LiveOutput;

  constructor(setup: RunSetup<LightLoadPlan>) {
    if (!setup.plan) throw new Error("internal: a light-load run is led by its plan");
    this.plan = setup.plan;
    this.loads = ladder(setup.plan);
    this.output = new LiveOutput(setup.conditions.nominalOutput);
  }

  push(row: LogRow): GuideStep {
    const { plan } = this;
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    const volts = row.outputVoltage ?? NaN;
    const level = this.output.see(volts);
    if (volts > 0.5 * level) this.held = true;
    this.off = this.held && volts < 0.5 * level ? this.off + 1 : 0;
    if (this.off >= 2) this.offAt ??= time;
    const last = this.at === this.loads.length - 1;
    if (this.offAt === null && !last && time - this.since >= plan.dwell) {
      this.at++;
      this.since = time;
    }
    const load = this.loads[this.at] ?? 0;
    const base = { ...AT_REST, supplyOn: true, supplyVoltage: plan.battery, load };
    const done = this.offAt !== null ? time - this.offAt >= AFTER : last && time - this.since >= plan.dwell;
    const left = this.offAt !== null ? AFTER : (this.loads.length - this.at) * plan.dwell - (time - this.since);
    if (done)
      return {
        settings: base,
        phase: "done",
        text:
          this.offAt === null
            ? `It never switched itself off, down to ${q(plan.least, "A")}. Finish the log.`
            : "It has switched itself off. Finish the log.",
        done: true,
        left: 0,
      };
    if (this.offAt !== null)
      return {
        settings: base,
        phase: "off",
        text: "The output is off. Log a little more: what flows now is its current after the switch-off.",
        done: false,
        left,
      };
    return {
      settings: base,
      phase: `load ${q(load, "A")}`,
      text: `Set the load to ${q(load, "A")} and leave it for ${formatDuration(plan.dwell)}.`,
      done: false,
      left,
    };
  }
}

/** How long the present load has stood, and what the battery gives for it. */
export class LightLoadSeen implements Seen {
  private phase = "";
  private since = 0;
  private now = 0;
  private off = false;

  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    this.now = row.time;
    if (step.phase !== this.phase) this.since = this.now;
    this.phase = step.phase;
    if (step.phase !== "off" || this.off) return [];
    this.off = true;
    return [{ kind: "phase", time: this.now, message: "The output has switched itself off." }];
  }
  figures(): readonly Figure[] {
    return [{ label: "At this load for", value: this.now - this.since, unit: "s" }];
  }
}
