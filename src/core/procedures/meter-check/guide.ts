import { formatDuration, formatQuantity } from "../../quantities";
import { AT_REST, type Seen } from "../kit/guided";
import type { Figure, Guide, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import { checkCurrents, isCurrent, type MeterCheckPlan } from "./plan";

const q = formatQuantity;

/** Takes the current up step by step while both meters are read. */
export class MeterCheckGuide implements Guide {
  private readonly plan: MeterCheckPlan;
  private readonly currents: readonly number[];
  private at = 0;
  private since = NaN;

  constructor(setup: RunSetup<MeterCheckPlan>) {
    if (!setup.plan) throw new Error("internal: a meter check is led by its plan");
    this.plan = setup.plan;
    this.currents = checkCurrents(setup.plan);
  }

  push(row: LogRow): GuideStep {
    const { plan, currents } = this;
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    if (this.at < currents.length && time - this.since >= plan.dwell) {
      this.at++;
      this.since = time;
    }
    const load = currents[this.at];
    if (load === undefined)
      return {
        settings: { ...AT_REST, supplyOn: true },
        phase: "done",
        text: "Both meters were read at every current. Finish the log.",
        done: true,
        left: 0,
      };
    const left = (currents.length - this.at) * plan.dwell - (time - this.since);
    return {
      settings: { ...AT_REST, supplyOn: true, load },
      phase: load ? q(load, "A") : "no current",
      text: `${load ? `Set the current to ${q(load, "A")}` : "No current"}; read both meters at the same moment for ${formatDuration(plan.dwell)}.`,
      done: false,
      left,
    };
  }
}

/** The difference of the two meters as it stands. */
export class MeterCheckSeen implements Seen {
  private difference = NaN;
  constructor(private readonly plan: MeterCheckPlan) {}

  push(row: LogRow): readonly LiveEvent[] {
    const { checks } = this.plan;
    this.difference = (row[checks] ?? NaN) - (row[isCurrent(checks) ? "referenceCurrent" : "referenceVoltage"] ?? NaN);
    return [];
  }
  figures(): readonly Figure[] {
    return Number.isFinite(this.difference)
      ? [{ label: "Difference now", value: this.difference, unit: isCurrent(this.plan.checks) ? "A" : "V" }]
      : [];
  }
}
