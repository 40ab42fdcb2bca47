import { chargeFloor, rejection } from "@/core/cells";
import type { CellChargeRecord, StationRecord } from "@/core/files/records";
import {
  checkStart,
  forecastBay,
  planStation,
  stationQuestion,
  type BayCell,
  type BayCharge,
  type StartCheck,
} from "@/core/use";
import type { Drawer, DrawerCell } from "@/notebook";

/** A station with the cells that charge in it. */
export interface Running {
  readonly station: StationRecord;
  readonly drawer: Drawer;
  /** Charges of this station that ended, the newest first. */
  readonly ended: readonly CellChargeRecord[];
}

/** The same with what follows from it: worked out once, for whatever asks. */
export interface AtWork extends Running {
  readonly rows: readonly BayRow[];
  readonly charges: readonly BayCharge[];
  readonly perLane: number;
}

export interface BayRow {
  readonly bay: number;
  readonly c: DrawerCell | null;
  readonly charge: CellChargeRecord | null;
  /** s since it began; s that it was predicted to take. */
  readonly gone: number;
  readonly expected: number | null;
}

export const bayCell = (c: DrawerCell, volts: number | null, drawer: Drawer): BayCell => ({
  chemistry: c.cell.chemistry,
  ...(c.cell.series ? { series: c.cell.series } : {}),
  capacity: c.capacity?.value ?? c.cell.capacity,
  chargeRateLimit: (c.cell.chargeRateLimit * c.cell.capacity) / (c.capacity?.value ?? c.cell.capacity),
  ...(c.cell.fullVoltage || c.cell.chemistry === "lithium-ion"
    ? { fullVoltage: c.cell.fullVoltage ?? drawer.rules.chargeFull }
    : {}),
  volts,
});

const charging = ({ station, drawer }: Running): DrawerCell[] =>
  drawer.cells.filter((c) => c.charge?.stationId === station.id);

/** The row of each cell as it was made last. */
const ROWS = new WeakMap<DrawerCell, BayRow>();
const FREE = new Map<number, BayRow>();

/** A row: the same one as long as nothing about it has changed, so that a long table draws only what has. */
function bayRow(bay: number, c: DrawerCell | null, now: number): BayRow {
  const charge = c?.charge ?? null;
  const gone = charge ? (now - Date.parse(charge.startedAt)) / 1000 : 0;
  const before = c ? ROWS.get(c) : FREE.get(bay);
  if (before?.bay === bay && before.gone === gone) return before;
  const row = { bay, c, charge, gone, expected: charge?.expected ?? null };
  if (c) ROWS.set(c, row);
  else FREE.set(bay, row);
  return row;
}

/** Every bay of a station, taken or free. */
function bayRows(r: Running, now: number): BayRow[] {
  const taken = new Map(charging(r).map((c) => [c.charge?.bay ?? 0, c]));
  return Array.from({ length: r.station.plan.bays }, (_, k) => bayRow(k + 1, taken.get(k + 1) ?? null, now));
}

/** The charges under way as they are predicted. */
const bayCharges = (r: Running, now: number): BayCharge[] =>
  charging(r).flatMap((c) =>
    c.charge
      ? [
          {
            bay: c.charge.bay ?? 0,
            cellId: c.cell.id,
            forecast: forecastBay(r.station.plan, bayCell(c, c.charge.startVolts ?? null, r.drawer)),
            gone: (now - Date.parse(c.charge.startedAt)) / 1000,
          },
        ]
      : [],
  );

const baysPerLaneOf = (station: StationRecord): number => planStation(stationQuestion(station.plan)).baysPerLane;

/** Where a cell charges that does not charge in this station; null where it does not. */
const elsewhere = (c: DrawerCell, station: StationRecord): string | null =>
  c.charge && c.charge.stationId !== station.id
    ? c.charge.stationId
      ? "in another station"
      : "on a charger of its own"
    : !c.charge && c.stage.stage === "charging"
      ? "in a run"
      : null;

export const atWork = (r: Running, now: number): AtWork => ({
  ...r,
  rows: bayRows(r, now),
  charges: bayCharges(r, now),
  perLane: baysPerLaneOf(r.station),
});

/** Whether a cell may start in a bay, and why not. */
export function checkBay(r: AtWork, c: DrawerCell, bay: number, volts: number | null): StartCheck {
  return checkStart({
    plan: r.station.plan,
    baysPerLane: r.perLane,
    bay,
    cell: bayCell(c, volts, r.drawer),
    cellId: c.cell.id,
    title: c.cell.title,
    rejected: rejection(c.triage),
    floor: chargeFloor(c.cell, r.drawer.rules),
    charges: r.charges,
    elsewhere: elsewhere(c, r.station),
    titleOf: (id) => r.drawer.cells.find((x) => x.cell.id === id)?.cell.title ?? "another cell",
  });
}

/** Cells that could be charged: not charging, not full, not in a pack, nothing against them. */
export const waitingCells = (r: Running): DrawerCell[] =>
  r.drawer.cells.filter(
    (c) =>
      (c.stage.stage === "in" || (c.stage.stage === "graded" && c.stage.since === null)) &&
      !rejection(c.triage) &&
      (c.cell.series ?? 1) === 1,
  );

/** The lowest bay that is free; null where none is. */
export const freeBay = (rows: readonly BayRow[]): number | null => rows.find((b) => !b.charge)?.bay ?? null;
