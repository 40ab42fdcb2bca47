import { batteryCurrentFor, boostState, type BoostModel } from "./boost";

/** A protection's voltage threshold: where it cuts, where it lets go again, and how long it takes to notice. */
export interface ThresholdModel {
  readonly cut: number;
  /** Null where it stays latched. */
  readonly release: number | null;
  /** s. */
  readonly delay: number;
}

/** A whole module between battery and load: converter, protection switches, idle states. */
export interface ModuleModel {
  readonly boost: BoostModel;
  /** Null where nothing disconnects the battery. */
  readonly overDischarge: (ThresholdModel & { readonly wakes: "charger" | "load-removal" }) | null;
  readonly overCharge: ThresholdModel | null;
  /** Ω through which the battery still leaks after the cut. */
  readonly cutOhms: number;
  /** Battery-side A at which it trips, and what brings it back; null where only the converter's own limit holds. */
  readonly trip: { readonly amps: number; readonly recovery: "automatic" | "load-removal" | "power-cycle" } | null;
  /** Battery-side A that a short settles at; null where the module limits nothing. */
  readonly shortCurrent: number | null;
  /** Battery-side A in the first moment of a short. */
  readonly shortPeak: number;
  /** It does not live through a short of more than a second. */
  readonly diesShorted: boolean;
  /** A with the output off, and the pulses in which it wakes. */
  readonly idle: {
    readonly amps: number;
    readonly wakes: { readonly period: number; readonly seconds: number; readonly amps: number } | null;
  };
  /** Load under which the output goes off by itself, and after how many s. */
  readonly autoOff: { readonly below: number; readonly delay: number } | null;
  /** The switches sit in the minus wire: joining B− and OUT− by-passes them. */
  readonly lowSide: boolean;
  /** K/W and s: the board against the air, and the part against its board, which is quick. */
  readonly heat: { readonly board: Warming; readonly part: Warming };
  /** °C of the part from which its charger cuts its current back; it never does where nothing is said. */
  readonly foldback?: number;
}

export interface Warming {
  readonly resistance: number;
  readonly tau: number;
}

export interface ModuleSettings {
  readonly supplyVoltage: number;
  readonly slew?: number;
  readonly supplyOn: boolean;
  readonly load: number;
  readonly shorted: boolean;
  readonly output: boolean;
  readonly chargeCurrent: number;
  readonly input: boolean;
}

/** What stands on the simulated bench: it is set, time passes, true values are read. */
export interface BenchSimulation {
  set(next: ModuleSettings): void;
  advance(seconds: number): void;
  read(): Readonly<Partial<Record<SimulatedQuantity, number>>>;
}
/** What a simulation can be read for. */
/** V of the input that feeds a charger here, and A that a linear one needs for itself. */
const INPUT = 5;
const QUIESCENT = 0.002;

export type SimulatedQuantity =
  keyof ModuleReading | "referenceVoltage" | "referenceCurrent" | "outputLow" | "outputHigh" | `cell${number}Voltage`;

export interface ModuleBench {
  readonly module: ModuleModel;
  /** A; the supply lets its volts go beyond it. */
  readonly supplyLimit: number;
  /** Ω, both wires together, between supply and module. */
  readonly leads: number;
  /** A meter on the bench joins battery minus and output minus. */
  readonly groundsJoined: boolean;
  /** °C as the log begins, and its drift in K/s. */
  readonly ambient: number;
  readonly drift?: number;
  /** Share of a part's heat radiation that its surface gives off, where an infrared thermometer looks at it; absent for a probe. */
  readonly emissivity?: number;
}

/** A type rather than an interface, so that it counts as a record of quantities. */
export type ModuleReading = {
  readonly batteryVoltage: number;
  readonly batteryCurrent: number;
  readonly outputVoltage: number;
  readonly outputCurrent: number;
  readonly inputVoltage: number;
  readonly inputCurrent: number;
  readonly cellVoltage: number;
  readonly cellCurrent: number;
  readonly partTemperature: number;
  readonly ambientTemperature: number;
};

