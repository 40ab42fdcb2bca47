import { highest } from "../quantities";
import {
  NO_CORRECTIONS,
  type Corrections,
  type Point,
  type RoleReading,
  type Recovery,
  type Role,
  type RunSetup,
} from "../measurement";
import type { PointsProcedure } from "../procedures";
import { BENCH_METERS, type VirtualBench } from "../simulator";

export interface Rehearsal {
  readonly points: readonly Point[];
  readonly recoveries: ReadonlyMap<string, Recovery>;
}

export interface RehearsalOptions {
  /** Stops after so many points, for a run that is half way. */
  readonly most?: number;
  /** Seconds that each setting stands before its point is taken. */
  readonly dwell: number;
  readonly id: (sequence: number) => string;
}

/** Applies a proposal's settings to the bench. */
export function applySettings(bench: VirtualBench, settings: Point["settings"]): void {
  bench.setReversed(settings.reversed?.ohms ?? null);
  const load = () => settings.load && bench.setLoad({ load: settings.load, on: settings.load.value > 0 });
  if (settings.fromOff) {
    bench.setSupply({ on: false });
    load();
    bench.advance(0.5);
  }
  bench.setSupply({
    ...(settings.supplyVoltage !== undefined ? { volts: settings.supplyVoltage } : {}),
    ...(settings.supplyCurrentLimit !== undefined ? { limit: settings.supplyCurrentLimit } : {}),
    on: true,
  });
  load();
}

/** Reads every meter of the bench as the cells of a point. */
export function readBench(bench: VirtualBench): Partial<Record<Role, RoleReading>> {
  const cells: Partial<Record<Role, RoleReading>> = {};
  for (const role of BENCH_METERS) cells[role] = { value: bench.measure(role), status: "ok" };
  return cells;
}

/**
 * Unloads after a collapse and says what brought the output back: by itself once unloaded, only after load removal
 * (when it had switched off), after power cycling, or nothing.
 */
export function recover(bench: VirtualBench, nominal: number, switchedOff: boolean): Recovery {
  const back = () => bench.truth().outputVoltage > 0.9 * nominal;
  if (switchedOff) {
    // A board that comes back with the load still on needs nothing; one that can't, needs the load off.
    bench.advance(2);
    if (back()) return "automatic";
  }
  bench.setLoad({ load: { mode: "current", value: 0 } });
  bench.advance(2);
  if (back()) return switchedOff ? "load-removal" : "automatic";
  bench.setSupply({ on: false });
  bench.advance(1);
  bench.setSupply({ on: true });
  bench.advance(2);
  return back() ? "power-cycle" : "none";
}

/** Runs a procedure of points on the bench at full speed, following its own proposals to the end. */
export function rehearse(
  procedure: PointsProcedure,
  setup: RunSetup,
  bench: VirtualBench,
  options: RehearsalOptions,
): Rehearsal {
  if (!procedure.next) throw new Error(`internal: ${procedure.id} proposes no points`);
  const points: Point[] = [];
  const recoveries = new Map<string, Recovery>();
  const corrections: Corrections = { ...NO_CORRECTIONS, recoveries };
  for (let guard = 0; guard < 1000; guard++) {
    if (options.most !== undefined && points.length >= options.most) break;
    const step = procedure.next(setup, points, corrections);
    if (step.kind === "done") break;
    if (step.kind === "restart") {
      const last = points[points.length - 1] as Point;
      recoveries.set(
        last.id,
        recover(
          bench,
          setup.conditions.nominalOutput ?? highest(points.map((p) => p.cells.outputVoltage?.value ?? 0)),
          (last.cells.outputVoltage?.value ?? 0) < 0.5,
        ),
      );
      continue;
    }
    applySettings(bench, step.settings);
    bench.advance(options.dwell);
    points.push({
      id: options.id(points.length),
      sequence: points.length,
      settings: step.settings,
      cells: readBench(bench),
      dwell: options.dwell,
    });
  }
  return { points, recoveries };
}
