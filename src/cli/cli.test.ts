import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { logCharge } from "../core/rehearsal/charge-log";
import { chargeBench } from "../core/simulator";

const SETUP = {
  procedure: "load-sweep",
  title: "Rush 4, sweep",
  columns: {
    batteryVoltage: { header: "Vb", unit: "V" },
    batteryCurrent: { header: "Ib", unit: "mA" },
    outputVoltage: { header: "Vo", unit: "V" },
    outputCurrent: { header: "Io", unit: "mA" },
  },
  conditions: { nominalOutput: 5 },
  instruments: {
    batteryVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
    batteryCurrent: { gain: 0.002, counts: 5, resolution: 0.0001 },
    outputVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
    outputCurrent: { gain: 0.002, counts: 5, resolution: 0.0001 },
  },
};
const GOOD = "Vb,Ib,Vo,Io\n4.1,2,5.03,0\n4.1,140,5.02,100\n4.1,680,5.01,500\n4.1,1400,5.00,1000\n4.1,1700,4.20,1200\n";

let folder = "";
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "nimbus-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const put = (name: string, content: string): string => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const nimbus = (...args: string[]) => {
  const r = spawnSync(process.execPath, ["node_modules/tsx/dist/cli.mjs", "src/cli/nimbus.ts", ...args], {
    encoding: "utf8",
  });
  return { status: r.status, out: r.stdout, said: r.stderr };
};
const setup = (change: object = {}) => put("s.setup.json", JSON.stringify({ ...SETUP, ...change }));

test("a good log gives its quantities as JSON, each with unit and uncertainty", () => {
  const r = nimbus("analyse", put("s.csv", GOOD), "--setup", setup(), "--json");
  expect(r).toMatchObject({ status: 0, said: "" });
  const { procedure, findings } = JSON.parse(r.out) as {
    procedure: string;
    findings: {
      characteristic: string;
      value: number;
      unit: string;
      expandedUncertainty?: number;
      bracket?: object;
      conditions?: object;
    }[];
  };
  expect(procedure).toBe("load-sweep");
  const find = (name: string) => findings.find((f) => f.characteristic === name);
  expect(find("boost.no-load-voltage")).toMatchObject({ value: 5.03, unit: "V", conditions: { battery: 4.1 } });
  expect(find("boost.max-current")).toMatchObject({ value: 1, unit: "A" });
  expect(find("boost.collapse-current")?.value).toBeCloseTo(1.2, 9);
  // Worked: 5.01 V × 0.5 A over 4.1 V × 0.68 A.
  expect(find("boost.peak-efficiency")?.value).toBeCloseTo(2.505 / 2.788, 9);
  for (const f of findings) expect(f.expandedUncertainty).toBeGreaterThan(0);
});

test("without a set-up file the log says itself what it is, and what was assumed is said", () => {
  const r = nimbus(
    "analyse",
    put(
      "s.csv",
      GOOD.replace("Vb,Ib,Vo,Io", "Battery voltage (V),Battery current (mA),Output voltage (V),Load current (mA)"),
    ),
    "--json",
  );
  expect(r).toMatchObject({ status: 0, said: "" });
  const out = JSON.parse(r.out) as {
    procedure: string;
    guess: { procedure: string; columns: object; alternatives: { procedure: string; share: number }[] };
    findings: { characteristic: string; value: number; expandedUncertainty?: number }[];
    notes: { code: string; message: string }[];
  };
  expect(out.procedure).toBe("load-sweep");
  expect(out.guess).toMatchObject({
    procedure: "load-sweep",
    columns: { batteryCurrent: { header: "Battery current (mA)", unit: "mA" } },
  });
  expect(out.guess.alternatives[0]).toMatchObject({ procedure: "load-sweep" });
  expect(out.findings.find((f) => f.characteristic === "boost.peak-efficiency")?.value).toBeCloseTo(2.505 / 2.788, 9);
  for (const f of out.findings) expect(f.expandedUncertainty).toBeGreaterThan(0);
  expect(out.notes.filter((n) => n.code === "assumed").map((n) => n.message)).toEqual([
    expect.stringMatching(/^Nominal output assumed: 5/),
    expect.stringMatching(/^Meter accuracy assumed/),
  ]);
});

