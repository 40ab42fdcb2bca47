import { impossibleInLog, impossibleReadings } from "..";
import { withReadings, correctedText, type Point, type RoleReading, type Role } from "../../measurement";
import { slipOf } from "./impossible";
import { numeric } from "../../quantities";

const ok = (v: number): RoleReading => ({ value: v, status: "ok" });
const cells = (of: Partial<Record<Role, number>>) =>
  Object.fromEntries(Object.entries(of).map(([r, v]) => [r, ok(numeric(v))])) as Partial<Record<Role, RoleReading>>;
const EXPECTED = { batteryVoltage: 3.7, batteryCurrent: 0.8, outputVoltage: 5, outputCurrent: 0.5 };
const GOOD = { batteryVoltage: 3.69, batteryCurrent: 0.775, outputVoltage: 5.02, outputCurrent: 0.5 };
const asked = (change: Partial<Record<Role, number>>) =>
  impossibleReadings(cells({ ...GOOD, ...change }), EXPECTED).map((r) => ({
    ...r,
    message: r.message.replace(/\u00a0/g, " "),
  }));

test("good readings are not asked about, a collapse neither", () => {
  expect(asked({})).toEqual([]);
  expect(asked({ outputVoltage: 0.005, outputCurrent: 0.0004, batteryCurrent: 0.01 })).toEqual([]);
  expect(asked({ outputVoltage: 2.1, outputCurrent: 0.2 })).toEqual([]);
  expect(asked({ outputVoltage: -0.003, outputCurrent: 0 })).toEqual([]);
});

test.each([
  ["outputVoltage", 50, 5, "Output voltage 50.00 V is ten times the expected 5.0 V: meant 5.000 V?"],
  ["outputVoltage", 0.502, 5.02, "Output voltage 502.0 mV is a tenth of the expected 5.0 V: meant 5.020 V?"],
  ["batteryCurrent", 775, 0.775, "Battery current 775.0 A is a thousand times the expected 800 mA: meant 775.0 mA?"],
  ["batteryVoltage", 369, 3.69, "Battery voltage 369.0 V is a hundred times the expected 3.7 V: meant 3.690 V?"],
  ["outputCurrent", 0.0005, 0.5, "Output current 500.0 μA is a thousandth of the expected 500 mA: meant 500.0 mA?"],
] as const)("a slip: %s read as %s was meant as %s", (role, read, meant, message) => {
  expect(asked({ [role]: read })).toEqual([
    expect.objectContaining({ code: "unit-slip", role, meant, ask: true, message: message.replace("μ", "µ") }),
  ]);
});

test("what no meter shows can't be kept; a negative voltage is asked about; the most likely slip comes first", () => {
  expect(asked({ outputVoltage: 1e11 })).toEqual([
    expect.objectContaining({ code: "beyond-meters", severity: "stop", role: "outputVoltage" }),
  ]);
  expect(asked({ batteryVoltage: -3.69 })).toEqual([
    expect.objectContaining({ code: "negative", role: "batteryVoltage", meant: 3.69, severity: "doubt" }),
  ]);
  expect(asked({ outputVoltage: 5000 })).toEqual([
    expect.objectContaining({ code: "unit-slip", meant: 5, severity: "stop" }),
  ]);
  expect(asked({ outputVoltage: 72, batteryCurrent: 8.01 }).map((r) => r.role)).toEqual([
    "batteryCurrent",
    "outputVoltage",
  ]);
});

test("every slip of one to six places of a voltage or a current is found and undone", () => {
  for (const [role, expected] of Object.entries(EXPECTED) as [Role, number][])
    for (let places = 1; places <= 6; places++) {
      for (const share of [0.98, 1, 1.02]) {
        const slip = slipOf(role, expected * share * 10 ** places, expected);
        expect([role, places, slip?.places]).toEqual([role, places, places]);
      }
      expect(slipOf(role, expected * 10 ** -places, expected)?.places).toBe(-places);
    }
  expect(slipOf("outputVoltage", 5, 0)).toBeNull();
});

test("in a log a voltage or a temperature is held against the row before; a current may fall to a tenth", () => {
  const before = { cellVoltage: 3.9, cellCurrent: 1, partTemperature: 42 };
  expect(impossibleInLog({ cellVoltage: 3.91, cellCurrent: 0.1, partTemperature: 43 }, before)).toEqual([]);
  expect(impossibleInLog({ cellVoltage: 39.1 }, before)[0]).toMatchObject({
    role: "cellVoltage",
    meant: 3.91,
    message: expect.stringMatching(/is ten times the last reading, 3\.9\sV: meant 3\.910\sV\?$/),
  });
  expect(impossibleInLog({ partTemperature: 420 }, before)[0]).toMatchObject({ meant: 42 });
  expect(impossibleInLog({ cellVoltage: -3.9 }, null)[0]).toMatchObject({ code: "negative" });
});

test("a corrected cell keeps its first reading, whatever was said of it since", () => {
  const point: Point = { id: "a", sequence: 0, settings: {}, cells: cells({ outputVoltage: 50, outputCurrent: 0.5 }) };
  expect(withReadings(point, [])).toBe(point);
  const twice = withReadings(point, [
    { role: "outputVoltage", value: 0.5, why: "mistyped" },
    { role: "outputVoltage", value: 5, why: "misread" },
    { role: "outputCurrent", value: null, why: "not read" },
  ]);
  expect(twice.cells).toEqual({ outputVoltage: ok(5), outputCurrent: { value: null, status: "empty" } });
  expect(point.cells.outputVoltage).toEqual(ok(50));
  expect(correctedText(twice).replace(/\u00a0/g, " ")).toBe(
    "output voltage was 50.00 V (misread); output current was 500.0 mA (not read)",
  );
});
