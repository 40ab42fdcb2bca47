import { fitWarming, type Warming } from "../../fit";
import { formatDuration, formatQuantity } from "../../quantities";
import { AT_REST, type Seen } from "../kit/guided";
import type { Figure, Guide, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import type { HeatPlan } from "./plan";
import { heatOf, warmingPriors } from "./readings";

const q = formatQuantity;
/** s with the load on before anything is predicted. */
const EARLY = 60;
/** Share of what is still to come that stays as doubt of the curve's shape. */
export const SHAPE = 0.05;

/** Puts the load on, and ends once the temperature it will settle at is known well enough. */
export class HeatGuide implements Guide {
  private readonly plan: HeatPlan;
  private readonly rows: { time: number[]; part: number[]; ambient: number[]; power: number[] } = {
    time: [],
    part: [],
    ambient: [],
    power: [],
  };
  private since = NaN;
  private onAt: number | null = null;
  private fitted = 0;
  private fittedAt = -Infinity;
  private done = false;
  private ambientRead = false;
  /** What the rows so far foretell; null while they are too few. */
  prediction: { readonly warming: Warming; readonly settles: number; readonly expanded: number } | null = null;
  now = 0;

  constructor(private readonly setup: RunSetup<HeatPlan>) {
    if (!setup.plan) throw new Error("internal: a heat soak is led by its plan");
    this.plan = setup.plan;
  }

  push(row: LogRow): GuideStep {
    const { plan } = this;
    const time = row.time;
    this.now = time;
    if (Number.isNaN(this.since)) this.since = time;
    this.keep(row);
    const on = time - this.since >= plan.quiet;
    if (on) this.onAt ??= time;
    const soaked = this.onAt === null ? 0 : time - this.onAt;
    if (!this.done && soaked >= EARLY && plan.enough > 0) this.predict();
    const p = this.prediction;
    const sure = p !== null && p.expanded < plan.enough;
    if (soaked >= plan.seconds || (soaked >= 3 * EARLY && sure)) this.done = true;
    const charges = plan.by === "charge";
    const base = {
      ...AT_REST,
      supplyOn: true,
      supplyVoltage: plan.battery,
      ...(charges ? { input: on, chargeCurrent: on ? (plan.chargeCurrent ?? 0) : 0 } : { load: on ? plan.load : 0 }),
    };
    const says = p ? `It will settle at ${q(p.settles, "°C", { uncertainty: p.expanded })}.` : "";
    if (this.done)
      return {
        settings: base,
        phase: "done",
        text: `${says} Finish the log; the part stays hot for a while.`.trim(),
        done: true,
        left: 0,
      };
    if (!on)
      return {
        settings: base,
        phase: charges ? "before the charge" : "before the load",
        text: `${charges ? "Input not plugged in" : "No load"} yet: leave it alone for ${formatDuration(plan.quiet)}.`,
        done: false,
        left: plan.quiet - (time - this.since) + plan.seconds / 3,
      };
    return {
      settings: base,
      phase: "warming up",
      text: `${charges ? `Plug the input in: it charges the preloaded supply at ${q(plan.battery, "V")}` : `Load ${q(plan.load, "A")}`}. Leave it alone: no draught, no fingers.`,
      done: false,
      left: this.left(soaked),
    };
  }

  /** s until it is likely sure enough: the doubt falls about as fast as what is left to rise. */
  private left(soaked: number): number {
    const p = this.prediction;
    if (!p) return Math.min(this.plan.seconds, 900) - soaked;
    return Math.max(
      0,
      Math.min(this.plan.seconds - soaked, p.warming.tau * Math.log(Math.max(1, p.expanded / this.plan.enough))),
    );
  }

  private keep(row: LogRow): void {
    const { rows } = this;
    const ambient = row.ambientTemperature ?? this.setup.conditions.ambientTemperature ?? NaN;
    const power = heatOf(row, this.setup);
    const part = row.partTemperature ?? NaN;
    if (row.ambientTemperature !== undefined) this.ambientRead = true;
    const all = part + ambient + power;
    if (all - all !== 0) return;
    rows.time.push(row.time);
    rows.part.push(part);
    rows.ambient.push(ambient);
    rows.power.push(power);
  }

  private predict(): void {
    const { rows } = this;
    if (rows.time.length < Math.max(12, 1.1 * this.fitted) || this.now - this.fittedAt < 10) return;
    this.fitted = rows.time.length;
    this.fittedAt = this.now;
    const column = (v: readonly number[]) => Float64Array.from(v);
    const read = {
      time: column(rows.time),
      part: column(rows.part),
      ambient: column(rows.ambient),
      power: column(rows.power),
    };
    const warming = fitWarming(read, warmingPriors(this.setup, read, this.ambientRead));
    if (!warming) return;
    const mean = rows.ambient.reduce((s, v) => s + v, 0) / rows.ambient.length;
    this.prediction = {
      warming,
      settles: mean + warming.offset + warming.rise,
      expanded: 2 * Math.hypot(warming.u.steady, (SHAPE * warming.left) / Math.sqrt(3)),
    };
  }
}

/** The prediction as it tightens, and what it means. */
export class HeatSeen implements Seen {
  private hot = false;
  constructor(
    private readonly guide: HeatGuide,
    private readonly setup: RunSetup<HeatPlan>,
  ) {}

  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    const touch = this.setup.plan?.touchLimit ?? 60;
    if (this.hot || step.done || !((row.partTemperature ?? 0) > touch)) return [];
    this.hot = true;
    return [{ kind: "hot", time: row.time, message: `The part is above ${q(touch, "°C")}: too hot to touch.` }];
  }
  figures(): readonly Figure[] {
    const p = this.guide.prediction;
    if (!p) return [];
    return [
      { label: "Settles at", value: p.settles, unit: "°C", digits: 3 },
      { label: "known within", value: p.expanded, unit: "K", digits: 2 },
      { label: "Still to rise", value: p.warming.left, unit: "K", digits: 2 },
      { label: "Time constant", value: p.warming.tau, unit: "s" },
      { label: "Heat", value: p.warming.power, unit: "W" },
    ];
  }
}
