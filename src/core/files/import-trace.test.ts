import { guessMapping, readTable, traceFromFile } from ".";
import type { ColumnMapping } from "./mapping";

const MAPPING: ColumnMapping = {
  time: { header: "t", unit: "s" },
  cellVoltage: { header: "V", unit: "V" },
  cellCurrent: { header: "I", unit: "mA" },
};
const read = (text: string, mapping = MAPPING) => {
  const r = traceFromFile(text, {}, mapping);
  if (!r.ok) throw new Error(r.error);
  return r.value;
};
const said = (text: string, mapping = MAPPING) => {
  const r = traceFromFile(text, {}, mapping);
  return r.ok ? "read" : r.error;
};

describe("a log", () => {
  test("becomes columns in SI over seconds from its first row", () => {
    const { trace, problems, remarks } = read("t,V,I\n100,3.6,500\n102.5,3.61,498\n105,3.62,497\n");
    expect([...(trace.columns.time ?? [])]).toEqual([0, 2.5, 5]);
    expect([...(trace.columns.cellVoltage ?? [])]).toEqual([3.6, 3.61, 3.62]);
    expect([...(trace.columns.cellCurrent ?? [])].map((v) => Number(v.toFixed(6)))).toEqual([0.5, 0.498, 0.497]);
    expect([problems, remarks]).toEqual([[], []]);
  });

  test.each<[string, ColumnMapping["time"], string, number[]]>([
    ["minutes", { header: "t", unit: "min" }, "0\n1\n1.5", [0, 60, 90]],
    ["milliseconds", { header: "t", unit: "ms" }, "5000\n6000\n6500", [0, 1, 1.5]],
    [
      "a clock that runs past midnight",
      { header: "t", unit: "hh:mm:ss" },
      "23:59:58\n23:59:59.5\n00:00:01",
      [0, 1.5, 3],
    ],
    ["elapsed time beyond a day", { header: "t", unit: "hh:mm:ss" }, "25:00:00\n25:00:02\n25:00:04", [0, 2, 4]],
    [
      "stamps with a zone",
      { header: "t", unit: "iso" },
      "2031-04-09T22:14:05+02:00\n2031-04-09T20:14:08Z\n2031-04-09T20:14:11Z",
      [0, 3, 6],
    ],
  ])("with time in %s", (_, time, times, expected) => {
    const text = `t,V,I\n${times
      .split("\n")
      .map((t) => `${t},3.6,500`)
      .join("\n")}\n`;
    const mapping: ColumnMapping = { ...MAPPING, ...(time ? { time } : {}) };
    expect([...(read(text, mapping).trace.columns.time ?? [])].map((v) => Number(v.toFixed(6)))).toEqual(expected);
  });

  test("an empty cell and an overload mark are no readings, never zero", () => {
    const { trace, remarks } = read("t,V,I\n0,3.6,500\n1,,OL\n2,3.61,500\n");
    expect([...(trace.columns.cellVoltage ?? [])]).toEqual([3.6, NaN, 3.61]);
    expect(trace.columns.cellCurrent?.[1]).toBeNaN();
    expect(remarks).toEqual(["1 overload mark counts as no reading."]);
  });

  test("a repeated row or stamp is dropped and said", () => {
    const { trace, remarks } = read("t,V,I\n0,3.6,500\n1,3.6,500\n1,3.6,500\n1,3.7,500\n2,3.61,500\n");
    expect(trace.columns.time).toHaveLength(3);
    expect(remarks[0]).toMatch(/^2 rows repeat the time stamp/);
  });

  test("a bad cell is named by line and column; only its row is missing", () => {
    const { trace, problems } = read("t,V,I\n0,3.6,500\n1,x,500\nsoon,3.6,500\n3,3.61,500\n");
    expect(problems).toEqual([
      { line: 3, column: "V", value: "x", expected: "a number, nothing, or OL" },
      { line: 4, column: "t", value: "soon", expected: "a time in s" },
    ]);
    expect([...(trace.columns.time ?? [])]).toEqual([0, 3]);
  });

  test("a reversed sign is put right", () => {
    const mapping: ColumnMapping = { ...MAPPING, cellCurrent: { header: "I", unit: "mA", sign: -1 } };
    expect(read("t,V,I\n0,3.6,-500\n1,3.6,-400\n", mapping).trace.columns.cellCurrent?.[0]).toBeCloseTo(0.5, 12);
  });
});

describe("is refused with the reason", () => {
  test.each<[string, string, RegExp]>([
    ["nothing", "", /empty/],
    ["text", "Dear reader,\nthis is no log.\n", /no column “t”/],
    ["one column", "t\n0\n1\n", /Only one column/],
    [
      "a time that runs back",
      "t,V,I\n0,3.6,500\n5,3.6,500\n3,3.6,500\n",
      /Line 4: the time runs back, from 5 s to 3 s/,
    ],
    ["a single row", "t,V,I\n0,3.6,500\n", /fewer than two rows/],
    ["a column that is not there", "t,V,J\n0,3.6,500\n1,3.6,500\n", /no column “I” \(wanted for cell current\)/],
  ])("%s", (_, text, expected) => {
    expect(said(text)).toMatch(expected);
  });

  test("no time, or nothing beside it", () => {
    expect(said("t,V,I\n0,3.6,500\n1,3.6,500\n", { cellVoltage: { header: "V", unit: "V" } })).toMatch(
      /No column is assigned to time/,
    );
    expect(said("t,V,I\n0,3.6,500\n1,3.6,500\n", { time: { header: "t", unit: "s" } })).toMatch(
      /No column is assigned to a quantity/,
    );
  });

  test("ten million characters in one cell name the cell and lose nothing else", () => {
    const r = traceFromFile(`t,V,I\n0,3.6,500\n1,${"9".repeat(1e7)}x,500\n2,3.61,500\n`, {}, MAPPING);
    expect(r.ok && r.value.problems).toHaveLength(1);
    expect(r.ok && r.value.trace.columns.time).toHaveLength(2);
  });
});

test("the columns of a charge log are recognised in two languages", () => {
  const text = (head: string) => `${head}\n00:00:00;5201;2;3480;-1;26,2;26,8\n00:00:03;5201;2;3479;0;26,2;27,0\n`;
  const table = (head: string) => {
    const t = readTable(text(head));
    if (!t.ok) throw new Error(t.error);
    return t.value;
  };
  const head =
    "Zeitstempel;Eingangsspannung [mV];Eingangsstrom [mA];Zellspannung [mV];Zellstrom [mA];Bauteil [°C];Umgebung [°C]";
  const german = table(head);
  const mapping = guessMapping(german);
  expect(Object.fromEntries(Object.entries(mapping).map(([role, c]) => [role, c?.unit]))).toEqual({
    time: "hh:mm:ss",
    inputVoltage: "mV",
    inputCurrent: "mA",
    cellVoltage: "mV",
    cellCurrent: "mA",
    partTemperature: "degC",
    ambientTemperature: "degC",
  });
  const r = traceFromFile(text(head), {}, mapping);
  expect(r.ok && r.value.trace.columns.cellVoltage?.[0]).toBeCloseTo(3.48, 9);
  const english = guessMapping(
    table(
      "Elapsed;Input voltage (mV);Input current (mA);Cell voltage (mV);Cell current (mA);Part temp. (°C);Ambient (°C)",
    ),
  );
  expect(Object.keys(english).sort()).toEqual(Object.keys(mapping).sort());
});
