import { CHARGE_METERS } from "../bench/charge-meters";
import type { Role, Trace } from "../measurement";
import {
  ChargeSimulation,
  drawMeter,
  seeded,
  showReading,
  type ChargeBench,
  type ChargeReading,
  type Meter,
} from "../simulator";

export interface ChargeLogOptions {
  /** s between samples; each comes up to a fifth early or late, as loggers do. */
  readonly every: number;
  readonly seed: number;
  /** s logged before the input is plugged in, and after the charge stopped. */
  readonly before: number;
  /** The input's meter sits behind the plug: it reads nothing before that. */
  readonly unpluggedBefore?: boolean;
  readonly after: number;
  /** A drawn from the cell by something else once the charge stopped. */
  readonly drainAfter?: number;
  /** In the order of their moments. */
  readonly disturbances?: readonly Disturbance[];
  /** Longest log, s. */
  readonly most: number;
}

/** What somebody does to a charge, or what happens to it, at a moment of its log, s. */
export interface Disturbance {
  readonly at: number;
  readonly what: "unplug" | "plug" | "cell-out" | "cell-in";
}

/** Does it to the simulated bench. */
export function disturb(simulation: ChargeSimulation, what: Disturbance["what"]): void {
  if (what === "plug" || what === "unplug") simulation.plug(what === "plug");
  else simulation.insert(what === "cell-in");
}

export interface ChargeLog {
  readonly trace: Trace;
  readonly simulation: ChargeSimulation;
}

/** A charge on the simulated bench as a logger would write it: uneven samples, each meter with its own errors and steps. */
export function logCharge(bench: ChargeBench, options: ChargeLogOptions): ChargeLog {
  const simulation = new ChargeSimulation(bench);
  const random = seeded(options.seed);
  const roles = Object.keys(CHARGE_METERS) as (keyof ChargeReading)[];
  const meters = new Map<Role, Meter>(roles.map((role) => [role, drawMeter(CHARGE_METERS[role], random)]));
  const time: number[] = [];
  const columns = new Map<Role, number[]>(roles.map((role) => [role, []]));
  const ahead = [...(options.disturbances ?? [])];
  let end = Infinity;
  for (let at = 0; at <= Math.min(end, options.most); at += options.every * random.between(0.8, 1.2)) {
    if (at >= options.before && simulation.time < options.before) {
      simulation.advance(options.before - simulation.time);
      simulation.plug(true);
    }
    for (let next = ahead[0]; next && next.at <= at; next = ahead[0]) {
      simulation.advance(next.at - simulation.time);
      disturb(simulation, next.what);
      ahead.shift();
    }
    simulation.advance(at - simulation.time);
    if (simulation.stopped && end === Infinity) {
      end = at + options.after;
      simulation.setDrain(options.drainAfter ?? 0);
    }
    const truth = simulation.read();
    time.push(Number(at.toFixed(1)));
    for (const role of roles)
      columns
        .get(role)
        ?.push(
          showReading(
            meters.get(role) as Meter,
            role === "inputVoltage" && at < options.before && !options.unpluggedBefore
              ? bench.supply.volts
              : truth[role],
            random,
          ),
        );
  }
  return {
    simulation,
    trace: {
      columns: Object.fromEntries([
        ["time", Float64Array.from(time)],
        ...[...columns].map(([role, v]) => [role, Float64Array.from(v)]),
      ]),
      events: [],
    },
  };
}
