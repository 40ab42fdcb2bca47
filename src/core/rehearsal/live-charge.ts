import type { LogRow, Role, TraceEvent } from "../measurement";
import {
  ChargeSimulation,
  drawMeter,
  seeded,
  showReading,
  type ChargeBench,
  type ChargeReading,
  type Meter,
} from "../simulator";
import { CHARGE_METERS } from "../bench/charge-meters";
import { disturb, type Disturbance } from "./charge-log";

/** From the first sample until the input is plugged in: s, and samples, whichever is later. */
const PLUG_AFTER = { seconds: 5, samples: 5 };
const ROLES = Object.keys(CHARGE_METERS) as (keyof ChargeReading)[];

/** s that a loose plug is out. */
const LOOSE = 6;
/** What can be done to the simulated bench while it charges, by name, and what it is called. */
export const ACTS: Readonly<
  Record<
    string,
    { readonly says: string; readonly steps: readonly { readonly what: Disturbance["what"]; readonly after: number }[] }
  >
> = {
  unplug: { says: "simulated bench: plug pulled", steps: [{ what: "unplug", after: 0 }] },
  plug: { says: "simulated bench: plugged in", steps: [{ what: "plug", after: 0 }] },
  loose: {
    says: `simulated bench: plug loose for ${LOOSE} s`,
    steps: [
      { what: "unplug", after: 0 },
      { what: "plug", after: LOOSE },
    ],
  },
  "cell-out": { says: "simulated bench: cell removed", steps: [{ what: "cell-out", after: 0 }] },
  "cell-in": { says: "simulated bench: cell put back", steps: [{ what: "cell-in", after: 0 }] },
};

/**
 * A charge on the simulated bench as a logger sees it, sample by sample: number k stands at k × `every` s. What it reads
 * follows from bench, seed and number alone, whichever samples were looked at before.
 */
export class LiveCharge {
  private readonly simulation: ChargeSimulation;
  private readonly meters: ReadonlyMap<Role, Meter>;
  private readonly plugAt: number;
  private at = -1;
  /** What is done to the bench, in the order of its moments, s; `undone` has not happened yet. */
  private undone: Disturbance[] = [];

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

  /** Does something to the bench from its moment `at` on, s: unplug, plug, loose, cell-out, cell-in. Gives what is to be marked; null for what it does not know. */
  disturb(what: string, at: number): TraceEvent | null {
    const act = ACTS[what];
    if (!act) return null;
    this.undone = [...this.undone, ...act.steps.map((s) => ({ what: s.what, at: at + s.after }))].sort(
      (a, b) => a.at - b.at,
    );
    return { time: at, what: act.says, kind: `bench:${what}` };
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
      for (let next = this.undone[0]; next && next.at <= time; next = this.undone[0]) {
        this.simulation.advance(Math.max(0, next.at - this.simulation.time));
        disturb(this.simulation, next.what);
        this.undone.shift();
      }
      this.simulation.advance(time - this.simulation.time);
    }
    const truth = this.simulation.read();
    const random = seeded((this.seed ^ Math.imul(k + 1, 0x9e3779b1)) >>> 0);
    const plugged = this.at * this.every >= this.plugAt;
    const row: { time: number } & Partial<Record<Role, number>> = { time: Number((k * this.every).toFixed(6)) };
    for (const role of ROLES)
      row[role] = showReading(
        this.meters.get(role) as Meter,
        role === "inputVoltage" && !plugged ? this.bench.supply.volts : truth[role],
        random,
      );
    return row;
  }

  /** Which channels show their done light now. */
  lights(): readonly number[] {
    return this.simulation.landmarks.flatMap((l) =>
      l.kind === "channel-done" && l.channel !== undefined ? [l.channel] : [],
    );
  }
}
