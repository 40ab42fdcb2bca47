import type { BenchSimulation, ModuleSettings } from "../simulator";

/** What goes wrong on a bench from one moment to another, s from the first setting. */
export interface Mishap {
  readonly from: number;
  readonly to: number;
  /** What the bench is really set to meanwhile. */
  readonly change: (asked: ModuleSettings) => ModuleSettings;
}

/** A simulated bench on which something slips off for a while: the load, a lead, a plug. Whoever sets it does not notice. */
export class DisturbedBench implements BenchSimulation {
  private asked: ModuleSettings | null = null;
  private elapsed = 0;

  constructor(
    private readonly inner: BenchSimulation,
    private readonly mishap: Mishap,
  ) {}

  private apply(): void {
    if (!this.asked) return;
    const { from, to, change } = this.mishap;
    this.inner.set(this.elapsed >= from && this.elapsed < to ? change(this.asked) : this.asked);
  }

  set(next: ModuleSettings): void {
    this.asked = next;
    this.apply();
  }

  advance(seconds: number): void {
    const end = this.elapsed + seconds;
    for (const edge of [this.mishap.from, this.mishap.to]) {
      if (edge <= this.elapsed || edge >= end) continue;
      this.inner.advance(edge - this.elapsed);
      this.elapsed = edge;
      this.apply();
    }
    this.inner.advance(end - this.elapsed);
    this.elapsed = end;
    if (end === this.mishap.from || end === this.mishap.to) this.apply();
  }

  read(): ReturnType<BenchSimulation["read"]> {
    return this.inner.read();
  }
}
