import { capital, formatDuration, formatQuantity, numeric, type Unit } from "../../quantities";
import { CAUSE_TEXT, type StopVerdict } from "./ending";
import type { LiveEvent, LiveState, LiveWatch, LogRow, LogValues, RunSetup } from "../../measurement";
import { forecastFor, type ChargePlan } from "./plan";
import { currentFloor, streamOptions } from "./phases";
import { ChargeStream, HEADROOM, HOT, type ChargeEvent } from "./stream";

/** Samples in a row before a low input is believed. */
const LASTING = 4;
/** Samples with current before a charge counts as under way without a start. */
const UNDER_WAY = 8;
/** s of input without a charging current before the cell is said to take none. */
const PATIENCE = 60;
/** K that a cell may warm above its surroundings within so many s while less than this share of the set current flows. */
const WARMS = { kelvin: 3, seconds: 600, share: 0.25 } as const;
/** Share of the full current at which a charger ends the charge, unless it was seen to. */
const DONE_SHARE = 0.1;

const PHASES = {
  off: "waiting",
  low: "pre-charge",
  full: "constant current",
  cut: "foldback",
  sag: "held down by the input",
  voltage: "constant voltage",
  rest: "rest",
  paused: "interrupted",
  unknown: "current stopped",
  again: "recharge",
} as const;
type Phase = keyof typeof PHASES;

/** What stopped it, as a sentence; the input's and the cell's are what one looks at first. */
function cause(verdict: StopVerdict | undefined): string {
  if (!verdict?.cause) return "The log does not show why.";
  const text = CAUSE_TEXT[verdict.cause];
  return `${capital(text)}.`;
}

/**
 * Follows a charge as its samples come: phases, charge and energy counted, what calls for attention, and the time that is
 * left: by the forecast from where the cell stands now until the voltage holds, then by how fast the current falls.
 */
export class ChargeWatch implements LiveWatch {
  private readonly stream: ChargeStream;
  private readonly floor: number;
  private phase: Phase = "off";
  private spans: { from: number; to: number; label: string }[] = [];
  private last: LogValues = {};
  private charge = 0;
  private delivered = 0;
  private drawn = 0;
  private begun: number | null = null;
  /** s without current between the segments so far, and since when there is none now. */
  private paused = 0;
  private pausedSince: number | null = null;
  private firstPart: number | null = null;
  /** The cell's temperature above ambient over the last minutes of small current. */
  private warmth: { readonly time: number; readonly above: number }[] = [];
  private warmthSaid = false;
  private stopped: number | null = null;
  private peak = -Infinity;
  private level = 0;
  private low = 0;
  private lowSaid = false;
  private flowing = 0;
  private idleSince: number | null = null;
  private idleSaid = false;
  /** ∑ over the fall of the current, for the slope of its logarithm: weights that fade. */
  private fall = { n: 0, t: 0, y: 0, tt: 0, ty: 0, from: 0 };

  constructor(private readonly setup: RunSetup<ChargePlan>) {
    this.floor = currentFloor(setup);
    this.stream = new ChargeStream(streamOptions(setup));
  }

  push(row: LogRow): readonly LiveEvent[] {
    const time = row.time;
    const out: LiveEvent[] = [];
    this.count(row);
    for (const e of this.stream.pushReadings(
      time,
      row.cellVoltage ?? NaN,
      row.cellCurrent ?? NaN,
      row.inputVoltage,
      row.partTemperature,
    ))
      out.push(...this.follow(e, row));
    this.watchUnderWay(row, out);
    this.firstPart ??= row.partTemperature ?? null;
    if (row.partTemperature !== undefined && row.partTemperature > this.peak) this.peak = row.partTemperature;
    if (this.phase === "full") this.level = Math.max(this.level, row.cellCurrent ?? 0);
    this.watchInput(row, out);
    this.watchCell(row, out);
    this.watchWarmth(row, out);
    if (this.phase === "voltage") this.learnFall(time, row.cellCurrent ?? NaN);
    const open = this.spans[this.spans.length - 1];
    if (open) open.to = time;
    this.last = row;
    return out;
  }

  private count(row: LogRow): void {
    const dt = row.time - (this.last.time ?? row.time);
    const mean = (a: number | undefined, b: number | undefined) => ((a ?? NaN) + (b ?? NaN)) / 2;
    const add = (v: number) => (Number.isFinite(v) ? v * dt : 0);
    const amps = mean(this.last.cellCurrent, row.cellCurrent);
    if (!(amps > this.floor)) return;
    this.charge += add(amps) / 3600;
    this.delivered += add(amps * mean(this.last.cellVoltage, row.cellVoltage)) / 3600;
    this.drawn +=
      add(mean(this.last.inputVoltage, row.inputVoltage) * mean(this.last.inputCurrent, row.inputCurrent)) / 3600;
  }

  private enter(phase: Phase, time: number): void {
    this.phase = phase;
    const open = this.spans[this.spans.length - 1];
    if (open) open.to = time;
    if (phase !== "off") this.spans.push({ from: time, to: time, label: PHASES[phase] });
  }

