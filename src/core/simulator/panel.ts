import { openCircuit, type Chemistry } from "../cells";
import type { BenchSimulation, ModuleSettings, SimulatedQuantity } from "./module";
import { seeded } from "./random";

/** A small panel at full light: V open, A shorted, and the V by which its knee is round. */
export interface PanelModel {
  readonly open: number;
  readonly short: number;
  readonly knee: number;
}

/** A charger that lives on a panel. */
export interface SolarChargerModel {
  /** Switching: share of the panel's power that reaches the cell. Linear: the panel's current reaches the cell, whatever its volts. */
  readonly kind: "switching" | "linear";
  readonly efficiency: number;
  /** V that it holds the panel at; null where it lets the panel fall to what the cell needs. */
  readonly holds: number | null;
  /** A into the cell at most, and V it regulates to. */
  readonly current: number;
  readonly full: number;
  /** s that it waits after the light came back. */
  readonly restart: number;
}

export interface PanelBench {
  readonly panel: PanelModel;
  readonly charger: SolarChargerModel;
  readonly cell: { readonly chemistry: Chemistry; readonly capacity: number; readonly resistance: number };
  readonly soc: number;
  /** Clouds and flicker follow from it. */
  readonly seed: number;
  /** Clouds an hour; none for a lamp. */
  readonly clouds: number;
}

/** V that a linear charger needs above the cell. */
const DROP = 0.25;
/** A under which a panel gives too little to charge with. */
const LEAST = 0.008;
const STEP = 0.1;

/** Current of a panel at a share of full light, A: the short current less what its own junction takes; linear in the light. */
export function panelCurrent(p: PanelModel, light: number, volts: number): number {
  const dark = p.short / (Math.exp(p.open / p.knee) - 1);
  return Math.max(0, light * p.short - dark * (Math.exp(volts / p.knee) - 1));
}

/** V at which a panel gives nothing at that light. */
export const panelOpen = (p: PanelModel, light: number): number =>
  p.knee * Math.log(1 + light * (Math.exp(p.open / p.knee) - 1));

/** The most that a panel gives at that light, W, and the V where it does; by golden section. */
export function panelBest(p: PanelModel, light: number): { readonly watts: number; readonly volts: number } {
  let [a, b] = [0, panelOpen(p, light)];
  const g = (Math.sqrt(5) - 1) / 2;
  for (let k = 0; k < 60; k++) {
    const [c, d] = [b - g * (b - a), a + g * (b - a)];
    if (c * panelCurrent(p, light, c) > d * panelCurrent(p, light, d)) b = d;
    else a = c;
  }
  const volts = (a + b) / 2;
  return { volts, watts: volts * panelCurrent(p, light, volts) };
}

interface Cloud {
  readonly from: number;
  readonly edge: number;
  readonly seconds: number;
  readonly depth: number;
}

/** A panel under changing light, its charger and a cell, advanced in time. */
export class PanelSimulation implements BenchSimulation {
  private elapsed = 0;
  private soc: number;
  private settings: ModuleSettings | null = null;
  private runsFrom = 0;
  private running = true;
  private readonly clouds: readonly Cloud[];
  /** Instants at which the light was back after it had been too little, and at which it charged again. */
  readonly restarts: { readonly light: number; readonly charging: number }[] = [];

  constructor(readonly bench: PanelBench) {
    this.soc = bench.soc;
    const r = seeded(bench.seed ^ 0x51ab7);
    const clouds: Cloud[] = [];
    if (bench.clouds > 0)
      for (let t = 60 + r.between(0, 60); t < 6 * 3600; t += r.between(0.4, 1.6) * (3600 / bench.clouds))
        clouds.push({
          from: t,
          edge: r.between(2, 12),
          seconds: r.between(8, 70),
          depth: r.uniform() < 0.4 ? r.between(0.93, 0.985) : r.between(0.25, 0.8),
        });
    this.clouds = clouds;
  }
  get time(): number {
    return this.elapsed;
  }

