import { openCircuit } from "../cells";
import { agedCapacity, agedResistance, type CellModel } from "./cell";
import { ELEMENTS } from "../quantities";

const { nth } = ELEMENTS;

/** One charger IC; several may feed the same cell. */
export interface ChannelModel {
  /** Programmed current, A. */
  readonly current: number;
  /** Regulated volts at its own output, V, and the wire from there to the cell, Ω. */
  readonly reference: number;
  readonly wire: number;
  /** Share of the programmed current at which it stops. */
  readonly stopShare: number;
}

export interface ChargerModel {
  readonly channels: readonly ChannelModel[];
  /** Below this cell voltage a tenth of the current conditions the cell, V. */
  readonly conditionBelow: number;
  readonly conditionShare: number;
  /** Once it stopped, it charges again below this, V. */
  readonly restartBelow: number;
  /** Ω of the pass element when fully on. */
  readonly passOhms: number;
  /** Taken by the charger itself, A. */
  readonly quiescent: number;
  /** Share of the input's power that reaches the cell, for one that switches; absent for a linear one, which passes the input's current on. */
  readonly switching?: number;
  /** Part temperature from which the current is cut, °C, and the share of it cut a kelvin. */
  readonly foldback: { readonly from: number; readonly perKelvin: number };
  /** Part temperature at which it shuts itself off, and below which it goes on, °C; absent where it never does. */
  readonly shutdown?: { readonly at: number; readonly below: number };
  /** s of charging after which a safety timer stops it until it is plugged in anew; absent where it has none. */
  readonly timer?: number;
  /** Of the part: K/W and s. */
  readonly thermal: { readonly resistance: number; readonly tau: number };
}

export interface ChargeSupply {
  readonly volts: number;
  /** Ω there and back. */
  readonly cable: number;
}

export interface ChargeBench {
  readonly cell: CellModel;
  readonly charger: ChargerModel;
  readonly supply: ChargeSupply;
  /** °C. */
  readonly ambient: number;
  /** State of charge at the start, 0 to 1. */
  readonly soc: number;
}

export interface ChargeReading {
  readonly inputVoltage: number;
  readonly inputCurrent: number;
  readonly cellVoltage: number;
  readonly cellCurrent: number;
  readonly partTemperature: number;
}

/** What truly happened, to compare an analysis with. */
export interface ChargeLandmark {
  readonly kind:
    | "start"
    | "full-current"
    | "constant-voltage"
    | "channel-done"
    | "stop"
    | "restart"
    | "shutdown"
    | "shutdown-over"
    | "timer";
  readonly time: number;
  readonly channel?: number;
}

interface Flow {
  readonly each: readonly number[];
  readonly total: number;
  readonly volts: number;
  /** Whether a voltage loop is what sets the current. */
  readonly held: boolean;
}

/**
 * A charger, a cell and a weak supply, advanced in time.
 *
 * Each step follows the midpoint rule for the current with the relaxations and the part's heat solved exactly for that
 * current; steps are 120 s while the current stands and 20 s where it moves. The crossing that ends a phase is placed
 * inside its step by a straight line.
 */
export class ChargeSimulation {
  private soc: number;
  private u1 = 0;
  private u2 = 0;
  private rise = 0;
  private elapsed = 0;
  /** A drawn from the cell by whatever else hangs on it. */
  private drain = 0;
  private plugged = false;
  private readonly done: boolean[];
  /** The cell is in its holder. */
  private cellIn = true;
  /** Shut off by its heat, or by its timer. */
  private hot = false;
  private timedOut = false;
  /** s that it has been charging since it was plugged in. */
  private charging = 0;
  private conditioning = false;
  private regulated = false;
  readonly landmarks: ChargeLandmark[] = [];
  private readonly capacity: number;
  private readonly ohms: number;
  /** Shortens every step, for comparison. */
  constructor(
    readonly bench: ChargeBench,
    private readonly finer = 1,
  ) {
    this.soc = bench.soc;
    this.capacity = agedCapacity(bench.cell) * 3600;
    this.ohms = agedResistance(bench.cell);
    this.done = bench.charger.channels.map(() => false);
  }

  get time(): number {
    return this.elapsed;
  }
  get stopped(): boolean {
    return this.plugged && this.done.every(Boolean);
  }
  get stateOfCharge(): number {
    return this.soc;
  }

  plug(on: boolean): void {
    if (on === this.plugged) return;
    this.plugged = on;
    this.done.fill(false);
    this.regulated = false;
    this.timedOut = false;
    this.charging = 0;
    if (!on) return;
    this.conditioning = this.electromotive() < this.bench.charger.conditionBelow;
    this.landmarks.push({ kind: "start", time: this.elapsed });
  }
  /** Puts the cell in or takes it out: the charger's terminals then float at its full voltage, or at nothing where it is not plugged in. */
  insert(on: boolean): void {
    if (on === this.cellIn) return;
    this.cellIn = on;
    this.regulated = false;
    if (on) this.conditioning = this.electromotive() < this.bench.charger.conditionBelow;
  }
  setDrain(amps: number): void {
    this.drain = amps;
  }

