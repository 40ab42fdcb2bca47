import { judgeStop, type StopVerdict } from "./ending";
import { middle, Recent } from "./recent";
import { ELEMENTS } from "../../quantities";

const { sampleAt } = ELEMENTS;

/** One reading of a charge log; NaN where a meter gave none. SI. */
export interface ChargeSample {
  /** s from the first row. */
  readonly time: number;
  readonly cellVoltage: number;
  /** Positive into the cell. */
  readonly cellCurrent: number;
  readonly inputVoltage?: number;
  readonly partTemperature?: number;
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
  /** What looked like the voltage loop was none: the cell's voltage went on rising. Its time is that of the event it takes back. */
  | "constant-voltage-over"
  /** The charger ended the charge, or, where the log can't tell, the current stopped for good. */
  | "stop"
  /** The current stopped otherwise than by the end. */
  | "interruption"
  /** The same charge goes on. */
  | "resume"
  /** Charging begins again after it had ended. */
  | "restart";

export interface ChargeEvent {
  readonly kind: ChargeEventKind;
  /** s; when it happened, as far as the samples tell. */
  readonly time: number;
  /** Number of the sample at which it was known. */
  readonly known: number;
  /** What a stop or an interruption was judged to be. */
  readonly verdict?: StopVerdict;
  /** Current in the last instants before a stop or an interruption, A. */
  readonly amps?: number;
  /** The input had been gone meanwhile: a restart then shows no threshold. */
  readonly replugged?: boolean;
}

export interface StreamOptions {
  /** A current is a current above this, A: what the meter's offset and steps can't feign. */
  readonly floor: number;
  /** The current that was set, A, where it is known: tells pre-charge from full current at a start. */
  readonly programmed?: number | undefined;
  /** The current at which it is claimed to end, A. */
  readonly termination?: number | undefined;
  /** Part temperature at its limit, °C. */
  readonly partLimit?: number | undefined;
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
/** V by which the volts at the sense point may drift while a voltage loop holds them. */
const DRIFT = 0.008;
/** A cell below this may be conditioned with a small current, V; above it a small current at a start is something else. */
const MAY_CONDITION = 3.2;
/** A step that would mean more than this is no resistance of cell and leads, Ω. */
const MOST_OHMS = 0.6;
/** V within which the cell is back in its voltage phase when a charge resumes. */
const NEAR_REGULATED = 0.03;
/** A part cuts its current because of heat only above these: °C, and K over where it began. */
export const HOT = { least: 45, rise: 15 } as const;
/** V between input and cell below which a charger has no room left: a falling current is then the input's doing. */
export const HEADROOM = 0.5;

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
  private i1 = NaN;
  private p1 = NaN;
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
  /** The last stop, and whether the input has been gone since. */
  private stopped: StopVerdict | null = null;
  private inputGone = false;
  /** Terminal voltages and input of the samples after the current stopped. */
  private after: { volts: number; input: number }[] = [];
  private before = { volts: NaN, amps: NaN, input: NaN };
  /** Ω of cell and leads, from the step of a start. */
  private ohms = NaN;
  /** Volts before the current began, for that step. */
  private restVolts = NaN;
  /** When and where the voltage loop took over; NaN before that. */
  private regulatedTime = NaN;
  private regulatedVolts = NaN;
  /** The least of V + WIRING·I since then, and samples on end that lie above it. */
  private leastSense = Infinity;
  private above = 0;
  private firstPart = NaN;
  private part = NaN;
  private input = NaN;

  constructor(private readonly options: StreamOptions) {
    this.state = "off";
  }

  /** Whether current flows now. */
  get underWay(): boolean {
    return this.state !== "off";
  }

  /** Takes the next sample; gives the events that are known with it. */
  push(sample: ChargeSample): readonly ChargeEvent[] {
    return this.pushReadings(
      sample.time,
      sample.cellVoltage,
      sample.cellCurrent,
      sample.inputVoltage,
      sample.partTemperature,
    );
  }

