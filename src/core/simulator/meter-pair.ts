import type { BenchSimulation, ModuleSettings, SimulatedQuantity } from "./module";

/** A meter under check beside one that is trusted, on one point through which a current flows. */
export interface MeterPairBench {
  /** V of the point with no current, and Ω of what feeds it. */
  readonly volts: number;
  readonly source: number;
  /** Ω of leads and contacts between the point and the meter under check; its sign says on which side it sits. */
  readonly leads: number;
  /** What the meter under check adds of its own: V and share. */
  readonly offset: number;
  readonly gain: number;
  /** The role that it reads. */
  readonly checks:
    "outputVoltage" | "batteryVoltage" | "inputVoltage" | "cellVoltage" | "outputCurrent" | "batteryCurrent";
}

const CURRENTS = {
  outputVoltage: "outputCurrent",
  batteryVoltage: "batteryCurrent",
  inputVoltage: "inputCurrent",
  cellVoltage: "cellCurrent",
  outputCurrent: "outputCurrent",
  batteryCurrent: "batteryCurrent",
} as const;

/** Two meters on one point; the current is what the bench's load is set to. */
export class MeterPairSimulation implements BenchSimulation {
  private load = 0;
  constructor(readonly bench: MeterPairBench) {}

  set(next: ModuleSettings): void {
    this.load = next.load;
  }
  advance(): void {
    // Nothing changes but by what is set.
  }
  read(): Readonly<Partial<Record<SimulatedQuantity, number>>> {
    const { volts, source, leads, offset, gain, checks } = this.bench;
    const point = volts - source * this.load;
    const amps = CURRENTS[checks];
    if (checks === "outputCurrent" || checks === "batteryCurrent")
      return { [amps]: this.load * (1 + gain) + offset, referenceCurrent: this.load };
    return { [amps]: this.load, referenceVoltage: point, [checks]: (point - leads * this.load) * (1 + gain) + offset };
  }
}

/** Invented pairs of meters. Every number is made up. */
export const SIMULATED_METERS = {
  "four-wire": { title: "Leads at the terminals, a good meter", leads: 0.004, offset: 0.001, gain: 0.0002 },
  "two-wire-display": { title: "The load's own two-wire display", leads: 0.148, offset: -0.004, gain: 0.0005 },
  "worn-clip": { title: "A worn clip in the plus lead", leads: 0.061, offset: 0.001, gain: 0 },
} as const satisfies Record<string, { title: string; leads: number; offset: number; gain: number }>;
export type SimulatedMetersId = keyof typeof SIMULATED_METERS;
