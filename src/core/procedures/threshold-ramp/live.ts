import type { Figure, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import type { Seen } from "../kit/guided";
import type { RampPlan } from "./plan";

/** What a ramp has shown so far: its speed, the last volts before the cut and before the release. */
export class RampSeen implements Seen {
  private readonly recent: (readonly [number, number])[] = [];
  private phase = "";
  private last = NaN;
  private cut: number | null = null;
  private release: number | null = null;

  constructor(private readonly setup: RunSetup<RampPlan>) {}

  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    const time = row.time;
    const volts = (this.setup.plan?.way === "charge" ? row.cellVoltage : row.batteryVoltage) ?? NaN;
    const out: LiveEvent[] = [];
    if (step.phase === "cut off" && this.phase !== step.phase) {
      this.cut = this.last;
      out.push({ kind: "phase", time, message: "The current is cut off." });
    }
    if (step.phase === "back on" && this.phase !== step.phase) {
      this.release = this.last;
      out.push({ kind: "phase", time, message: "The current is back." });
    }
    if (step.phase !== this.phase) this.recent.length = 0;
    this.phase = step.phase;
    if (Number.isFinite(volts)) {
      this.recent.push([time, volts]);
      if (this.recent.length > 10) this.recent.shift();
      // Two readings back: by the time a cut is seen, the newest already stand after it.
      this.last = (this.recent[this.recent.length - 3] ?? this.recent[0])?.[1] ?? NaN;
    }
    return out;
  }

  figures(): readonly Figure[] {
    const [a, b] = [this.recent[0], this.recent[this.recent.length - 1]];
    const slope = a && b && b[0] > a[0] ? (b[1] - a[1]) / (b[0] - a[0]) : 0;
    return [
      { label: "Ramp in a second", value: slope, unit: "V" },
      ...(this.cut === null ? [] : [{ label: "Cut near", value: this.cut, unit: "V" as const }]),
      ...(this.release === null ? [] : [{ label: "Back near", value: this.release, unit: "V" as const }]),
    ];
  }
}
