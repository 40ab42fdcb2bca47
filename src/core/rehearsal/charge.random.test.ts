import { fewestHeld, population, seedOf } from "@/testing/population";
import { NO_CORRECTIONS, type Analysis, type Finding, type RunSetup, type Trace } from "../measurement";
import { analyseReadings, procedure, type Procedure } from "../procedures";
import { seeded, type ChargeBench } from "../simulator";
import { CHARGE_METERS } from "../bench/charge-meters";
import { logCharge } from "./charge-log";
import { logCase, randomCase, randomCharge } from "./fixtures/charges";
import { numeric } from "../quantities";

const CHARGE = procedure("charge-cycle") as Procedure;
const END = [
  "charge.termination-current",
  "charge.termination-voltage",
  "charge.total-time",
  "charge.capacity",
  "charge.energy-delivered",
];
const END_OF_INPUT = ["charge.energy-drawn", "charge.efficiency"];
const NEVER = [...END, ...END_OF_INPUT, "charge.rest-voltage", "charge.recharge-threshold"];

const setupOf = (bench: ChargeBench): RunSetup => ({
  conditions: {
    programmedCurrent: bench.charger.channels.reduce((s, c) => s + c.current, 0),
    ambientTemperature: bench.ambient,
  },
  instruments: CHARGE_METERS,
});
const find = (a: Analysis, name: string): Finding | undefined => a.findings.find((f) => f.characteristic === name);
function analyse(trace: Trace, bench: ChargeBench, sees: boolean): Analysis {
  const { inputVoltage: _v, inputCurrent: _i, ...cell } = trace.columns;
  void [_v, _i];
  return analyseReadings(
    CHARGE,
    { kind: "trace", trace: { columns: sees ? trace.columns : cell, events: [] } },
    setupOf(bench),
    NO_CORRECTIONS,
  );
}

describe("a disturbed charge", () => {
  const SEED = seedOf(20261128);
  const CHARGES = population(200, 3000);

  test(`of ${CHARGES} none that was interrupted states an end, those that ended state all of it, and one that went on is the sum of its segments (seed ${SEED})`, () => {
    const r = seeded(SEED);
    const wrong: string[] = [];
    const tally = { interrupted: 0, undecided: 0, ended: 0, whole: 0, resumed: 0, charge: 0, time: 0, unseen: 0 };
    for (let k = 0; k < CHARGES; k++) {
      const c = randomCase(r, k);
      const [first, second] = c.disturbances;
      const told = `#${k} ${c.phase}, ${first?.what} at ${first?.at.toFixed(0)} s${second ? ` for ${c.pause.toFixed(0)} s` : ""}, every ${c.every.toFixed(1)} s, ${c.sees ? "with" : "without"} input`;
      const { trace, simulation } = logCase(c);
      const a = analyse(trace, c.bench, c.sees);
      const time = trace.columns.time as Float64Array;
      const seen = !second || time.some((t) => t > (first?.at ?? 0) && t < second.at);
      const stop = simulation.landmarks.find((l) => l.kind === "stop");
      const rests = stop !== undefined && stop.time < (first?.at ?? 0);
      const k0 = time.findIndex((t) => t > (first?.at ?? 0)) - 1;
      const amps = trace.columns.cellCurrent?.[k0] ?? 0;
      // Without the input, an unplugged charger whose current was already low looks like one that ended; and so does a cell that is taken
      // out at full voltage, as far as the drop over its resistance can't be seen.
      const regulated = simulation.landmarks.some((l) => l.kind === "constant-voltage" && l.time < (first?.at ?? 0));
      const alike =
        regulated &&
        ((!c.sees && amps <= 0.5 * (c.bench.charger.channels[0]?.current ?? 1)) ||
          (first?.what === "cell-out" && amps * c.bench.cell.resistance < 0.012));
      if (!rests && !c.resumes) {
        tally.interrupted++;
        if (alike) tally.undecided++;
        else if (NEVER.some((name) => find(a, name)))
          wrong.push(`${told}: states ${NEVER.filter((name) => find(a, name)).join(", ")}`);
        continue;
      }
      if (!stop) continue;
      tally.ended++;
      const expected = [...END, ...(c.sees ? END_OF_INPUT : [])];
      const lacks = expected.filter((name) => !find(a, name));
      if (lacks.length === 0) tally.whole++;
      else wrong.push(`${told}: lacks ${lacks.join(", ")}; ${a.notes.map((n) => n.code).join(" ")}`);
      if (rests || lacks.length) continue;
      if (!seen || alike) {
        tally[seen ? "undecided" : "unseen"]++;
        continue;
      }
      tally.resumed++;
      const held = (name: string, truth: number) =>
        Math.abs(numeric(find(a, name)?.value) - truth) <= (find(a, name)?.expandedUncertainty ?? 0);
      const start = simulation.landmarks.find((l) => l.kind === "start")?.time ?? NaN;
      const capacity = (simulation.stateOfCharge - c.bench.soc) * c.bench.cell.capacity * (1 - 0.3 * c.bench.cell.age);
      if (held("charge.capacity", capacity)) tally.charge++;
      else
        wrong.push(
          `${told}: charge ${find(a, "charge.capacity")?.value} ± ${find(a, "charge.capacity")?.expandedUncertainty} for ${capacity}`,
        );
      if (held("charge.total-time", stop.time - start - c.pause)) tally.time++;
      else
        wrong.push(
          `${told}: time ${find(a, "charge.total-time")?.value} ± ${find(a, "charge.total-time")?.expandedUncertainty} for ${stop.time - start - c.pause}`,
        );
    }
    const report = JSON.stringify(tally);
    if (process.env.NIMBUS_SHOW) console.error(report, wrong);
    expect([report, wrong.filter((w) => w.includes("states"))]).toEqual([report, []]);
    expect([report, tally.whole / tally.ended >= 0.99, wrong.filter((w) => w.includes("lacks"))]).toEqual([
      report,
      true,
      expect.anything(),
    ]);
    // Binomial: with 95 % in each interval, fewer than these are seen once in a thousand.
    expect([report, tally.charge / tally.resumed > 0.93, tally.time / tally.resumed > 0.93]).toEqual([
      report,
      true,
      true,
    ]);
    expect([report, tally.interrupted > 0.2 * CHARGES, tally.resumed > 0.2 * CHARGES]).toEqual([report, true, true]);
  });
});

