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

interface Held {
  readonly time: number;
  readonly volts: number;
  readonly amps: number;
}

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
  /** Recent filtered samples of the present level. */
  private recent: Held[] = [];
  private level = 0;
  /** The highest level of this charge. */
  private full = 0;
  /** The last sample that still held the full current. */
  private atLevel: Held | null = null;
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
    const { t1, v1, a1, v2, a2 } = this;
    this.v2 = v1;
    this.a2 = a1;
    this.t1 = time;
    this.v1 = volts;
    this.a1 = amps;
    if (this.had < 2) {
      this.had++;
      return NONE;
    }
    return this.step({ time: t1, volts: middle(v2, v1, volts), amps: middle(a2, a1, amps) }, number);
  }

  private step(s: Held, known: number): readonly ChargeEvent[] {
    const flows = s.amps > this.options.floor;
    switch (this.state) {
      case "off":
        return this.off(s, flows, known);
      case "low":
      case "full":
      case "voltage":
        return flows ? this.charging(s, known) : this.ending(s, known);
    }
  }

  /** Median of the last five samples. */
  private lately(what: "volts" | "amps"): number {
    const r = this.recent;
    const n = r.length;
    if (n >= 5) return middleOfFive((r[n - 5] as Held)[what], (r[n - 4] as Held)[what], (r[n - 3] as Held)[what], (r[n - 2] as Held)[what], (r[n - 1] as Held)[what]);
    return median(r.map((x) => x[what]));
  }

  private off(s: Held, flows: boolean, known: number): readonly ChargeEvent[] {
    if (!flows) {
      this.lasting = 0;
      this.recent = [s];
      return NONE;
    }
    if (this.lasting++ === 0) {
      const before = this.recent[0];
      this.candidate = before ? (before.time + s.time) / 2 : NaN;
      this.recent = [];
    }
    this.recent.push(s);
    if (this.lasting < LASTING) return NONE;
    const amps = median(this.recent.map((x) => x.amps));
    const low = this.options.programmed !== undefined && amps < 0.3 * this.options.programmed;
    this.state = low ? "low" : "full";
    this.level = amps;
    this.full = low ? 0 : amps;
    this.atLevel = s;
    this.lasting = 0;
    this.cut = false;
    // A log that begins while current flows does not show the start.
    if (Number.isNaN(this.candidate)) return NONE;
    return [{ kind: this.stopped ? "restart" : "start", time: this.candidate, known }];
  }

  private ending(s: Held, known: number): readonly ChargeEvent[] {
    if (this.lasting++ === 0) {
      const before = this.recent[this.recent.length - 1];
      this.candidate = ((before?.time ?? s.time) + s.time) / 2;
    }
    if (this.lasting < LASTING) return NONE;
    this.state = "off";
    this.stopped = true;
    this.lasting = 0;
    this.recent = [s];
    return [{ kind: "stop", time: this.candidate, known }];
  }

  private charging(s: Held, known: number): readonly ChargeEvent[] {
    this.lasting = 0;
    const stepping = this.state === "low" || (this.state === "full" && this.level < 0.3 * s.amps);
    const before = stepping && this.recent.length ? median(this.recent.slice(-9).map((x) => x.amps)) : s.amps;
    this.recent.push(s);
    // Trimmed now and then: taking one off the front at every sample would move the rest each time.
    if (this.recent.length > 64) this.recent = this.recent.slice(-9);
    if (stepping) {
      if (s.amps < 2 * before) {
        this.level = this.state === "low" ? before : Math.max(this.level, before);
        return NONE;
      }
      const last = this.recent[this.recent.length - 2];
      this.state = "full";
      this.level = s.amps;
      this.full = s.amps;
      this.recent = [s];
      this.atLevel = s;
      return [{ kind: "full-current", time: last ? (last.time + s.time) / 2 : s.time, known }];
    }
    if (this.state !== "full") return NONE;
    const now = this.lately("amps");
    this.full = Math.max(this.full, now);
    this.level = Math.max(this.level, now);
    if (now >= HELD * this.level) {
      this.atLevel = s;
      if (!this.cut || now < HELD * this.full) return NONE;
      this.cut = false;
      return [{ kind: "cut-back-over", time: s.time, known }];
    }
    const from = this.atLevel;
    if (!from || now >= LEFT * this.level) return NONE;
    const volts = this.lately("volts");
    const rise = (volts - from.volts) / Math.max(1e-6, from.amps - now);
    if (rise >= -0.02 && rise <= WIRING) {
      // Held by the voltage so far; heat can look like that for a while, but not this far down.
      if (now >= SURE * this.level) return NONE;
      this.state = "voltage";
      return [{ kind: "constant-voltage", time: from.time, known }];
    }
    // The current goes down for another reason. What it holds from here on is the level to watch.
    this.level = now;
    this.atLevel = s;
    if (this.cut) return NONE;
    this.cut = true;
    return [{ kind: "cut-back", time: from.time, known }];
  }
}

const middle = (a: number, b: number, c: number): number => Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

function middleOfFive(a: number, b: number, c: number, d: number, e: number): number {
  // The middle of five is the middle of the odd one and the inner two of the other four.
  const low = Math.max(Math.min(a, b), Math.min(c, d));
  const high = Math.min(Math.max(a, b), Math.max(c, d));
  return middle(low, high, e);
}
