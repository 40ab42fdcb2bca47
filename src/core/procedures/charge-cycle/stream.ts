import { median } from "../../quantities";

/** One reading of a charge log; NaN where a meter gave none. SI. */
export interface ChargeSample {
  /** s from the first row. */
  readonly time: number;
  readonly cellVoltage: number;
  /** Positive into the cell. */
  readonly cellCurrent: number;
}

export type ChargeEventKind =
  /** Current begins to flow into the cell. */
  | "start"
  /** Pre-charge steps up to the full current. */
  | "full-current"
  /** The voltage loop sets the current from here. */
  | "constant-voltage"
  /** The charger cuts its own current while the voltage loop is not what does it. */
  | "cut-back"
  /** The current is back where it was. */
  | "cut-back-over"
  | "stop"
  /** Charging begins again after it had stopped. */
  | "restart";

export interface ChargeEvent {
  readonly kind: ChargeEventKind;
  /** s; when it happened, as far as the samples tell. */
  readonly time: number;
  /** Number of the sample at which it was known. */
  readonly known: number;
}

export interface StreamOptions {
  /** A current is a current above this, A: what the meter's offset and steps can't feign. */
  readonly floor: number;
  /** The current that was set, A, where it is known: tells pre-charge from full current at a start. */
  readonly programmed?: number | undefined;
}

type State = "off" | "low" | "full" | "voltage";

/** Samples that a change must last before it is believed. */
const LASTING = 3;
/** Full current is said to have been left once so much of it is gone. */
const LEFT = 0.95;
/** … and held while less than this much is missing. */
const HELD = 0.985;
/** The voltage loop is believed to hold it once the current has come down to this share. */
const SURE = 0.8;
/** Largest resistance between the charger's sense point and the cell's terminals that still counts as its wiring, Ω. */
const WIRING = 0.2;

const NONE: readonly ChargeEvent[] = [];

/**
 * Recognises the events of a charge as its samples come, one by one.
 *
 * It never looks ahead: an event is given with the sample at which it became known, so that the events of a log cut
 * anywhere are those of the whole log up to there. Single-sample spikes are passed over by a median of three, which costs
 * one sample of delay.
 *
 * The voltage loop is told from a current that sags or is cut back by how the cell's voltage answers: while it is held,
 * less current leaves the cell's terminals higher only by the drop in a few centimetres of wire (0 to 0.2 Ω); under a
 * sagging input the voltage goes on rising with the charge, and when heat cuts the current it falls.
 */
export class ChargeStream {
  /** The two readings before the newest; spikes are passed over by the middle one of three. */
  private had = 0;
  private t1 = NaN;
  private v1 = NaN;
  private a1 = NaN;
  private v2 = NaN;
  private a2 = NaN;
  private state: State;
  private count = 0;
  private lasting = 0;
  private candidate = NaN;
  private readonly recent = new Recent();
  private level = 0;
  /** The highest level of this charge. */
  private full = 0;
  /** Samples on end that lie no higher than the level and still hold it. */
  private inside = 0;
  /** The last sample that still held the full current: NaN where there was none. */
  private heldTime = NaN;
  private heldVolts = NaN;
  private heldAmps = NaN;
  private cut = false;
  private stopped = false;

  constructor(private readonly options: StreamOptions) {
    this.state = "off";
  }

  /** Takes the next sample; gives the events that are known with it. */
  push(sample: ChargeSample): readonly ChargeEvent[] {
    return this.pushReadings(sample.time, sample.cellVoltage, sample.cellCurrent);
  }

  /** The same without an object a sample, for logs of millions. */
  pushReadings(time: number, volts: number, amps: number): readonly ChargeEvent[] {
    const number = this.count++;
    if (amps - amps !== 0 || volts - volts !== 0) return NONE;
    const t1 = this.t1;
    const v1 = this.v1;
    const a1 = this.a1;
    const v2 = this.v2;
    const a2 = this.a2;
    this.v2 = v1;
    this.a2 = a1;
    this.t1 = time;
    this.v1 = volts;
    this.a1 = amps;
    if (this.had < 2) {
      this.had++;
      return NONE;
    }
    return this.step(t1, middle(v2, v1, volts), middle(a2, a1, amps), number);
  }

  /** Takes a whole log; gives its events, as `push` would one by one. */
  pushAll(time: Float64Array, volts: Float64Array, amps: Float64Array): ChargeEvent[] {
    const out: ChargeEvent[] = [];
    for (let k = 0; k < time.length; k++) {
      const known = this.pushReadings(time[k] as number, volts[k] as number, amps[k] as number);
      if (known !== NONE) out.push(...known);
    }
    return out;
  }

  private step(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const flows = amps > this.options.floor;
    if (this.state === "off") return this.off(time, volts, amps, flows, known);
    return flows ? this.charging(time, volts, amps, known) : this.ending(time, volts, amps, known);
  }

  private hold(time: number, volts: number, amps: number): void {
    this.heldTime = time;
    this.heldVolts = volts;
    this.heldAmps = amps;
  }

