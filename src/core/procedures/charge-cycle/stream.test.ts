import { metersFor, NO_CORRECTIONS } from "../../measurement";
import { chargeCharts, phaseSpans } from "./charts";
import { findPhases } from "./phases";
import { ChargeStream, type ChargeEvent, type StreamOptions } from "./stream";

const STEP = 5;
type Shape = (t: number) => readonly [amps: number, volts: number];

function run(shape: Shape, seconds: number, options: Partial<StreamOptions> = {}): ChargeEvent[] {
  const stream = new ChargeStream({ floor: 0.01, programmed: 1, ...options });
  const events: ChargeEvent[] = [];
  for (let t = 0; t <= seconds; t += STEP) {
    const [cellCurrent, cellVoltage] = shape(t);
    events.push(...stream.push({ time: t, cellCurrent, cellVoltage }));
  }
  return events;
}
const kinds = (e: readonly ChargeEvent[]) => e.map((x) => x.kind);
/** Off for a minute, 1 A with the volts rising to 4.17 V over an hour, then a voltage phase, then off. */
const ORDINARY: Shape = (t) => {
  if (t < 60) return [0, 3.5];
  if (t < 3660) return [1, 3.6 + (0.57 * (t - 60)) / 3600];
  const amps = Math.exp(-(t - 3660) / 900);
  return amps > 0.1 ? [amps, 4.2 - 0.03 * amps] : [0, 4.19];
};

describe("an ordinary charge", () => {
  const events = run(ORDINARY, 7200);

  test("starts, changes to constant voltage and stops, each once", () => {
    expect(kinds(events)).toEqual(["start", "constant-voltage", "stop"]);
  });

  test("each event stands where it happened, to a sample or two", () => {
    const at = (kind: string) => events.find((e) => e.kind === kind)?.time ?? NaN;
    expect(Math.abs(at("start") - 57.5)).toBeLessThanOrEqual(STEP);
    expect(Math.abs(at("constant-voltage") - 3660)).toBeLessThanOrEqual(30);
    expect(Math.abs(at("stop") - (3660 + 900 * Math.log(10)))).toBeLessThanOrEqual(2 * STEP);
  });

  test("no event is known before it happened", () => {
    for (const e of events) expect(e.known * STEP).toBeGreaterThanOrEqual(e.time);
  });
});

describe("what must not be taken for something else", () => {
  test("a single-sample spike either way is no start and no stop", () => {
    const spiky: Shape = (t) => (t === 30 ? [2, 3.5] : t === 1000 ? [0, 3.7] : t === 2000 ? [5, 3.8] : ORDINARY(t));
    expect(kinds(run(spiky, 7200))).toEqual(["start", "constant-voltage", "stop"]);
  });

  test("missing readings are passed over", () => {
    const holed: Shape = (t) => (t % 35 === 0 ? [NaN, NaN] : ORDINARY(t));
    expect(kinds(run(holed, 7200))).toEqual(["start", "constant-voltage", "stop"]);
  });

  test("heat that cuts the current to 85 % while the volts fall is a cut, and over when it is back", () => {
    const hot: Shape = (t) => {
      const [amps, volts] = ORDINARY(t);
      return t > 600 && t < 1500 ? [0.85 * amps, volts - 0.02] : [amps, volts];
    };
    expect(kinds(run(hot, 7200))).toEqual(["start", "cut-back", "cut-back-over", "constant-voltage", "stop"]);
  });

  test("a current that sinks while the volts go on rising is a cut, not constant voltage", () => {
    const sagging: Shape = (t) => {
      const [amps, volts] = ORDINARY(t);
      return t > 1800 && t < 3660 ? [amps * (1 - (0.12 * (t - 1800)) / 1860), volts] : [amps, volts];
    };
    expect(kinds(run(sagging, 3600))).toEqual(["start", "cut-back"]);
  });
});

describe("beginnings and ends", () => {
  test("a log that begins while current flows has no start", () => {
    expect(kinds(run((t) => ORDINARY(t + 500), 6500))).toEqual(["constant-voltage", "stop"]);
  });

  test("pre-charge steps up to full current, known or not what was set", () => {
    const deep: Shape = (t) => (t < 60 ? [0, 2.4] : t < 900 ? [0.1, 2.5 + t / 2200] : ORDINARY(t));
    expect(kinds(run(deep, 7200))).toEqual(["start", "full-current", "constant-voltage", "stop"]);
    expect(kinds(run(deep, 7200, { programmed: undefined }))).toEqual([
      "start",
      "full-current",
      "constant-voltage",
      "stop",
    ]);
    expect(Math.abs((run(deep, 7200)[1]?.time ?? NaN) - 897.5)).toBeLessThanOrEqual(2 * STEP);
  });

  test("after it stopped it may start again", () => {
    const again: Shape = (t) => (t > 9000 ? [1, 4.1] : ORDINARY(t));
    expect(kinds(run(again, 9600))).toEqual(["start", "constant-voltage", "stop", "restart"]);
  });

  test("nothing flows, nothing happens", () => {
    expect(run(() => [0.002, 3.7], 3600)).toEqual([]);
  });
});

describe("phases and their pictures", () => {
  const n = 7200 / STEP + 1;
  const rows = Array.from({ length: n }, (_, k) => ORDINARY(k * STEP));
  const trace = {
    columns: {
      time: Float64Array.from({ length: n }, (_, k) => k * STEP),
      cellCurrent: Float64Array.from(rows, (r) => r[0]),
      cellVoltage: Float64Array.from(rows, (r) => r[1]),
    },
    events: [],
  };
  const phases = findPhases(trace, { conditions: { programmedCurrent: 1 }, instruments: {} });

  test("the voltage phase gives back the regulated volts and the wire", () => {
    expect(phases?.onset?.reference).toBeCloseTo(4.2, 4);
    expect(phases?.onset?.wire).toBeCloseTo(0.03, 3);
  });

  test("stretches follow one another without a gap", () => {
    const spans = phases ? phaseSpans(phases) : [];
    expect(spans.map((s) => s.label)).toEqual(["constant current", "constant voltage", "rest"]);
    spans.slice(1).forEach((s, k) => expect(s.from).toBe(spans[k]?.to));
  });

  test("a curve a column that is there, thinned, with its first and last sample", () => {
    const charts = phases ? chargeCharts(phases, [], NO_CORRECTIONS.boundaries) : [];
    expect(charts.map((c) => c.id)).toEqual(["current", "voltage"]);
    const fit = charts[0]?.series[0]?.fit ?? [];
    expect(fit.length).toBeLessThanOrEqual(1600);
    expect(Math.max(...fit.map((p) => p.y))).toBe(1);
    expect(fit.at(-1)?.x).toBeGreaterThan(7100);
  });
});

test("a like meter stands in where the bench says nothing of a role, its own word goes first, and others get none", () => {
  const bench = { batteryVoltage: "v1", batteryCurrent: "a1", outputVoltage: "v2", inputCurrent: "a9" } as const;
  expect(
    metersFor(["cellVoltage", "cellCurrent", "inputVoltage", "inputCurrent", "partTemperature", "cell2Voltage"], bench),
  ).toEqual({
    cellVoltage: "v1",
    cellCurrent: "a1",
    inputVoltage: "v2",
    inputCurrent: "a9",
    cell2Voltage: "v1",
  });
});