test("without --json it reads as lines for people", () => {
  const r = nimbus("analyse", put("s.csv", GOOD), "--setup", setup());
  expect(r.status).toBe(0);
  expect(r.out).toMatch(/^Rush 4, sweep\n/);
  expect(r.out).toMatch(/boost\.no-load-voltage.*5\.0300 ± 0\.00\d+\sV/);
});

describe("bad input ends with status 2, says where and what, and prints no result", () => {
  const cases: [string, () => string[], RegExp][] = [
    ["no command", () => [], /usage:/],
    ["another command", () => ["simulate", "x"], /usage:/],
    ["an unknown option", () => ["analyse", "x", "--fast"], /--fast[\s\S]*usage:/],
    [
      "no set-up, and heads that say nothing",
      () => ["analyse", put("s.csv", GOOD.replace("Vb,Ib,Vo,Io", "ch1,ch2,ch3,ch4"))],
      /s\.csv: What was measured is unknown.*Columns: ch1, ch2, ch3, ch4; understood: none.*--setup/,
    ],
    ["no set-up, and a picture", () => ["analyse", put("p.csv", "%PDF-1.7\n")], /p\.csv: .*not a text table/],
    [
      "a file that is not there",
      () => ["analyse", join(folder, "none.csv"), "--setup", setup()],
      /none\.csv: can't be read \(ENOENT\)/,
    ],
    [
      "a set-up that is no JSON",
      () => ["analyse", put("s.csv", GOOD), "--setup", put("bad.json", "{")],
      /bad\.json: not valid JSON/,
    ],
    [
      "an unknown procedure",
      () => ["analyse", put("s.csv", GOOD), "--setup", setup({ procedure: "séance" })],
      /“séance” can't be analysed; known: .*load-sweep/,
    ],
    [
      "a header that is not in the file",
      () => ["analyse", put("s.csv", GOOD.replace("Vo", "Vx")), "--setup", setup()],
      /no column “Vo”.*It has: Vb, Ib, Vx, Io/,
    ],
    [
      "a bad cell",
      () => ["analyse", put("s.csv", GOOD.replace("680", "68O")), "--setup", setup()],
      /Line 4, column “Ib”: “68O” is not a number/,
    ],
    ["an empty file", () => ["analyse", put("s.csv", ""), "--setup", setup()], /empty/],
  ];
  test.each(cases)("%s", (_, args, expected) => {
    const r = nimbus(...args());
    expect(r.status).toBe(2);
    expect(r.said).toMatch(expected);
    expect(r.out).toBe("");
  });
});

test("rows that can't be read are left out only when asked for", () => {
  const file = put("s.csv", GOOD.replace("680", "68O"));
  const r = nimbus("analyse", file, "--setup", setup(), "--json", "--skip-bad-rows");
  expect(r.status).toBe(0);
  expect(r.out).toContain("boost.max-current");
});

test("help is an answer, not an error", () => {
  expect(nimbus("--help")).toMatchObject({ status: 0, said: "" });
});

