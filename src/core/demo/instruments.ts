import type { InstrumentRecord, RigRecord } from "../files/records";
import { pinned, type MeterRange, type PinnedMeter } from "../instruments";
import type { Role } from "../measurement";
import { BENCH_ACCURACY } from "../simulator";

type Told = Pick<InstrumentRecord, "title" | "device" | "ranges" | "limit" | "checked" | "note">;

const volts = (id: string, upTo: number, resolution: number): MeterRange => ({
  id,
  title: `${upTo} V`,
  unit: "V",
  upTo,
  accuracy: { gain: 0.0005, counts: 2, resolution },
});
const CHECKED = { date: "2026-10-02", note: "against Curlew, on a fresh cell and at 12 V" };

/** What lies on the bench of the hide. Every name and number is made up. */
const INSTRUMENTS: readonly Told[] = [
  {
    title: "Dunlin A",
    device: "meter",
    ranges: [volts("6", 6, 0.001), volts("60", 60, 0.01)],
    checked: CHECKED,
    note: "Battery side.",
  },
  {
    title: "Dunlin B",
    device: "meter",
    ranges: [volts("6", 6, 0.001), volts("60", 60, 0.01)],
    checked: CHECKED,
    note: "Output side.",
  },
  {
    title: "Plover A",
    device: "meter",
    ranges: [
      { id: "6", title: "6 A", unit: "A", upTo: 6, accuracy: BENCH_ACCURACY.batteryCurrent, burden: 0.012 },
      {
        id: "60m",
        title: "60 mA",
        unit: "A",
        upTo: 0.06,
        accuracy: { gain: 0.0015, counts: 5, resolution: 1e-5 },
        burden: 1.6,
      },
    ],
    note: "Its mA jack is fused.",
  },
  {
    title: "Plover B",
    device: "meter",
    ranges: [{ id: "6", title: "6 A", unit: "A", upTo: 6, accuracy: BENCH_ACCURACY.outputCurrent, burden: 0.012 }],
    note: "",
  },
  {
    title: "Moth",
    device: "thermometer",
    ranges: [{ id: "probe", title: "probe", unit: "°C", upTo: 200, accuracy: BENCH_ACCURACY.partTemperature }],
    note: "The bead is held down with a clip.",
  },
  {
    title: "Curlew",
    device: "meter",
    ranges: [
      { id: "10", title: "10 V", unit: "V", upTo: 10, accuracy: { gain: 0.00005, counts: 5, resolution: 0.0001 } },
      {
        id: "3",
        title: "3 A",
        unit: "A",
        upTo: 3,
        accuracy: { gain: 0.0003, counts: 10, resolution: 0.00001 },
        burden: 0.1,
      },
    ],
    checked: { date: "2026-08-19", note: "at the field station, with its sheet" },
    note: "Heavy; kept indoors for close calls.",
  },
  { title: "Otter", device: "supply", ranges: [], limit: 5, note: "" },
  { title: "Newt", device: "load", ranges: [], limit: 10, note: "" },
];

const READS: readonly (readonly [Role, string, string])[] = [
  ["batteryVoltage", "Dunlin A", "6"],
  ["batteryCurrent", "Plover A", "6"],
  ["outputVoltage", "Dunlin B", "6"],
  ["outputCurrent", "Plover B", "6"],
  ["partTemperature", "Moth", "probe"],
];

/** The instruments, and which of them reads what. */
export function buildInstruments(
  newId: () => string,
  base: Pick<InstrumentRecord, "notebookId" | "createdAt" | "updatedAt">,
): { records: InstrumentRecord[]; meters: NonNullable<RigRecord["meters"]> } {
  const records = INSTRUMENTS.map((i): InstrumentRecord => ({ kind: "instrument", id: newId(), ...base, ...i }));
  const meters: Partial<Record<Role, PinnedMeter>> = {};
  for (const [role, title, range] of READS) {
    const i = records.find((r) => r.title === title) as InstrumentRecord;
    meters[role] = pinned(i.id, i, i.ranges.find((r) => r.id === range) as MeterRange);
  }
  return { records, meters };
}
