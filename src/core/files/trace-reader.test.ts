import fc from "fast-check";
import Papa from "papaparse";
import { joinColumns, readField, readTime, TraceReader, type TraceColumns } from ".";
import type { ColumnMapping } from "./mapping";
import { ELEMENTS } from "../quantities";

const { nth } = ELEMENTS;

const MAPPING: ColumnMapping = {
  time: { header: "t", unit: "s" },
  cellVoltage: { header: "V", unit: "mV" },
  cellCurrent: { header: "I", unit: "mA", sign: -1 },
};
const DIALECT = { delimiter: ";", decimal: "," } as const;

function read(text: string, cut: number, lastLine: "ask" | "whole" = "ask", chunk = 7) {
  const bytes = new TextEncoder().encode(text);
  const parts: TraceColumns[] = [];
  const reader = new TraceReader({ dialect: DIALECT, mapping: MAPPING, chunk, lastLine }, (columns) =>
    parts.push(columns),
  );
  for (let k = 0; k < bytes.length; k += cut) if (!reader.feed(bytes.slice(k, k + cut))) break;
  return { end: reader.end(), columns: joinColumns(parts), parts };
}

/** The same by the obvious road: the whole text cut by the CSV parser, every cell read as text. */
function slowly(text: string) {
  const [head, ...rows] = Papa.parse<string[]>(text, { delimiter: ";", skipEmptyLines: "greedy" }).data;
  const at = (name: string) => (head ?? []).indexOf(name);
  const kept: number[][] = [];
  for (const row of rows) {
    const t = readTime(row[at("t")] ?? "", "s", ",");
    const v = readField(row[at("V")] ?? "", ",", 1e-3, 2000);
    const i = readField(row[at("I")] ?? "", ",", -1e-3, 500);
    if (t === null || !v.ok || !i.ok || t === kept[kept.length - 1]?.[0]) continue;
    kept.push([t, v.value.value ?? NaN, i.value.value ?? NaN]);
  }
  const first = kept[0]?.[0] ?? 0;
  return {
    time: kept.map((r) => nth(r, 0) - first),
    cellVoltage: kept.map((r) => r[1]),
    cellCurrent: kept.map((r) => r[2]),
  };
}

const number = fc.oneof(
  fc.tuple(fc.integer({ min: -99999, max: 99999 }), fc.integer({ min: 0, max: 999999 })).map(([a, b]) => `${a},${b}`),
  fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e6, max: 1e6 }).map((v) => String(v).replace(".", ",")),
  fc.integer({ min: 0, max: 5000 }).map(String),
);
const cell = fc.oneof(
  { weight: 8, arbitrary: number },
  {
    weight: 1,
    arbitrary: fc.constantFrom(
      "",
      "OL",
      "-",
      " 3,5 ",
      "+4,25",
      "1.204,5",
      "4.2e-1",
      "warm",
      '"3,75"',
      '"3;75"',
      ",5",
      "7,",
    ),
  },
);

test("bytes cut anywhere give what a parse of the whole text gives, whatever stands in the cells", () => {
  const seed = Date.now() % 1e6;
  fc.assert(
    fc.property(
      fc.array(fc.tuple(cell, cell, fc.constantFrom("a", "note 1", "")), { minLength: 3, maxLength: 40 }),
      fc.integer({ min: 1, max: 200 }),
      fc.constantFrom("\n", "\r\n"),
      fc.boolean(),
      (rows, cut, newline, closed) => {
        const lines = ["t;note;V;I", ...rows.map(([v, i, note], k) => `${k}${k % 3 ? ",25" : ""};${note};${v};${i}`)];
        if (rows.length > 5) lines.splice(4, 0, "", ";;;");
        const text = `\ufeff${lines.join(newline)}${closed ? newline : ""}`;
        // A last line without its line feed is taken for whole here; whether it is asked about is tested by itself.
        const { end, columns } = read(text, cut, "whole");
        const expected = slowly(text.slice(1));
        if (expected.time.length < 2) expect(end.ok ? end.value.rows : 0).toBeLessThan(2);
        else
          for (const role of ["time", "cellVoltage", "cellCurrent"] as const)
            expect([...(columns[role] ?? [])]).toEqual(expected[role]);
      },
    ),
    { numRuns: 300, seed, verbose: 1 },
  );
});

test("rows come out in pieces of the wanted size, and a bad one is named by its line of the file", () => {
  const { end, parts } = read(
    `t;V;I\n${Array.from({ length: 20 }, (_, k) => `${k};${k === 11 ? "x" : 3600};1`).join("\n")}\n`,
    13,
  );
  expect(parts.map((p) => p.time?.length)).toEqual([7, 7, 5]);
  expect(end.ok && end.value.problems).toEqual([
    { line: 13, column: "V", value: "x", expected: "a number, nothing, or OL" },
  ]);
  expect(end.ok && end.value.rows).toBe(19);
});

test("a quote that is never closed is said, not read on for ever", () => {
  const { end } = read('t;V;I\n0;1;1\n1;1;1\n2;"1;1\n3;1;1\n', 5);
  expect(end.ok || end.error).toMatch(/Line 4: a quoted field is never closed/);
});
