import type { CellChargeRecord, CellReadingRecord, CellRecord, StoredRecord } from "../files/records";
import { PROCEDURES } from "../procedures";
import { seeded } from "../simulator";
import { replanned, stepsOfWork, type Day, type DayTask } from "../use/day";
import { forecastBay } from "../use/bays";
import { matchCells } from "../use/match";
import { packEntry } from "../use/pack";
import type { FeedPlan } from "../use/feed";
import type { StationPlan } from "../use/station";

/** What the records are made with: ids, the notebook, moments so many minutes ago. */
interface Means {
  readonly newId: () => string;
  readonly base: Pick<CellRecord, "notebookId" | "createdAt" | "updatedAt">;
  readonly at: (minutesAgo: number) => string;
}

/** Cells out of old lantern floats, all alike on paper. Every number is made up. */
const FLOATS = 23;
const FLOAT = {
  chemistry: "lithium-ion",
  capacity: 1.2,
  chargeRateLimit: 0.5,
  ownProtection: false,
  note: "Out of an old lantern float.",
} as const;
const TESTER_SHARE = 0.02;
/** Of those that were tested: how many make up the pack. */
const SERIES = 2;
const PARALLEL = 3;
const DAY = 24 * 60;

export const DEMO_STATION: StationPlan = {
  bays: 24,
  chargeCurrent: 0.5,
  currentTolerance: 0.08,
  quiescent: 0.004,
  margin: 0.25,
  volts: 5.15,
  amps: 10,
  ampacity: 16,
  segmentResistance: 0.003,
  minimumInput: 4.6,
  ambient: 22,
  thermalResistance: 30,
  foldbackTemperature: 95,
  lowestCellVoltage: 3,
  voltsTolerance: 0.01,
  resistanceTolerance: 0.1,
};

/** A small panel on the roof of a hide, on a long cable, behind a switching regulator. */
export const DEMO_FEED: FeedPlan = {
  stages: [
    { kind: "panel", volts: 8.8, limit: 0.34 },
    { kind: "cable", resistance: 0.9 },
    { kind: "switching", volts: 5, efficiency: 0.88, limit: 1.5, least: 6.5 },
  ],
  charger: {
    kind: "linear",
    efficiency: 0.88,
    current: 0.8,
    quiescent: 0.004,
    least: 4.5,
    dropout: 0.1,
    cellLow: 3,
    cellFull: 4.2,
    foldback: 100,
    thermal: 38,
  },
  ambient: 30,
  day: { sun: 2.5 * 3600, load: 0.35, energy: 7.6 },
  tolerance: { volts: 0.03, current: 0.1, resistance: 0.1 },
};

/** How a float came to where it is: tested and put together, tested, full, charging, as found. */
type Way = "packed" | "tested" | "full" | "charging" | "found";
const WAYS: readonly Way[] = [
  ...Array<Way>(6).fill("packed"),
  ...Array<Way>(5).fill("tested"),
  ...Array<Way>(3).fill("full"),
  ...Array<Way>(3).fill("charging"),
  ...Array<Way>(6).fill("found"),
];

/** The pack that the tested cells were put together to, and its entry in the drawer. */
function packOf(
  packable: readonly { readonly code: string; readonly capacity: number }[],
  { newId, base }: Means,
): StoredRecord[] {
  const { groups } = matchCells(packable, SERIES, PARALLEL, seeded(1));
  const entry: CellRecord = {
    kind: "cell",
    id: newId(),
    ...base,
    title: "Float pack",
    ...packEntry(groups.map((g) => g.map((c) => ({ ...FLOAT, capacity: c.capacity, rated: FLOAT.capacity })))),
    ownProtection: false,
    note: "",
  };
  return [
    entry,
    {
      kind: "pack",
      id: newId(),
      ...base,
      title: entry.title,
      groups: groups.map((g) => g.map((c) => c.code)),
      cellId: entry.id,
      note: "For the hide at the reed bed.",
    },
  ];
}