/** s between looks at the thresholds while the supply moves. */
const LOOK = 0.1;
/** … and while it stands. */
const STILL = 0.25;
/** s in which a short's first peak dies away, and between a tripped module's attempts. */
const PEAK_TAU = 0.06;
const RETRY = 0.5;
/** Share of the trip current into which it starts again. */
const START = 0.9;
const SHORT_OHMS = 0.03;
/** K over which a charger that is too hot gives its current up. */
const FOLDS = 6;

/**
 * A module on a bench, advanced in time. Thresholds are placed inside a step by a straight line and act after their delay; between
 * events the converter stands in its steady state. Nothing here knows how a log is analysed.
 */
export class ModuleSimulation implements BenchSimulation {
  private settings: ModuleSettings = {
    supplyVoltage: 0,
    supplyOn: false,
    load: 0,
    shorted: false,
    output: true,
    chargeCurrent: 0,
    input: false,
  };
  private volts = 0;
  private elapsed = 0;
  private connected = true;
  private tripped = false;
  private outputOn = true;
  private charging = true;
  private dead = false;
  private shortSince = NaN;
  private lightSince: number | null = null;
  private crossed: { readonly what: "cut" | "release" | "charge-cut" | "charge-release"; readonly at: number } | null =
    null;
  private retryAt = 0;
  /** °C of the board, and K of the part above it. */
  private board: number;
  private quick = 0;
  /** When it was last read: what pulses is shown as its mean since then. */
  private readAt = 0;
  /** The converter's state was last worked out for these. */
  private known: {
    readonly volts: number;
    readonly load: number;
    readonly warmth: number;
    readonly state: ReturnType<typeof boostState>;
  } | null = null;

  constructor(readonly bench: ModuleBench) {
    this.board = bench.ambient;
  }

  private get air(): number {
    return this.bench.ambient + (this.bench.drift ?? 0) * this.elapsed;
  }
  /** Lets the heat of so many watts flow for `h` s. */
  private warm(watts: number, h: number): void {
    const { board, part } = this.bench.module.heat;
    const settled = this.air + board.resistance * watts;
    this.board = settled + (this.board - settled) * Math.exp(-h / board.tau);
    this.quick = part.resistance * watts + (this.quick - part.resistance * watts) * Math.exp(-h / part.tau);
  }

  get time(): number {
    return this.elapsed;
  }

  set(next: ModuleSettings): void {
    const { module } = this.bench;
    const was = this.settings;
    this.settings = next;
    if (next.slew === undefined) this.volts = next.supplyVoltage;
    if (!next.supplyOn || (next.supplyOn && !was.supplyOn)) {
      if (module.trip?.recovery === "power-cycle" || next.supplyOn) this.tripped = false;
      this.outputOn = next.output;
    }
    if (next.output !== was.output) this.outputOn = next.output;
    if (next.load === 0 && !next.shorted && module.trip?.recovery === "load-removal") this.tripped = false;
    if (
      next.load === 0 &&
      module.overDischarge?.wakes === "load-removal" &&
      module.overDischarge.release === null &&
      this.volts > module.overDischarge.cut + 0.2
    )
      this.connected = true;
    if (next.load === 0 && next.chargeCurrent > 0) this.connected = true;
    if (next.shorted && !was.shorted) this.shortSince = this.elapsed;
    // A load that is plugged in wakes an output that went off by itself.
    if (module.autoOff && next.load > 1.5 * module.autoOff.below && next.output) this.outputOn = true;
  }

  /** Lets `seconds` pass. */
  advance(seconds: number): void {
    let left = seconds;
    while (left > 1e-9) {
      const h = Math.min(left, this.settings.slew === undefined ? STILL : LOOK);
      this.step(h);
      left -= h;
    }
  }

  private step(h: number): void {
    const { settings } = this;
    const from = this.terminal();
    if (settings.slew !== undefined) {
      const away = settings.supplyVoltage - this.volts;
      this.volts += Math.sign(away) * Math.min(Math.abs(away), settings.slew * h);
    }
    const start = this.elapsed;
    this.elapsed += h;
    if (!settings.supplyOn) {
      this.warm(0, h);
      return;
    }
    this.thresholds(from, this.terminal(), start, h);
    this.switches(h);
    const state = this.state();
    const charge = this.charge();
    this.warm(
      Math.max(0, this.terminal() * state.batteryCurrent - state.outputVoltage * state.outputCurrent) +
        charge.volts * charge.amps -
        this.terminal() * (charge.amps - charge.own),
      h,
    );
  }

