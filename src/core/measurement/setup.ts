import type { Chemistry } from "../cells";
import type { Accuracy, PinnedMeter } from "../instruments";
import type { RunConditions } from "./run-conditions";
import type { Role } from "./roles";

/** What a run pins of its bench. */
export interface RunSetup<P = unknown> {
  readonly conditions: RunConditions;
  readonly instruments: Readonly<Partial<Record<Role, Accuracy>>>;
  /** Which meter and range that was, where the rig says it. */
  readonly meters?: Readonly<Partial<Record<Role, PinnedMeter>>>;
  /** What a meter check found meters of this bench to read too much: taken out of the readings before anything is found in them. */
  readonly offsets?: Readonly<Partial<Record<Role, number>>>;
  /** What the procedure itself needs; absent for an imported log. */
  readonly plan?: P;
}

/** A cell as a run pins it. */
export interface PlannedCell {
  /** Its record in the drawer. */
  readonly id?: string;
  readonly title: string;
  readonly chemistry: Chemistry;
  /** Cells in series, for a pack; its volts below are those of one cell. */
  readonly series?: number;
  /** Ah. */
  readonly capacity: number;
  /** Multiples of the capacity an hour: what its maker allows, and what the house or this cell's own rule says. */
  readonly chargeRateLimit: number;
  readonly chargeRate: number;
  /** V. */
  readonly fullVoltage: number;
  readonly emptyVoltage: number;
  readonly ownProtection: boolean;
}

/** A set-up for a sample as it stands: its jumpers and programming resistor in words, the setting of its output in V. Every result of the run carries them. */
export const ofSample = <P>(
  setup: RunSetup<P>,
  sample: { readonly configuration?: string; readonly output?: number },
): RunSetup<P> => ({
  ...setup,
  conditions: {
    ...setup.conditions,
    ...(sample.configuration ? { configuration: sample.configuration } : {}),
    ...(sample.output ? { output: sample.output } : {}),
  },
});
