import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

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
  const r = spawnSync(process.execPath, ["node_modules/tsx/dist/cli.mjs", "src/cli/nimbus.ts", ...args], { encoding: "utf8" });
  return { status: r.status, out: r.stdout, said: r.stderr };
};
const setup = (change: object = {}) => put("s.setup.json", JSON.stringify({ ...SETUP, ...change }));

test("a good log gives its quantities as JSON, each with unit and uncertainty", () => {
  const r = nimbus("analyse", put("s.csv", GOOD), "--setup", setup(), "--json");
  expect(r).toMatchObject({ status: 0, said: "" });
  const { procedure, findings } = JSON.parse(r.out) as { procedure: string; findings: { characteristic: string; value: number; unit: string; expandedUncertainty?: number; bracket?: object; conditions?: object }[] };
  expect(procedure).toBe("load-sweep");
  const find = (name: string) => findings.find((f) => f.characteristic === name);
  expect(find("boost.no-load-voltage")).toMatchObject({ value: 5.03, unit: "V", conditions: { battery: 4.1 } });
  expect(find("boost.max-current")).toMatchObject({ value: 1, unit: "A" });
  expect(find("boost.collapse-current")?.value).toBeCloseTo(1.2, 9);
  // Worked: 5.01 V × 0.5 A over 4.1 V × 0.68 A.
  expect(find("boost.peak-efficiency")?.value).toBeCloseTo(2.505 / 2.788, 9);
  for (const f of findings) expect(f.expandedUncertainty).toBeGreaterThan(0);
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
    ["no set-up", () => ["analyse", put("s.csv", GOOD)], /--setup is missing/],
    ["a file that is not there", () => ["analyse", join(folder, "none.csv"), "--setup", setup()], /none\.csv: can't be read \(ENOENT\)/],
    ["a set-up that is no JSON", () => ["analyse", put("s.csv", GOOD), "--setup", put("bad.json", "{")], /bad\.json: not valid JSON/],
    ["an unknown procedure", () => ["analyse", put("s.csv", GOOD), "--setup", setup({ procedure: "séance" })], /“séance” can't be analysed; known: .*load-sweep/],
    ["a header that is not in the file", () => ["analyse", put("s.csv", GOOD.replace("Vo", "Vx")), "--setup", setup()], /no column “Vo”.*It has: Vb, Ib, Vx, Io/],
    ["a bad cell", () => ["analyse", put("s.csv", GOOD.replace("680", "68O")), "--setup", setup()], /Line 4, column “Ib”: “68O” is not a number/],
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
