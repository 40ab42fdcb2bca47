import { formatDuration, formatQuantity } from "../../quantities";
import { AT_REST, LiveOutput, type Seen } from "../kit/guided";
import type { BenchSettings, Figure, Guide, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import { limitOf, overloadSeconds, type OverloadPlan } from "./plan";

const q = formatQuantity;
/** s in which the output may come back by itself, after each thing that was tried. */
const COMES_BACK = 6;
const OFF_TIME = 2;

type Stage = "start" | "raise" | "recover" | "unload" | "off" | "on" | "short" | "done";

/** Raises the load until the output falls, sees what brings it back, then shorts it, again and again. */
export class OverloadGuide implements Guide {
  private stage: Stage = "start";
  private since = NaN;
  private began = NaN;
  private load = 0;
  private fell = 0;
  private up = 0;
  private shorts = 0;
  private dead = false;
  private readonly plan: OverloadPlan;
  private readonly output: LiveOutput;
  private readonly share: number;
  private readonly supply: number;

  constructor(setup: RunSetup<OverloadPlan>) {
    this.supply = limitOf(setup);
    if (!setup.plan) throw new Error("internal: an overload is led by its plan");
    this.plan = setup.plan;
    this.output = new LiveOutput(setup.conditions.nominalOutput);
    this.share = 1 - (setup.conditions.regulationBand ?? 0.05);
  }

  push(row: LogRow): GuideStep {
    const time = row.time;
    if (Number.isNaN(this.began)) this.began = this.since = time;
    const before = this.stage;
    const shorts = this.shorts;
    const mark = this.next(time, row.outputVoltage ?? NaN);
    if (this.stage !== before || this.shorts !== shorts) {
      this.since = time;
      this.fell = this.up = 0;
    }
    return {
      settings: this.settings(),
      phase: this.phase(),
      text: this.say(),
      done: this.stage === "done",
      left: Math.max(3, overloadSeconds(this.plan) - (time - this.began)),
      ...(mark ? { mark } : {}),
    };
  }

  private next(time: number, volts: number): GuideStep["mark"] {
    const { plan } = this;
    const waited = time - this.since;
    const inside = volts >= this.share * this.output.see(volts);
    this.fell = inside ? 0 : this.fell + 1;
    this.up = inside ? this.up + 1 : 0;
    switch (this.stage) {
      case "start":
        if (waited < plan.dwell) return;
        this.load = plan.from;
        this.stage = "raise";
        return;
      case "raise":
        if (this.fell >= 3) {
          this.stage = "recover";
          return;
        }
        if (waited < plan.dwell) return;
        this.load = Number((this.load + plan.step).toFixed(4));
        this.since = time;
        if (this.load <= plan.most + 1e-9) return;
        return this.shortOrEnd();
      case "recover":
        if (this.up >= 3 && waited >= 2) return this.shortOrEnd();
        if (waited < COMES_BACK) return;
        this.stage = "unload";
        return { kind: "load-off", what: "load removed" };
      case "unload":
        if (this.up >= 3) return this.shortOrEnd();
        if (waited < COMES_BACK) return;
        this.stage = "off";
        return { kind: "supply-off", what: "supply switched off" };
      case "off":
        if (waited < OFF_TIME) return;
        this.stage = "on";
        return { kind: "supply-on", what: "supply switched on" };
      case "on":
        if (this.up >= 3) return this.shortOrEnd();
        if (waited < COMES_BACK) return;
        this.dead = true;
        this.stage = "done";
        return;
      case "short":
        if (waited < plan.shortSeconds) return;
        this.stage = "recover";
        return { kind: "short-off", what: "short removed" };
      case "done":
        return;
    }
  }

  private shortOrEnd(): GuideStep["mark"] {
    if (!this.plan.shorts || this.shorts >= this.plan.repeats) {
      this.stage = "done";
      return;
    }
    this.shorts++;
    this.stage = "short";
    return { kind: "short-on", what: `short ${this.shorts}` };
  }

  private settings(): BenchSettings {
    const { plan, stage } = this;
    const base: BenchSettings = { ...AT_REST, supplyOn: true, supplyVoltage: plan.battery };
    switch (stage) {
      case "raise":
        return { ...base, load: this.load };
      case "recover":
        return { ...base, load: plan.after };
      case "short":
        return { ...base, load: plan.after, shorted: true };
      case "off":
        return { ...base, supplyOn: false };
      case "start":
      case "unload":
      case "on":
      case "done":
        return base;
    }
  }

  private phase(): string {
    const { stage } = this;
    const words: Readonly<Record<Exclude<Stage, "raise" | "short">, string>> = {
      start: "no load",
      recover: "recovering",
      unload: "load off",
      off: "supply off",
      on: "supply on",
      done: "done",
    };
    return stage === "raise"
      ? "raising the load"
      : stage === "short"
        ? `short ${this.shorts} of ${this.plan.repeats}`
        : words[stage];
  }

  private say(): string {
    const { plan } = this;
    switch (this.stage) {
      case "start":
        return `Supply at ${q(plan.battery, "V")}, limit ${q(this.supply, "A")}, no load.`;
      case "raise":
        return `Set the load to ${q(this.load, "A")} and leave it for ${formatDuration(plan.dwell)}.`;
      case "recover":
        return `Set the load to ${q(plan.after, "A")} and watch whether the output recovers on its own.`;
      case "unload":
        return "It doesn't recover. Remove the load.";
      case "off":
        return "Still off. Switch the supply off for two seconds.";
      case "on":
        return "Switch the supply on again, without a load.";
      case "short":
        return `Short the output for ${formatDuration(plan.shortSeconds)}, number ${this.shorts} of ${plan.repeats}. Hands off the part.`;
      case "done":
        return this.dead
          ? "Nothing restores the output. Switch the supply off and finish the log."
          : "Show all has been seen. Finish the log.";
    }
  }
}

/** The highest battery current so far, and the highest load at which the output held. */
export class OverloadSeen implements Seen {
  private peak = 0;
  private held = 0;
  private phase = "";
  private readonly output: LiveOutput;
  private readonly share: number;

  constructor(setup: RunSetup<OverloadPlan>) {
    this.output = new LiveOutput(setup.conditions.nominalOutput);
    this.share = 1 - (setup.conditions.regulationBand ?? 0.05);
  }
  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    this.peak = Math.max(this.peak, row.batteryCurrent ?? 0);
    if ((row.outputVoltage ?? 0) >= this.share * this.output.see(row.outputVoltage ?? 0))
      this.held = Math.max(this.held, row.outputCurrent ?? 0);
    const before = this.phase;
    this.phase = step.phase;
    return before === "raising the load" && step.phase === "recovering"
      ? [{ kind: "cut-back", time: row.time, message: "The output has fallen: it limits, or it tripped." }]
      : [];
  }
  figures(): readonly Figure[] {
    return [
      { label: "Highest load held", value: this.held, unit: "A" },
      { label: "Highest battery current", value: this.peak, unit: "A" },
    ];
  }
}
