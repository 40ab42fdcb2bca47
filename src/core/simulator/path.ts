import { openCircuit, type Chemistry } from "../cells";
import type { BenchSimulation, ModuleSettings, SimulatedQuantity } from "./module";

/** What the output does when the input comes or goes: it falls, stays down, recovers, and may swing over. */
export interface Transient {
  /** V below what it settles at, s that it stays there, s of the recovery. */
  readonly dip: number;
  readonly hold: number;
  readonly tau: number;
  /** V above what it settles at once it has recovered, and s of its decay. */
  readonly overshoot: number;
  readonly ring: number;
}

/** A module between input, cell and load. Every number is made up. */
export interface PathModel {
  /** With the input there, the output hangs on it through a switch, or stays on the boosted cell. */
  readonly feeds: "input" | "cell";
  /** From the cell: V with no load, Ω, and the share of the cell's power that comes out. */
  readonly boost: { readonly volts: number; readonly ohms: number; readonly efficiency: number };
  /** Ω of the switch from the input. */
  readonly passOhms: number;
  readonly plugged: Transient;
  readonly unplugged: Transient;
  /** A, V, A at which it ends; A that the input may carry in all before charging is cut back, null where nothing looks after it. */
  readonly charger: {
    readonly current: number;
    readonly full: number;
    readonly end: number;
    readonly inputLimit: number | null;
  };
}

export interface PathBench {
  readonly module: PathModel;
  /** The input's supply: V, A that it gives at most, Ω of its cable there and back. */
  readonly supply: { readonly volts: number; readonly limit: number; readonly cable: number };
  readonly cell: { readonly chemistry: Chemistry; readonly capacity: number; readonly resistance: number };
  readonly soc: number;
}

interface Flow {
  readonly input: number;
  readonly inputVolts: number;
  readonly cell: number;
  readonly cellVolts: number;
  readonly output: number;
  /** What the charger itself pushes out. */
  readonly charger: number;
  readonly held: boolean;
}

/** s between looks while nothing moves. */
const STEP = 5;
/** V under full at which charging begins again. */
const AGAIN = 0.15;

/** The share of a transient's dip and overshoot that stands `t` s after its event. */
export function transientAt(x: Transient, t: number): number {
  if (t < 0) return 0;
  const fall = t < x.hold ? 1 : Math.exp(-(t - x.hold) / x.tau);
  const from = x.hold + 4 * x.tau;
  const over = x.overshoot === 0 || t < from ? 0 : Math.exp(-(t - from) / x.ring);
  return x.overshoot * over - x.dip * fall;
}

/** Input, cell and load on one module, advanced in time; hand-overs are drawn by their transients, everything else stands in its steady state. */
export class PathSimulation implements BenchSimulation {
  private settings: ModuleSettings | null = null;
  private soc: number;
  private elapsed = 0;
  private event: { readonly at: number; readonly shape: Transient } | null = null;
  private ended = false;

  constructor(readonly bench: PathBench) {
    this.soc = bench.soc;
  }
  get time(): number {
    return this.elapsed;
  }
  /** Whether the charger has ended its charge. */
  get finished(): boolean {
    return this.ended;
  }

  set(next: ModuleSettings): void {
    const was = this.settings;
    this.settings = next;
    if (was && next.input !== was.input) {
      this.event = { at: this.elapsed, shape: next.input ? this.bench.module.plugged : this.bench.module.unplugged };
      this.ended = false;
    }
  }

  advance(seconds: number): void {
    let left = seconds;
    while (left > 1e-12) {
      const h = Math.min(left, STEP);
      const flow = this.flow();
      this.soc += (flow.cell * h) / 3600 / this.bench.cell.capacity;
      this.elapsed += h;
      const { charger } = this.bench.module;
      if (this.settings?.input && !this.ended && flow.held && flow.charger < charger.end) this.ended = true;
      else if (this.ended && flow.cellVolts < charger.full - AGAIN) this.ended = false;
      left -= h;
    }
  }

  /** Currents and volts as they stand, the hand-over's transient left out. */
  private flow(): Flow {
    const { module, supply, cell } = this.bench;
    const s = this.settings;
    const emf = openCircuit(cell.chemistry, this.soc);
    const load = s?.load ?? 0;
    const plugged = s?.input ?? false;
    const fromInput = plugged && module.feeds === "input";
    const boosted = module.boost.volts - module.boost.ohms * load;
    // What the boost takes from the cell, its volts sagging by it.
    let drawn = 0;
    if (!fromInput && load > 0)
      for (let k = 0; k < 8; k++)
        drawn = (boosted * load) / (module.boost.efficiency * Math.max(0.5, emf - cell.resistance * drawn));
    let charger = 0;
    let held = false;
    if (plugged && !this.ended) {
      const loop = drawn + Math.max(0, (module.charger.full - emf) / cell.resistance);
      const spare = (limit: number) => Math.max(0, limit - (fromInput ? load : 0));
      const room = Math.min(
        module.charger.inputLimit === null ? Infinity : spare(module.charger.inputLimit),
        spare(supply.limit),
      );
      charger = Math.min(module.charger.current, loop, room);
      held = loop <= Math.min(module.charger.current, room);
    }
    const input = plugged ? charger + (fromInput ? load : 0) : 0;
    const inputVolts = plugged ? supply.volts - supply.cable * input : 0;
    const net = charger - drawn;
    return {
      input,
      inputVolts,
      cell: net,
      cellVolts: emf + cell.resistance * net,
      output: fromInput ? inputVolts - module.passOhms * load : boosted,
      charger,
      held,
    };
  }

  read(): Readonly<Partial<Record<SimulatedQuantity, number>>> {
    const flow = this.flow();
    const swing =
      this.event && (this.settings?.load ?? 0) > 0 ? transientAt(this.event.shape, this.elapsed - this.event.at) : 0;
    return {
      inputVoltage: flow.inputVolts,
      inputCurrent: flow.input,
      cellVoltage: flow.cellVolts,
      cellCurrent: flow.cell,
      outputVoltage: Math.max(0, flow.output + swing),
      outputCurrent: this.settings?.load ?? 0,
    };
  }
}
