import type { PointSettings, RoleReading, Role } from "@/core/measurement";

/** Which quantities a bench can set and read, and how far. */
export interface PortAbilities {
  readonly title: string;
  /** False where a person turns the knobs: settings are then asked for, not made. */
  readonly sets: boolean;
  readonly reads: readonly Role[];
  readonly limits: { readonly supplyVoltage?: number; readonly supplyCurrent?: number; readonly loadCurrent?: number };
}

export interface PortReading {
  readonly cells: Readonly<Partial<Record<Role, RoleReading>>>;
  /** s on the bench's own clock, monotonic. */
  readonly time: number;
}

/**
 * What brings readings in. The simulated bench, readings typed by hand and, later, instruments on a serial line all
 * look like this; nothing above the port knows which one it is.
 */
export interface InstrumentPort {
  readonly abilities: PortAbilities;
  /** Makes the settings (or notes them, where a person makes them). Rejects with a PortError in words. */
  apply(settings: PointSettings): Promise<void>;
  read(): Promise<PortReading>;
  /** Load off, then supply off: the safe state. */
  safe(): Promise<void>;
  /** Switches the supply off for a second of bench time and on again. */
  powerCycle(): Promise<void>;
  /** A bench whose clock can be hurried has this; factor 1 is real time. */
  readonly pace?: (factor: number) => Promise<void>;
  close(): void;
}

export class PortError extends Error {
  override readonly name = "PortError";
}
