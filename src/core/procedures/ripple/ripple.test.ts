import { waveform, type WaveformModel } from "../../simulator/waveform";
import { seeded } from "../../simulator/random";
import { seedOf } from "@/testing/population";
import { analyseReadings, type Procedure } from "..";
import { NO_CORRECTIONS, type Analysis, type RunSetup } from "../../measurement";
import { ripple } from ".";
import { numeric } from "../../quantities";

const SCOPE = { gain: 0.03, counts: 1, resolution: 2e-4 };
const MODEL: WaveformModel = { sawtooth: 0.04, spike: 0, hertz: 500e3, rises: 0.5, noise: 0, step: 2e-4 };
const analysed = (
  { time, outputVoltage }: { readonly time: Float64Array; readonly outputVoltage: Float64Array },
  conditions: RunSetup["conditions"] = { bandwidth: 20e6 },
): Analysis =>
  analyseReadings(
    ripple as Procedure,
    { kind: "trace", trace: { columns: { time, outputVoltage }, events: [] } },
    { conditions, instruments: { outputVoltage: SCOPE } },
    NO_CORRECTIONS,
  );

test("a sawtooth of 40 mV at 500 kHz: its peak to peak, at the stated battery and load, and how often it repeats", () => {
  const a = analysed(waveform(MODEL, 100e6, 2500, 1), { bandwidth: 20e6, battery: 3.6, load: 0.5 });
  const [f] = a.findings;
  expect(f).toMatchObject({ characteristic: "boost.ripple", unit: "V", conditions: { battery: 3.6, load: 0.5 } });
  expect(f?.bound).toBeUndefined();
  expect(Math.abs(numeric(f?.value) - 0.04)).toBeLessThanOrEqual(4e-4);
  // 3 % of gain, a rectangle, doubled: 2 · 0.03 · 40 mV/√3 = 1.39 mV; the steps add little.
  expect(f?.expandedUncertainty).toBeGreaterThan(1.38e-3);
  expect(f?.expandedUncertainty).toBeLessThan(1.45e-3);
  expect(a.notes.map((n) => n.message).join(" ")).toMatch(
    /bandwidth of 20\sMHz, noise included\. It repeats at about 500\skHz/,
  );
});

test("the direct voltage under it does not count, nor do samples that are missing", () => {
  const w = waveform(MODEL, 100e6, 2500, 2);
  const lifted = { time: w.time, outputVoltage: w.outputVoltage.map((v, k) => (k % 50 === 7 ? NaN : v + 5)) };
  expect(Math.abs(numeric(analysed(lifted).findings[0]?.value) - numeric(analysed(w).findings[0]?.value))).toBeLessThan(
    1e-3,
  );
});

test.each([
  ["a record of two periods", waveform(MODEL, 100e6, 400, 3), /fewer than 3 periods/],
  ["four samples a period", waveform({ ...MODEL, hertz: 510e3 }, 2e6, 2000, 4), /fewer than 8 a period/],
  ["sampled slower than twice the bandwidth", waveform(MODEL, 10e6, 2500, 5), /less than twice its bandwidth/],
] as const)("%s gives a lower limit, and says why", (_, w, why) => {
  const a = analysed(w);
  expect(a.findings[0]?.bound).toBe("at-least");
  expect(a.notes.map((n) => n.message).join(" ")).toMatch(why);
});

test("without a bandwidth, or without a waveform, it is not stated", () => {
  const w = waveform(MODEL, 100e6, 2500, 6);
  const unstated = analysed(w, {});
  expect(unstated.findings).toEqual([]);
  expect(unstated.notStated).toEqual([expect.objectContaining({ code: "needs", needs: { condition: "bandwidth" } })]);
  const short = analysed({ time: w.time.subarray(0, 40), outputVoltage: w.outputVoltage.subarray(0, 40) });
  expect(short.notStated).toEqual([
    expect.objectContaining({ code: "not-in-log", reason: expect.stringMatching(/40 samples/) as string }),
  ]);
});

const SEED = seedOf(20261130);
test(`of 120 random waveforms the interval holds the truth, spikes and all (seed ${SEED})`, () => {
  const r = seeded(SEED);
  let held = 0;
  for (let k = 0; k < 120; k++) {
    const step = r.between(5e-5, 4e-4);
    const model: WaveformModel = {
      sawtooth: r.between(0.01, 0.08),
      spike: r.uniform() < 0.5 ? 0 : r.between(0.005, 0.05),
      hertz: r.between(200e3, 1.2e6),
      rises: r.between(0.3, 0.7),
      noise: 0,
      step,
    };
    const gain = 0.03 * (2 * r.uniform() - 1);
    const w = waveform(model, 200e6, 4000, k + 1);
    const read = { time: w.time, outputVoltage: w.outputVoltage.map((v) => v * (1 + gain) + 0.01) };
    const a = analyseReadings(
      ripple as Procedure,
      { kind: "trace", trace: { columns: read, events: [] } },
      { conditions: { bandwidth: 20e6 }, instruments: { outputVoltage: { ...SCOPE, resolution: step } } },
      NO_CORRECTIONS,
    );
    const f = a.findings[0];
    held += Number(Math.abs(numeric(f?.value) - (model.sawtooth + model.spike)) <= (f?.expandedUncertainty ?? 0));
  }
  expect({ seed: SEED, held: held >= 112, of: held }).toEqual({ seed: SEED, held: true, of: held });
});