  /** The same without an object a sample, for logs of millions. */
  pushReadings(time: number, volts: number, amps: number, input = NaN, part = NaN): readonly ChargeEvent[] {
    const number = this.count++;
    if (amps - amps !== 0 || volts - volts !== 0) return NONE;
    const t1 = this.t1;
    const v1 = this.v1;
    const a1 = this.a1;
    const v2 = this.v2;
    const a2 = this.a2;
    // Input and part of the sample that is looked at, the one before the newest.
    if (this.i1 - this.i1 === 0) this.input = this.i1;
    if (this.p1 - this.p1 === 0) {
      this.part = this.p1;
      if (this.firstPart !== this.firstPart) this.firstPart = this.p1;
    }
    this.v2 = v1;
    this.a2 = a1;
    this.t1 = time;
    this.v1 = volts;
    this.a1 = amps;
    this.i1 = input;
    this.p1 = part;
    if (this.had < 2) {
      this.had++;
      return NONE;
    }
    return this.step(t1, middle(v2, v1, volts), middle(a2, a1, amps), number);
  }

  /** Takes a whole log; gives its events, as `push` would one by one. */
  pushAll(
    time: Float64Array,
    volts: Float64Array,
    amps: Float64Array,
    input?: Float64Array,
    part?: Float64Array,
  ): ChargeEvent[] {
    const out: ChargeEvent[] = [];
    for (let k = 0; k < time.length; k++) {
      const events = this.pushReadings(
        sampleAt(time, k),
        sampleAt(volts, k),
        sampleAt(amps, k),
        input ? sampleAt(input, k) : NaN,
        part ? sampleAt(part, k) : NaN,
      );
      if (events !== NONE) out.push(...events);
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

  /** The part is hot enough, and the input leaves the charger room enough, for heat to be what cuts the current. */
  private isHot(volts: number): boolean {
    const hot = this.part >= HOT.least && this.part >= this.firstPart + HOT.rise;
    return hot && !(this.input - volts < HEADROOM);
  }

  private off(time: number, volts: number, amps: number, flows: boolean, known: number): readonly ChargeEvent[] {
    const { recent } = this;
    if (!flows) {
      this.lasting = 0;
      recent.startWith(time, volts, amps);
      this.restVolts = volts;
      if (this.input < 0.7 * this.before.input) this.inputGone = true;
      return NONE;
    }
    if (this.lasting++ === 0) {
      this.candidate = recent.size ? (recent.firstTime() + time) / 2 : NaN;
      recent.clear();
    }
    recent.push(time, volts, amps);
    if (this.lasting < LASTING) return NONE;
    this.lasting = 0;
    return this.begin(time, volts, amps, known);
  }

  /** Current has flowed for long enough: a start, a restart, or the same charge going on. */
  private begin(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const now = this.recent.middleAmps(this.recent.size);
    const stopped = this.stopped;
    const resumes = stopped !== null && stopped.ended !== true;
    const { programmed } = this.options;
    const whole = resumes && this.full > 0 ? this.full : programmed;
    const low =
      whole !== undefined && now < 0.3 * whole && volts < MAY_CONDITION && !(resumes && this.regulatedTime > 0);
    const regulated =
      stopped !== null &&
      this.regulatedTime >= 0 &&
      now < HELD * this.full &&
      Math.abs(volts - this.regulatedVolts) < NEAR_REGULATED;
    // Near empty the volts rise with the charge too: such a step shows no resistance.
    if (!low) this.learnOhms(volts - this.restVolts, now);
    this.level = now;
    this.inside = 0;
    if (!resumes) {
      this.full = low ? 0 : Math.max(stopped ? this.full : 0, now);
      if (!regulated) this.regulatedTime = NaN;
    } else if (!low) this.full = Math.max(this.full, now);
    this.state = low ? "low" : regulated ? "voltage" : "full";
    this.leastSense = Infinity;
    this.above = 0;
    this.hold(time, volts, amps);
    this.cut = false;
    const out: ChargeEvent[] = [];
    // A log that begins while current flows does not show the start.
    if (!Number.isNaN(this.candidate))
      out.push({
        kind: resumes ? "resume" : stopped ? "restart" : "start",
        time: this.candidate,
        known,
        ...(stopped && !resumes && this.inputGone ? { replugged: true } : {}),
      });
    if (resumes && this.state === "full" && now < LEFT * this.full) {
      this.cut = true;
      out.push({ kind: "cut-back", time: Number.isNaN(this.candidate) ? time : this.candidate, known });
    }
    return out;
  }

  /** The least resistance that a step of the current shows: slower samples see the cell's relaxation in it too. */
  private learnOhms(volts: number, amps: number): void {
    const ohms = volts / amps;
    if (volts > 0.01 && amps > 0 && ohms < MOST_OHMS && !(ohms >= this.ohms)) this.ohms = ohms;
  }

  private ending(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const { recent } = this;
    if (this.lasting++ === 0) {
      this.candidate = recent.size ? (recent.lastTime() + time) / 2 : time;
      this.before = recent.size
        ? { volts: recent.volts(), amps: recent.amps(), input: this.heldInput }
        : { volts, amps, input: this.heldInput };
      this.after = [];
    }
    this.after.push({ volts, input: this.input });
    if (this.lasting < LASTING) return NONE;
    const verdict = this.judge();
    this.state = "off";
    this.stopped = verdict;
    this.inputGone = verdict.cause === "input";
    this.lasting = 0;
    this.restVolts = volts;
    recent.startWith(time, volts, amps);
    return [
      {
        kind: verdict.ended === false ? "interruption" : "stop",
        time: this.candidate,
        known,
        verdict,
        amps: this.before.amps,
      },
    ];
  }

  private judge(): StopVerdict {
    const { programmed, termination, partLimit } = this.options;
    return judgeStop({
      ...this.before,
      fullAmps: Math.max(
        this.full || this.level,
        this.stopped === null && Number.isNaN(this.ohms) ? (programmed ?? 0) : 0,
      ),
      voltsAfter: this.after.map((a) => a.volts),
      inputAfter: this.after.map((a) => a.input),
      atHeatLimit:
        (this.cut && this.isHot(this.before.volts)) || (partLimit !== undefined && this.part >= partLimit - 3),
      ohms: this.ohms,
      conditioning: this.state === "low",
      regulated: this.state === "voltage",
      programmed,
      termination,
    });
  }

  /** The input while current flowed, as it was last. */
  private heldInput = NaN;

  private charging(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const { recent } = this;
    // A few samples without current that did not last are none.
    this.lasting = 0;
    this.heldInput = this.input;
    const stepping =
      this.state === "low" || (this.state === "full" && this.level < 0.3 * amps && this.full === this.level);
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
      this.full = Math.max(this.full, amps);
      this.learnOhms(volts - (recent.size > 1 ? recent.voltsAt(recent.size - 2) : NaN), amps - before);
      recent.startWith(time, volts, amps);
      this.hold(time, volts, amps);
      return [{ kind: "full-current", time: Number.isNaN(last) ? time : (last + time) / 2, known }];
    }
    if (this.state === "voltage") return this.regulating(time, volts, amps, known);
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
      this.regulatedTime = from;
      this.regulatedVolts = recent.volts();
      this.leastSense = Infinity;
      this.above = 0;
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

  /**
   * While a voltage loop holds, V + WIRING·I only falls with the current. Where it rises, the current is held down by something
   * else (heat that cuts it slowly, while the charge lifts the cell), and what was said is taken back.
   */
  private regulating(time: number, volts: number, amps: number, known: number): readonly ChargeEvent[] {
    const sense = volts + WIRING * amps;
    if (sense < this.leastSense) this.leastSense = sense;
    this.above = sense > this.leastSense + DRIFT ? this.above + 1 : 0;
    if (this.above === 0) this.regulatedVolts = volts;
    if (this.above < 2 * LASTING) return NONE;
    const taken = this.regulatedTime;
    this.regulatedTime = NaN;
    this.state = "full";
    this.level = this.recent.amps();
    this.inside = 0;
    this.cut = true;
    this.hold(time, volts, amps);
    return [{ kind: "constant-voltage-over", time: taken, known }];
  }
}
