import type { Procedure } from "../shape";
import { procedureTitle, PROCEDURE_FACTS } from "../versions";
import { analyseRipple } from "./analyse";
import { likeness } from "./likeness";

/** The ripple of an output, from a waveform that an oscilloscope wrote. */
export const ripple: Procedure = {
  id: "ripple",
  version: PROCEDURE_FACTS.ripple.version,
  title: procedureTitle("ripple"),
  summary:
    "Peak to peak of the output from a waveform of an oscilloscope, within its stated bandwidth: short ground lead, right at the output's capacitor.",
  readings: PROCEDURE_FACTS.ripple.readings,
  destructive: false,
  position: 52,
  work: [{ minutes: 10, needs: ["hands", "supply", "load"] }],
  calledForBy: ["boost", "power-path"],
  rare: true,
  silences: {
    "boost.ripple": {
      roles: ["outputVoltage"],
      condition: "bandwidth",
      otherwise: ["not-in-log", "The record doesn't hold a waveform of the output."],
    },
  },
  headline: ["boost.ripple"],
  record: {
    roles: [
      { role: "time", required: true },
      { role: "outputVoltage", required: true },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "bandwidth",
      label: "Bandwidth of the instrument, with its probe",
      unit: "Hz",
      required: false,
      first: 20e6,
      aboveZero: true,
    },
    { condition: "battery", label: "Battery voltage, if known", unit: "V", required: false, aboveZero: true },
    { condition: "load", label: "Load on the output, if known", unit: "A", required: false, aboveZero: false },
  ],
  measures: ["boost.ripple"],
  likeness,
  analyse: analyseRipple,
};
