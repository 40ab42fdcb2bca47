import type { LogRow, Role } from "../procedures";
import { ChargeSimulation, drawMeter, seeded, showReading, type ChargeBench, type ChargeReading, type Meter } from "../simulator";
import { CHARGE_METERS } from "./charge-log";

/** From the first sample until the input is plugged in: s, and samples, whichever is later. */
const PLUG_AFTER = { seconds: 5, samples: 5 };
const ROLES = Object.keys(CHARGE_METERS) as (keyof ChargeReading)[];

/**
 * A charge on the simulated bench as a logger sees it, sample by sample: number k stands at k × `every` s. What it reads
 * follows from bench, seed and number alone, whichever samples were looked at before.
 */
export class LiveCharge {
  private readonly simulation: ChargeSimulation;
  private readonly meters: ReadonlyMap<Role, Meter>;
  private readonly plugAt: number;
  private at = -1;

  constructor(
    private readonly bench: ChargeBench,
    private readonly seed: number,
    private readonly every: number,
  ) {
    this.plugAt = Math.max(PLUG_AFTER.seconds, PLUG_AFTER.samples * every);
    this.simulation = new ChargeSimulation(bench);
    const random = seeded(seed);
    this.meters = new Map(ROLES.map((role) => [role, drawMeter(CHARGE_METERS[role], random)]));
  }

  /** Sample number k; numbers only go up. */
  sample(k: number): LogRow {
    if (k < this.at) throw new RangeError(`LiveCharge: sample ${k} was asked for after ${this.at}`);
    // Along the samples' own grid, so that the steps, and with them the last digits, are always the same.
    while (this.at < k) {
      this.at++;
      const time = this.at * this.every;
      if (time >= this.plugAt && this.simulation.time < this.plugAt) {
        this.simulation.advance(this.plugAt - this.simulation.time);
        this.simulation.plug(true);
      }
      this.simulation.advance(time - this.simulation.time);
    }
    const truth = this.simulation.read();
    const random = seeded((this.seed ^ Math.imul(k + 1, 0x9e3779b1)) >>> 0);
    const plugged = this.at * this.every >= this.plugAt;
    const row: Record<string, number> = { time: Number((k * this.every).toFixed(6)) };
    for (const role of ROLES) row[role] = showReading(this.meters.get(role) as Meter, role === "inputVoltage" && !plugged ? this.bench.supply.volts : truth[role], random);
    return row;
  }

  /** Which channels show their done light now. */
  lights(): readonly number[] {
    return this.simulation.landmarks.flatMap((l) => (l.kind === "channel-done" && l.channel !== undefined ? [l.channel] : []));
  }
}
