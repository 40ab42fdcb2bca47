import { NO_CORRECTIONS, type Role, type RunSetup, type Trace } from "@/core/measurement";
import { analyseReadings, ofTrace, PROCEDURES } from "@/core/procedures";
import { seeded } from "@/core/simulator";
import { population, seedOf } from "./population";
import { SAMPLE_LOGS } from "./sample-logs";

const SEED = seedOf(20261201);
const LOGS = population(3, 6);
const CUTS = population(60, 150);
const SETUP: RunSetup = {
  conditions: {
    nominalOutput: 5,
    ambientTemperature: 22,
    programmedCurrent: 1,
    cellCapacity: 2.2,
    supplyCurrentLimit: 3,
  },
  instruments: {
    batteryVoltage: { gain: 0.001, counts: 2, resolution: 0.001 },
    cellVoltage: { gain: 0.001, counts: 2, resolution: 0.001 },
    cellCurrent: { gain: 0.002, counts: 2, resolution: 0.001 },
  },
};

/** Rows [first, end) of a log, with some of its readings missing. */
function part(
  columns: Readonly<Partial<Record<Role, readonly number[]>>>,
  first: number,
  end: number,
  holes: number[],
): Trace {
  return {
    columns: Object.fromEntries(
      Object.entries(columns).map(([role, v], c) => {
        const rows = Float64Array.from((v ?? []).slice(first, end));
        if (role !== "time") for (const h of holes) if (h % 7 === c) rows.fill(NaN, h, h + 5);
        return [role, rows];
      }),
    ),
    events: [],
  };
}

/** The first row at or after a time. */
const rowAt = (time: readonly number[], at: number): number => {
  const k = time.findIndex((t) => t >= at);
  return k < 0 ? time.length : k;
};

describe.each(PROCEDURES.filter((p) => ofTrace(p)).map((p) => [p.id, p] as const))("%s", (id, p) => {
  test(`a log that begins or ends anywhere, with readings missing, is analysed (seed ${SEED})`, () => {
    const random = seeded(SEED);
    const failed: string[] = [];
    for (let k = 0; k < LOGS; k++) {
      const { name, columns } = (SAMPLE_LOGS[id] as (typeof SAMPLE_LOGS)[string])(k);
      const rows = columns.time?.length ?? 0;
      // A third ends among the first rows, a third soon after a phase of the whole log begins, a third anywhere.
      const whole = analyseReadings(p, { kind: "trace", trace: part(columns, 0, rows, []) }, SETUP, NO_CORRECTIONS);
      const begins = whole.charts.flatMap((c) => c.spans ?? []).map((s) => rowAt(columns.time ?? [], s.from));
      const near = () =>
        (begins[Math.floor(random.between(0, begins.length))] ?? 0) + Math.floor(random.between(0, 60));
      const ends = Array.from({ length: CUTS }, (_, c) =>
        c % 3 === 0 ? c / 3 : Math.min(rows, c % 3 === 1 ? near() : Math.floor(random.between(0, rows + 1))),
      );
      for (const end of ends) {
        const first = random.between(0, 1) < 0.5 ? 0 : Math.floor(random.between(0, end));
        const holes =
          random.between(0, 1) < 0.5 ? [] : Array.from({ length: 8 }, () => Math.floor(random.between(0, end)));
        try {
          const a = analyseReadings(
            p,
            { kind: "trace", trace: part(columns, first, end, holes) },
            SETUP,
            NO_CORRECTIONS,
          );
          for (const f of a.findings)
            if (typeof f.value === "number" && !Number.isFinite(f.value))
              failed.push(`${name}, rows ${first} to ${end}: ${f.characteristic} is ${f.value}`);
        } catch (e) {
          failed.push(`${name}, rows ${first} to ${end} of ${rows}, holes at ${holes}: ${(e as Error).message}`);
        }
      }
    }
    expect(failed).toEqual([]);
  });
});
