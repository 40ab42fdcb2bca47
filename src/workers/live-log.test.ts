import "fake-indexeddb/auto";
import type { LiveEvent, LiveWatch, LogRow } from "@/core/measurement";
import { closeDatabase } from "@/storage/database";
import { appendChunk, readTrace, traceExtent, type TraceChunk } from "@/storage/traces";
import { LiveLog, type LiveNews, type LogSource } from "./live-log";

afterAll(closeDatabase);

const SOURCE = (): LogSource => ({
  sample: (k) => ({ time: k * 0.01, cellVoltage: 3.5 + 1e-6 * k, cellCurrent: k % 7 }),
  lights: () => [],
});
const silent = (): LiveWatch & { rows: LogRow[] } => {
  const rows: LogRow[] = [];
  return {
    rows,
    push: (r) => (rows.push(r), []),
    state: () => ({ phase: "waiting", figures: [], remaining: null, complete: false, spans: [] }),
  };
};

function bench(change: Partial<ConstructorParameters<typeof LiveLog>[0]> = {}) {
  const clock = { ms: 1_000_000 };
  const news: LiveNews[] = [];
  const chunks: TraceChunk[] = [];
  const watch = silent();
  const log = new LiveLog({
    runId: "r",
    watch,
    rules: [{ role: "cellVoltage", above: 4, why: "The cell is above 4 V.", act: "Disconnect the cell first." }],
    source: SOURCE(),
    every: 0.01,
    clock: () => clock.ms,
    store: async (c) => void chunks.push(c),
    tell: (n) => news.push(n),
    ...change,
  });
  const pass = async (ms: number, turn = 100) => {
    for (let k = 0; k < ms / turn; k++) {
      clock.ms += turn;
      log.turn();
      await Promise.resolve();
    }
  };
  const times = () => chunks.flatMap((c) => [...(c.columns.time ?? [])]);
  return { clock, news, chunks, watch, log, pass, times };
}
const kinds = (news: readonly LiveNews[]) => news.filter((n) => n.kind !== "status").map((n) => n.kind);

test("every sample is taken in its turn and written within half a second", async () => {
  const b = bench();
  await b.pass(10_000);
  await b.log.write();
  expect(b.times()).toEqual(Array.from({ length: 1001 }, (_, k) => k * 0.01));
  expect(b.chunks.map((c) => c.seq)).toEqual(b.chunks.map((_, k) => k));
  expect(b.chunks.every((c, k) => c.from === b.chunks.slice(0, k).reduce((s, x) => s + x.rows, 0))).toBe(true);
  const written = b.chunks.map((c) => c.at ?? 0);
  expect(Math.max(...written.map((t, k) => t - (written[k - 1] ?? 1_000_000)))).toBeLessThanOrEqual(500);
});

test("a bench that is hurried loses no sample, even where it can't keep up", async () => {
  const b = bench();
  b.log.setPace(3600);
  await b.pass(1000);
  await b.log.write();
  const t = b.times();
  expect(t.length).toBe(10 * 6000);
  t.forEach((x, k) => expect(Math.abs(x - k * 0.01)).toBeLessThan(1e-9));
});

test("an hour at a hundred samples a second: none lost, and nothing kept that grows", async () => {
  let rows = 0;
  let last = -1;
  const b = bench({
    store: async (c) => {
      rows += c.rows;
      for (const t of c.columns.time ?? []) {
        if (Math.round(t * 100) !== last + 1) throw new Error(`sample ${last + 1} is missing`);
        last++;
      }
    },
    watch: { push: () => [], state: () => ({ phase: "", figures: [], remaining: null, complete: false, spans: [] }) },
  });
  b.log.setPace(60);
  await b.pass(60_000);
  await b.log.write();
  expect(rows).toBe(360_001);
  const status = b.news.findLast((n) => n.kind === "status");
  const curve = status?.kind === "status" ? status.status.curves.cellVoltage : undefined;
  expect(curve?.x.length).toBeLessThanOrEqual(1600);
  expect(curve?.y.at(-1)).toBeCloseTo(3.5 + 0.36, 2);
}, 120_000);

