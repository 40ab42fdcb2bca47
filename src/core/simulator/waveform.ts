import { seeded } from "./random";

/** The output of a converter as an oscilloscope writes it: a sawtooth of its switching, a spike at each edge, noise, in steps of the instrument. */
export interface WaveformModel {
  /** V between the corners of the sawtooth, and of the spike above it at each edge. */
  readonly sawtooth: number;
  readonly spike: number;
  /** Switchings a second, and share of a period in which it rises. */
  readonly hertz: number;
  readonly rises: number;
  /** V of noise (standard deviation), and of a step of the instrument. */
  readonly noise: number;
  readonly step: number;
}
export interface Waveform {
  readonly time: Float64Array;
  readonly outputVoltage: Float64Array;
}

/** s that a spike takes to die away. */
const SPIKE = 60e-9;

/** `samples` of it, `rate` a second, coupled without its direct voltage. The highest less the lowest without noise is sawtooth + spike. */
export function waveform(model: WaveformModel, rate: number, samples: number, seed: number): Waveform {
  const random = seeded(seed);
  const start = random.uniform();
  const time = Float64Array.from({ length: samples }, (_, k) => Number((k / rate).toPrecision(12)));
  const outputVoltage = time.map((t) => {
    const phase = (start + t * model.hertz) % 1;
    const ramp = phase < model.rises ? phase / model.rises : (1 - phase) / (1 - model.rises);
    const since = phase < model.rises ? Infinity : (phase - model.rises) / model.hertz;
    const v = model.sawtooth * (ramp - 0.5) + model.spike * Math.exp(-since / SPIKE) + model.noise * random.normal();
    return Number((Math.round(v / model.step) * model.step).toPrecision(9));
  });
  return { time, outputVoltage };
}