/** The lantern floats with their readings, a station that charges three of them, a pack of six. */
export function buildMany(means: Means): StoredRecord[] {
  const { newId, base, at } = means;
  const random = seeded(31);
  const stationId = newId();
  const records: StoredRecord[] = [
    { kind: "station", id: stationId, ...base, title: "Shed bench", plan: DEMO_STATION },
    { kind: "feed", id: newId(), ...base, title: "Panel of the hide", plan: DEMO_FEED },
  ];
  const packable: { code: string; capacity: number }[] = [];
  let bay = 0;
  for (let k = 0; k < FLOATS; k++) {
    const id = newId();
    const way = WAYS[k] ?? "found";
    records.push({ kind: "cell", id, ...base, title: `Float ${k + 1}`, ...FLOAT });
    const read = (daysAgo: number, more: Partial<CellReadingRecord>): number =>
      records.push({
        kind: "cellReading",
        id: newId(),
        notebookId: base.notebookId,
        createdAt: at(daysAgo * DAY),
        updatedAt: at(daysAgo * DAY),
        cellId: id,
        takenAt: at(daysAgo * DAY),
        volts: null,
        note: "",
        ...more,
      });
    const volts = Number((3.2 + 0.6 * random.uniform()).toFixed(3));
    read(21, { volts, note: "as found" });
    if (way === "packed" || way === "tested") {
      const capacity = Number((1.05 + 0.18 * random.uniform() - (k % 5 === 0 ? 0.15 : 0)).toFixed(3));
      read(14, {
        volts: 3.42,
        capacity,
        resistance: Number((0.055 + 0.03 * random.uniform()).toFixed(4)),
        testerShare: TESTER_SHARE,
        used: true,
        note: "discharged on the cell tester",
      });
      if (way === "packed") packable.push({ code: id, capacity });
    }
    if (way === "full") {
      read(9, { volts: Number((4.185 + 0.004 * random.uniform()).toFixed(3)), charged: true });
      read(8, { volts: 4.176 });
      read(1, { volts: Number((4.171 - 0.002 * random.uniform()).toFixed(3)) });
    }
    if (way === "charging") {
      const started = at(35 + 25 * bay);
      const charge: CellChargeRecord = {
        kind: "cellCharge",
        id: newId(),
        notebookId: base.notebookId,
        createdAt: started,
        updatedAt: started,
        cellId: id,
        stationId,
        bay: ++bay,
        startedAt: started,
        startVolts: volts,
        current: DEMO_STATION.chargeCurrent,
        expected: Math.round(forecastBay(DEMO_STATION, { ...FLOAT, volts }).seconds),
      };
      records.push(charge);
    }
  }
  return [...records, ...packOf(packable, means)];
}

/** Steps of the demo's day, by board. */
const STEPS: readonly (readonly [board: string, procedure: string])[] = [
  ["Marl 15", "charge-cycle"],
  ["Alder 12", "heat-soak"],
  ["Alder 12", "threshold-ramp"],
  ["Peat Duo", "load-sweep"],
  ["Peat Duo", "heat-soak"],
];
const BEGINS = 9 * 60;

/** A day of three boards, planned for the day on which the demo is opened. */
export function buildDay({ newId, base }: Means, records: readonly StoredRecord[]): StoredRecord[] {
  const tasks: DayTask[] = [];
  for (const [title, procedure] of STEPS) {
    const board = records.find((r) => r.kind === "board" && r.title === title);
    const sample = records.find((r) => r.kind === "sample" && r.boardId === board?.id);
    const p = PROCEDURES.find((x) => x.id === procedure);
    if (!board || !sample || !p) continue;
    const before = tasks.findLast((t) => t.about.boardId === board.id);
    tasks.push({
      id: newId(),
      title: `${p.title}, ${title}`,
      about: { boardId: board.id, sampleId: sample.id, procedure },
      steps: stepsOfWork(p.work),
      after: before ? [before.id] : [],
    });
  }
  const day: Day = {
    date: base.createdAt.slice(0, 10),
    begins: BEGINS,
    instruments: { hands: 1, supply: 2, load: 1, logger: 2 },
    tasks,
    plan: {},
  };
  return [{ kind: "day", id: newId(), ...base, ...replanned(day, 0, seeded(1)) }];
}
