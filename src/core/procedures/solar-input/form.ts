import type { ProcedureForm } from "../contract";

/** What it is in a sentence, what it records and asks for, and why it may stay silent. */
export const solarInputForm = {
  summary:
    "A charger on its panel: conversion efficiency in steady light, the voltage it holds the panel at, and its recovery after a cloud.",
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
