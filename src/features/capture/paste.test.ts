import { parsePasted } from "./paste";

const ROLES = ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent", "partTemperature"] as const;

describe("rows from a spreadsheet", () => {
  test("tabs, decimal comma, a heading line; each row goes to the nearest planned battery", () => {
    const r = parsePasted(
      "Vb\tIb\tVout\tIout\n3,598\t0,78\t5,02\t0,5\n3,102\t0,91\t5,01\t0,5\t31,5\n",
      ROLES,
      [4.1, 3.6, 3.1],
      3,
    );
    expect(r.problems).toEqual([]);
    expect(r.rows.map((x) => x.settings.supplyVoltage)).toEqual([3.6, 3.1]);
    expect(r.rows[0]?.cells.batteryCurrent).toEqual({ value: 0.78, status: "ok" });
    expect(r.rows[0]?.cells.partTemperature).toEqual({ value: null, status: "empty" });
    expect(r.rows[1]?.settings).toMatchObject({ supplyCurrentLimit: 3, load: { mode: "current", value: 0.5 } });
  });
  test("a bad cell is named and its row not taken", () => {
    const r = parsePasted("3.6\t0.1\tx\t0.05\n3.6\t0.2\t5\t0.1", ROLES, [3.6], undefined);
    expect(r.rows).toHaveLength(1);
    expect(r.problems).toEqual(["Row 1, column 3 (output voltage): “x” is not a number, nothing, or OL."]);
  });
  test("rows that can hardly be right are named before they are kept; what no meter shows is not taken", () => {
    const r = parsePasted(
      "3.6\t310\t5.02\t0.2\n3.6\t0.31\t-5.02\t0.2\n3.6\t0.62\t9e9\t0.4\n3.6\t0.62\t5.02\t0.4",
      ROLES,
      [3.6],
      3,
      5,
    );
    expect(r.rows.map((x) => x.line)).toEqual([1, 2, 4]);
    expect(r.problems).toEqual([
      expect.stringContaining("Row 3, column 3 (output voltage): “9e9” is not a reading that a meter can show"),
    ]);
    expect(r.doubts).toEqual([
      expect.stringMatching(/^Row 1: Battery current 310\.0\sA is a thousand times the expected 327\smA/),
      expect.stringMatching(/^Row 2: Output voltage .5\.020\sV is negative/),
    ]);
  });
});
