import { ELEMENTS, median } from "../../quantities";

const { sampleAt } = ELEMENTS;

const ROOM = 256;
/** Most of the recent samples that are ever looked at. */
const LOOKED = 16;

/** The last filtered samples of the present level, in columns that are trimmed now and then. */
export class Recent {
  private readonly t = new Float64Array(ROOM);
  private readonly v = new Float64Array(ROOM);
  private readonly a = new Float64Array(ROOM);
  size = 0;

  clear(): void {
    this.size = 0;
  }
  startWith(time: number, volts: number, amps: number): void {
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
    return sampleAt(this.t, 0);
  }
  lastTime(): number {
    return sampleAt(this.t, this.size - 1);
  }
  voltsAt(k: number): number {
    return sampleAt(this.v, k);
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
  return middleOfFive(
    sampleAt(c, n - 5),
    sampleAt(c, n - 4),
    sampleAt(c, n - 3),
    sampleAt(c, n - 2),
    sampleAt(c, n - 1),
  );
}

/** The middle one of three. */
export const middle = (a: number, b: number, c: number): number =>
  Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

function middleOfFive(a: number, b: number, c: number, d: number, e: number): number {
  // The middle of five is the middle of the odd one and the inner two of the other four.
  const low = Math.max(Math.min(a, b), Math.min(c, d));
  const high = Math.min(Math.max(a, b), Math.max(c, d));
  return middle(low, high, e);
}
