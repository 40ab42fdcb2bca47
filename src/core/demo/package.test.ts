import { references, validateRecord, type StoredRecord } from "../files";
import { packedDemo } from "@/testing/demo";
import { DEMO_MOMENT, demoIds, packDemo, unpackDemo } from "./package";

const NOW = "2026-11-25T09:30:00.000Z";
// The records and logs as they are simulated, but for the digits of each log's last column: a third has no end.
const packed = packedDemo(demoIds(), DEMO_MOMENT);
const made = {
  ...packed,
  logs: packed.logs.map((l) => ({
    ...l,
    columns: Object.fromEntries(
      Object.entries(l.columns).map(([role, c], k) => [role, k === 1 ? (c as Float64Array).map((v) => v + 1 / 3) : c]),
    ),
  })),
};
const derived = [{ key: `run:${made.logs[0]?.runId}`, stamp: "1", value: [{ points: [made.records[0]?.id] }] }];
const text = packDemo({ ...made, derived });
const unpack = (prefix: string) => {
  let n = 0;
  return unpackDemo(text, { newId: () => `${prefix}-${n++}`, now: NOW, zone: "Europe/Berlin" });
};
const demo = unpack("a");

test("a packed demo comes out whole: every record fits its schema, and whatever it refers to is there", () => {
  expect(demo.records).toHaveLength(made.records.length);
  const ids = new Set(demo.records.map((r) => r.id as string));
  for (const r of demo.records) {
    expect(validateRecord(r)).toMatchObject({ ok: true });
    for (const id of references(r)) expect([r.kind, ids.has(id)]).toEqual([r.kind, true]);
  }
  expect(text.includes("demo-")).toBe(true);
  expect(JSON.stringify(demo.records)).not.toMatch(/demo-\d|2000-0/);
});

test("each time with ids of its own", () => {
  const other = new Set(unpack("b").records.map((r) => r.id as string));
  expect(demo.records.some((r) => other.has(r.id))).toBe(false);
});

test("as long ago as it was made, in the zone of whoever opens it", () => {
  const runs = (list: readonly StoredRecord[]) =>
    list.filter((r): r is Extract<StoredRecord, { kind: "run" }> => r.kind === "run");
  expect(runs(demo.records).map((r) => Date.parse(NOW) - Date.parse(r.startUtc))).toEqual(
    runs(made.records).map((r) => Date.parse(DEMO_MOMENT) - Date.parse(r.startUtc)),
  );
  expect(new Set(runs(demo.records).map((r) => r.zone))).toEqual(new Set(["Europe/Berlin"]));
  const claim = demo.records.find((r) => r.kind === "claim");
  expect(claim?.kind === "claim" && claim.source.date).toMatch(/^2026-11-2\d$/);
});

test("its logs are what was measured, to nine digits, and what was worked out names the new ids", () => {
  expect(demo.logs).toHaveLength(made.logs.length);
  made.logs.forEach(({ columns }, k) => {
    for (const [role, c] of Object.entries(columns))
      expect(demo.logs[k]?.columns[role as "time"]).toEqual(
        (c as Float64Array).map((v) => (Number.isFinite(v) ? Number(v.toPrecision(9)) : NaN)),
      );
  });
  expect(demo.derived).toEqual([
    { key: `run:${demo.logs[0]?.runId}`, stamp: "1", value: [{ points: [demo.records[0]?.id] }] },
  ]);
});

test("what is no demo is refused", () => {
  expect(() => unpackDemo("<html>", { newId: () => "x", now: NOW, zone: "UTC" })).toThrow();
});
