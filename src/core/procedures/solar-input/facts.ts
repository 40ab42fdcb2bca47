import type { ProcedureFacts, ProcedureForm } from "../contract";

/** What is known of it apart from its code. */
export const solarInputFacts = {
  id: "solar-input",
  version: 1,
  title: "Solar input",
  summary:
    "A charger on its panel: conversion efficiency in steady light, the voltage it holds the panel at, and its recovery after a cloud.",
  readings: "trace",
  destructive: false,
  position: 40,
  work: [
    { minutes: 10, needs: ["hands", "supply", "logger"] },
    { minutes: 20, needs: ["supply", "logger"] },
  ],
  calledForBy: ["solar-input"],
  measures: ["solar.conversion-efficiency", "solar.harvest", "solar.panel-voltage"],
  headline: ["solar.conversion-efficiency", "solar.panel-voltage"],
  onPaper: 5,
} as const satisfies ProcedureFacts;

/** What it records and asks for, and why it may stay silent. */
export const solarInputForm = {
  silences: {
    "solar.conversion-efficiency": {
      roles: ["inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"],
      otherwise: ["not-in-log", "The light never held steady for long enough."],
    },
    "solar.harvest": {
      condition: "panelMaximumPower",
      otherwise: ["not-in-log", "The light never held steady for long enough."],
    },
    "solar.panel-voltage": {
      roles: ["inputVoltage"],
      otherwise: ["not-in-log", "The light never held steady for long enough."],
    },
  },
  record: {
    roles: [
      { role: "time", required: true },
      { role: "inputVoltage", required: true },
      { role: "inputCurrent", required: true },
      { role: "cellVoltage", required: true },
      { role: "cellCurrent", required: true },
      { role: "partTemperature", required: false },
    ],
    derived: [],
  },
  asks: [
    {
      condition: "panelMaximumPower",
      label: "Panel's maximum power in that light",
      unit: "W",
      required: false,
      aboveZero: true,
    },
  ],
} satisfies ProcedureForm;
