import type { PointSettings } from "@/core/measurement";
import { PortError, type InstrumentPort, type PortAbilities, type PortReading } from "./port";

/** ms that a bench has for an answer. */
export const PATIENCE = 1800;

export const SILENT = "The bench has stopped answering: the values shown are old. It was told to switch off.";
export const UNCONFIRMED = "The bench doesn't confirm that it is off. Switch the supply off by hand.";

/** A port whose every call is answered within `patience` ms, or fails in words; one reading is under way at a time. */
export class GuardedPort implements InstrumentPort {
  readonly abilities: PortAbilities;
  readonly pace?: (factor: number) => Promise<void>;
  private reading: Promise<PortReading> | null = null;

  constructor(
    readonly inner: InstrumentPort,
    private readonly patience = PATIENCE,
  ) {
    this.abilities = inner.abilities;
    if (inner.pace) this.pace = (factor) => this.within(inner.pace?.(factor) ?? Promise.resolve());
  }

  apply(settings: PointSettings): Promise<void> {
    return this.within(this.inner.apply(settings));
  }

  /** A second call while one is under way waits for that one. */
  read(): Promise<PortReading> {
    this.reading ??= this.inner.read().finally(() => {
      this.reading = null;
    });
    return this.within(this.reading);
  }

  safe(): Promise<void> {
    return this.within(this.inner.safe());
  }

  powerCycle(): Promise<void> {
    // Off and on again takes a second of the bench's own time.
    return this.within(this.inner.powerCycle(), 5 * this.patience);
  }

  close(): void {
    this.inner.close();
  }

  private within<T>(work: Promise<T>, patience = this.patience): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const timer = setTimeout(() => reject(new PortError("The bench doesn't answer.")), patience);
      work.then(resolve, reject).finally(() => clearTimeout(timer));
    });
  }
}
