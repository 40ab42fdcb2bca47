/** What happens to a pack as its current tells. */
export type PackEventKind =
  | "charge"
  | "interrupted"
  | "resumed"
  | "charge-cut"
  | "charge-again"
  | "tapered"
  | "discharge"
  | "low-cut"
  | "discharge-end";
export interface PackEvent {
  readonly kind: PackEventKind;
  /** First row of what comes after, and its time, s. */
  readonly row: number;
  readonly time: number;
}

/** Share of the current before under which a stop at full current was a cut, not the end of a taper. */
const CUT_SHARE = 0.5;

/**
 * Follows a pack's current sample by sample: charging, cut off or tapered to its end, allowed again, discharged, cut off below. A
 * change counts once two samples say so; its row is the first of them.
 */
export class PackStream {
  private state: "rest" | "charging" | "discharging" = "rest";
  private pending: { state: "rest" | "charging" | "discharging"; row: number; time: number } | null = null;
  private most = 0;
  private last = 0;
  private cuts = 0;
  private lows = 0;
  /** V of the highest cell while charging, as it was last. */
  private highest = NaN;
  private interrupted = false;

  /** `floor` A that the ammeter can't tell from nothing; `credible` V of the highest cell under which a stop of the charge is no cut of the board. */
  constructor(
    private readonly floor: number,
    private readonly credible: number,
  ) {}

  push(row: number, time: number, amps: number, highest = NaN): readonly PackEvent[] {
    if (amps - amps !== 0) return [];
    if (this.state === "charging" && amps > this.floor && highest - highest === 0) this.highest = highest;
    const now = amps > this.floor ? "charging" : amps < -this.floor ? "discharging" : "rest";
    if (now === this.state) {
      this.pending = null;
      if (now === "charging") {
        this.most = Math.max(this.most, amps);
        this.last = amps;
      } else if (now === "discharging") this.last = amps;
      return [];
    }
    if (this.pending?.state !== now) {
      this.pending = { state: now, row, time };
      return [];
    }
    const at = this.pending;
    this.pending = null;
    const was = this.state;
    this.state = now;
    const out: PackEvent[] = [];
    const say = (kind: PackEventKind) => out.push({ kind, row: at.row, time: at.time });
    if (was === "charging") {
      const cut = this.last > CUT_SHARE * this.most;
      this.interrupted = cut && this.highest < this.credible;
      if (cut && !this.interrupted) this.cuts++;
      say(this.interrupted ? "interrupted" : cut ? "charge-cut" : "tapered");
    }
    // Only the first stop is the board's; a later one ends a try whether it wakes.
    if (was === "discharging" && now === "rest") say(this.lows++ === 0 ? "low-cut" : "discharge-end");
    else if (was === "discharging") say("discharge-end");
    if (now === "charging") {
      say(this.interrupted ? "resumed" : this.cuts > 0 ? "charge-again" : "charge");
      this.interrupted = false;
      this.most = Math.max(amps, this.cuts > 0 ? 0 : this.most);
      this.last = amps;
    }
    if (now === "discharging") say("discharge");
    return out;
  }
}