test("while asleep nothing is read, and that is said; the bench went on in real time", async () => {
  const b = bench();
  await b.pass(2000);
  b.clock.ms += 60_000;
  await b.pass(1000);
  await b.log.write();
  expect(b.news.filter((n) => n.kind === "unwatched")).toEqual([
    { kind: "unwatched", from: 2, until: expect.closeTo(62.1, 6) },
  ]);
  const t = b.times();
  expect(t.filter((x) => x > 2.001 && x < 62)).toEqual([]);
  expect(t.at(-1)).toBeCloseTo(63, 1);
});

test("a log that was left goes on where it was, following what is stored again", async () => {
  const first = bench({ store: appendChunk });
  await first.pass(1500);
  await first.log.write();
  const kept = await traceExtent("r");
  const again = bench({ store: appendChunk });
  again.clock.ms = first.clock.ms + 30_000;
  again.log.resume(await readTrace("r"), kept?.chunks ?? 0, kept?.at);
  expect(again.watch.rows).toHaveLength(kept?.rows ?? 0);
  expect(kinds(again.news)).toEqual(["unwatched"]);
  await again.pass(1000);
  await again.log.write();
  const t = [...((await readTrace("r")).time ?? [])];
  expect(t.slice(0, kept?.rows)).toEqual(first.watch.rows.map((r) => r.time));
  expect(t).toEqual([...new Set(t)].sort((a, b) => a - b));
  expect(t.at(-1)).toBeCloseTo(1.5 + 30 + 1, 0);
});