  private follow(e: ChargeEvent, row: LogRow): LiveEvent[] {
    const says = (kind: LiveEvent["kind"], message: string): LiveEvent[] => [{ kind, time: e.time, message }];
    switch (e.kind) {
      case "start": {
        this.begun ??= e.time;
        const set = this.setup.conditions.programmedCurrent;
        this.enter(set !== undefined && (row.cellCurrent ?? 0) < 0.3 * set ? "low" : "full", e.time);
        return says("phase", `Charging begins: ${PHASES[this.phase]}.`);
      }
      case "full-current":
        this.begun ??= e.time;
        this.enter("full", e.time);
        return says("phase", "The charger steps up to its full current.");
      case "constant-voltage":
        this.enter("voltage", e.time);
        this.fall = { n: 0, t: 0, y: 0, tt: 0, ty: 0, from: e.time };
        return says(
          "phase",
          `Constant voltage from ${formatQuantity(row.cellVoltage ?? NaN, "V", { digits: 4 })} on: the current falls from here.`,
        );
      case "cut-back": {
        const hot = (row.partTemperature ?? -Infinity) >= Math.max(HOT.least, (this.firstPart ?? 0) + HOT.rise);
        const room = (row.inputVoltage ?? Infinity) - (row.cellVoltage ?? 0);
        this.enter(hot && !(room < HEADROOM) ? "cut" : "sag", e.time);
        if (room < HEADROOM)
          return says(
            "input-low",
            "The current falls because the input leaves the charger no room: that is the supply's doing.",
          );
        return says(
          "cut-back",
          hot
            ? `The charger cuts its own current: the part is at ${formatQuantity(numeric(row.partTemperature), "°C", { digits: 3 })}.`
            : "The current fell before constant voltage: check heat and input.",
        );
      }
      case "cut-back-over":
        this.enter("full", e.time);
        return says("cut-back", "The current is back where it was.");
      case "constant-voltage-over":
        this.enter("cut", e.time);
        return says("cut-back", "The cell voltage is still rising, so the voltage loop is not limiting the current.");
      case "stop":
        return this.ended(e, says);
      case "interruption":
        this.pausedSince = e.time;
        this.enter("paused", e.time);
        return says(
          "interrupted",
          `Interrupted: ${formatQuantity(e.amps ?? NaN, "A", { digits: 2 })} was still flowing. ${cause(e.verdict)} The charge has not ended. It resumes when the current returns.`,
        );
      case "resume": {
        if (this.pausedSince !== null) this.paused += e.time - this.pausedSince;
        const lost = this.pausedSince === null ? "" : ` after ${formatDuration(e.time - this.pausedSince)}`;
        this.pausedSince = null;
        this.enter("full", e.time);
        return says("phase", `The charge resumes${lost}. The pause doesn't count.`);
      }
      case "restart":
        this.enter("again", e.time);
        return says("phase", "Charging begins again after it had stopped.");
    }
  }

  /** The charger ended the charge; or the log can't tell, and then nothing is called full. */
  private ended(e: ChargeEvent, says: (kind: LiveEvent["kind"], message: string) => LiveEvent[]): LiveEvent[] {
    if (e.verdict?.ended === null) {
      this.pausedSince = e.time;
      this.enter("unknown", e.time);
      return says(
        "interrupted",
        `The current stopped at ${formatQuantity(e.amps ?? NaN, "A", { digits: 2 })}. Without the input voltage it is unknown whether the charge ended: check the charger, and mark what happened.`,
      );
    }
    this.stopped = e.time;
    this.enter("rest", e.time);
    return says(
      "done",
      `Done after ${this.begun === null ? "an unknown time" : formatDuration(e.time - this.begun - this.paused)}: ${formatQuantity(this.charge, "Ah", { digits: 3 })} delivered. The log continues through the rest.`,
    );
  }

  /** A log that begins while current flows shows no start; its phase is known all the same. */
  private watchUnderWay(row: LogRow, out: LiveEvent[]): void {
    if (this.phase !== "off") return;
    this.flowing = (row.cellCurrent ?? 0) > this.floor ? this.flowing + 1 : 0;
    if (this.flowing < UNDER_WAY) return;
    const set = this.setup.conditions.programmedCurrent;
    this.enter(set !== undefined && (row.cellCurrent ?? 0) < 0.3 * set ? "low" : "full", row.time);
    out.push({
      kind: "phase",
      time: row.time,
      message: "Charging was under way as the log began: its start, and what counts from it, is not known.",
    });
  }

  /** Input below what the charger is claimed to work from, while it charges. */
  private watchInput(row: LogRow, out: LiveEvent[]): void {
    const least = this.setup.plan?.leastInput;
    const v = row.inputVoltage;
    if (least === undefined || v === undefined || !((row.cellCurrent ?? 0) > this.floor)) return;
    this.low = v < least ? this.low + 1 : 0;
    if (this.low < LASTING || this.lowSaid) return;
    this.lowSaid = true;
    out.push({
      kind: "input-low",
      time: row.time,
      message: `The input is down to ${formatQuantity(v, "V", { digits: 3 })}, below the ${formatQuantity(least, "V")} that the charger is claimed to work from: a low current is the supply's fault from here. Use a shorter or thicker cable.`,
    });
  }

