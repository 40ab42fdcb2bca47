import { accuracyAt } from "../../instruments";
import { formatQuantity, median } from "../../quantities";
import { AT_REST, LiveOutput } from "../kit/guided";
import type { BenchSettings, Guide, GuideStep, LogRow, RunSetup } from "../../measurement";
import { NEAR, rampSeconds, type RampPlan } from "./plan";

const q = formatQuantity;
/** s of steady readings before the ramp, after the cut, and after each attempt to wake the module. */
const SETTLE = 5;
const AFTER = 10;
const WAKE = 8;
/** Share of the flowing current under which it counts as cut. */
const OFF = 0.2;
/** V past the expected cut up to which a release is looked for. */
const BACK = { discharge: 0.9, charge: 0.4 } as const;

type Stage = "settle" | "quick" | "slow" | "cut" | "back" | "again" | "unloaded" | "charger" | "reloaded" | "done";

/** Takes the supply down (or the source up) to the cut and back, quickly where nothing is expected and slowly where it is. */
export class RampGuide implements Guide {
  private stage: Stage = "settle";
  private since = NaN;
  private began = NaN;
  private readonly first: number[] = [];
  private level = 0;
  private lasting = 0;
  private cutAt = NaN;
  private text = "";
  private readonly plan: RampPlan;
  private readonly output: LiveOutput;

  constructor(private readonly setup: RunSetup<RampPlan>) {
    if (!setup.plan) throw new Error("internal: a ramp is led by its plan");
    this.plan = setup.plan;
    this.output = new LiveOutput(setup.conditions.nominalOutput);
  }

  private get down(): boolean {
    return this.plan.way === "discharge";
  }

  push(row: LogRow): GuideStep {
    const time = row.time;
    const volts = (this.down ? row.batteryVoltage : row.cellVoltage) ?? NaN;
    const amps = (this.down ? row.batteryCurrent : row.cellCurrent) ?? NaN;
    if (Number.isNaN(this.began)) this.began = this.since = time;
    const before = this.stage;
    const mark = this.next(time, volts, amps, row.outputVoltage);
    if (this.stage !== before) {
      this.since = time;
      this.lasting = 0;
    }
    return {
      settings: this.settings(),
      phase: PHASES[this.stage],
      text: this.say(),
      done: this.stage === "done",
      left: Math.max(5, rampSeconds(this.plan) - (time - this.began)),
      ...(mark ? { mark } : {}),
    };
  }

  /** Whether the current has been on the other side of the cut for two readings. */
  private changed(flows: boolean): boolean {
    this.lasting = flows ? this.lasting + 1 : 0;
    return this.lasting >= 2;
  }

  private next(time: number, volts: number, amps: number, output: number | undefined): GuideStep["mark"] {
    const { plan, down } = this;
    const waited = time - this.since;
    const level = this.output.see(output ?? NaN);
    switch (this.stage) {
      case "settle":
        if (Number.isFinite(amps)) this.first.push(amps);
        if (waited < SETTLE || this.first.length < 3) return;
        this.level = median(this.first);
        this.stage = "quick";
        return;
      case "quick":
      case "slow":
        if (this.changed(amps < OFF * this.level)) {
          this.cutAt = volts;
          this.stage = "cut";
          return;
        }
        if (this.stage === "quick" && this.reached(volts, plan.expected + (down ? NEAR : -NEAR), down ? -1 : 1))
          this.stage = "slow";
        if (this.stage === "slow" && this.reached(volts, plan.farthest, down ? -1 : 1)) {
          this.text = `No cut ${down ? "down" : "up"} to ${q(plan.farthest, "V")}. Go back to ${q(plan.start, "V")}, then finish the log.`;
          this.stage = "done";
        }
        return;
      case "cut":
        if (waited >= AFTER) this.stage = "back";
        return;
      case "back":
        if (this.changed(amps > OFF * this.level)) this.stage = "again";
        else if (this.reached(volts, this.limit(), down ? 1 : -1)) {
          if (!down) {
            this.text = `It did not come back down to ${q(this.limit(), "V")}. Finish the log.`;
            this.stage = "done";
            return;
          }
          this.stage = "unloaded";
          return { kind: "load-off", what: "load removed" };
        }
        return;
      case "again":
        if (waited >= SETTLE) {
          this.text = "The cut and the release have been seen. Finish the log.";
          this.stage = "done";
        }
        return;
      case "unloaded":
        if (waited < WAKE) return;
        if ((output ?? 0) > 0.5 * level) {
          this.text = "It reconnected without the load. Finish the log.";
          this.stage = "done";
          return;
        }
        this.stage = "charger";
        return { kind: "charger-on", what: "charger plugged in" };
      case "charger":
        if (waited < WAKE) return;
        this.stage = "reloaded";
        return { kind: "charger-off", what: "charger unplugged, load on" };
      case "reloaded":
        if (waited >= WAKE) {
          this.text =
            amps > OFF * this.level
              ? "A charger woke it. Finish the log."
              : "Not even a charger woke it. Finish the log.";
          this.stage = "done";
        }
        return;
      case "done":
        return;
    }
  }

