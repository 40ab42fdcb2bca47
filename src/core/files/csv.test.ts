import {
  describeProblem,
  guessMapping,
  importPoints,
  pointsFromFile,
  readField,
  readClock,
  readIso,
  readNumber,
  readSetupFile,
  readTable,
  traceFromFile,
  type ColumnMapping,
  type Dialect,
} from ".";

const table = (text: string, dialect = {}) => {
  const t = readTable(text, dialect);
  if (!t.ok) throw new Error(t.error);
  return t.value;
};

describe("dialects", () => {
  test("comma and point", () => {
    const t = table("Vbat/V,Ibat/A,Vout/V,Iout/A\n3.801,0.0099,5.122,0.0000\n");
    expect(t.dialect).toEqual({ delimiter: ",", decimal: "." });
    expect(guessMapping(t)).toMatchObject({
      batteryVoltage: { header: "Vbat/V", unit: "V" },
      batteryCurrent: { unit: "A" },
      outputVoltage: { header: "Vout/V" },
      outputCurrent: { header: "Iout/A" },
    });
  });

  test("semicolon, decimal comma, millivolts, byte-order mark, CR LF, quoted fields, German headers", () => {
    const t = table(
      '\ufeffZeit [s];Akkuspannung [mV];Akkustrom [mA];"Ausgangsspannung [mV]";Ausgangsstrom [mA]\r\n0,5;3600,5;12,5;5050;0\r\n1,0;3600;140;5040;"100,5"\r\n',
    );
    expect(t.dialect).toEqual({ delimiter: ";", decimal: "," });
    const mapping = guessMapping(t);
    expect(Object.keys(mapping).sort()).toEqual([
      "batteryCurrent",
      "batteryVoltage",
      "outputCurrent",
      "outputVoltage",
      "time",
    ]);
    const r = importPoints(t, mapping, "f");
    expect(r.ok && r.value.points[1]?.cells).toMatchObject({
      time: { value: 1 },
      batteryVoltage: { value: 3.6 },
      outputCurrent: { value: 0.1005 },
    });
  });

  test("tab, long names, temperature, columns that belong to nothing, what was set beside what was read", () => {
    const t = table(
      "No.\tSet battery voltage / V\tBattery voltage (V)\tBattery current (mA)\tOutput voltage (V)\tLoad current (mA)\tPart temp. (°C)\n1\t3.6\t3.598\t780\t5.02\t500\t31.5\n",
    );
    const mapping = guessMapping(t);
    expect(mapping).toMatchObject({
      setVoltage: { header: "Set battery voltage / V" },
      outputCurrent: { unit: "mA" },
      partTemperature: { unit: "degC" },
    });
    const r = importPoints(t, mapping, "f");
    expect(r.ok && r.value.points[0]).toMatchObject({
      settings: { supplyVoltage: 3.6 },
      cells: { batteryCurrent: { value: 0.78 } },
    });
  });

  test("clock times and ISO stamps are recognised by their cells", () => {
    expect(guessMapping(table("Clock,Vbat/V\n22:14:05,3.6\n22:14:08,3.6\n")).time).toMatchObject({ unit: "hh:mm:ss" });
    expect(guessMapping(table("Clock,Vbat/V\n2031-04-09T22:14:05+02:00,3.6\n")).time).toMatchObject({ unit: "iso" });
  });

  test.each([
    ["", /empty/],
    ["one\n1\n", /Only one column/],
    ["a,a\n1,2\n", /twice/],
    ['a,b\n"1,2\n', /never closed/],
  ])("%j is refused with the reason", (text, reason) => {
    const r = readTable(text);
    expect(r.ok ? "read" : r.error).toMatch(reason);
  });
});

