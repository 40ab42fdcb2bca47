import { ROLES } from "../measurement";
import { SETTING_ROLES } from "./mapping";
import { SETUP_NUMBERS, SETUP_SIGNED, SETUP_UNITS, SETUP_WORDS } from "./setup-file";

/** Roles by their names; cells of a pack are numbered. */
const named = (names: readonly string[]) => ({
  anyOf: [{ enum: [...names] }, { type: "string", pattern: "^cell\\d+Voltage$" }],
});
const zeroUp = { type: "number", minimum: 0 } as const;

/** JSON Schema of a set-up file: what was measured, how the table is written, the conditions (SI) and the meters. */
export const SETUP_SCHEMA = {
  type: "object",
  required: ["procedure", "columns"],
  properties: {
    procedure: { type: "string", minLength: 1 },
    title: { type: "string" },
    delimiter: { type: "string", minLength: 1, maxLength: 1 },
    decimal: { enum: [".", ","] },
    columns: {
      type: "object",
      propertyNames: named([...Object.keys(ROLES), ...SETTING_ROLES]),
      additionalProperties: {
        type: "object",
        required: ["header"],
        properties: { header: { type: "string" }, unit: { enum: [...SETUP_UNITS] }, sign: { enum: [1, -1] } },
      },
    },
    conditions: {
      type: "object",
      properties: {
        ...Object.fromEntries(SETUP_NUMBERS.map((n) => [n, SETUP_SIGNED.has(n) ? { type: "number" } : zeroUp])),
        ...Object.fromEntries(SETUP_WORDS.map((w) => [w, { type: "string" }])),
      },
      additionalProperties: false,
    },
    instruments: {
      type: "object",
      propertyNames: named(Object.keys(ROLES)),
      additionalProperties: {
        type: "object",
        required: ["gain", "counts", "resolution"],
        properties: { gain: zeroUp, counts: zeroUp, resolution: zeroUp },
      },
    },
    events: {
      type: "array",
      items: {
        type: "object",
        required: ["time", "what"],
        properties: { time: { type: "number" }, what: { type: "string" } },
      },
    },
  },
} as const;
