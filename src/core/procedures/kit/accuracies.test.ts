import { ordinaryAccuracy } from "../../instruments";
import { judgeFinding } from "../../verdicts";
import { HOUSE_RULES, accuraciesFor, NO_CORRECTIONS, type Finding, type Role, type RunSetup } from "../../measurement";
import { analyseReadings, procedure, type Procedure } from "..";
import { held, sweepSetup } from "../load-sweep/fixtures/make";
import { numeric } from "../../quantities";

const sweep = procedure("load-sweep") as Procedure;
const POINTS = [...[0, 0.05, 0.2, 0.5, 1].map((a) => held(3.6, a)), held(3.6, 1.2, 4.1)];
const found = (instruments: RunSetup["instruments"]) =>
  analyseReadings(
    sweep,
    { kind: "points", points: POINTS },
    { ...(sweepSetup() as RunSetup), instruments },
    NO_CORRECTIONS,
  );
const of = (findings: readonly Finding[], name: string) => findings.find((f) => f.characteristic === name) as Finding;
const { outputVoltage: _lacks, ...rest } = sweepSetup().instruments;
void _lacks;

describe("a meter whose accuracy is not stated", () => {
  test("leaves what rests on it without an uncertainty, and nothing else", () => {
    const { findings, notes } = found(rest);
    for (const name of [
      "boost.no-load-voltage",
      "boost.peak-efficiency",
      "boost.load-regulation",
      "boost.output-resistance",
    ]) {
      expect({ name, ...of(findings, name) }).toMatchObject({ name, unstated: ["outputVoltage"], budget: [] });
      expect({ name, u: of(findings, name).expandedUncertainty }).toEqual({ name, u: undefined });
    }
    expect(of(findings, "boost.max-current").unstated).toBeUndefined();
    expect(of(findings, "boost.max-current").expandedUncertainty).toBeGreaterThan(0);
    expect(notes.find((n) => n.code === "no-accuracy")?.message).toContain("output voltage meter is not stated");
  });

  test("keeps the value as it is", () => {
    expect(of(found(rest).findings, "boost.no-load-voltage").value).toBe(
      of(found(sweepSetup().instruments).findings, "boost.no-load-voltage").value,
    );
  });

  test("makes every number not fairly tested, in whichever direction it lies; the meter is named", () => {
    const f = of(found(rest).findings, "boost.no-load-voltage");
    for (const low of [1, 50]) {
      const v = judgeFinding(f, { kind: "at-least", low }, "V", HOUSE_RULES);
      expect(v).toMatchObject({ word: "not fairly tested", interval: null, probability: null });
      expect(v.why[0]).toBe("The accuracy of the output voltage meter is not stated.");
    }
  });

  test("a meter said to be without any error says nothing", () => {
    expect(
      of(found({ ...rest, outputVoltage: { gain: 0, counts: 0, resolution: 0 } }).findings, "boost.no-load-voltage")
        .unstated,
    ).toEqual(["outputVoltage"]);
  });

  test("an ordinary handheld meter, assumed, gives intervals that are marked", () => {
    const { findings, notes } = found({ ...rest, outputVoltage: ordinaryAccuracy(5.1, "V") });
    const f = of(findings, "boost.no-load-voltage");
    expect(f.assumed).toEqual(["outputVoltage"]);
    // Worked: rectangular halves of 0.5 % of 5 V and of 3 mV, half a step of 1 mV of its own, k = 2.
    expect(f.expandedUncertainty).toBeCloseTo(
      2 * Math.hypot((0.005 * numeric(f.value)) / Math.sqrt(3), 0.003 / Math.sqrt(3), 0.0005 / Math.sqrt(3), 0.0005),
      6,
    );
    expect(of(findings, "boost.max-current").assumed).toBeUndefined();
    expect(notes.find((n) => n.code === "assumed-accuracy")?.message).toMatch(
      /output voltage meter is assumed: ±\(0\.5\s% \+ 3 × 1\smV\)/,
    );
    expect(judgeFinding(f, { kind: "at-least", low: 1 }, "V", HOUSE_RULES).word).toBe("meets");
  });

  test("a like meter that stands in is named", () => {
    const instruments = accuraciesFor(["cellVoltage", "batteryVoltage"], {
      batteryVoltage: { gain: 0.001, counts: 2, resolution: 0.001 },
    });
    expect(instruments.cellVoltage).toMatchObject({ gain: 0.001, like: "batteryVoltage" });
    expect(instruments.batteryVoltage?.like).toBeUndefined();
    const { findings, notes } = found({
      ...rest,
      outputVoltage: { gain: 0.001, counts: 2, resolution: 0.001, like: "batteryVoltage" },
    });
    expect(of(findings, "boost.no-load-voltage").like).toEqual([["outputVoltage", "batteryVoltage"]]);
    expect(notes.find((n) => n.code === "like-accuracy")?.message).toContain(
      "that of the battery voltage meter is used for it",
    );
  });
});

test.each<[number, "V" | "A" | "°C", number]>([
  [5.08, "V", 0.001],
  [6.1, "V", 0.01],
  [0.5, "A", 0.0001],
  [1, "A", 0.001],
  [62, "°C", 1],
])("an ordinary meter shows %p %s in steps of %p", (largest, unit, resolution) => {
  expect(ordinaryAccuracy(largest, unit)).toEqual({
    gain: 0.005,
    counts: 3,
    resolution: expect.closeTo(resolution, 12) as number,
    assumed: true,
  });
});

test("times that the clock decides keep their uncertainty, those worked out from a meter lose it", () => {
  const time = Float64Array.from({ length: 4000 }, (_, k) => k);
  const amps = time.map((_, k) => (k % 100 < 4 ? 2e-3 : 2e-5));
  const volts = time.map(() => 3.7);
  const setup: RunSetup = { conditions: { usableCapacity: 2, state: "off" }, instruments: {} };
  const trace = {
    columns: { time, batteryCurrent: amps, batteryVoltage: volts } as Partial<Record<Role, Float64Array>>,
    events: [],
  };
  const a = analyseReadings(procedure("standby") as Procedure, { kind: "trace", trace }, setup, NO_CORRECTIONS);
  expect(of(a.findings, "standby.current").unstated).toEqual(["batteryCurrent"]);
  expect(of(a.findings, "standby.life").unstated).toEqual(["batteryCurrent"]);
});