  /** Share of full light now: slow drift, a trace of flicker, clouds with soft edges. */
  light(t = this.elapsed): number {
    let g = 0.92 + 0.06 * Math.sin(t / 1900 + (this.bench.seed % 7)) + 0.001 * Math.sin(t * 1.7);
    for (const c of this.clouds) {
      if (t < c.from || t > c.from + 2 * c.edge + c.seconds) continue;
      const into = Math.min(1, (t - c.from) / c.edge, (c.from + 2 * c.edge + c.seconds - t) / c.edge);
      g *= 1 - c.depth * into;
    }
    return g;
  }

  set(next: ModuleSettings): void {
    if (next.input && !this.settings?.input) this.runsFrom = this.elapsed + this.bench.charger.restart;
    this.settings = next;
  }

  advance(seconds: number): void {
    let left = seconds;
    while (left > 1e-9) {
      const h = Math.min(left, STEP);
      this.elapsed += h;
      const enough = this.possible() > LEAST;
      if (this.running && !enough) this.running = false;
      else if (!this.running && enough) {
        this.running = true;
        this.runsFrom = this.elapsed + this.bench.charger.restart;
        this.restarts.push({ light: this.elapsed, charging: this.runsFrom });
      }
      this.soc += (this.flow().cell * h) / 3600 / this.bench.cell.capacity;
      left -= h;
    }
  }

  private holdsAt(emf: number): number {
    const { charger } = this.bench;
    const least = emf + DROP;
    return charger.holds === null ? least : Math.max(charger.holds, least);
  }
  /** A that the panel gives at the volts that it would be held at. */
  private possible(): number {
    return panelCurrent(this.bench.panel, this.light(), this.holdsAt(openCircuit(this.bench.cell.chemistry, this.soc)));
  }

  private flow(): {
    readonly panelVolts: number;
    readonly panel: number;
    readonly cell: number;
    readonly cellVolts: number;
  } {
    const { panel, charger, cell } = this.bench;
    const emf = openCircuit(cell.chemistry, this.soc);
    const light = this.light();
    const idle = { panelVolts: panelOpen(panel, light), panel: 0, cell: 0, cellVolts: emf };
    if (!this.settings?.input) return { ...idle, panelVolts: 0 };
    if (!this.running || this.elapsed < this.runsFrom) return idle;
    const volts = this.holdsAt(emf);
    const most = Math.min(charger.current, Math.max(0, (charger.full - emf) / cell.resistance));
    const into = (v: number): number => {
      const amps = panelCurrent(panel, light, v);
      if (charger.kind === "linear") return amps;
      const watts = charger.efficiency * v * amps;
      // V·I into e.m.f. and resistance.
      return (-emf + Math.sqrt(emf * emf + 4 * cell.resistance * watts)) / (2 * cell.resistance);
    };
    let at = volts;
    if (into(volts) > most) {
      // More light than it can use: the panel is let rise until it gives just that.
      let [low, high] = [volts, panelOpen(panel, light)];
      for (let k = 0; k < 40; k++) {
        const middle = (low + high) / 2;
        if (into(middle) > most) low = middle;
        else high = middle;
      }
      at = high;
    }
    const amps = into(at);
    return {
      panelVolts: at,
      panel: panelCurrent(panel, light, at),
      cell: amps,
      cellVolts: emf + cell.resistance * amps,
    };
  }

  read(): Readonly<Partial<Record<SimulatedQuantity, number>>> {
    const f = this.flow();
    return { inputVoltage: f.panelVolts, inputCurrent: f.panel, cellVoltage: f.cellVolts, cellCurrent: f.cell };
  }
  /** True cell power ÷ panel power as it stands; NaN where nothing flows. */
  efficiency(): number {
    const f = this.flow();
    return (f.cellVolts * f.cell) / (f.panelVolts * f.panel);
  }
}