  private off(time: number, volts: number, amps: number, flows: boolean, known: number): readonly ChargeEvent[] {
    const { recent } = this;
    if (!flows) {
      this.lasting = 0;
      recent.only(time, volts, amps);
      return NONE;
    }
    if (this.lasting++ === 0) {
      this.candidate = recent.size ? (recent.firstTime() + time) / 2 : NaN;
      recent.clear();
    }
    recent.push(time, volts, amps);
    if (this.lasting < LASTING) return NONE;
    const now = recent.middleAmps(recent.size);
    const low = this.options.programmed !== undefined && now < 0.3 * this.options.programmed;
    this.state = low ? "low" : "full";
    this.level = now;
    this.inside = 0;
    this.full = low ? 0 : now;
    this.hold(time, volts, amps);
    this.lasting = 0;
    this.cut = false;
    // A log that begins while current flows does not show the start.
    if (Number.isNaN(this.candidate)) return NONE;
    return [{ kind: this.stopped ? "restart" : "start", time: this.candidate, known }];
  }

  private ending(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const { recent } = this;
    if (this.lasting++ === 0) this.candidate = recent.size ? (recent.lastTime() + time) / 2 : time;
    if (this.lasting < LASTING) return NONE;
    this.state = "off";
    this.stopped = true;
    this.lasting = 0;
    recent.only(time, volts, amps);
    return [{ kind: "stop", time: this.candidate, known }];
  }

  private charging(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const { recent } = this;
    this.lasting = 0;
    const stepping = this.state === "low" || (this.state === "full" && this.level < 0.3 * amps);
    const before = stepping && recent.size ? recent.middleAmps(9) : amps;
    const last = recent.size ? recent.lastTime() : NaN;
    recent.push(time, volts, amps);
    if (stepping) {
      if (amps < 2 * before) {
        this.level = this.state === "low" ? before : Math.max(this.level, before);
        return NONE;
      }
      this.state = "full";
      this.level = amps;
      this.inside = 0;
      this.full = amps;
      recent.only(time, volts, amps);
      this.hold(time, volts, amps);
      return [{ kind: "full-current", time: Number.isNaN(last) ? time : (last + time) / 2, known }];
    }
    if (this.state !== "full") return NONE;
    this.inside = amps <= this.level && amps >= HELD * this.level ? this.inside + 1 : 0;
    if (this.inside >= 5 && !this.cut) {
      // The median of five that all lie there lies there too: it need not be sought.
      this.hold(time, volts, amps);
      return NONE;
    }
    const now = recent.amps();
    if (now > this.full) this.full = now;
    if (now > this.level) {
      this.level = now;
      this.inside = 0;
    }
    if (now >= HELD * this.level) {
      this.hold(time, volts, amps);
      if (!this.cut || now < HELD * this.full) return NONE;
      this.cut = false;
      return [{ kind: "cut-back-over", time, known }];
    }
    const from = this.heldTime;
    if (now >= LEFT * this.level) return NONE;
    const rise = (recent.volts() - this.heldVolts) / Math.max(1e-6, this.heldAmps - now);
    if (rise >= -0.02 && rise <= WIRING) {
      // Held by the voltage so far; heat can look like that for a while, but not this far down.
      if (now >= SURE * this.level) return NONE;
      this.state = "voltage";
      return [{ kind: "constant-voltage", time: from, known }];
    }
    // The current goes down for another reason. What it holds from here on is the level to watch.
    this.level = now;
    this.inside = 0;
    this.hold(time, volts, amps);
    if (this.cut) return NONE;
    this.cut = true;
    return [{ kind: "cut-back", time: from, known }];
  }
}

const ROOM = 256;
/** Most of the recent samples that are ever looked at. */
const LOOKED = 16;

/** The last filtered samples of the present level, in columns that are trimmed now and then. */
class Recent {
  private readonly t = new Float64Array(ROOM);
  private readonly v = new Float64Array(ROOM);
  private readonly a = new Float64Array(ROOM);
  size = 0;

  clear(): void {
    this.size = 0;
  }
  only(time: number, volts: number, amps: number): void {
    this.size = 0;
    this.push(time, volts, amps);
  }
  push(time: number, volts: number, amps: number): void {
    if (this.size === ROOM) {
      for (const c of [this.t, this.v, this.a]) c.copyWithin(0, ROOM - LOOKED);
      this.size = LOOKED;
    }
    const n = this.size++;
    this.t[n] = time;
    this.v[n] = volts;
    this.a[n] = amps;
  }
  firstTime(): number {
    return this.t[0] as number;
  }
  lastTime(): number {
    return this.t[this.size - 1] as number;
  }
  /** Median of the currents of the last `count` samples, or of all where there are fewer. */
  middleAmps(count: number): number {
    return median(this.a.subarray(Math.max(0, this.size - count), this.size));
  }
  /** Median of the last five currents. */
  amps(): number {
    return lately(this.a, this.size);
  }
  /** Median of the last five voltages. */
  volts(): number {
    return lately(this.v, this.size);
  }
}

function lately(c: Float64Array, n: number): number {
  if (n < 5) return median(c.subarray(0, n));
  return middleOfFive(c[n - 5] as number, c[n - 4] as number, c[n - 3] as number, c[n - 2] as number, c[n - 1] as number);
}

const middle = (a: number, b: number, c: number): number => Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

function middleOfFive(a: number, b: number, c: number, d: number, e: number): number {
  // The middle of five is the middle of the odd one and the inner two of the other four.
  const low = Math.max(Math.min(a, b), Math.min(c, d));
  const high = Math.min(Math.max(a, b), Math.max(c, d));
  return middle(low, high, e);
}