describe("a charge that heat cuts back", () => {
  const SEED = seedOf(20261129);
  const CHARGES = population(100, 2000);

  test(`of ${CHARGES} potted parts the constant-current phase lasts until the voltage loop takes over, and what is stated holds the truth (seed ${SEED})`, () => {
    const r = seeded(SEED);
    const wrong: string[] = [];
    const tally: Record<string, { held: number; of: number }> = {};
    let cut = 0;
    for (let k = 0; k < CHARGES; k++) {
      const calm = randomCharge(r);
      const bench: ChargeBench = {
        ...calm,
        charger: {
          ...calm.charger,
          channels: [
            {
              current: r.between(0.7, 1.3),
              reference: r.between(4.15, 4.23),
              wire: r.between(0.015, 0.05),
              stopShare: r.between(0.08, 0.15),
            },
          ],
          foldback: { from: r.between(52, 95), perKelvin: r.between(0.015, 0.06) },
          thermal: { resistance: r.between(35, 95), tau: Math.exp(r.between(Math.log(50), Math.log(900))) },
        },
      };
      const every = r.between(2, 10);
      const { trace, simulation } = logCharge(bench, { every, before: 60, after: 200, most: 12 * 3600, seed: k });
      const a = analyse(trace, bench, true);
      const at = (kind: string) => simulation.landmarks.find((l) => l.kind === kind)?.time ?? NaN;
      if (Number.isNaN(at("stop"))) continue;
      const told = `#${k} from ${bench.charger.foldback.from.toFixed(0)} °C, ${bench.charger.thermal.resistance.toFixed(0)} K/W, ${bench.charger.thermal.tau.toFixed(0)} s, every ${every.toFixed(1)} s`;
      const score = (name: string, truth: number, slack = 0) => {
        const f = find(a, name);
        const t = (tally[name] ??= { held: 0, of: 0 });
        if (!f) {
          wrong.push(`${told}: lacks ${name}`);
          t.of++;
          return;
        }
        t.of++;
        if (Math.abs(numeric(f.value) - truth) <= (f.expandedUncertainty ?? 0) + slack) t.held++;
        else wrong.push(`${told}: ${name} ${f.value} ± ${f.expandedUncertainty} for ${truth}`);
      };
      const [channel] = bench.charger.channels;
      score("charge.cc-duration", at("constant-voltage") - at("start"));
      // The median of the phase lies at a current between the two ends.
      score(
        "charge.cv-voltage",
        (channel?.reference ?? 0) - (channel?.wire ?? 0) * 0.35 * (channel?.current ?? 0),
        (channel?.wire ?? 0) * 0.3,
      );
      const full = find(a, "charge.cc-current");
      if (
        full &&
        Math.abs(numeric(full.value) - (channel?.current ?? 0)) >
          0.02 * (channel?.current ?? 0) + (full.expandedUncertainty ?? 0)
      )
        wrong.push(`${told}: full current ${full.value} for ${channel?.current}`);
      const hottest = trace.columns.partTemperature?.reduce((m, v) => Math.max(m, v), 0) ?? 0;
      if (hottest < bench.charger.foldback.from + 0.06 / bench.charger.foldback.perKelvin + 2) continue;
      cut++;
      // 3 % of the current are gone only so many kelvin above the onset.
      score(
        "charge.foldback-onset-temperature",
        bench.charger.foldback.from,
        0.05 / bench.charger.foldback.perKelvin + 1,
      );
    }
    const report = JSON.stringify({ cut, tally });
    if (process.env.NIMBUS_SHOW) console.error(report, wrong);
    for (const [name, t] of Object.entries(tally))
      expect([report, name, t.held >= fewestHeld(t.of), wrong.filter((w) => w.includes(name))]).toEqual([
        report,
        name,
        true,
        expect.anything(),
      ]);
    expect([report, wrong.filter((w) => w.includes("full current"))]).toEqual([report, []]);
    expect([report, cut > CHARGES / 3]).toEqual([report, true]);
  });
});