describe("what stands before the readings", () => {
  const HEAD = "Elapsed (s);Battery voltage (V);Battery current (A)";
  const ROWS = "0;3,71;0,51\n1;3,70;0,52\n2;3,69;0,51\n";
  const READ = { time: [0, 1, 2], batteryVoltage: [3.71, 3.7, 3.69], batteryCurrent: [0.51, 0.52, 0.51] };
  test.each<[string, string, Partial<Dialect>, string[]]>([
    ["nothing", `${HEAD}\n${ROWS}`, {}, ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"]],
    [
      "lines of a logger",
      `Logger 4\nSerial;0012345\nStarted;2031-04-09\n\n${HEAD}\n${ROWS}`,
      { skip: 4 },
      ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"],
    ],
    [
      "a comment in words",
      `# made by hand; not to be trusted\n${HEAD}\n${ROWS}`,
      { skip: 1 },
      ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"],
    ],
    [
      "a line of units",
      `Elapsed;Battery voltage;Battery current\ns;V;A\n${ROWS}`,
      { units: true },
      ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"],
    ],
    [
      "lines, and a line of units in brackets",
      `Logger 4\n\nElapsed;Battery voltage;Battery current\n[s];[V];[A]\n${ROWS}`,
      { skip: 2, units: true },
      ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"],
    ],
    ["no head", ROWS, { headless: true }, ["Column 1", "Column 2", "Column 3"]],
    ["lines, and no head", `Logger 4\n${ROWS}`, { skip: 1, headless: true }, ["Column 1", "Column 2", "Column 3"]],
    [
      "carriage returns alone",
      `${HEAD}\n${ROWS}`.replaceAll("\n", "\r"),
      { ends: "CR" },
      ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"],
    ],
    [
      "quoted commas, cut by commas",
      `Elapsed (s),Battery voltage (V),Battery current (A)\n0,"3,71","0,51"\n1,"3,70","0,52"\n2,"3,69","0,51"\n`,
      { delimiter: ",", decimal: "," },
      ["Elapsed (s)", "Battery voltage (V)", "Battery current (A)"],
    ],
  ])("%s: found, and read alike as a table and as a log", (_, text, dialect, headers) => {
    const t = table(text);
    expect(t.dialect).toEqual({ delimiter: ";", decimal: ",", ...dialect });
    expect(t.headers).toEqual(headers);
    const mapping: ColumnMapping = {
      time: { header: headers[0] as string, unit: "s" },
      batteryVoltage: { header: headers[1] as string, unit: "V" },
      batteryCurrent: { header: headers[2] as string, unit: "A" },
    };
    const log = traceFromFile(text, {}, mapping);
    if (!log.ok) throw new Error(log.error);
    expect(log.value.problems).toEqual([]);
    expect(
      Object.fromEntries(
        Object.entries(log.value.trace.columns).map(([role, v]) => [role, Array.from(v as Float64Array)]),
      ),
    ).toEqual(READ);
    // A row that can't be read is named by its own line in both.
    const broken = text.replace(/2([;,]"?)3,69/, "2$1three");
    const [a, b] = [pointsFromFile(broken, {}, mapping, "f"), traceFromFile(broken, {}, mapping)];
    const line = text.split(/\r|\n/).length - 1;
    expect(a.ok && a.value.problems.map((p) => p.line)).toEqual([line]);
    expect(b.ok && b.value.problems.map((p) => p.line)).toEqual([line]);
  });

  test("a head in one piece with ragged rows is not looked for elsewhere", () => {
    expect(table("Time (s),Battery voltage (V)\n0,3.7,\n1,3.7,\n2,3.6,\n").dialect).toEqual({
      delimiter: ",",
      decimal: ".",
    });
  });
});

describe("cells", () => {
  test("numbers, empties, overload marks, and what is none of them", () => {
    expect(readField("5.04", ".", 1e-3)).toEqual({ ok: true, value: { value: 0.00504, status: "ok" } });
    // In mA or mV a reading is the number nearest to it in A or V, in a table and in a log.
    for (let k = 1; k < 10_000; k += 7) {
      const text = (k / 1000).toFixed(3);
      expect(readField(text, ".", 1e-3)).toEqual({ ok: true, value: { value: Number(`${text}e-3`), status: "ok" } });
      expect(readField(text, ".", -1e-6)).toEqual({ ok: true, value: { value: -Number(`${text}e-6`), status: "ok" } });
    }
    const log = traceFromFile(
      `t,I\n${Array.from({ length: 900 }, (_, k) => `${k},${((k + 1) / 1000).toFixed(3)}\n`).join("")}`,
      {},
      { time: { header: "t", unit: "s" }, cellCurrent: { header: "I", unit: "mA", sign: -1 } },
    );
    expect(log.ok && Array.from(log.value.trace.columns.cellCurrent ?? [])).toEqual(
      Array.from({ length: 900 }, (_, k) => -Number(`${((k + 1) / 1000).toFixed(3)}e-3`)),
    );
    expect(readField(" ", ".", 1)).toEqual({ ok: true, value: { value: null, status: "empty" } });
    expect(readField("OL", ".", 1)).toEqual({ ok: true, value: { value: null, status: "overload" } });
    expect(readField("5.0x", ".", 1).ok).toBe(false);
    expect(readNumber("1.234,5", ",")).toBe(1234.5);
    expect(readNumber("1,234.5", ".")).toBe(1234.5);
    expect(readNumber("5,04", ".")).toBeNull();
    expect(readNumber("1e-3", ".")).toBe(0.001);
    expect(readClock("01:02:03.5")).toBe(3723.5);
    expect(readClock("01:72:03")).toBeNull();
    expect(readIso("2031-04-09T22:14:05+02:00")).toBe(Date.UTC(2031, 3, 9, 20, 14, 5) / 1000);
    expect(readIso("9 April")).toBeNull();
  });

  test("a bad cell is named by line, column and value; its row is not taken, and nothing else is lost", () => {
    const t = table("Vbat/V,Ibat/A,Vout/V,Iout/A\n3.6,0.1,5,0.05\n3.6,0.1,five,0.05\n3.6,OL,5,0.05\n");
    const r = importPoints(t, guessMapping(t), "f");
    if (!r.ok) throw new Error(r.error);
    expect(r.value.problems.map(describeProblem)).toEqual([
      "Line 3, column “Vout/V”: “five” is not a number, nothing, or OL.",
    ]);
    expect(r.value.points.map((p) => p.id)).toEqual(["f:2", "f:4"]);
    expect(r.value.points[1]?.cells.batteryCurrent).toEqual({ value: null, status: "overload" });
  });

  test("a mapped column that is not there, or no mapping at all, is refused", () => {
    const t = table("Vbat/V,Ibat/A\n3.6,0.1\n");
    expect(importPoints(t, { outputVoltage: { header: "Vout", unit: "V" } }, "f")).toMatchObject({
      ok: false,
      error: expect.stringContaining("no column “Vout”"),
    });
    expect(importPoints(t, {}, "f").ok).toBe(false);
  });

  test("a reversed sign is put right", () => {
    const r = pointsFromFile(
      "Vbat/V,Ibat/A\n3.6,-0.1\n",
      {},
      { batteryCurrent: { header: "Ibat/A", unit: "A", sign: -1 } },
      "f",
    );
    expect(r.ok && r.value.points[0]?.cells.batteryCurrent?.value).toBe(0.1);
  });
});

describe("set-up files", () => {
  const good = {
    procedure: "load-sweep",
    columns: { batteryVoltage: { header: "V", unit: "V" } },
    conditions: { nominalOutput: 5 },
    instruments: { batteryVoltage: { gain: 0.001, counts: 2, resolution: 0.001 } },
  };
  test("a good one", () => {
    expect(readSetupFile(JSON.stringify(good))).toMatchObject({
      ok: true,
      value: { setup: { conditions: { nominalOutput: 5 } }, dialect: { delimiter: ",", decimal: "." } },
    });
  });
  test.each<[string, object, RegExp]>([
    ["no procedure", { ...good, procedure: "" }, /^procedure/],
    ["an unknown role", { ...good, columns: { volts: { header: "V" } } }, /columns.volts: no such role/],
    [
      "an unknown unit",
      { ...good, columns: { batteryVoltage: { header: "V", unit: "kV" } } },
      /columns.batteryVoltage.unit.*none of/,
    ],
    ["a word for a number", { ...good, conditions: { nominalOutput: "5" } }, /conditions.nominalOutput/],
    ["a negative resistance", { ...good, conditions: { inputLeadResistance: -1 } }, /negative/],
    [
      "half an accuracy",
      { ...good, instruments: { batteryVoltage: { gain: 0.1 } } },
      /instruments.batteryVoltage.counts/,
    ],
    ["a long delimiter", { ...good, delimiter: ";;" }, /one character/],
  ])("%s is refused by field", (_name, raw, reason) => {
    const r = readSetupFile(JSON.stringify(raw));
    expect(r.ok ? "read" : r.error).toMatch(reason);
  });
  test("broken JSON is refused", () => {
    expect(readSetupFile("{").ok).toBe(false);
  });
});

test.each([
  ["9000", false],
  ["1e30", false],
  ["1999", true],
  ["-1999", true],
])("a voltage of %s in a table is a reading that a meter can show: %p", (text, fits) => {
  const mapping = { outputVoltage: { header: "V", unit: "V" } } as const;
  const table = pointsFromFile(`V,n\n5.01,1\n${text},2\n`, { delimiter: ",", decimal: "." }, mapping, "f");
  if (!table.ok) throw new Error(table.error);
  expect(table.value.problems.map((p) => [p.line, p.expected])).toEqual(
    fits ? [] : [[3, "a reading that a meter can show"]],
  );
});

test("a time in days is read as days; a column in a unit that is not read here is left to the tester, never taken for another", () => {
  const read = (head: string, row = "1,2,3") => {
    const t = readTable(`${head}\n${row}\n`);
    if (!t.ok) throw new Error(t.error);
    return guessMapping(t.value);
  };
  expect(read("Time (d),Cell number,Cell voltage (V)")).toMatchObject({
    time: { unit: "d" },
    cell: {},
    cellVoltage: { unit: "V" },
  });
  expect(read("Elapsed (hours),Battery voltage (mV),Battery current (µA)")).toMatchObject({
    time: { unit: "h" },
    batteryVoltage: { unit: "mV" },
    batteryCurrent: { unit: "uA" },
  });
  for (const head of [
    "Time (weeks)",
    "Time (ns)",
    "Battery voltage (kV)",
    "Battery current (nA)",
    "Part temperature (°F)",
    "Room temperature (K)",
    "Output power (W)",
  ])
    expect([head, read(`${head},Output voltage (V),x`)]).toEqual([
      head,
      { outputVoltage: { header: "Output voltage (V)", unit: "V" } },
    ]);
  for (const head of ["Time (us)", "Time [µs]", "time_us"])
    expect(read(`${head},Output voltage (V)`)).toMatchObject({ time: { header: head, unit: "us" } });
  expect(read("Part temp (board),Output voltage (load),x")).toMatchObject({
    partTemperature: { unit: "degC" },
    outputVoltage: { unit: "V" },
  });
});
