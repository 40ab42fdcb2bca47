import { parsePasted } from "./paste";
import { parseDrawer } from "../prepare/rig-fields";
import { fieldText } from "@/ui/number-field";
import { axis, thin } from "@/ui/plot-data";

const ROLES = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent", "partTemperature"] as const;

describe("rows from a spreadsheet", () => {
  test("tabs, decimal comma, a heading line; each row goes to the nearest planned battery", () => {
    const r = parsePasted("Vb\tIb\tVout\tIout\n3,598\t0,78\t5,02\t0,5\n3,102\t0,91\t5,01\t0,5\t31,5\n", ROLES, [4.1, 3.6, 3.1], 3);
    expect(r.problems).toEqual([]);
    expect(r.rows.map((x) => x.settings.supplyVoltage)).toEqual([3.6, 3.1]);
    expect(r.rows[0]?.cells.batteryCurrent).toEqual({ value: 0.78, status: "ok" });
    expect(r.rows[0]?.cells.partTemperature).toEqual({ value: null, status: "empty" });
    expect(r.rows[1]?.settings).toMatchObject({ supplyCurrentLimit: 3, load: { mode: "current", value: 0.5 } });
  });
  test("a bad cell is named and its row not taken", () => {
    const r = parsePasted("3.6\t0.1\tx\t0.05\n3.6\t0.2\t5\t0.1", ROLES, [3.6], undefined);
    expect(r.rows).toHaveLength(1);
    expect(r.problems).toEqual(["Row 1, column 3 (output volts): “x” is not a number, nothing, or OL."]);
  });
});

test("a drawer as text", () => {
  expect(parseDrawer("10R 5W, 4R7 10W ×2; 1k 0.25W")).toEqual({ pieces: [{ ohms: 10, watts: 5 }, { ohms: 4.7, watts: 10 }, { ohms: 4.7, watts: 10 }, { ohms: 1000, watts: 0.25 }] });
  expect(parseDrawer("10R")).toMatchObject({ error: expect.stringContaining("10R 5W") });
  expect(parseDrawer("10V 5W")).toMatchObject({ error: expect.stringContaining("10V 5W") });
  expect(parseDrawer("0R 5W")).toMatchObject({ error: expect.stringContaining("above zero") });
});

test("a field is filled as one would type it", () => {
  expect(fieldText(5, "V")).toBe("5");
  expect(fieldText(0.02, "A")).toBe("20m");
  expect(fieldText(0.05, "1")).toBe("5");
  expect(fieldText(0, "Ω")).toBe("0");
  expect(fieldText(4700, "Ω")).toBe("4.7k");
});

test("axes end on round numbers and hold every value", () => {
  const a = axis([0.36, 0.896]);
  expect(a.low).toBeLessThanOrEqual(0.36);
  expect(a.high).toBeGreaterThan(0.9);
  expect(axis([]).ticks.length).toBeGreaterThan(1);
  expect(axis([5, 5]).high).toBeGreaterThan(5);
});

test("thinning loses no spike", () => {
  const points = Array.from({ length: 5000 }, (_, x) => ({ x, y: x === 3210 ? 99 : x === 17 ? -99 : Math.sin(x) }));
  const kept = thin(points, 400);
  expect(kept.length).toBeLessThanOrEqual(400);
  expect(kept.map((p) => p.y)).toEqual(expect.arrayContaining([99, -99]));
  expect(kept.map((p) => p.x)).toEqual([...kept.map((p) => p.x)].sort((a, b) => a - b));
});