  /** Input there, cell not full, and no current. */
  private watchCell(row: LogRow, out: LiveEvent[]): void {
    const { plan } = this.setup;
    const waits =
      this.phase === "off" &&
      (row.inputVoltage ?? 0) > 3.5 &&
      (row.cellVoltage ?? Infinity) < (plan?.fullVoltage ?? 4.2) - 0.15 &&
      !((row.cellCurrent ?? 0) > this.floor);
    if (!waits) {
      this.idleSince = null;
      return;
    }
    this.idleSince ??= row.time;
    if (this.idleSaid || row.time - this.idleSince < PATIENCE) return;
    this.idleSaid = true;
    out.push({
      kind: "no-current",
      time: row.time,
      message:
        "The input is present, but no current flows: check wiring and polarity. Reject a cell that takes no current.",
    });
  }

  /** A cell that grows warm while hardly any current flows into it heats itself: that is a danger. */
  private watchWarmth(row: LogRow, out: LiveEvent[]): void {
    const [time, cell, around] = [
      row.time,
      row.cellTemperature,
      row.ambientTemperature ?? this.setup.conditions.ambientTemperature ?? 0,
    ];
    const set = this.setup.conditions.programmedCurrent ?? this.level;
    if (cell === undefined) return;
    // Warmth that a quarter of the current or more brought is none of the cell's own.
    if (!((row.cellCurrent ?? 0) < WARMS.share * set)) {
      this.warmth = [];
      return;
    }
    this.warmth.push({ time, above: cell - around });
    while ((this.warmth[0]?.time ?? time) < time - WARMS.seconds) this.warmth.shift();
    const least = this.warmth.reduce((m, w) => Math.min(m, w.above), Infinity);
    if (this.warmthSaid || cell - around - least <= WARMS.kelvin) return;
    this.warmthSaid = true;
    out.push({
      kind: "hot",
      time,
      message: `The cell has warmed by ${formatQuantity(cell - around - least, "K", { digits: 2 })} within ten minutes while only ${formatQuantity(row.cellCurrent ?? 0, "A", { digits: 2 })} flows into it: it heats itself.`,
      act: "Unplug the input, disconnect the cell and put it where it can't burn anything. Reject cell.",
    });
  }

  private learnFall(time: number, amps: number): void {
    if (!(amps > 0)) return;
    const f = this.fall;
    const t = time - f.from;
    const fade = 0.999;
    f.n = f.n * fade + 1;
    f.t = f.t * fade + t;
    f.y = f.y * fade + Math.log(amps);
    f.tt = f.tt * fade + t * t;
    f.ty = f.ty * fade + t * Math.log(amps);
  }

  private remaining(): number | null {
    const now = this.last;
    if (this.phase === "rest" || this.phase === "off" || this.pausedSince !== null) return null;
    const amps = now.cellCurrent ?? NaN;
    const full = this.level || this.setup.conditions.programmedCurrent || amps;
    if (this.phase === "voltage") {
      const f = this.fall;
      const slope = (f.n * f.ty - f.t * f.y) / (f.n * f.tt - f.t * f.t);
      if (f.n > 20 && slope < 0) return Math.max(0, Math.log(amps / (DONE_SHARE * full)) / -slope);
    }
    const { plan } = this.setup;
    if (!plan?.cell || !(amps > 0) || !(now.cellVoltage !== undefined)) return null;
    // The cell under charge stands above its rested volts by what flows through its resistance.
    const rested = Math.max(0.5, now.cellVoltage - amps * Math.max(0.05, 0.15 / plan.cell.capacity));
    const f = forecastFor({
      ...this.setup,
      conditions: {
        ...this.setup.conditions,
        programmedCurrent: this.phase === "low" ? (this.setup.conditions.programmedCurrent ?? 10 * amps) : full,
      },
      plan: { ...plan, startVoltage: rested },
    });
    return f ? f.total : null;
  }

  state(): LiveState {
    const figure = (label: string, value: number, unit: Unit) =>
      Number.isFinite(value) ? [{ label, value, unit }] : [];
    const now = this.last;
    const heat =
      (now.inputVoltage ?? NaN) * (now.inputCurrent ?? NaN) - (now.cellVoltage ?? NaN) * (now.cellCurrent ?? NaN);
    return {
      phase: PHASES[this.phase],
      complete: this.phase === "rest",
      remaining: this.remaining(),
      spans: this.spans,
      figures: [
        ...figure("Charge put in", this.charge, "Ah"),
        ...figure("Energy put in", this.delivered, "Wh"),
        ...(this.drawn > 0 ? figure("Efficiency so far", this.delivered / this.drawn, "1") : []),
        ...figure("Heat", heat, "W"),
        ...(this.paused > 0 ? figure("Paused", this.paused, "s") : []),
        ...(this.begun !== null
          ? figure("Charging for", (this.stopped ?? this.pausedSince ?? now.time ?? 0) - this.begun - this.paused, "s")
          : []),
      ],
    };
  }
}