  /** Crossings within the step from `a` to `b` volts, each acting after its delay. */
  private thresholds(a: number, b: number, start: number, h: number): void {
    const { module, groundsJoined } = this.bench;
    const instant = (level: number) => (a === b ? start : start + h * Math.min(1, Math.max(0, (level - a) / (b - a))));
    const od = module.overDischarge && !(module.lowSide && groundsJoined) ? module.overDischarge : null;
    const watch = (
      what: NonNullable<ModuleSimulation["crossed"]>["what"],
      past: boolean,
      level: number,
      delay: number,
      act: () => void,
    ) => {
      if (!past) {
        if (this.crossed?.what === what) this.crossed = null;
        return;
      }
      if (this.crossed?.what !== what) this.crossed = { what, at: instant(level) };
      if (this.elapsed >= this.crossed.at + delay) {
        act();
        this.crossed = null;
      }
    };
    if (this.settings.chargeCurrent > 0 && this.settings.load === 0 && module.overCharge) {
      const oc = module.overCharge;
      if (this.charging) watch("charge-cut", b > oc.cut, oc.cut, oc.delay, () => (this.charging = false));
      else if (oc.release !== null)
        watch("charge-release", b < oc.release, oc.release, oc.delay, () => (this.charging = true));
      return;
    }
    if (!od) return;
    if (this.connected) watch("cut", b < od.cut, od.cut, od.delay, () => (this.connected = false));
    else if (od.release !== null) watch("release", b > od.release, od.release, od.delay, () => (this.connected = true));
  }

  /** Trips, retries, switching off at light load, and dying. */
  private switches(h: number): void {
    const { module } = this.bench;
    const { settings } = this;
    if (settings.shorted && module.diesShorted && this.elapsed - this.shortSince > 1) this.dead = true;
    if (!this.connected || this.dead) return;
    if (module.trip && !this.tripped && (settings.shorted || this.demand() > module.trip.amps)) {
      this.tripped = true;
      this.retryAt = this.elapsed + RETRY;
    } else if (this.tripped && module.trip?.recovery === "automatic" && this.elapsed >= this.retryAt) {
      this.retryAt = this.elapsed + RETRY;
      if (!settings.shorted && this.demand() < START * module.trip.amps) this.tripped = false;
    }
    if (module.autoOff && this.outputOn && !this.tripped) {
      if (settings.load >= module.autoOff.below) this.lightSince = null;
      else {
        this.lightSince ??= this.elapsed - h;
        if (this.elapsed - this.lightSince >= module.autoOff.delay) {
          this.outputOn = false;
          this.lightSince = null;
        }
      }
    } else this.lightSince = null;
  }

  /** Battery current that the load asks for, whatever limits it. */
  private demand(): number {
    const { boost } = this.bench.module;
    const vb = Math.max(0.5, this.volts);
    if (vb < boost.minimumInput) return 0;
    const vo = boost.setpoint + boost.lineSlope * (vb - 3.7) - boost.droop * this.settings.load;
    return batteryCurrentFor(boost, vb, vo, this.settings.load, this.board + this.quick) ?? Infinity;
  }

  /** Volts at the module's terminals. */
  private terminal(): number {
    return this.settings.supplyOn ? this.volts - this.bench.leads * this.state().batteryCurrent : 0;
  }

  /** The input of its charger, V and A, and what of that the charger needs itself; nothing where no input is plugged in. */
  private charge(): { readonly volts: number; readonly amps: number; readonly own: number } {
    const { input, chargeCurrent } = this.settings;
    if (!input) return { volts: 0, amps: 0, own: 0 };
    return { volts: INPUT, amps: (this.charging ? chargeCurrent * this.kept() : 0) + QUIESCENT, own: QUIESCENT };
  }

