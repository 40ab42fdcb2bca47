import type { Accuracy } from "../instruments";
import { boostState, type BoostModel, type Load } from "./boost";
import { drawMeter, showReading, type Meter } from "./meter";
import { seeded, type Random } from "./random";

export type BenchMeter = "batteryVoltage" | "batteryCurrent" | "outputVoltage" | "outputCurrent" | "partTemperature";
export const BENCH_METERS: readonly BenchMeter[] = [
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
  "partTemperature",
];

export interface BenchConfig {
  readonly module: BoostModel;
  readonly meters: Readonly<Record<BenchMeter, Accuracy>>;
  /** Both wires together, Ω; meters read at the far ends, so the drop is in the reading. */
  readonly inputLeadResistance: number;
  readonly outputLeadResistance: number;
  /** °C. */
  readonly ambient: number;
  readonly seed: number;
  readonly supplyMaximum: { readonly volts: number; readonly amps: number };
  readonly loadMaximum: { readonly amps: number; readonly watts: number };
}

/** True values at the module, without any meter. */
export interface BenchTruth {
  readonly batteryVoltage: number;
  readonly batteryCurrent: number;
  readonly outputVoltage: number;
  readonly outputCurrent: number;
  readonly partTemperature: number;
  /** At the supply's sense point, V. */
  readonly supplyVoltage: number;
  readonly loadVoltage: number;
}

/** s in which shown values follow the true ones: meters average. */
const METER_TAU = 0.25;
const RETRY_SECONDS = 0.5;
/** s of too much current the wrong way that a part does not survive. */
const HURT_SECONDS = 0.2;
const NO_LOAD: Load = { mode: "current", value: 0 };

/**
 * A current-limited supply, a module, a load and meters, advanced in time by whoever owns the clock.
 *
 * The thermal node is solved exactly for each step at the loss of its start, so steps may be as long as the settings
 * stand still; during a step the loss is followed in slices of at most half a time constant.
 */
export class VirtualBench {
  private readonly random: Random;
  private readonly meters: Record<BenchMeter, Meter>;
  private readonly shown: Record<BenchMeter, number>;
  private supply = { volts: 0, limit: 1, on: false };
  private load: Load = NO_LOAD;
  private loadOn = false;
  private rise = 0;
  /** Why the output is off although the supply is on. */
  private latch: "none" | "tripped" | "starting" = "none";
  private sinceTrip = 0;
  private elapsed = 0;
  /** Ω in series with swapped leads; null where they are as they should be. */
  private reversed: number | null = null;
  private hurtFor = 0;
  private hurt: NonNullable<BoostModel["reverse"]>["hurt"];

  constructor(readonly config: BenchConfig) {
    this.random = seeded(config.seed);
    this.meters = {} as Record<BenchMeter, Meter>;
    this.shown = {} as Record<BenchMeter, number>;
    for (const name of BENCH_METERS) {
      this.meters[name] = drawMeter(config.meters[name], this.random);
      this.shown[name] = name === "partTemperature" ? config.ambient : 0;
    }
  }

  get time(): number {
    return this.elapsed;
  }

  setSupply(change: { volts?: number; limit?: number; on?: boolean }): void {
    const wasOn = this.supply.on;
    this.supply = { ...this.supply, ...change };
    if (!wasOn && this.supply.on) this.latch = "starting";
    if (!this.supply.on) this.latch = "none";
  }

  setLoad(change: { load?: Load; on?: boolean }): void {
    if (change.load) this.load = change.load;
    if (change.on !== undefined) this.loadOn = change.on;
    if (this.latch === "tripped" && this.config.module.recovery === "load-removal" && this.presentLoad().value === 0)
      this.latch = "starting";
  }

  /** Swaps the supply's leads at the module, through so many Ω; null puts them right again. */
  setReversed(ohms: number | null): void {
    if (this.reversed === ohms) return;
    if (ohms === null) this.latch = "starting";
    this.reversed = ohms;
    this.hurtFor = 0;
  }

  private presentLoad(): Load {
    return this.loadOn ? this.load : NO_LOAD;
  }

  /** Lets `seconds` pass. */
  advance(seconds: number): void {
    if (!(seconds >= 0)) throw new RangeError(`VirtualBench.advance: ${seconds} s can't pass`);
    const { tau } = this.config.module.thermal;
    let left = seconds;
    do {
      // A trip takes no time beside a dwell, so it is looked for before time passes; retries come twice a second.
      this.behave(0);
      const step = Math.min(left, this.latch === "tripped" ? RETRY_SECONDS : Math.max(0.05, tau / 2));
      const state = this.solve();
      const settled = this.config.module.thermal.resistance * state.loss;
      this.rise = settled + (this.rise - settled) * Math.exp(-step / tau);
      this.follow(step);
      this.behave(step);
      this.elapsed += step;
      left -= step;
    } while (left > 1e-9);
  }

