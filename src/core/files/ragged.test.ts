import { procedure, type Procedure } from "../procedures";
import { decodeText, encodingOf, pointsFromFile, readLog, readSetupFile, traceFromFile, type SetupFile } from ".";
import { guessMapping, type ColumnMapping } from "./mapping";
import { headProblem, readTable } from "./table";
import { numeric } from "../quantities";

const CHARGE: ColumnMapping = {
  time: { header: "t", unit: "s" },
  cellVoltage: { header: "V", unit: "V" },
  cellCurrent: { header: "I", unit: "A" },
  partTemperature: { header: "T", unit: "degC" },
};
const charge = procedure("charge-cycle") as Procedure;
const setup = (change: Partial<SetupFile> = {}): SetupFile => ({
  procedure: "charge-cycle",
  title: "",
  dialect: { delimiter: ",", decimal: "." },
  columns: CHARGE,
  setup: { conditions: {}, instruments: {} },
  events: [],
  ...change,
});
const read = (text: string | Uint8Array, change: Partial<SetupFile> = {}, skip = false, p = charge) =>
  readLog(typeof text === "string" ? new TextEncoder().encode(text) : text, setup(change), p, "f.csv", skip);
const refusal = (text: string | Uint8Array, change: Partial<SetupFile> = {}) => {
  const r = read(text, change);
  return r.ok ? "read" : r.error;
};
const GOOD = "t,V,I,T\n0,3.701,0.985,24.1\n1,3.702,0.986,24.2\n2,3.703,0.986,24.2\n3,3.704,0.986,24.3\n";

describe("rows of another shape than the head", () => {
  test.each([
    [
      "fewer cells",
      GOOD.replace("1,3.702,0.986,24.2", "1,3.702,24.2"),
      /^Line 3: it has 3 cells where the head has 4; it would have been read as t 1, V 3\.702, I 24\.2\.$/,
    ],
    ["more cells", GOOD.replace("1,3.702", "1,,3.702"), /Line 3: it has 5 cells where the head has 4/],
    ["a decimal comma in a comma file", GOOD.replace("3.703", "3,703"), /Line 4: it has 5 cells.*V 3, I 703/],
    ["another delimiter", GOOD.replace("2,3.703,0.986,24.2", "2;3.703;0.986;24.2"), /Line 4: it has 1 cell where/],
    [
      "a quoted number with the other decimal mark",
      GOOD.replace("3.703", '"3,703"'),
      /Line 4, column “V”: “3,703” is not a number with a decimal point/,
    ],
    [
      "a column that all rows lack",
      GOOD.replace(/,(0\.98\d)/g, ""),
      /Line 2: it has 3 cells.*So have 4 of 4 rows: a column is missing or too many, and no row can be trusted/,
    ],
    [
      "a last line that was cut off",
      GOOD.slice(0, -2),
      /Line 5: it has no line feed at its end where the others have one: it may be cut off\.\nOne cause would explain it: The last line is whole/,
    ],
    [
      "a last column that is always empty",
      GOOD.replace(/,24\.\d/g, ","),
      /Line 2: from here on every row ends with an empty cell under “T”/,
    ],
  ])("%s: named, and nothing is read", (_, text, words) => {
    expect(refusal(text)).toMatch(words);
  });

  test("empty cells at the end of a row pass, and so does a bare last line that is surely whole", () => {
    expect(refusal(GOOD.replace(/\n/g, ",,\n"))).toBe("read");
    expect(refusal(GOOD.replace("24.2\n2", "24.2,,\n2"))).toBe("read");
    const bare = read(GOOD.slice(0, -1));
    expect(bare.ok && bare.value.notes.map((n) => n.message)).toEqual([
      "The last line has no line feed; it has every cell and digit that the others have, and counts.",
    ]);
    expect(bare.ok && bare.value.readings.kind === "trace" && bare.value.readings.trace.columns.time?.length).toBe(4);
  });

  test("skipped only when asked for, and then said", () => {
    const r = read(GOOD.replace("1,3.702,0.986,24.2", "1,3.702,24.2"), {}, true);
    expect(r.ok && r.value.notes).toEqual([{ code: "skipped-rows", message: "1 row that can't be read was skipped." }]);
    expect(r.ok && r.value.readings.kind === "trace" && [...(r.value.readings.trace.columns.time ?? [])]).toEqual([
      0, 2, 3,
    ]);
  });

  test("the other decimal mark in the whole file is one thing that explains all of it", () => {
    const semi = GOOD.replace(/,/g, ";").replace(/\./g, ",");
    expect(refusal(semi, { dialect: { delimiter: ";", decimal: "." } })).toMatch(
      /One cause would explain all: The file writes a decimal comma\. Then set “decimal” to “,” in the set-up\.$/,
    );
    const t = traceFromFile(semi, { delimiter: ";", decimal: "." }, CHARGE);
    expect(t.ok && [t.value.trace.columns.time?.length ?? 0, t.value.explanation?.dialect]).toEqual([
      0,
      { decimal: "," },
    ]);
    const p = pointsFromFile(
      "V;I\n3,701;0,985\n3,702;0,986\n",
      { delimiter: ";", decimal: "." },
      { cellVoltage: { header: "V", unit: "V" }, cellCurrent: { header: "I", unit: "A" } },
      "f",
    );
    expect(p.ok && p.value.explanation).toEqual({
      text: "The file writes a decimal comma.",
      dialect: { decimal: "," },
    });
    expect(p.ok && p.value.points).toEqual([]);
  });
});

