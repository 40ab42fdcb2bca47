import { population, seedOf } from "@/testing/population";
import { analyseReadings, type Procedure } from "../procedures";
import { NO_CORRECTIONS, type Point } from "../measurement";
import { chargeChannels } from "../procedures/charge-channels";
import { chargeBench, ChargeSimulation, seeded, type Random } from "../simulator";
import { numeric } from "../quantities";

const SEED = seedOf(20261130);
const BOARDS = population(5, 60);
const STEP = 2;
const METERS = {
  cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
  cellCurrent: { gain: 0.002, counts: 2, resolution: 0.001 },
};

interface Seen {
  readonly rows: Point[];
  /** Ah from the first done signal to the last. */
  readonly charge: number;
  readonly first: number;
}

/** One charge on a board of several channels: what somebody with two meters and a clock writes down, and what truly flowed. */
function charge(r: Random, channels: readonly number[], repeat: number): Seen {
  const simulation = new ChargeSimulation(
    chargeBench({
      charger: {
        channels: channels.map((reference) => ({
          current: 0.32,
          reference: reference + 3e-4 * r.normal(),
          wire: 0.06,
          stopShare: 0.1,
        })),
      },
      soc: r.between(0.75, 0.9),
    }),
  );
  simulation.plug(true);
  const rows: Point[] = [];
  let seen = 0;
  let flowed = 0;
  while (!simulation.stopped && simulation.time < 8 * 3600) {
    const before = simulation.read().cellCurrent;
    simulation.advance(STEP);
    const { cellVoltage, cellCurrent } = simulation.read();
    if (rows.length) flowed += (STEP * (before + cellCurrent)) / 7200;
    for (const l of simulation.landmarks.slice(seen)) {
      if (l.kind !== "channel-done") continue;
      const cells = {
        channel: numeric(l.channel),
        repeat,
        time: Math.round(l.time),
        cellVoltage: Number(cellVoltage.toFixed(3)),
        cellCurrent: Number(cellCurrent.toFixed(3)),
      };
      rows.push({
        id: `${repeat}-${l.channel}`,
        sequence: rows.length,
        settings: {},
        cells: Object.fromEntries(Object.entries(cells).map(([role, value]) => [role, { value, status: "ok" }])),
      });
    }
    seen = simulation.landmarks.length;
  }
  return { rows, charge: flowed, first: rows[0]?.cells.channel?.value ?? NaN };
}

test(`of ${BOARDS} boards of two to four channels, the charge missed at the first light lies within its limits (seed ${SEED})`, () => {
  const r = seeded(SEED);
  let held = 0;
  for (let k = 0; k < BOARDS; k++) {
    const references = Array.from({ length: 2 + Math.floor(r.between(0, 3)) }, () => 4.2 + 0.008 * r.normal());
    const charges = [1, 2].map((repeat) => charge(r, references, repeat));
    const { findings, notes } = analyseReadings(
      chargeChannels as Procedure,
      { kind: "points", points: charges.flatMap((c) => c.rows) },
      { conditions: {}, instruments: METERS },
      NO_CORRECTIONS,
    );
    const f = findings.find((x) => x.characteristic === "channels.early-charge");
    const truth = charges.reduce((s, c) => s + c.charge, 0) / charges.length;
    if (Math.abs(numeric(f?.value) - truth) <= (f?.expandedUncertainty ?? 0)) held++;
    const firsts = [...new Set(charges.map((c) => c.first))];
    expect({
      SEED,
      k,
      said: notes.find((n) => n.code === "first-and-last")?.message.match(/^Channel ([\d or]+) signals/)?.[1],
    }).toEqual({ SEED, k, said: firsts.join(" or ") });
  }
  expect({ SEED, enough: held >= 0.92 * BOARDS, held }).toMatchObject({ SEED, enough: true });
});
