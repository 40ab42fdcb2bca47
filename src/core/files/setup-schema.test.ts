import Ajv2020 from "ajv/dist/2020";
import { readSetupFile } from ".";
import { SETUP_SCHEMA } from "./setup-schema";

const valid = new Ajv2020({ strict: false }).compile(SETUP_SCHEMA);
const GOOD = {
  procedure: "discharge",
  title: "A cell",
  delimiter: ";",
  decimal: ",",
  columns: {
    time: { header: "t", unit: "s" },
    cellVoltage: { header: "U", unit: "V" },
    cell3Voltage: { header: "U3", unit: "mV", sign: -1 },
  },
  conditions: { cellCapacity: 2.2, ambientTemperature: -5, configuration: "J1 open" },
  instruments: { cellVoltage: { gain: 0.001, counts: 2, resolution: 0.001 } },
  events: [{ time: 12, what: "load off" }],
};

/** The good file with one thing changed, by its path. */
function changed(path: string, value: unknown): unknown {
  const copy = structuredClone(GOOD) as Record<string, unknown>;
  const keys = path.split(".");
  let at: Record<string, unknown> = copy;
  for (const k of keys.slice(0, -1)) at = at[k] as Record<string, unknown>;
  const last = keys.at(-1) ?? "";
  if (value === undefined) delete at[last];
  else at[last] = value;
  return copy;
}

test("a set-up that is read keeps to the schema", () => {
  expect(readSetupFile(JSON.stringify(GOOD))).toMatchObject({ ok: true });
  expect([valid(GOOD), valid.errors]).toEqual([true, null]);
});

test.each<[string, unknown]>([
  ["procedure", undefined],
  ["procedure", ""],
  ["procedure", 3],
  ["delimiter", ";;"],
  ["decimal", "·"],
  ["columns", undefined],
  ["columns", []],
  ["columns.volts", { header: "U" }],
  ["columns.time", {}],
  ["columns.time.unit", "furlong"],
  ["columns.time.sign", 0],
  ["conditions", 3],
  ["conditions.cellCapacity", "2.2"],
  ["conditions.cellCapacity", -1],
  ["conditions.configuration", 4],
  ["conditions.cellcapacity", 2],
  ["instruments", []],
  ["instruments.cellvoltage", { gain: 0, counts: 0, resolution: 1 }],
  ["instruments.cellVoltage", {}],
  ["instruments.cellVoltage.gain", -0.1],
  ["events", {}],
  ["events.0.time", "12"],
  ["events.0.what", undefined],
])("what the reader refuses the schema refuses: %s = %j", (path, value) => {
  const file = changed(path, value);
  expect([readSetupFile(JSON.stringify(file)).ok, valid(file)]).toEqual([false, false]);
});

test("an ambient below zero is none of them", () => {
  expect([
    readSetupFile(JSON.stringify(changed("conditions.ambientTemperature", -20))).ok,
    valid(changed("conditions.ambientTemperature", -20)),
  ]).toEqual([true, true]);
});
