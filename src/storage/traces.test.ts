import "fake-indexeddb/auto";
import { traceToCsv } from "@/core/files/export-trace";
import { mappingOfOpenTable } from "@/core/files/read-open-table";
import type { TraceColumns } from "@/core/files/trace-columns";
import { closeDatabase, database } from "./database";
import { storeLog, type LogFile } from "./log-files";
import {
  appendChunk,
  compactTrace,
  content,
  dropTrace,
  putContent,
  readTrace,
  sweepOrphans,
  traceExtent,
} from "./traces";

afterAll(closeDatabase);

const columns = (from: number, rows: number): TraceColumns => ({
  time: Float64Array.from({ length: rows }, (_, k) => 0.01 * (from + k)),
  cellVoltage: Float64Array.from({ length: rows }, (_, k) => 3.5 + 1e-5 * (from + k)),
});
const append = (runId: string, seq: number, from: number, rows: number) => {
  const c = columns(from, rows);
  return appendChunk({ runId, seq, from, rows, until: c.time?.at(-1) ?? 0, columns: c });
};
const CSV: Omit<LogFile, "blob"> = {
  dialect: { delimiter: ",", decimal: "." },
  mapping: { time: { header: "t", unit: "s" }, cellVoltage: { header: "V", unit: "V" } },
  join: "first",
  starts: 0,
};
const file = (lines: readonly string[], change: Partial<LogFile> = {}): LogFile => ({
  ...CSV,
  blob: new Blob([`${lines.join("\n")}\n`]),
  ...change,
});

test("chunks as they come read back as one log, from any of them on, and one run's are not another's", async () => {
  await append("a", 0, 0, 50);
  await append("b", 0, 0, 3);
  await append("a", 1, 50, 30);
  expect(await traceExtent("a")).toEqual({ rows: 80, seconds: 0.79, chunks: 2 });
  expect([...((await readTrace("a")).cellVoltage ?? [])]).toEqual([...(columns(0, 80).cellVoltage ?? [])]);
  expect((await readTrace("a", 1)).time).toEqual(columns(50, 30).time);
  expect(await traceExtent("nowhere")).toBeNull();
});

test("a chunk is never written over: whoever comes second is refused", async () => {
  await append("c", 0, 0, 5);
  await expect(append("c", 0, 100, 5)).rejects.toThrow();
  expect((await readTrace("c")).time).toEqual(columns(0, 5).time);
});

test("compacting keeps every sample and leaves few chunks", async () => {
  for (let k = 0; k < 25; k++) await append("d", k, 10 * k, 10);
  await compactTrace("d", 100);
  expect(await traceExtent("d")).toEqual({ rows: 250, seconds: 2.49, chunks: 3 });
  expect(await readTrace("d")).toEqual(columns(0, 250));
  await compactTrace("d", 100);
  expect((await traceExtent("d"))?.chunks).toBe(3);
});

test("what a crash left of an import is swept away; what has its record stays", async () => {
  await (await database()).put("records", { kind: "notebook", id: "n", notebookId: "n" } as never);
  await (await database()).put("records", { kind: "run", id: "kept", notebookId: "n" } as never);
  // An archive that was coming in: its notebook would have come last.
  for (const id of ["lost-1", "lost-2"])
    await (await database()).put("records", { kind: "run", id, notebookId: "never" } as never);
  await append("lost-1", 0, 0, 4);
  await append("kept", 0, 0, 4);
  await append("orphan", 0, 0, 4);
  await append("orphan", 1, 4, 4);
  await putContent("orphan-file", new Blob(["x"]));
  await sweepOrphans();
  expect(await traceExtent("orphan")).toBeNull();
  expect(await content("orphan-file")).toBeNull();
  expect((await traceExtent("kept"))?.rows).toBe(4);
  expect(await traceExtent("lost-1")).toBeNull();
  expect((await (await database()).getAllKeys("records")).sort()).toEqual(["kept", "n"]);
});

describe("a log from files", () => {
  test("that goes on in a second one, and that another logger saw beside it", async () => {
    const first = file(["t,V", "0,3.6", "1,3.61", "2,3.62"]);
    const next = file(["t,V", "0,3.7", "1,3.71"], { join: "after", starts: 10 });
    const heat = file(["when,T", "100,20", "102,22", "104,24"], {
      join: "beside",
      starts: -1,
      mapping: { time: { header: "when", unit: "s" }, partTemperature: { header: "T", unit: "degC" } },
    });
    const shares: number[] = [];
    const r = await storeLog("joined", [first, next, heat], false, { progress: (s) => shares.push(s) });
    expect(r.ok && [r.value.rows, r.value.seconds]).toEqual([5, 11]);
    const c = await readTrace("joined");
    expect([...(c.time ?? [])]).toEqual([0, 1, 2, 10, 11]);
    expect([...(c.partTemperature ?? [])]).toEqual([21, 22, 23, NaN, NaN]);
    expect(shares.at(-1)).toBeCloseTo(1, 9);
  });

  test("leaves nothing where one of them can't be read, or has bad rows that nobody allowed", async () => {
    expect((await storeLog("x", [file(["t,V", "0,3.6", "1,3.6", "0.5,3.6"])], false)).ok).toBe(false);
    const overlap = await storeLog(
      "x",
      [file(["t,V", "0,3.6", "5,3.6"]), file(["t,V", "0,3.7", "1,3.7"], { join: "after", starts: 4 })],
      false,
    );
    expect(overlap.ok || overlap.error).toMatch(/starts at 4 s, before the first one ends \(5 s\)/);
    const bad = await storeLog("x", [file(["t,V", "0,3.6", "1,warm", "2,3.7"])], false);
    expect(bad.ok && bad.value.problemRows).toBe(1);
    expect(await traceExtent("x")).toBeNull();
    await storeLog("x", [file(["t,V", "0,3.6", "1,warm", "2,3.7"])], true);
    expect((await traceExtent("x"))?.rows).toBe(2);
    await dropTrace("x");
    expect(await traceExtent("x")).toBeNull();
  });

  test("goes out as the open battery data table and comes back to the last digit", async () => {
    const c: TraceColumns = {
      time: Float64Array.of(0, 0.1, 0.30000000000000004),
      cellVoltage: Float64Array.of(3.6, NaN, 1 / 3),
      cellCurrent: Float64Array.of(1e-7, -2.5e-3, 1),
      ambientTemperature: Float64Array.of(21, 21.5, 22),
    };
    const text = traceToCsv(c);
    expect(text.split("\r\n")[0]).toBe("Test Time / s,Voltage / V,Current / A,Ambient Temperature / degC");
    await storeLog("table", [{ ...CSV, blob: new Blob([text]), mapping: mappingOfOpenTable(text) }], false);
    expect(await readTrace("table")).toEqual(c);
  });
});