  private electromotive(soc = this.soc, u1 = this.u1, u2 = this.u2): number {
    return openCircuit(this.bench.cell.chemistry, soc) + u1 + u2;
  }

  /** Current of each channel that is not done at a cell e.m.f. and a part temperature; solved for the cell's terminals. */
  private currents(emf: number, temperature: number): Flow {
    const { charger, supply } = this.bench;
    const none = { each: this.done.map(() => 0), total: 0, held: false };
    if (!this.cellIn)
      return {
        ...none,
        volts: this.plugged ? charger.channels.reduce((most, c) => Math.max(most, c.reference), 0) : 0,
      };
    if (!this.plugged || this.stopped || this.hot || this.timedOut)
      return { ...none, volts: emf - this.ohms * this.drain };
    const cut = Math.max(0.05, 1 - charger.foldback.perKelvin * Math.max(0, temperature - charger.foldback.from));
    const share = (this.conditioning ? charger.conditionShare : 1) * cut;
    // A switching charger takes less current than it gives, and its cable drops less.
    const path =
      supply.cable * (charger.switching ? Math.min(1, emf / (charger.switching * supply.volts)) : 1) + charger.passOhms;
    const bare = emf - this.ohms * this.drain;
    const [only] = charger.channels;
    if (charger.channels.length === 1 && only) {
      const most = only.current * share;
      const loop = this.conditioning ? Infinity : (only.reference - bare) / (only.wire + this.ohms);
      const room = (supply.volts - bare) / (path + this.ohms);
      const total = Math.max(0, Math.min(most, loop, room));
      return { each: [total], total, volts: bare + this.ohms * total, held: loop <= most && loop <= room };
    }
    return this.shared(emf, share, path);
  }

  /** Several channels on one cell: the higher the terminals the less flows, so that the two lines cross once. */
  private shared(emf: number, share: number, path: number): Flow {
    const { charger, supply } = this.bench;
    const each = charger.channels.map(() => 0);
    let held = false;
    const at = (volts: number): number => {
      let sum = 0;
      held = false;
      charger.channels.forEach((c, k) => {
        const most = c.current * share;
        const loop = this.done[k] ? 0 : this.conditioning ? Infinity : Math.max(0, (c.reference - volts) / c.wire);
        if (!this.done[k] && loop < most) held = true;
        each[k] = Math.min(most, loop);
        sum += nth(each, k);
      });
      // The supply behind its cable can't give more than leaves the pass elements their drop.
      const room = Math.max(0, (supply.volts - volts) / path);
      if (sum <= room) return sum;
      for (let k = 0; k < each.length; k++) each[k] = (nth(each, k) * room) / sum;
      held = false;
      return room;
    };
    let low = emf - this.ohms * this.drain;
    let high = low + this.ohms * charger.channels.reduce((s, c) => s + c.current, 0);
    for (let k = 0; k < 40 && high - low > 1e-9; k++) {
      const middle = (low + high) / 2;
      if (emf + this.ohms * (at(middle) - this.drain) > middle) low = middle;
      else high = middle;
    }
    const total = at(low);
    return { each: [...each], total, volts: low, held };
  }

  private loss(total: number, volts: number): number {
    const amps = this.inputAmps(total, volts);
    return Math.max(0, this.inputVolts(amps) * amps - volts * total);
  }
  /** A from the input for `total` A into a cell at `volts`: as many, or, switching, those whose power is right behind the cable. */
  private inputAmps(total: number, volts: number): number {
    const { charger, supply } = this.bench;
    if (!this.plugged) return 0;
    if (!charger.switching) return total + charger.quiescent;
    const watts = (volts * total) / charger.switching;
    const root = supply.volts ** 2 - 4 * supply.cable * watts;
    // Beyond what the cable can carry, it gives its most.
    return (
      (supply.cable > 0 ? (supply.volts - Math.sqrt(Math.max(0, root))) / (2 * supply.cable) : watts / supply.volts) +
      charger.quiescent
    );
  }
  private inputVolts(amps: number): number {
    return this.plugged ? this.bench.supply.volts - this.bench.supply.cable * amps : 0;
  }

  /** Lets `seconds` pass. */
  advance(seconds: number): void {
    let left = seconds;
    while (left > 1e-9) left -= this.step(left);
  }

  /** Runs until every channel is done, or `most` seconds went by; gives whether it got there. */
  untilStopped(most: number): boolean {
    const end = this.elapsed + most;
    while (!this.stopped && this.elapsed < end - 1e-9) this.step(end - this.elapsed);
    return this.stopped;
  }

