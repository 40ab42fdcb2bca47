import { useMemo, useState } from "react";
import { CHEMISTRY_LIMITS } from "@/core/cells";
import { USUAL_RESISTANCE, USUAL_SELF_DISCHARGE, type UseCell } from "@/core/use";
import type { Drawer, DrawerCell } from "@/storage";

/** What was changed by hand; what was not follows the cell. */
interface Typed {
  readonly parallel: number;
  readonly capacity: number | null;
  readonly resistance: number | null;
  readonly floor: number | null;
  readonly socHigh: number | null;
  readonly socLow: number | null;
}
const NOTHING: Typed = { parallel: 1, capacity: null, resistance: null, floor: null, socHigh: null, socLow: null };

/** Where a number of the battery comes from. */
export type Origin = "measured" | "rated" | "assumed" | "typed";

export interface ChosenBattery {
  readonly cell: UseCell;
  readonly from: { readonly capacity: Origin; readonly resistance: Origin };
}

const lithium = (c: DrawerCell | undefined): boolean => (c?.cell.chemistry ?? "lithium-ion") === "lithium-ion";

/** The cell of the drawer as a battery; measured values before rated ones, typed ones before both. */
function batteryFrom(c: DrawerCell | undefined, typed: Typed, rules: Drawer["rules"]): ChosenBattery {
  const limits = CHEMISTRY_LIMITS[c?.cell.chemistry ?? "lithium-ion"];
  const measured = typed.capacity === null ? c?.capacity : null;
  const ohms = typed.resistance === null ? c?.resistance : null;
  return {
    cell: {
      title: c?.cell.title ?? "Any cell",
      chemistry: c?.cell.chemistry ?? "lithium-ion",
      ownProtection: c?.cell.ownProtection ?? false,
      parallel: typed.parallel,
      capacity: typed.capacity ?? c?.capacity?.value ?? c?.cell.capacity ?? 2.2,
      capacityU: measured?.u ?? 0,
      resistance: typed.resistance ?? c?.resistance?.value ?? USUAL_RESISTANCE,
      resistanceU: ohms?.u ?? 0,
      floor: typed.floor ?? c?.cell.emptyVoltage ?? (lithium(c) ? rules.chargeEmpty : limits.empty),
      selfDischarge: USUAL_SELF_DISCHARGE,
      window: { high: typed.socHigh ?? rules.socHigh, low: typed.socLow ?? rules.socLow },
    },
    from: {
      capacity: typed.capacity !== null ? "typed" : c?.capacity ? "measured" : c ? "rated" : "assumed",
      resistance: typed.resistance !== null ? "typed" : c?.resistance ? "measured" : "assumed",
    },
  };
}

/** Single cells that may be used, those with a measured capacity first, of these the largest; what is part of a pack is not at hand. */
const usableCells = (d: Drawer): DrawerCell[] =>
  d.cells.filter((c) => !c.cell.rejected && (c.cell.series ?? 1) === 1 && c.pack === null).sort((a, b) => Number(b.capacity !== null) - Number(a.capacity !== null) || (b.capacity?.value ?? 0) - (a.capacity?.value ?? 0));

/** The battery that a use is worked out for. */
export function useBattery(d: Drawer) {
  const cells = usableCells(d);
  const [chosen, setChosen] = useState<string | null>(null);
  const [typed, setTyped] = useState<Typed>(NOTHING);
  const cell = cells.find((c) => c.cell.id === chosen) ?? (chosen === "" ? undefined : cells[0]);
  return {
    cells,
    id: cell?.cell.id ?? "",
    typed,
    choose: (id: string) => {
      setChosen(id);
      setTyped({ ...NOTHING, parallel: typed.parallel });
    },
    type: (patch: Partial<Typed>) => setTyped((t) => ({ ...t, ...patch })),
    battery: useMemo(() => batteryFrom(cell, typed, d.rules), [cell, typed, d.rules]),
  };
}
export type UsedBattery = ReturnType<typeof useBattery>;