test("a disk that is full loses nothing that was read, says so, and is tried again", async () => {
  let full = true;
  const stored: number[] = [];
  const b = bench({
    store: (c) => {
      if (full) return Promise.reject(new Error("no space"));
      stored.push(...(c.columns.time ?? []));
      return Promise.resolve();
    },
  });
  await b.pass(2000);
  expect(await b.log.write()).toBe(false);
  // How much is held is said, and it can be had as a table meanwhile.
  const held = b.news.findLast((n) => n.kind === "trouble");
  const table = b.log.heldCsv().trim().split("\r\n");
  expect(held).toMatchObject({ held: { rows: table.length - 1 } });
  expect(table[0]).toContain("Test Time / s");
  full = false;
  await b.pass(1000);
  expect(await b.log.write()).toBe(true);
  expect(b.news.find((n) => n.kind === "trouble")).toMatchObject({
    message: expect.stringMatching(/can't be written \(no space\).*held in memory/) as string,
  });
  expect(b.news.findLast((n) => n.kind === "trouble")).toEqual({ kind: "trouble", message: null });
  expect(stored).toEqual(Array.from({ length: 301 }, (_, k) => k * 0.01));
});

test("a stop rule is called out once, with what to disconnect, and again after it was said to be safe", async () => {
  const b = bench({ source: null });
  const events = () => b.news.flatMap((n): LiveEvent[] => (n.kind === "event" ? [n.event] : []));
  b.log.type({ cellVoltage: 3.9 });
  b.log.type({ cellVoltage: 4.1 });
  b.log.type({ cellVoltage: 4.2 });
  expect(events()).toMatchObject([
    { kind: "stop-rule", message: "The cell is above 4 V.", act: "Disconnect the cell first." },
  ]);
  b.log.clearStops();
  b.log.type({ cellVoltage: 4.2 });
  expect(events()).toHaveLength(2);
});

test("typed readings that stop coming are called out once", async () => {
  const b = bench({ source: null });
  b.log.type({ cellVoltage: 3.9 });
  await b.pass(20 * 60_000, 10_000);
  const said = b.news.flatMap((n) => (n.kind === "event" ? [n.event.kind] : []));
  expect(said).toEqual(["stalled"]);
});

test("the time that stops a log counts while nobody types", async () => {
  const b = bench({
    source: null,
    rules: [{ role: "time", above: 600, why: "More than ten minutes.", act: "Unplug the input first." }],
  });
  b.log.type({ cellVoltage: 3.9 });
  await b.pass(590_000, 10_000);
  expect(kinds(b.news)).toEqual([]);
  await b.pass(60_000, 10_000);
  expect(b.news.flatMap((n) => (n.kind === "event" ? [[n.event.message, n.event.act]] : []))).toEqual([
    ["More than ten minutes.", "Unplug the input first."],
  ]);
});

test("writes that are asked for at once follow each other: no chunk is written twice, none out of turn", async () => {
  const order: string[] = [];
  let free: (() => void)[] = [];
  const b = bench({
    store: (c) => {
      order.push(`${c.seq} from ${c.from}`);
      return new Promise((resolve) => free.push(resolve));
    },
  });
  const letGo = async () => {
    const now = free;
    free = [];
    now.forEach((f) => f());
    for (let k = 0; k < 10; k++) await Promise.resolve();
  };
  b.clock.ms += 100;
  b.log.turn();
  const writes = [b.log.write(), b.log.write(), b.log.write()];
  b.clock.ms += 100;
  b.log.turn();
  await letGo();
  writes.push(b.log.write());
  for (let k = 0; k < 5; k++) await letGo();
  await Promise.all(writes);
  expect(order).toEqual(["0 from 0", expect.stringMatching(/^1 from 1\d$/)]);
});

describe("the computer's clock", () => {
  test.each([
    [3_600_000, "ahead"],
    [-3_600_000, "back"],
  ])("set by %p ms is said, and changes nothing of a typed charge", async (by, word) => {
    const wall = { off: 5e11 };
    const clock = { ms: 1_000_000 };
    const b = bench({ source: null, clock: () => clock.ms, wall: () => clock.ms + wall.off });
    const hour = async (from: number) => {
      for (let k = 0; k < 60; k++) {
        for (let t = 0; t < 60_000; t += 1000) {
          clock.ms += 1000;
          b.log.turn();
        }
        if (from + k === 30) wall.off += by;
        b.log.type({ cellVoltage: 3.7, cellCurrent: 1 });
      }
      await b.log.write();
    };
    await hour(0);
    const times = b.times();
    // An ampere for an hour, less the minute before the first reading.
    expect(times.at(-1)).toBeCloseTo(3600, 0);
    const said = b.news.flatMap((n) =>
      n.kind === "event" && n.event.kind === "clock" ? [n.event.message.replace(/\u00a0/g, " ")] : [],
    );
    expect(said).toEqual([
      `The computer's clock was set ${word} by 1 h 00 min. The log keeps its own time: nothing changes.`,
    ]);
  });

  test("a sleep is still a stretch that nobody watched", async () => {
    const b = bench();
    await b.pass(2000);
    b.clock.ms += 60_000;
    b.log.turn();
    expect(b.news.filter((n) => n.kind === "unwatched")).toHaveLength(1);
    expect(b.news.some((n) => n.kind === "event" && n.event.kind === "clock")).toBe(false);
  });
});

test("what is done to the simulated bench takes effect from its next sample, and is marked", async () => {
  const done: [string, number][] = [];
  const b = bench({
    source: {
      ...SOURCE(),
      disturb: (what, at) => (done.push([what, at]), { time: at, what: "plug pulled", kind: "bench:unplug" }),
    },
  });
  await b.pass(1000);
  b.log.disturb("unplug");
  expect(done).toEqual([["unplug", 1.01]]);
  expect(b.news.find((n) => n.kind === "mark")).toEqual({
    kind: "mark",
    mark: { time: 1.01, what: "plug pulled", kind: "bench:unplug" },
  });
});