describe("line numbers are those of the file", () => {
  const text = 't,V,I,T\n\n0,3.7,1,24\n\n"1",3.7,1,24\n2,"3\n.7",1,24\n3,3.7,x,24\n';
  test("in a log and in a table, blank lines and quoted line feeds counted", () => {
    expect(refusal(text)).toMatch(/Line 6, column “V”[\s\S]*Line 8, column “I”: “x”/);
    const p = pointsFromFile(text, {}, CHARGE, "f");
    expect(p.ok && p.value.problems.map((x) => x.line)).toEqual([6, 8]);
    expect(p.ok && p.value.points.map((x) => x.id)).toEqual(["f:3", "f:5"]);
  });
});

describe("how the bytes spell characters", () => {
  const text = GOOD.replace("T\n", "T °C\n");
  const columns = { ...CHARGE, partTemperature: { header: "T °C", unit: "degC" as const } };
  const utf16 = (little: boolean) =>
    Uint8Array.from(
      [...`\ufeff${text}`].flatMap((c) =>
        little ? [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8] : [c.charCodeAt(0) >> 8, c.charCodeAt(0) & 255],
      ),
    );
  test.each([
    ["utf-8", new TextEncoder().encode(text)],
    ["windows-1252", Uint8Array.from([...text].map((c) => c.charCodeAt(0)))],
    ["utf-16le", utf16(true)],
    ["utf-16be", utf16(false)],
    ["utf-16le", utf16(true).slice(2)],
  ] as const)("%s is known and read", (encoding, bytes) => {
    expect(encodingOf(bytes)).toBe(encoding);
    expect(decodeText(bytes).text.replace("\ufeff", "")).toBe(text);
    const r = read(bytes, { columns });
    expect(r.ok && r.value.readings.kind === "trace" && r.value.readings.trace.columns.partTemperature?.[3]).toBe(24.3);
    expect(r.ok && r.value.notes.map((n) => n.code)).toEqual(encoding === "utf-8" ? [] : ["encoding"]);
  });
});

