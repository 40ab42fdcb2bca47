import { CHEMISTRIES, CHEMISTRY_LIMITS, rejection, type Chemistry } from "@/core/cells";
import type { PackCell } from "@/core/use";
import type { DrawerCell } from "@/notebook";

/** A cell as a pack is made of it: what was measured, else what it is rated for, told apart. */
export const packCell = (c: DrawerCell): PackCell => ({
  id: c.cell.id,
  capacity: c.capacity?.value ?? c.cell.capacity,
  measured: c.capacity !== null,
  resistance: c.resistance?.value ?? null,
  volts: c.triage.last?.volts ?? null,
  chemistry: c.cell.chemistry,
});

/** Single cells that are free for a pack: nothing against them, not charging, in no pack. */
export const freeCells = (
  cells: readonly DrawerCell[],
  chemistry: Chemistry,
  measuredOnly: boolean,
): readonly DrawerCell[] =>
  cells.filter(
    (c) =>
      c.cell.chemistry === chemistry &&
      (c.cell.series ?? 1) === 1 &&
      !rejection(c.triage) &&
      c.stage.stage !== "charging" &&
      !c.pack &&
      !c.itself &&
      (!measuredOnly || c.capacity !== null),
  );

/** The chemistries of the drawer as choices. */
export const chemistryChoices = (cells: readonly DrawerCell[]) =>
  CHEMISTRIES.filter((k) => cells.some((c) => c.cell.chemistry === k)).map((value) => ({
    value,
    label: CHEMISTRY_LIMITS[value].label,
  }));
