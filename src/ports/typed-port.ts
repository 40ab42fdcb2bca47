import type { PointSettings, RoleReading, Role } from "@/core/measurement";
import type { InstrumentPort, PortAbilities, PortReading } from "./port";

/** Readings that a person types: what was entered is what is read. Time is the wall clock handed in. */
export class TypedPort implements InstrumentPort {
  readonly abilities: PortAbilities;
  private cells: Partial<Record<Role, RoleReading>> = {};

  constructor(
    roles: readonly Role[],
    private readonly clock: () => number,
  ) {
    this.abilities = { title: "Readings typed by hand", sets: false, reads: roles, limits: {} };
  }

  enter(role: Role, cell: RoleReading): void {
    this.cells = { ...this.cells, [role]: cell };
  }

  clear(): void {
    this.cells = {};
  }

  apply(settings: PointSettings): Promise<void> {
    void settings;
    return Promise.resolve();
  }
  read(): Promise<PortReading> {
    return Promise.resolve({ cells: this.cells, time: this.clock() });
  }
  safe(): Promise<void> {
    return Promise.resolve();
  }
  powerCycle(): Promise<void> {
    return Promise.resolve();
  }
  close(): void {
    this.clear();
  }
}