describe("a set-up says what its procedure needs", () => {
  test("a role that is needed and lacks a column is an error that names both", () => {
    const { cellCurrent: _none, ...rest } = CHARGE;
    void _none;
    expect(refusal(GOOD, { columns: rest })).toMatch(
      /^Charge cycle \(charge-cycle\) needs cell .* \(cellCurrent\), and no column is assigned to it\.$/,
    );
    const discharge = procedure("discharge") as Procedure;
    const r = readLog(
      new TextEncoder().encode(GOOD),
      setup({ columns: { time: CHARGE.time as never, cellVoltage: CHARGE.cellVoltage as never } }),
      discharge,
      "f",
      false,
    );
    expect(r.ok || r.error).toMatch(
      /\(batteryVoltage\) and .*\(batteryCurrent\), or .*\(cellVoltage\) and .*\(cellCurrent\)/,
    );
  });
  test("one that it has no use for is a note, a column that nobody named is nothing", () => {
    const r = read(GOOD, { columns: { ...CHARGE, outputVoltage: { header: "V", unit: "V" } } });
    expect(r.ok && r.value.notes).toEqual([
      { code: "unused-role", message: "Charge cycle has no use for outputVoltage: that column is not read." },
    ]);
  });
  test.each([
    [{ columns: { constructor: { header: "t" } } }, /columns\.constructor: no such role/],
    [{ columns: {}, instruments: { toString: {} } }, /instruments\.toString: no such role/],
    [
      { columns: {}, conditions: { dissipation: "5 W" } },
      /conditions\.dissipation: "5 W" must be a number in SI units/,
    ],
    [{ columns: {}, conditions: { disipation: 5 } }, /conditions\.disipation: no such condition; known: nominalOutput/],
    [{ columns: {}, conditions: { cellCapacity: -1 } }, /conditions\.cellCapacity: -1 can't be negative/],
    [
      { columns: {}, conditions: { state: "x".repeat(500), dissipation: "x".repeat(500) } },
      /^conditions\.dissipation: "x{79}… must be/,
    ],
  ])("what it holds is checked by name and type: %j", (change, words) => {
    const r = readSetupFile(JSON.stringify({ procedure: "charge-cycle", ...change }));
    expect(r.ok ? "read" : r.error).toMatch(words);
  });
});

test("a message quotes at most eighty characters of a cell", () => {
  expect(refusal(GOOD.replace("3.703", "q".repeat(5000))).length).toBeLessThan(250);
});

describe("a file of ten thousand columns", () => {
  const wide = (n: number) => {
    const heads = Array.from({ length: n }, (_, k) => `col ${k} (V)`);
    return `${["t", ...heads].join(",")}\n${[0, 1, 2].map((t) => [t, ...heads.map((_, k) => (k % 7) / 10)].join(",")).join("\n")}\n`;
  };
  /** How many cells of head and rows are looked at. */
  const looks = (n: number): number => {
    const table = readTable(wide(n));
    if (!table.ok) throw new Error(table.error);
    let count = 0;
    const counted = <T extends object>(list: T): T =>
      new Proxy(list, {
        get: (of, key) => (typeof key === "string" && /^\d+$/.test(key) && count++, Reflect.get(of, key) as unknown),
      });
    expect(headProblem(counted(table.value.headers), ",")).toBeNull();
    guessMapping({ ...table.value, headers: counted(table.value.headers), rows: table.value.rows.map(counted) });
    return count;
  };
  test("costs what its size asks for: four times a quarter of it, not sixteen", () => {
    const [few, many] = [looks(2_500), looks(10_000)];
    expect(few).toBeGreaterThan(2_500);
    expect(many / few).toBeLessThan(4.1);
  });

  test("is read, its last column too", () => {
    const r = read(wide(10_000), {
      columns: {
        time: { header: "t", unit: "s" },
        cellVoltage: { header: "col 5 (V)", unit: "V" },
        cellCurrent: { header: "col 9999 (V)", unit: "A" },
      },
    });
    expect(
      r.ok &&
        r.value.readings.kind === "trace" && [
          r.value.readings.trace.columns.cellVoltage?.[2],
          r.value.readings.trace.columns.cellCurrent?.[2],
        ],
    ).toEqual([0.5, (9999 % 7) / 10]);
  });
});

describe("a clock that is set for summer time", () => {
  const clock = (s: number) =>
    [Math.floor(s / 3600) % 24, Math.floor(s / 60) % 60, s % 60].map((x) => String(x).padStart(2, "0")).join(":");
  const columns = { ...CHARGE, time: { header: "t", unit: "hh:mm:ss" as const } };
  const log = (jump: number) =>
    `t,V,I,T\n${Array.from({ length: 40 }, (_, k) => `${clock(7000 + 10 * k + (k >= 20 ? jump : 0))},3.700,0.900,24.0`).join("\n")}\n`;
  test.each([
    [3600, "ahead"],
    [-3600, "back"],
  ])("by %p s is told, and not gained", (jump, word) => {
    const r = read(log(jump), { columns });
    if (!r.ok || r.value.readings.kind !== "trace") throw new Error(r.ok ? "no log" : r.error);
    expect(r.value.readings.trace.columns.time?.at(-1)).toBe(390);
    expect(r.value.notes[0]?.message).toBe(
      `The clock was set ${word} by an hour at line 22, as for summer time. That hour is not counted.`,
    );
  });
  test("a gap of two hours is a gap", () => {
    const r = read(log(7200), { columns });
    expect(r.ok && r.value.readings.kind === "trace" && r.value.readings.trace.columns.time?.at(-1)).toBe(7590);
  });
});

test("a rest check is read from a table with a column a cell", () => {
  const rest = procedure("rest-check") as Procedure;
  const text = `when,c1,c2\n${[0, 3, 8].map((d) => `2026-11-${String(10 + d).padStart(2, "0")}T10:00:00Z,${(4.18 - 0.001 * d).toFixed(4)},${(4.18 - 0.02 * d).toFixed(4)}`).join("\n")}\n`;
  const columns: ColumnMapping = {
    time: { header: "when", unit: "iso" },
    cell1Voltage: { header: "c1", unit: "V" },
    cell2Voltage: { header: "c2", unit: "V" },
  };
  const r = read(text, { procedure: "rest-check", columns }, false, rest);
  if (!r.ok) throw new Error(r.error);
  const a = rest.analyse(
    r.value.readings,
    { conditions: {}, instruments: { cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.0001 } } },
    { leftOut: new Map(), recoveries: new Map(), closed: new Set(), boundaries: new Map() },
  );
  expect(a.findings.map((f) => [f.conditions.cell, Number(numeric(f.value).toFixed(4))])).toEqual([
    [1, 0.001],
    [2, 0.02],
  ]);
});
