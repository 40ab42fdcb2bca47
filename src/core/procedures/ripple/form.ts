import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const rippleForm = {
  summary:
    "Peak to peak of the output from a waveform of an oscilloscope, within its stated bandwidth: short ground lead, right at the output's capacitor.",
  silences: {
    "boost.ripple": {
      roles: ["outputVoltage"],
      condition: "bandwidth",
      otherwise: ["not-in-log", "The record doesn't hold a waveform of the output."],
    },
  },
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
} satisfies ProcedureForm;