  /** Whether the volts, as surely as the meter knows them, have come to `target` from below (1) or above (−1). */
  private reached(volts: number, target: number, from: 1 | -1): boolean {
    const meter = this.setup.instruments[this.down ? "batteryVoltage" : "cellVoltage"];
    const doubt = 0.01 + (meter ? accuracyAt(meter, target) : 0);
    return from * (volts - target) >= -doubt;
  }

  /** V at which the search for the release ends. */
  private limit(): number {
    const { plan } = this;
    return this.down
      ? Math.min(4.1, Math.max(plan.start, plan.expected + BACK.discharge))
      : plan.expected - BACK.charge;
  }

  private settings(): BenchSettings {
    const { plan, down, stage } = this;
    const base: BenchSettings = {
      ...AT_REST,
      supplyOn: true,
      supplyVoltage: plan.start,
      load: down ? plan.load : 0,
      chargeCurrent: down ? 0 : plan.chargeCurrent,
    };
    switch (stage) {
      case "settle":
        return base;
      case "quick":
        return { ...base, supplyVoltage: plan.expected + (down ? NEAR : -NEAR), slew: plan.quick };
      case "slow":
        return { ...base, supplyVoltage: plan.farthest, slew: plan.slow };
      case "cut":
        return { ...base, supplyVoltage: this.cutAt, slew: plan.quick };
      case "back":
        return { ...base, supplyVoltage: this.limit(), slew: plan.slow };
      case "again":
        return { ...base, supplyVoltage: this.limit(), slew: plan.slow };
      case "unloaded":
        return { ...base, supplyVoltage: this.limit(), load: 0 };
      case "charger":
        return { ...base, supplyVoltage: this.limit(), load: 0, chargeCurrent: 0.1 };
      case "reloaded":
        return { ...base, supplyVoltage: this.limit() };
      case "done":
        return { ...base, slew: plan.quick };
    }
  }

  private say(): string {
    const { plan, down } = this;
    const way = down ? "Lower" : "Raise";
    const back = down ? "Raise" : "Lower";
    const source = down ? "the supply" : "the source";
    switch (this.stage) {
      case "settle":
        return `Set ${source} to ${q(plan.start, "V")}, ${down ? `put ${q(plan.load, "A")} on the output` : `push ${q(plan.chargeCurrent, "A")} in`}, and wait.`;
      case "quick":
        return `${way} ${source} to ${q(plan.expected + (down ? NEAR : -NEAR), "V")}.`;
      case "slow":
        return `${way} ${source} slowly, ${q(1000 * plan.slow, "", { digits: 2 })} mV a second or less, until the current stops or ${q(plan.farthest, "V")} is reached.`;
      case "cut":
        return "The current has stopped. Leave it so for ten seconds: what still flows is the residual current.";
      case "back":
        return `${back} ${source} as slowly, until the current comes back or ${q(this.limit(), "V")} is reached. Leave the load as it is.`;
      case "again":
        return "The current is back. Wait five seconds.";
      case "unloaded":
        return "It stays off. Remove the load and wait.";
      case "charger":
        return "Plug a charger in for a few seconds.";
      case "reloaded":
        return "Unplug the charger, put the load back, and wait.";
      case "done":
        return this.text;
    }
  }
}

const PHASES: Readonly<Record<Stage, string>> = {
  settle: "settling",
  quick: "quick ramp",
  slow: "slow ramp",
  cut: "cut off",
  back: "way back",
  again: "back on",
  unloaded: "load off",
  charger: "charger in",
  reloaded: "load on",
  done: "done",
};
