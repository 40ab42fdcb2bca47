import type { CellReadingRecord, CellRecord, CellSign, StoredRecord } from "../files/records";
import type { Accuracy } from "../instruments";
import { CellState, seeded, SIMULATED_CELLS, type CellModel } from "../simulator";

type Told<R> = Omit<R, "kind" | "id" | "notebookId" | "createdAt" | "updatedAt">;

interface DemoCell extends Told<CellRecord> {
  /** How it rests: A that it loses inside, the state of charge it was charged to, days ago on which it came off the charger and was read. */
  readonly rests?: { readonly leak: number; readonly soc: number; readonly days: readonly number[] };
  readonly sign?: {
    readonly daysAgo: number;
    readonly volts: number | null;
    readonly sign?: CellSign;
    readonly note: string;
  };
}

/** Cells of the drawer. Every name and number is made up. */
const CELLS: readonly DemoCell[] = [
  {
    title: "Reed 2200",
    chemistry: "lithium-ion",
    capacity: 2.2,
    chargeRateLimit: 1,
    ownProtection: false,
    note: "From the first recorder.",
    rests: { leak: 1.2e-4, soc: 0.93, days: [9, 7, 4, 1] },
  },
  {
    title: "Rush 300",
    chemistry: "lithium-ion",
    capacity: 0.3,
    chargeRateLimit: 1,
    chargeRate: 0.2,
    fullVoltage: 4,
    ownProtection: true,
    note: "Small flat cell of the old recorder; waits full for weeks.",
    rests: { leak: 1.5e-5, soc: 0.7, days: [8] },
  },
  {
    title: "Torch 1",
    chemistry: "lithium-ion",
    capacity: 1.2,
    chargeRateLimit: 0.5,
    ownProtection: false,
    note: "Out of an old torch.",
    rests: { leak: 6e-5, soc: 0.925, days: [3] },
  },
  {
    title: "Torch 2",
    chemistry: "lithium-ion",
    capacity: 1.2,
    chargeRateLimit: 0.5,
    ownProtection: false,
    note: "Out of an old torch.",
    rests: { leak: 2.1e-3, soc: 0.92, days: [12, 10, 8, 5] },
  },
  {
    title: "Torch 3",
    chemistry: "lithium-ion",
    capacity: 1.2,
    chargeRateLimit: 0.5,
    ownProtection: false,
    note: "Out of an old torch.",
    sign: { daysAgo: 12, volts: 1.31, note: "as found" },
  },
  {
    title: "Torch pack",
    chemistry: "lithium-ion",
    series: 4,
    capacity: 1.2,
    chargeRateLimit: 0.5,
    ownProtection: false,
    note: "Four of them, behind Heath Four.",
  },
  {
    title: "Blue 18",
    chemistry: "iron-phosphate",
    capacity: 1.5,
    chargeRateLimit: 1,
    ownProtection: false,
    note: "For the hide that freezes.",
    sign: { daysAgo: 20, volts: 3.29, sign: "dented", note: "fell from the ladder" },
    rejected: { date: "2026-11-10", why: "it is dented" },
  },
];

const METER: Accuracy = { gain: 0.0005, counts: 2, resolution: 0.001 };
const DAY = 86_400;

/** V of a cell so many days after it came off a charger, with what it loses inside. */
export function restVolts(model: CellModel, soc: number, leak: number, days: number): number {
  const cell = new CellState(model, soc);
  cell.advance(0.1 * model.capacity, 1800);
  cell.advance(-leak, Math.max(60, days * DAY));
  return cell.volts(-leak);
}

/** The drawer's cells with their readings; ids by name. */
export function buildDrawer(
  newId: () => string,
  base: Pick<CellRecord, "notebookId" | "createdAt" | "updatedAt">,
  at: (minutesAgo: number) => string,
): { records: StoredRecord[]; ids: ReadonlyMap<string, string> } {
  const noise = seeded(7);
  const ids = new Map<string, string>();
  const records: StoredRecord[] = [];
  for (const { rests, sign, ...told } of CELLS) {
    const id = newId();
    ids.set(told.title, id);
    records.push({ kind: "cell", id, ...base, ...told });
    const look = (daysAgo: number, more: Pick<CellReadingRecord, "volts" | "note"> & Partial<CellReadingRecord>) => {
      const takenAt = at(daysAgo * 24 * 60);
      records.push({
        kind: "cellReading",
        id: newId(),
        notebookId: base.notebookId,
        createdAt: takenAt,
        updatedAt: takenAt,
        cellId: id,
        takenAt,
        meter: METER,
        ...more,
      });
    };
    const first = rests?.days[0] ?? 0;
    const model: CellModel = {
      ...SIMULATED_CELLS["honest-cell"].model,
      chemistry: told.chemistry,
      capacity: told.capacity,
    };
    for (const daysAgo of rests?.days ?? [])
      look(daysAgo, {
        volts:
          Math.round(
            (restVolts(model, rests?.soc ?? 1, rests?.leak ?? 0, first - daysAgo) + 2e-4 * noise.normal()) /
              METER.resolution,
          ) * METER.resolution,
        note: "",
        ...(daysAgo === first ? { charged: true } : {}),
      });
    if (sign) look(sign.daysAgo, { volts: sign.volts, note: sign.note, ...(sign.sign ? { sign: sign.sign } : {}) });
  }
  return { records, ids };
}
