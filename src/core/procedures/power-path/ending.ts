/** How a charge under load came out, as the cell's current tells sample by sample. */
export type Ending = "charging" | "ended" | "is steady" | "discharges";

/** Share of the highest current under which a charge is as good as over. */
const LITTLE = 0.03;
/** Samples that a stop must last. */
const LASTING = 3;

/**
 * A charger that ends its charge lets the cell's current fall within a sample or two: to nothing, or below it by what a load on the
 * cell takes. One that never sees its end current lets it fall smoothly to nothing while the input goes on carrying the load: that is
 * no end. Where the load takes more than the charger gives, the cell is emptied from the start.
 */
export class ChargeEnding {
  private most = 0;
  private before = NaN;
  private steps = 0;
  private lowSince = NaN;
  private emptySince = NaN;
  /** A from which the current fell in one step; NaN while it has not. */
  private fellFrom = NaN;
  state: Ending = "charging";
  /** s at which it stopped, or began to stand still or to be emptied. */
  at = NaN;

  /** `floor` A that the ammeter can't tell from nothing; `patience` s of standing still. */
  constructor(
    private readonly floor: number,
    private readonly patience: number,
  ) {}

  push(time: number, amps: number): Ending {
    if (amps - amps !== 0 || this.state !== "charging") return this.state;
    if (amps > this.most) this.most = amps;
    const little = Math.max(2 * this.floor, LITTLE * this.most);
    const drop = this.before - amps;
    // One sample may lie within the fall itself.
    if (
      this.before > -little &&
      amps < little &&
      drop > Math.max(4 * this.floor, 0.5 * Math.max(0, this.before)) &&
      Number.isNaN(this.fellFrom)
    ) {
      this.fellFrom = this.before;
      this.at = time;
      this.steps = 0;
    }
    if (!Number.isNaN(this.fellFrom)) {
      if (amps < Math.max(little, 0) && amps < this.fellFrom - 3 * this.floor) {
        if (++this.steps >= LASTING) return (this.state = "ended");
      } else this.fellFrom = NaN;
    }
    this.lowSince = Math.abs(amps) <= little ? (Number.isNaN(this.lowSince) ? time : this.lowSince) : NaN;
    this.emptySince = amps < -little ? (Number.isNaN(this.emptySince) ? time : this.emptySince) : NaN;
    this.before = amps;
    if (time - this.lowSince >= this.patience) {
      this.at = this.lowSince;
      this.state = "is steady";
    } else if (time - this.emptySince >= this.patience) {
      this.at = this.emptySince;
      this.state = "discharges";
    }
    return this.state;
  }
}
