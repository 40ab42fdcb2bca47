import type { Accuracy } from "../instruments";
import type { BenchSettings, Guide, LogRow, Role, RunSetup, Trace, TraceEvent } from "../measurement";
import { drawMeter, seeded, showReading, type BenchSimulation, type Meter, type SimulatedQuantity } from "../simulator";
import { simulatedMeters } from "./meters";

/** s at the first settings before the log begins. */
const BEFORE = 2;

export interface LiveModuleOptions {
  /** What stands on the bench, new. */
  simulation(): BenchSimulation;
  /** One guide for the settings before the log, one for the log. */
  guide(): Guide;
  readonly setup: RunSetup;
  readonly roles: readonly Role[];
  readonly every: number;
  readonly seed: number;
}

/**
 * A log on the simulated bench that its guide drives: number k stands at k × `every` s, and what is set from then on follows from
 * what was read. What it reads follows from bench, guide, seed and number alone, whichever samples were looked at before.
 */
export class LiveModule {
  readonly simulation: BenchSimulation;
  private readonly guide: Guide;
  readonly meters: ReadonlyMap<Role, Meter>;
  private readonly made: TraceEvent[] = [];
  private at = -1;
  private row: LogRow = { time: 0 };
  private next: BenchSettings | null = null;
  /** Whether the guide has come to its end. */
  done = false;

  constructor(private readonly o: LiveModuleOptions) {
    this.simulation = o.simulation();
    const random = seeded(o.seed);
    const meters = simulatedMeters(o.roles, o.setup.instruments);
    const read = this.simulation.read();
    this.meters = new Map(
      o.roles.filter((r) => r in read).map((role) => [role, drawMeter(meters[role] as Accuracy, random)]),
    );
    this.set(o.guide().push({ time: 0 }).settings);
    this.simulation.advance(BEFORE);
    this.guide = o.guide();
  }

  private set(s: BenchSettings): void {
    this.simulation.set(s);
  }

  /** Sample number k; numbers only go up. */
  sample(k: number): LogRow {
    if (k < this.at) throw new RangeError(`LiveModule: sample ${k} was asked for after ${this.at}`);
    while (this.at < k) {
      this.at++;
      if (this.at > 0) this.pass();
      const truth = this.simulation.read();
      const random = seeded((this.o.seed ^ Math.imul(this.at + 1, 0x9e3779b1)) >>> 0);
      const row: { time: number } & Partial<Record<Role, number>> = {
        time: Number((this.at * this.o.every).toFixed(6)),
      };
      for (const [role, meter] of this.meters)
        row[role] = showReading(meter, truth[role as SimulatedQuantity] ?? NaN, random);
      this.row = row;
      const step = this.guide.push(row);
      this.next = step.settings;
      this.done = step.done;
      if (step.mark) this.made.push({ time: row.time, ...step.mark });
    }
    return this.row;
  }

  /** The time to the next sample; what the guide asked for is set somewhere in it, as hands do. */
  private pass(): void {
    const share = this.next ? seeded((this.o.seed ^ Math.imul(this.at + 7, 0x85ebca6b)) >>> 0).uniform() : 1;
    this.simulation.advance(share * this.o.every);
    if (this.next) this.set(this.next);
    this.next = null;
    this.simulation.advance((1 - share) * this.o.every);
  }

  lights(): readonly number[] {
    return [];
  }
  /** What was done so far that the log has to know, oldest first. */
  marks(): readonly TraceEvent[] {
    return this.made;
  }
}

/** A whole log, from the first sample until the guide is done or `most` s have passed. */
export function logModule(
  options: LiveModuleOptions,
  most = 4 * 3600,
): { readonly trace: Trace; readonly live: LiveModule } {
  const live = new LiveModule(options);
  const rows: LogRow[] = [];
  for (let k = 0; k * options.every <= most && !live.done; k++) rows.push(live.sample(k));
  const roles = Object.keys(rows[0] ?? {}) as Role[];
  return {
    live,
    trace: {
      columns: Object.fromEntries(roles.map((role) => [role, Float64Array.from(rows, (r) => r[role] ?? NaN)])),
      events: live.marks(),
    },
  };
}
