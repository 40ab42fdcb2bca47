import type { RunSetup } from "./shape";

/** A set-up for a sample as it stands: its jumpers and programming resistor in words, the setting of its output in V. Every result of the run carries them. */
export const ofSample = <P>(
  setup: RunSetup<P>,
  sample: { readonly configuration?: string; readonly output?: number },
): RunSetup<P> => ({
  ...setup,
  conditions: {
    ...setup.conditions,
    ...(sample.configuration ? { configuration: sample.configuration } : {}),
    ...(sample.output ? { output: sample.output } : {}),
  },
});