describe("logs over time", () => {
  const bench = chargeBench({ cell: { capacity: 0.5 }, soc: 0.6 });
  const CHARGE = {
    procedure: "charge-cycle",
    title: "Bittern 4, charge",
    columns: {
      time: { header: "t", unit: "s" },
      cellVoltage: { header: "V", unit: "V" },
      cellCurrent: { header: "I", unit: "A" },
    },
    conditions: { programmedCurrent: 1 },
    instruments: {
      cellVoltage: { gain: 0.0005, counts: 2, resolution: 0.001 },
      cellCurrent: { gain: 0.002, counts: 2, resolution: 0.001 },
    },
  };
  const text = (): string => {
    const { columns } = logCharge(bench, { every: 5, before: 30, after: 120, most: 2 * 3600, seed: 3 }).trace;
    return [
      "t,V,I",
      ...[...(columns.time ?? [])].map((t, k) => `${t},${columns.cellVoltage?.[k]},${columns.cellCurrent?.[k]}`),
      "",
    ].join("\n");
  };
  const values = (out: string) =>
    new Map(
      (JSON.parse(out) as { findings: { characteristic: string; value: number }[] }).findings.map((f) => [
        f.characteristic,
        f.value,
      ]),
    );

  test("a charge gives what its columns allow, and nothing of the input it never saw", () => {
    const r = nimbus("analyse", put("c.csv", text()), "--setup", put("c.setup.json", JSON.stringify(CHARGE)), "--json");
    expect(r).toMatchObject({ status: 0, said: "" });
    const found = values(r.out);
    expect(found.get("charge.cc-current")).toBeCloseTo(1, 1);
    expect(found.get("charge.termination-current")).toBeCloseTo(0.1, 2);
    expect(found.get("charge.capacity")).toBeGreaterThan(0.1);
    for (const name of ["charge.energy-drawn", "charge.efficiency", "charge.input-sag"])
      expect(found.has(name)).toBe(false);
  });

  test("a repeated row is dropped and noted; a time that runs back is refused by line", () => {
    const lines = text().split("\n");
    const twice = put("twice.csv", [...lines.slice(0, 20), lines[19], ...lines.slice(20)].join("\n"));
    const setupFile = put("c.setup.json", JSON.stringify(CHARGE));
    const r = nimbus("analyse", twice, "--setup", setupFile, "--json");
    expect((JSON.parse(r.out) as { notes: { message: string }[] }).notes[0]?.message).toMatch(
      /^1 row repeats the time stamp/,
    );
    const back = put("back.csv", [...lines.slice(0, 20), lines[5], ...lines.slice(20)].join("\n"));
    expect(nimbus("analyse", back, "--setup", setupFile)).toMatchObject({
      status: 2,
      out: "",
      said: expect.stringMatching(/back\.csv: Line 21: the time runs back/),
    });
  });

  test("a table of done signals tells the channels apart", () => {
    const columns = {
      time: { header: "t", unit: "s" },
      channel: { header: "ch" },
      repeat: { header: "run" },
      cellVoltage: { header: "V", unit: "V" },
      cellCurrent: { header: "I", unit: "A" },
    };
    const file = put("ch.csv", "t,ch,run,V,I\n2000,1,1,4.17,0.5\n5000,2,1,4.2,0.05\n");
    const r = nimbus(
      "analyse",
      file,
      "--setup",
      put("ch.setup.json", JSON.stringify({ ...CHARGE, procedure: "charge-channels", columns })),
      "--json",
    );
    expect(values(r.out).get("channels.early-time")).toBe(3000);
    expect(values(r.out).get("channels.voltage-spread")).toBeCloseTo(0.03, 9);
  });
});

describe("planning questions", () => {
  const day = {
    instruments: { hands: 1 },
    tasks: [
      { id: "sweep", steps: [{ minutes: 40, needs: { hands: 1 } }] },
      { id: "ramp", steps: [{ minutes: 15, needs: { hands: 1 } }], after: ["sweep"] },
    ],
  };
  test("a day is planned, as JSON and in words", () => {
    const file = put("day.json", JSON.stringify(day));
    const r = nimbus("schedule", file, "--json");
    expect(r).toMatchObject({ status: 0, said: "" });
    expect(JSON.parse(r.out)).toEqual({ starts: { sweep: 0, ramp: 40 }, finish: 55, proved: true });
    expect(nimbus("schedule", file).out.replace(/ +/g, " ")).toBe(
      "Starts sweep at 0 min; ramp at 40 min\nFinish 55 min\nProved best yes\n",
    );
  });
  test("what can't be answered names the file, the field and the remedy, and exits 2", () => {
    const file = put("bad.json", JSON.stringify({ ...day, instruments: { hands: 0 } }));
    expect(nimbus("schedule", file, "--json")).toEqual({
      status: 2,
      out: "",
      said: `${file}: tasks[0].steps[0].needs.hands: “sweep” needs 1, there are 0; add it to instruments or leave the task for another day\n`,
    });
    expect(nimbus("fit", join(folder, "none.json"))).toMatchObject({
      status: 2,
      out: "",
      said: expect.stringContaining("can't be read (ENOENT)"),
    });
    expect(nimbus("match", file, "--setup", file).said).toContain("--setup is for analyse");
    expect(nimbus("fit").said).toContain("usage:");
  });
});
