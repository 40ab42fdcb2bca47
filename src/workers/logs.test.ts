import { checksum } from "@/core/files/versions";
import "fake-indexeddb/auto";
import { traceToCsv } from "@/core/files/export-trace";
import type { RunRecord } from "@/core/files/records";
import { NO_CORRECTIONS } from "@/core/measurement";
import { logCharge } from "@/core/rehearsal/charge-log";
import { chargeBench } from "@/core/simulator";
import { closeDatabase } from "@/storage/database";
import { content, readTrace, traceExtent } from "@/storage/traces";
import type { ImportedLog, TaskName, Tasks } from "./protocol";
import { TASKS } from "./tasks";

afterAll(closeDatabase);

const ask = <K extends TaskName>(
  task: K,
  what: Tasks[K]["ask"],
  progress?: (share: number) => void,
): Promise<Tasks[K]["give"]> => TASKS[task](what, progress);
const { columns } = logCharge(chargeBench({ cell: { capacity: 0.4 }, soc: 0.5 }), {
  every: 4,
  before: 40,
  after: 120,
  most: 7200,
  seed: 6,
}).trace;
const text = traceToCsv(columns);
const SETUP = { conditions: { programmedCurrent: 1 }, instruments: {} };

async function opened(csv: string | Uint8Array, fileId: string): Promise<ImportedLog> {
  const blob = new Blob([csv as BlobPart]);
  const h = await ask("log-head", { file: blob, dialect: {} });
  if ("error" in h) throw new Error(h.error);
  return { blob, fileId, dialect: h.table.dialect, mapping: h.mapping, encoding: h.encoding, join: "first", starts: 0 };
}
const bring = async (
  runId: string,
  csv: string | Uint8Array,
  skipBadRows = false,
  progress?: (share: number) => void,
) =>
  ask(
    "log-import",
    {
      runId,
      files: [await opened(csv, `file-${runId}`)],
      skipBadRows,
      rows: 100,
      procedure: "charge-cycle",
      setup: SETUP,
    },
    progress,
  );

describe("the head of a log", () => {
  test("shows how it is written and about how many rows it has, without reading the rest", async () => {
    const long = `t (s);V (V)\n${Array.from({ length: 60_000 }, (_, k) => `${k};3,${6000 + (k % 900)}`).join("\n")}\n`;
    const h = await ask("log-head", { file: new Blob([long]), dialect: {} });
    if ("error" in h) throw new Error(h.error);
    expect(h.table.dialect).toEqual({ delimiter: ";", decimal: "," });
    expect(h.whole).toBe(false);
    expect(Math.abs(h.rows / 60_000 - 1)).toBeLessThan(0.1);
    expect(h.table.rows.length).toBeLessThanOrEqual(50);
  });

  test("of an empty file, or one of another encoding", async () => {
    expect(await ask("log-head", { file: new Blob([]), dialect: {} })).toEqual({ error: "The file is empty." });
    const latin = Uint8Array.from("Zeit [s],Bauteil [\u00b0C]\n0,21\n1,22\n", (c) => c.charCodeAt(0));
    const h = await ask("log-head", { file: new Blob([latin]), dialect: {} });
    expect("error" in h ? h.error : [h.encoding, h.table.headers[1]]).toEqual(["windows-1252", "Bauteil [\u00b0C]"]);
  });
});