  /** Share of its current that heat leaves the charger. */
  private kept(): number {
    const { foldback } = this.bench.module;
    return foldback === undefined ? 1 : Math.min(1, Math.max(0.1, 1 - (this.board + this.quick - foldback) / FOLDS));
  }

  private idleCurrent(): number {
    const { idle } = this.bench.module;
    if (!idle.wakes) return idle.amps;
    // What a logger writes: the mean over the time since its last reading.
    const { period, seconds, amps } = idle.wakes;
    const until = (t: number) => Math.floor(t / period) * seconds + Math.min(seconds, t % period);
    const to = this.elapsed;
    const from = this.readAt < to ? this.readAt : Math.max(0, to - LOOK);
    return idle.amps + (amps * (until(to) - until(from))) / Math.max(1e-9, to - from);
  }

  private state(): {
    readonly outputVoltage: number;
    readonly outputCurrent: number;
    readonly batteryCurrent: number;
    readonly dragged?: number;
  } {
    const { module, supplyLimit, leads } = this.bench;
    const { settings, volts } = this;
    const off = (batteryCurrent: number) => ({ outputVoltage: 0, outputCurrent: 0, batteryCurrent });
    if (!settings.supplyOn) return off(0);
    if (this.dead) return off(0.08);
    if (!this.connected) return off(volts / module.cutOhms);
    if (this.tripped) return off(module.idle.amps);
    if (settings.shorted) {
      const steady = module.shortCurrent ?? supplyLimit;
      const since = this.elapsed - this.shortSince;
      const peak = module.shortCurrent === null ? Math.max(steady, module.shortPeak) : module.shortPeak;
      const amps = Math.max(
        steady > supplyLimit ? supplyLimit : steady,
        Math.min(supplyLimit * 1.6, steady + (peak - steady) * Math.exp(-since / PEAK_TAU)),
      );
      const limited = amps >= supplyLimit * 0.999;
      return {
        outputVoltage: amps * SHORT_OHMS,
        outputCurrent: amps * 0.7,
        batteryCurrent: amps,
        ...(limited ? { dragged: amps * 0.25 } : {}),
      };
    }
    if (!this.outputOn) return off(this.idleCurrent());
    const warmth = Math.round((this.board + this.quick) * 5);
    const { known } = this;
    if (known && known.volts === volts && known.load === settings.load && known.warmth === warmth) return known.state;
    const load = { mode: "current" as const, value: settings.load };
    const hot = warmth / 5;
    let state = boostState(module.boost, volts, load, hot);
    for (let k = 0; k < 3 && leads > 0; k++)
      state = boostState(module.boost, volts - leads * state.batteryCurrent, load, hot);
    if (state.batteryCurrent > supplyLimit)
      state = {
        ...boostState(module.boost, Math.min(volts, module.boost.minimumInput * 1.02), load, hot, supplyLimit),
        batteryCurrent: supplyLimit,
      };
    this.known = { volts, load: settings.load, warmth, state };
    return state;
  }

  /** True values now; what pulses as its mean since the reading before. */
  read(): ModuleReading {
    const s = this.state();
    const supply = this.settings.supplyOn ? this.volts : 0;
    const battery = s.dragged ?? Math.max(0, supply - this.bench.leads * s.batteryCurrent);
    const charges = this.settings.chargeCurrent > 0 && this.charging;
    this.readAt = this.elapsed;
    const { emissivity } = this.bench;
    return {
      batteryVoltage: battery,
      batteryCurrent: s.batteryCurrent,
      outputVoltage: s.outputVoltage,
      outputCurrent: s.outputCurrent,
      inputVoltage: this.charge().volts,
      inputCurrent: this.charge().amps,
      cellVoltage: supply,
      cellCurrent: charges ? this.settings.chargeCurrent * this.kept() : this.settings.chargeCurrent > 0 ? -3e-4 : 0,
      // A shiny part shows an infrared thermometer mostly the room.
      partTemperature: this.air + (emissivity ?? 1) * (this.board + this.quick - this.air),
      ambientTemperature: this.air,
    };
  }
}
