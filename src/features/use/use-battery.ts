import { useEffect, useMemo, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { CHEMISTRY_LIMITS } from "@/core/cells";
import { USUAL_RESISTANCE, USUAL_SELF_DISCHARGE, type UseCell } from "@/core/use";
import type { Drawer, DrawerCell } from "@/notebook";
import { isTaken, useTaken } from "@/ui/use-taken";

/** The battery's numbers while they are typed: an empty field is null, and what makes no sense is not a number. */
export interface BatteryNumbers {
  parallel: number | null;
  capacity: number | null;
  resistance: number | null;
  floor: number | null;
  socHigh: number | null;
  socLow: number | null;
}
/** What was changed by hand; what was not follows the cell. */
type Typed = Partial<Record<keyof BatteryNumbers, number>>;

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
  const measured = typed.capacity === undefined ? c?.capacity : null;
  const ohms = typed.resistance === undefined ? c?.resistance : null;
  return {
    cell: {
      title: c?.cell.title ?? "Any cell",
      chemistry: c?.cell.chemistry ?? "lithium-ion",
      ownProtection: c?.cell.ownProtection ?? false,
      parallel: typed.parallel ?? 1,
      capacity: typed.capacity ?? c?.capacity?.value ?? c?.cell.capacity ?? 2.2,
      capacityU: measured?.u ?? 0,
      resistance: typed.resistance ?? c?.resistance?.value ?? USUAL_RESISTANCE,
      resistanceU: ohms?.u ?? 0,
      floor: typed.floor ?? c?.cell.emptyVoltage ?? (lithium(c) ? rules.chargeEmpty : limits.empty),
      selfDischarge: USUAL_SELF_DISCHARGE,
      window: { high: typed.socHigh ?? rules.socHigh, low: typed.socLow ?? rules.socLow },
    },
    from: {
      capacity: typed.capacity !== undefined ? "typed" : c?.capacity ? "measured" : c ? "rated" : "assumed",
      resistance: typed.resistance !== undefined ? "typed" : c?.resistance ? "measured" : "assumed",
    },
  };
}

/** Single cells that may be used, those with a measured capacity first, of these the largest; what is part of a pack is not at hand. */
const usableCells = (d: Drawer): DrawerCell[] =>
  d.cells
    .filter((c) => !c.cell.rejected && (c.cell.series ?? 1) === 1 && c.pack === null)
    .sort(
      (a, b) =>
        Number(b.capacity !== null) - Number(a.capacity !== null) ||
        (b.capacity?.value ?? 0) - (a.capacity?.value ?? 0),
    );

/** A measured number as it is offered to be changed. */
const shown = (x: number): number => Number(x.toPrecision(4));

/** What the fields begin with: the cell's own numbers. */
function numbersOf(c: DrawerCell | undefined, rules: Drawer["rules"]): BatteryNumbers {
  const { cell } = batteryFrom(c, {}, rules);
  return {
    parallel: 1,
    capacity: shown(cell.capacity),
    resistance: shown(cell.resistance),
    floor: cell.floor,
    socHigh: cell.window.high,
    socLow: cell.window.low,
  };
}

const numberEntries = (n: BatteryNumbers) => Object.entries(n) as [keyof BatteryNumbers, number | null][];

const inOrder = ({ socHigh, socLow }: BatteryNumbers): boolean => (socLow ?? 0) < (socHigh ?? 1);

/** Of a form's numbers those that were typed. */
const typedOf = (numbers: BatteryNumbers, dirty: Partial<Record<keyof BatteryNumbers, boolean>>): Typed =>
  Object.fromEntries(numberEntries(numbers).filter(([key, v]) => v !== null && dirty[key] === true));

/** The battery that a use is worked out for. */
export function useBattery(d: Drawer) {
  const cells = usableCells(d);
  const [chosen, setChosen] = useState<string | null>(null);
  const cell = cells.find((c) => c.cell.id === chosen) ?? (chosen === "" ? undefined : cells[0]);
  const { control, resetField, getFieldState, formState } = useForm<BatteryNumbers>({
    defaultValues: numbersOf(cell, d.rules),
  });
  // What was measured of it meanwhile is shown where nothing was typed.
  useEffect(() => {
    for (const [key, defaultValue] of numberEntries(numbersOf(cell, d.rules)))
      if (!getFieldState(key).isDirty) resetField(key, { defaultValue });
  }, [cell, d.rules, getFieldState, resetField]);
  const numbers = { ...numbersOf(cell, d.rules), ...useWatch({ control }) };
  const ordered = inOrder(numbers);
  const taken = useTaken(typedOf(numbers, formState.dirtyFields), ordered && isTaken(numbers));
  return {
    cells,
    id: cell?.cell.id ?? "",
    control,
    /** Whether every field can be taken, and whether the window's ends stand in order. */
    whole: taken.whole,
    ordered,
    choose: (id: string) => {
      setChosen(id);
      const next = numbersOf(
        cells.find((c) => c.cell.id === id),
        d.rules,
      );
      for (const [key, defaultValue] of numberEntries(next)) if (key !== "parallel") resetField(key, { defaultValue });
    },
    battery: useMemo(() => batteryFrom(cell, taken.values, d.rules), [cell, taken.values, d.rules]),
  };
}
export type UsedBattery = ReturnType<typeof useBattery>;
