import { ELEMENTS, highest, lowest } from "../quantities";
import { openCircuit, type Chemistry } from "../cells";
import { agedCapacity, agedResistance, type CellModel } from "./cell";
import type { BenchSimulation, ModuleSettings, SimulatedQuantity } from "./module";

const { nth } = ELEMENTS;

/** A cell on a load or a charger: its e.m.f., its resistance and two relaxations. */
export class CellState {
  private u1 = 0;
  private u2 = 0;
  private readonly capacity: number;
  private readonly ohms: number;
  constructor(
    readonly model: CellModel,
    public soc: number,
  ) {
    this.capacity = agedCapacity(model) * 3600;
    this.ohms = agedResistance(model);
  }
  /** Terminal volts with `amps` flowing in. */
  volts(amps: number): number {
    return openCircuit(this.model.chemistry, this.soc) + this.u1 + this.u2 + this.ohms * amps;
  }
  advance(amps: number, h: number): void {
    const [a, b] = this.model.relaxations;
    const [ka, kb] = [Math.exp(-h / a.tau), Math.exp(-h / b.tau)];
    this.u1 = this.u1 * ka + amps * a.ohms * (1 - ka);
    this.u2 = this.u2 * kb + amps * b.ohms * (1 - kb);
    this.soc += (amps * h) / this.capacity;
  }
  get resistance(): number {
    return this.ohms;
  }
}

/** One cell between a charger's terminals and a load: for discharges. */
export class CellSimulation implements BenchSimulation {
  readonly cell: CellState;
  private load = 0;
  constructor(model: CellModel, soc: number) {
    this.cell = new CellState(model, soc);
  }
  set(next: ModuleSettings): void {
    this.load = next.load;
  }
  advance(seconds: number): void {
    for (let left = seconds; left > 1e-9;) {
      const h = Math.min(left, 2);
      this.cell.advance(-this.load, h);
      left -= h;
    }
  }
  read(): Readonly<Partial<Record<SimulatedQuantity, number>>> {
    return { batteryVoltage: this.cell.volts(-this.load), batteryCurrent: this.load };
  }
}

/** A protection and balancing board over cells in series. Every number is made up. */
export interface PackBoard {
  /** V of the highest cell at which charging is cut and allowed again, of the lowest at which discharging is cut; s to notice. */
  readonly cut: number;
  readonly release: number;
  readonly lowCut: number;
  readonly delay: number;
  /** A bled from a cell above a voltage; null without a balancer. */
  /** What brings it back after the low cut. */
  readonly wakes?: "by itself" | "by a charger" | "never";
  readonly balancer: { readonly above: number; readonly amps: number } | null;
}

export interface PackBench {
  readonly board: PackBoard;
  readonly chemistry: Chemistry;
  readonly cells: readonly { readonly model: CellModel; readonly soc: number }[];
  /** The charger: A, and V that it regulates the pack to. */
  readonly charger: {
    readonly current: number;
    readonly volts: number;
    /** Ω of a resistor that limits it. */ readonly ohms?: number;
  };
}

/** s between looks near a threshold and far from any. */
const STEP = 1;
const FAR = 5;
/** Share of the charger's current at which it ends. */
const END = 0.06;

/** Cells in series, their board, a charger and a load, advanced in time. */
export class PackSimulation implements BenchSimulation {
  readonly cells: readonly CellState[];
  private settings: ModuleSettings | null = null;
  private elapsed = 0;
  private charging = true;
  private discharging = true;
  private ended = false;
  private over = 0;
  private under = 0;
  /** What truly happened, in its order. */
  readonly landmarks: {
    readonly kind: "cut" | "release" | "low-cut" | "ended";
    readonly time: number;
    readonly volts: readonly number[];
    readonly soc: readonly number[];
    readonly amps: number;
  }[] = [];

  constructor(readonly bench: PackBench) {
    this.cells = bench.cells.map((c) => new CellState(c.model, c.soc));
  }
  set(next: ModuleSettings): void {
    if (next.input && !this.settings?.input) this.ended = false;
    this.settings = next;
    if (next.load === 0) this.under = 0;
  }

  /** A through the pack now. */
  private flow(): number {
    const s = this.settings;
    if (s?.input && this.charging && !this.ended) {
      const { charger } = this.bench;
      const rest = this.cells.reduce((v, c) => v + c.volts(0), 0);
      const ohms = this.cells.reduce((r, c) => r + c.resistance, charger.ohms ?? 0);
      return Math.max(0, Math.min(charger.current, (charger.volts - rest) / ohms));
    }
    return s && s.load > 0 && this.discharging ? -s.load : 0;
  }
  /** Whether a threshold may be crossed within some seconds. */
  private near(volts: readonly number[]): boolean {
    const { board } = this.bench;
    return volts.some(
      (v) => v > board.cut - 0.02 || v < board.lowCut + 0.15 || (!this.charging && v < board.release + 0.02),
    );
  }
  private bleed(volts: number): number {
    const b = this.bench.board.balancer;
    return b && volts > b.above ? b.amps : 0;
  }

  advance(seconds: number): void {
    const { board, charger } = this.bench;
    for (let left = seconds; left > 1e-9;) {
      const amps = this.flow();
      const volts = this.cells.map((c) => c.volts(amps));
      const h = Math.min(left, this.near(volts) ? STEP : FAR);
      this.cells.forEach((c, k) => c.advance(amps - this.bleed(nth(volts, k)), h));
      this.elapsed += h;
      left -= h;
      const note = (kind: PackSimulation["landmarks"][number]["kind"]) =>
        this.landmarks.push({
          kind,
          time: this.elapsed,
          volts: this.cells.map((c) => c.volts(amps)),
          soc: this.cells.map((c) => c.soc),
          amps,
        });
      const [top, low] = [highest(volts), lowest(volts)];
      this.over = amps > 0 && top > board.cut ? this.over + h : 0;
      if (this.charging && this.over >= board.delay && this.over > 0) {
        note("cut");
        this.charging = false;
      } else if (!this.charging && top < board.release) {
        this.charging = true;
        if (this.settings?.input) note("release");
      }
      if (amps > 0 && amps < END * charger.current) {
        note("ended");
        this.ended = true;
      }
      this.under = amps < 0 && low < board.lowCut ? this.under + h : 0;
      if (this.discharging && this.under >= board.delay && this.under > 0) {
        note("low-cut");
        this.discharging = false;
      } else if (
        !this.discharging &&
        (board.wakes ?? "by a charger") !== "never" &&
        (this.settings?.input || (board.wakes === "by itself" && low > board.lowCut + 0.02))
      )
        this.discharging = true;
    }
  }

  read(): Readonly<Partial<Record<SimulatedQuantity, number>>> {
    const amps = this.flow();
    return {
      cellCurrent: amps,
      ...Object.fromEntries(this.cells.map((c, k) => [`cell${k + 1}Voltage`, c.volts(amps)])),
    };
  }
}
