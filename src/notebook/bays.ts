import type { CellChargeRecord, CellReadingRecord, CellRecord, StationRecord } from "@/core/files/records";
import type { Accuracy } from "@/core/instruments";
import type { StationPlan } from "@/core/use/station";
import { cellMeter } from "./cells";
import { change, edit, newId, now, type Act } from "@/storage/door";
import { freeName, namingIn, titlesOf } from "./naming";

/** Saves a plan as a station of its own; gives it. */
export async function addStation(
  title: string,
  plan: StationPlan,
  notebookId: StationRecord["notebookId"],
): Promise<StationRecord> {
  return namingIn(notebookId, async () => {
    const at = now();
    const station: StationRecord = {
      kind: "station",
      id: newId(),
      notebookId,
      createdAt: at,
      updatedAt: at,
      title: freeName(title, await titlesOf(notebookId, "station")),
      plan,
    };
    await change(`add station ${station.title}`, [station]);
    return station;
  });
}

const reading = (
  cell: CellRecord,
  at: string,
  volts: number | null,
  more: Partial<CellReadingRecord>,
  meter: Accuracy | undefined,
): CellReadingRecord => ({
  kind: "cellReading",
  id: newId(),
  notebookId: cell.notebookId,
  createdAt: at,
  updatedAt: at,
  cellId: cell.id,
  takenAt: at,
  volts,
  note: "",
  ...more,
  ...(meter && volts !== null ? { meter } : {}),
});

export interface ChargeStart {
  readonly cell: CellRecord;
  /** Where it charges; neither for a charger by itself. */
  readonly stationId?: string;
  readonly bay?: number;
  readonly volts: number | null;
  readonly current?: number;
  /** s that it is predicted to take. */
  readonly expected?: number;
}

/** Puts a cell on a charger; the voltage that was read before it is one of its readings. */
export async function startCharge({
  cell,
  stationId,
  bay,
  volts,
  current,
  expected,
}: ChargeStart): Promise<Act | null> {
  const meter = await cellMeter(cell.notebookId);
  const at = now();
  const charge: CellChargeRecord = {
    kind: "cellCharge",
    id: newId(),
    notebookId: cell.notebookId,
    createdAt: at,
    updatedAt: at,
    cellId: cell.id,
    startedAt: at,
    ...(stationId ? { stationId } : {}),
    ...(bay ? { bay } : {}),
    ...(volts === null ? {} : { startVolts: volts }),
    ...(current ? { current } : {}),
    ...(expected === undefined ? {} : { expected: Math.round(expected) }),
  };
  // A moment earlier: the charge ends the rest that this voltage still belongs to.
  const before = new Date(Date.parse(at) - 1).toISOString();
  return change(`charge ${cell.title}`, [
    charge,
    ...(volts === null ? [] : [reading(cell, before, volts, { note: "before the charge" }, meter)]),
  ]);
}

/** Takes a cell off its charger: full, with its voltage and a rest that begins now; or stopped before that, for a reason. */
export async function endCharge(
  charge: CellChargeRecord,
  cell: CellRecord,
  volts: number | null,
  stopped?: string,
): Promise<Act | null> {
  const meter = await cellMeter(cell.notebookId);
  const at = now();
  const full = stopped === undefined;
  return change(full ? `${cell.title} is full` : `stop the charge of ${cell.title}`, [
    edit(charge, { ...charge, endedAt: at, ...(full ? {} : { stopped }) }),
    ...(full
      ? [reading(cell, at, volts, { charged: true, ...(volts === null ? { note: "voltage not read" } : {}) }, meter)]
      : volts === null
        ? []
        : [reading(cell, at, volts, { used: true, note: stopped }, meter)]),
  ]);
}