  private step(most: number): number {
    const { charger, ambient } = this.bench;
    const now = this.currents(this.electromotive(), ambient + this.rise);
    const warming = this.rise < 0.9 * charger.thermal.resistance * this.loss(now.total, now.volts);
    const nearShutdown = charger.shutdown !== undefined && ambient + this.rise > charger.shutdown.below - 10;
    let dt = Math.min(most, (nearShutdown ? 2 : now.held || warming ? 20 : 120) / this.finer);
    for (;;) {
      const half = this.ahead(now.total, now.volts, dt / 2);
      const mid = this.currents(this.electromotive(half.soc, half.u1, half.u2), ambient + half.rise);
      const next = this.ahead(mid.total, mid.volts, dt);
      const then = this.currents(this.electromotive(next.soc, next.u1, next.u2), ambient + next.rise);
      // Where the voltage loop takes over inside a long step, a shorter one finds the instant.
      if (then.held && !now.held && !this.regulated && dt > 1 / this.finer) {
        dt /= 4;
        continue;
      }
      const start = this.elapsed;
      this.elapsed = start + dt;
      ({ soc: this.soc, u1: this.u1, u2: this.u2, rise: this.rise } = next);
      this.follow(now, then, start, dt);
      return dt;
    }
  }

  /** The state after dt with a current held. */
  private ahead(total: number, volts: number, dt: number): { soc: number; u1: number; u2: number; rise: number } {
    const { cell, charger } = this.bench;
    const net = this.cellIn ? total - this.drain : 0;
    const [r1, r2] = cell.relaxations;
    const [k1, k2, kt] = [Math.exp(-dt / r1.tau), Math.exp(-dt / r2.tau), Math.exp(-dt / charger.thermal.tau)];
    const settled = charger.thermal.resistance * this.loss(total, volts);
    return {
      soc: this.soc + (net * dt) / this.capacity,
      u1: this.u1 * k1 + net * r1.ohms * (1 - k1),
      u2: this.u2 * k2 + net * r2.ohms * (1 - k2),
      rise: this.rise * kt + settled * (1 - kt),
    };
  }

  /** Changes of phase within the step that was just made. */
  private follow(now: Flow, then: Flow, start: number, dt: number): void {
    const { charger } = this.bench;
    const crossing = (a: number, b: number, level: number) =>
      start + dt * Math.min(1, Math.max(0, (a - level) / (a - b || 1)));
    if (!this.plugged || !this.cellIn) return;
    this.protect(then, dt);
    if (this.stopped) {
      if (then.volts < charger.restartBelow) {
        this.landmarks.push({ kind: "restart", time: crossing(now.volts, then.volts, charger.restartBelow) });
        this.done.fill(false);
        this.regulated = false;
      }
      return;
    }
    if (this.conditioning) {
      if (then.volts >= charger.conditionBelow) {
        this.conditioning = false;
        this.landmarks.push({ kind: "full-current", time: crossing(now.volts, then.volts, charger.conditionBelow) });
      }
      return;
    }
    if (!this.regulated && then.held) {
      this.regulated = true;
      this.landmarks.push({ kind: "constant-voltage", time: start + dt / 2 });
    }
    charger.channels.forEach((c, k) => {
      const limit = c.stopShare * c.current;
      if (this.done[k] || !then.held || nth(then.each, k) >= limit) return;
      this.done[k] = true;
      this.landmarks.push({
        kind: "channel-done",
        channel: k + 1,
        time: crossing(nth(now.each, k), nth(then.each, k), limit),
      });
      if (this.done.every(Boolean))
        this.landmarks.push({ kind: "stop", time: crossing(nth(now.each, k), nth(then.each, k), limit) });
    });
  }

  /** What stops it short of the end: its own heat, its timer. */
  private protect(then: Flow, dt: number): void {
    const { shutdown, timer } = this.bench.charger;
    const part = this.bench.ambient + this.rise;
    if (shutdown && !this.hot && part >= shutdown.at) {
      this.hot = true;
      this.landmarks.push({ kind: "shutdown", time: this.elapsed });
    } else if (shutdown && this.hot && part <= shutdown.below) {
      this.hot = false;
      this.landmarks.push({ kind: "shutdown-over", time: this.elapsed });
    }
    if (then.total > 0) this.charging += dt;
    if (timer === undefined || this.timedOut || this.stopped || this.charging < timer) return;
    this.timedOut = true;
    this.landmarks.push({ kind: "timer", time: this.elapsed });
  }

  /** True values now. */
  read(): ChargeReading {
    const { total, volts } = this.currents(this.electromotive(), this.bench.ambient + this.rise);
    const amps = this.inputAmps(total, volts);
    return {
      inputVoltage: this.inputVolts(amps),
      inputCurrent: amps,
      cellVoltage: volts,
      cellCurrent: this.cellIn ? total - this.drain : 0,
      partTemperature: this.bench.ambient + this.rise,
    };
  }
}