  /** Trips, retries and starts: what the module does by itself as time passes. */
  private behave(step: number): void {
    const m = this.config.module;
    if (!this.supply.on) return;
    if (this.reversed !== null) {
      const r = m.reverse;
      this.hurtFor =
        r?.hurt && r.hurtAbove !== undefined && this.reversedCurrent() > r.hurtAbove ? this.hurtFor + step : 0;
      if (this.hurtFor > HURT_SECONDS) this.hurt = r?.hurt;
      return;
    }
    if (this.latch === "starting") {
      const s = this.solveRunning(m.inputLimit * m.startShare);
      if (!s.limited) this.latch = "none";
      return;
    }
    if (this.latch === "tripped") {
      this.sinceTrip += step;
      if (m.recovery === "automatic" && this.sinceTrip >= RETRY_SECONDS) {
        this.sinceTrip = 0;
        if (!this.solveRunning(m.inputLimit * m.startShare).limited) this.latch = "none";
      }
      return;
    }
    if (m.overload === "off" && this.solveRunning(m.inputLimit).limited) {
      this.latch = "tripped";
      this.sinceTrip = 0;
    }
  }

  private follow(step: number): void {
    const t = this.truth();
    const k = 1 - Math.exp(-step / METER_TAU);
    const target: Record<BenchMeter, number> = {
      batteryVoltage: t.supplyVoltage,
      batteryCurrent: t.batteryCurrent,
      outputVoltage: t.loadVoltage,
      outputCurrent: t.outputCurrent,
      partTemperature: t.partTemperature,
    };
    for (const name of BENCH_METERS) this.shown[name] += k * (target[name] - this.shown[name]);
  }

  private solve(): ReturnType<typeof boostState> & { vb: number } {
    if (!this.supply.on)
      return { vb: 0, outputVoltage: 0, outputCurrent: 0, batteryCurrent: 0, loss: 0, limited: false };
    const m = this.config.module;
    if (this.reversed !== null) {
      const amps = this.reversedCurrent();
      const vb = -Math.max(0, this.supply.volts - amps * this.reversed);
      // A diode that conducts holds the terminals at its own drop, whatever the supply would give.
      const held =
        m.reverse?.conducts && amps > 1e-5 ? -(m.reverse.conducts.volts + amps * m.reverse.conducts.ohms) : vb;
      return {
        vb: held,
        outputVoltage: 0,
        outputCurrent: 0,
        batteryCurrent: -amps,
        loss: amps * -held,
        limited: false,
      };
    }
    if (this.hurt?.kind === "dead")
      return {
        vb: this.supply.volts,
        outputVoltage: 0,
        outputCurrent: 0,
        batteryCurrent: 3e-6,
        loss: 0,
        limited: false,
      };
    if (this.latch === "tripped")
      return {
        vb: this.supply.volts,
        outputVoltage: 0,
        outputCurrent: 0,
        batteryCurrent: m.quiescent,
        loss: m.quiescent * this.supply.volts,
        limited: true,
      };
    if (this.latch === "starting") {
      const s = this.solveRunning(m.inputLimit * m.startShare);
      // An output that can't rise into its load hangs low at the reduced limit until load or supply change.
      return s;
    }
    return this.solveRunning(m.inputLimit);
  }

  /** A that flow the wrong way through the series resistor, at most the supply's limit. */
  private reversedCurrent(): number {
    const r = this.config.module.reverse;
    const through = r?.conducts
      ? Math.max(0, (this.supply.volts - r.conducts.volts) / ((this.reversed ?? 0) + r.conducts.ohms))
      : 0;
    return Math.min(this.supply.limit, through + (r?.leak ?? 1e-6));
  }

  /** Module behind the input leads and the supply's own limit. */
  private solveRunning(limit: number): ReturnType<typeof boostState> & { vb: number } {
    const whole = this.config.module;
    const m = this.hurt?.kind === "shifted" ? { ...whole, setpoint: whole.setpoint * (1 + this.hurt.share) } : whole;
    const load = this.behindLeads(this.presentLoad());
    const temperature = this.config.ambient + this.rise;
    let vb = this.supply.volts;
    let s = boostState(m, vb, load, temperature, limit);
    for (let k = 0; k < 25; k++) {
      const next = this.supply.volts - s.batteryCurrent * this.config.inputLeadResistance;
      if (Math.abs(next - vb) < 1e-6) break;
      vb = next;
      s = boostState(m, vb, load, temperature, limit);
    }
    if (s.batteryCurrent <= this.supply.limit) return { ...s, vb };
    // The supply holds its current and lets its volts go: the module drags them to the lowest it runs from.
    const dragged = Math.min(this.supply.volts, m.minimumInput * 1.02);
    return {
      ...boostState(m, dragged, load, temperature, this.supply.limit),
      batteryCurrent: this.supply.limit,
      limited: true,
      vb: dragged,
    };
  }

  /** A resistive load seen through the output leads; other loads regulate themselves. */
  private behindLeads(load: Load): Load {
    return load.mode === "resistance" && Number.isFinite(load.value)
      ? { mode: "resistance", value: load.value + this.config.outputLeadResistance }
      : load;
  }

  /** True values now. */
  truth(): BenchTruth {
    const s = this.solve();
    return {
      batteryVoltage: s.vb,
      batteryCurrent: s.batteryCurrent,
      outputVoltage: s.outputVoltage,
      outputCurrent: s.outputCurrent,
      partTemperature: this.config.ambient + this.rise,
      supplyVoltage: s.vb + s.batteryCurrent * this.config.inputLeadResistance,
      loadVoltage: s.outputVoltage - s.outputCurrent * this.config.outputLeadResistance,
    };
  }

  /** What a meter shows now, in SI. */
  measure(name: BenchMeter): number {
    return showReading(this.meters[name], this.shown[name], this.random);
  }
}