describe("an import", () => {
  test("stores every row and the file, sums it, and gives the analysis that a later look finds", async () => {
    const shares: number[] = [];
    const r = await bring("in", text, false, (s) => shares.push(s));
    if ("error" in r) throw new Error(r.error);
    expect(r.rows).toBe(columns.time?.length);
    expect((await readTrace("in")).cellCurrent).toEqual(columns.cellCurrent);
    expect(await (await content("file-in"))?.text()).toBe(text);
    // A file longer than one stretch sums to what its bytes in one piece do.
    const long = `${text}${"#".repeat(3 << 20)}`;
    expect(await ask("file-sums", { blobs: [new Blob([text]), new Blob([long])] })).toEqual(
      [text, long].map((t) => checksum(new TextEncoder().encode(t))),
    );
    expect(shares.at(-1)).toBeCloseTo(1, 6);
    const stored = {
      run: { id: "in" as RunRecord["id"], procedure: "charge-cycle", setup: SETUP },
      rows: r.rows,
      marks: [],
      corrections: NO_CORRECTIONS,
    };
    const later = await ask("log-analysis", stored);
    expect(await ask("log-results", stored)).toEqual({ findings: later.findings, notStated: later.notStated });
    expect(r.analysis?.findings).toEqual(later.findings);
    expect(later.findings.length).toBeGreaterThan(8);
  });

  test.each([
    [
      "runs back in time",
      "Test Time / s,Voltage / V,Current / A\n0,3.6,1\n5,3.6,1\n3,3.6,1\n",
      /Line 4: the time runs back/,
    ],
    ["has one row", "Test Time / s,Voltage / V,Current / A\n0,3.6,1\n", /fewer than two rows/],
  ])("of a log that %s leaves nothing", async (_, csv, words) => {
    const r = await bring("bad", csv);
    expect("error" in r && r.error).toMatch(words);
    expect([await traceExtent("bad"), await content("file-bad")]).toEqual([null, null]);
  });

  test("with bad rows stores nothing until it is told to leave them out", async () => {
    const csv = "Test Time / s,Voltage / V,Current / A\n0,3.6,1\n1,warm,1\n2,3.61,1\n3,3.62,1\n";
    const asked = await bring("rows", csv);
    expect("error" in asked ? asked.error : [asked.problemRows, asked.analysis]).toEqual([1, null]);
    expect(await traceExtent("rows")).toBeNull();
    const kept = await bring("rows", csv, true);
    expect("error" in kept ? kept.error : [kept.rows, kept.problemRows]).toEqual([3, 1]);
    expect((await traceExtent("rows"))?.rows).toBe(3);
  });

  test("of values that never change is stored, and says that no charge was seen", async () => {
    const flat = `Test Time / s,Voltage / V,Current / A\n${Array.from({ length: 200 }, (_, k) => `${k},3.6,0`).join("\n")}\n`;
    const r = await bring("flat", flat);
    expect("error" in r ? r.error : r.analysis?.notes.map((n) => n.code)).toEqual(["no-charge"]);
  });
});

test("a stretch of a stored log comes thinned, with the heat worked out where it is asked for", async () => {
  const rows = columns.time?.length ?? 0;
  const c = await ask("log-curves", {
    runId: "in",
    rows,
    roles: ["cellVoltage", "heatPower", "cellTemperature"],
    from: 100,
    to: 200,
  });
  expect(Object.keys(c)).toEqual(["cellVoltage", "heatPower"]);
  const x = c.cellVoltage?.x ?? new Float64Array();
  expect(x.length).toBeGreaterThan(20);
  // One row more on each side, so that the line reaches the edges.
  expect(x[0]).toBeLessThanOrEqual(100);
  expect(x.at(-1)).toBeGreaterThanOrEqual(200);
  expect(x.at(-1)).toBeLessThan(215);
});

test("two loggers that saw the same step are aligned; two that saw none say so", async () => {
  const step = (at: number, every: number) =>
    `Test Time / s,Current / A\n${Array.from({ length: 200 }, (_, k) => `${k * every},${k * every < at ? 0 : 1}`).join("\n")}\n`;
  const how = async (csv: string) => opened(csv, "x");
  const r = await ask("log-align", { first: await how(step(300, 2)), second: await how(step(180, 3)) });
  expect("error" in r ? r.error : Math.abs(r.starts - 120)).toBeLessThanOrEqual(2);
  expect(await ask("log-align", { first: await how(step(1e9, 2)), second: await how(step(1e9, 3)) })).toMatchObject({
    error: expect.stringContaining("no common step") as string,
  });
});

describe("the figures of a log", () => {
  test("the largest magnitude and the newest reading of each column, missing ones passed over; what it lacks is absent", async () => {
    const csv =
      "Time (s),Part temperature (degC),Cell voltage (V),Cell current (A)\n0,,3.5,-0.9\n1,,3.7,0.5\n2,,3.6,0.2\n3,,,0.1\n";
    const r = await bring("fig", csv);
    if ("error" in r) throw new Error(r.error);
    const found = await ask("log-figures", {
      runId: "fig",
      rows: r.rows,
      roles: ["cellVoltage", "cellCurrent", "partTemperature", "inputVoltage"],
    });
    expect(found).toEqual({ cellVoltage: { largest: 3.7, newest: 3.6 }, cellCurrent: { largest: 0.9, newest: 0.1 } });
  });
  test("are those of the whole log, not of what is drawn of it", async () => {
    const n = 30_000;
    const at = 17_777;
    const csv = `Time (s),Cell voltage (V)\n${Array.from({ length: n }, (_, k) => `${k},${k === at ? 4.999 : (3 + (k % 7) / 10).toFixed(1)}`).join("\n")}\n`;
    const r = await bring("fig2", csv);
    if ("error" in r) throw new Error(r.error);
    expect(await ask("log-figures", { runId: "fig2", rows: r.rows, roles: ["cellVoltage"] })).toEqual({
      cellVoltage: { largest: 4.999, newest: 3 + ((n - 1) % 7) / 10 },
    });
  });
});
