import type { ProcedureForm, TraceProcedure } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const chargeCycleForm = {
  summary: "From the first current to the rest after it: current, voltages, times, charge, efficiency and heat.",
  silences: {
    "charge.precharge-current": { otherwise: ["not-in-log", "The log doesn't show a pre-charge."] },
    "charge.precharge-threshold": { otherwise: ["not-in-log", "The log doesn't show the end of a pre-charge."] },
    "charge.cc-current": { otherwise: ["not-in-log", "The log doesn't show the constant-current phase."] },
    "charge.cc-end-voltage": { otherwise: ["not-in-log", "The log doesn't show the change to constant voltage."] },
    "charge.cc-duration": {
      otherwise: ["not-in-log", "The log doesn't show the constant-current phase from its start to its end."],
    },
    "charge.cv-voltage": { otherwise: ["did-not-happen", "No constant-voltage phase was seen."] },
    "charge.termination-current": { otherwise: ["not-in-log", "The log doesn't show the end of the charge."] },
    "charge.termination-voltage": { otherwise: ["not-in-log", "The log doesn't show the end of the charge."] },
    "charge.rest-voltage": { otherwise: ["not-in-log", "The log doesn't show a rest after the end."] },
    "charge.total-time": { otherwise: ["not-in-log", "The log doesn't cover the whole charge."] },
    "charge.capacity": { otherwise: ["not-in-log", "The log doesn't cover the whole charge."] },
    "charge.partial-capacity": { otherwise: ["did-not-happen", "The log covers the whole charge."] },
    "charge.interruptions": { otherwise: ["did-not-happen", "The charge was not interrupted."] },
    "charge.paused-time": { otherwise: ["did-not-happen", "The charge did not resume after an interruption."] },
    "charge.energy-delivered": { otherwise: ["not-in-log", "The log doesn't cover the whole charge."] },
    "charge.energy-drawn": {
      roles: ["inputVoltage", "inputCurrent"],
      otherwise: ["not-in-log", "The log doesn't cover the whole charge."],
    },
    "charge.efficiency": {
      roles: ["inputVoltage", "inputCurrent"],
      otherwise: ["not-in-log", "The log doesn't cover the whole charge."],
    },
    "charge.input-sag": {
      roles: ["inputVoltage"],
      otherwise: ["not-in-log", "The log does not show the input both unloaded and while charging."],
    },
    "charge.peak-dissipation": {
      roles: ["inputVoltage", "inputCurrent"],
      otherwise: ["not-in-log", "The log has less than a minute of charging."],
    },
    "charge.peak-temperature-rise": {
      roles: ["partTemperature"],
      condition: "ambientTemperature",
      otherwise: ["not-in-log", "The log doesn't show a charge."],
    },
    "charge.foldback-onset-temperature": {
      roles: ["partTemperature"],
      otherwise: ["did-not-happen", "The charger did not cut its own current because of heat."],
    },
    "charge.recharge-threshold": { otherwise: ["did-not-happen", "Charging did not begin again in the log."] },
    "channels.done-voltage": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.done-current": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.voltage-spread": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.early-time": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
    "channels.early-charge": { otherwise: ["did-not-happen", "No done lights of channels were marked on the log."] },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "cellVoltage", required: true },
      { role: "cellCurrent", required: true },
      { role: "inputVoltage", required: false },
      { role: "inputCurrent", required: false },
      { role: "partTemperature", required: false },
      { role: "cellTemperature", required: false },
      { role: "ambientTemperature", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "programmedCurrent",
      label: "Programmed current, if known",
      unit: "A",
      required: false,
      claim: "charge.cc-current",
      aboveZero: true,
    },
    { condition: "cellCapacity", label: "Cell capacity, if known", unit: "Ah", required: false, aboveZero: true },
    {
      condition: "ambientTemperature",
      label: "Ambient, where no column has it",
      unit: "°C",
      required: false,
      aboveZero: false,
    },
  ],
  marks: [
    { key: "l", kind: "light", what: "indicator changes" },
    { key: "b", kind: "press", what: "button pressed" },
    { key: "p", kind: "unplugged", what: "input unplugged" },
    { key: "q", kind: "cell-out", what: "cell removed" },
    { key: "d", kind: "ended", what: "charge ended" },
  ],
} satisfies ProcedureForm & Pick<TraceProcedure, "marks">;
