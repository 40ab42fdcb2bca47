import "fake-indexeddb/auto";
import type { BoardRecord, ClaimRecord, NotebookId, StoredRecord } from "@/core/files/records";
import { population, seedOf } from "@/testing/population";
import { seeded } from "@/core/simulator";
import { change, newId, type EditClash } from ".";
import type * as Door from "./door";
import { closeDatabase, database } from "./database";
import { closeNotices } from "./notices";

const AT = "2026-11-25T08:00:00Z";
const NB = "nb" as NotebookId;
const base = (kind: string, id: string) => ({ kind, id, notebookId: NB, createdAt: AT, updatedAt: AT });
const board = (id: string, title = "Sedge 51"): BoardRecord =>
  ({ ...base("board", id), title, note: "", functions: ["boost"] }) as unknown as BoardRecord;

beforeAll(() =>
  change("new", [{ ...base("notebook", NB), title: "Mine", schema: 7 } as unknown as StoredRecord], { journal: false }),
);
afterAll(async () => {
  closeNotices();
  await closeDatabase();
});
const made = async (): Promise<BoardRecord> => {
  const b = board(newId());
  await change("add", [b]);
  return b;
};

const EDITS = population(100, 1000);
test(`${EDITS} random edits through two doors on one database: each is there, was written over by a later one, or was shown as a clash (seed ${seedOf(20261703)})`, async () => {
  const random = seeded(seedOf(20261703));
  const roll = (n: number) => Math.floor(random.uniform() * n);
  const doors: (typeof Door)[] = [];
  for (let k = 0; k < 2; k++) await jest.isolateModulesAsync(async () => void doors.push(await import("./door")));
  const claim: ClaimRecord = {
    ...base("claim", newId()),
    boardId: "b",
    readings: [{ characteristic: "boost.max-current", limit: { kind: "at-least", low: 1 }, conditions: {} }],
    source: { kind: "listing", wording: "w", date: "2026-11-25" },
  } as unknown as ClaimRecord;
  const b = await made();
  await change("claim", [claim]);
  // What each tab last saw of the records; it looks again only now and then.
  const seen = doors.map(
    () =>
      new Map<string, StoredRecord>([
        [b.id, b],
        [claim.id, claim],
      ]),
  );
  const fields: readonly [string, (r: StoredRecord, v: string) => StoredRecord, (r: StoredRecord) => string][] = [
    [b.id, (r, v) => ({ ...r, title: v }) as StoredRecord, (r) => (r as BoardRecord).title],
    [b.id, (r, v) => ({ ...r, note: v }) as StoredRecord, (r) => (r as BoardRecord).note],
    [
      claim.id,
      (r, v) => ({ ...r, source: { ...(r as ClaimRecord).source, wording: v } }) as StoredRecord,
      (r) => (r as ClaimRecord).source.wording,
    ],
  ];
  const expected = new Map<number, string>(fields.map(([id, , get], f) => [f, get(id === b.id ? b : claim)]));
  let clashes = 0;
  for (let k = 0; k < EDITS; k++) {
    const tab = roll(2);
    const views = seen[tab] as Map<string, StoredRecord>;
    if (roll(3) === 0)
      for (const id of views.keys()) views.set(id, (await (await database()).get("records", id)) as StoredRecord);
    const f = roll(fields.length);
    const [id, put, get] = fields[f] as (typeof fields)[number];
    const from = views.get(id) as StoredRecord;
    const to = put(from, `v${k}`);
    try {
      await (doors[tab] as (typeof doors)[number]).change(`edit ${k}`, [
        (doors[tab] as (typeof doors)[number]).edit(from, to),
      ]);
      // It went in: then what the tab saw of the field was what was there.
      expect([k, get(from)]).toEqual([k, expected.get(f)]);
      expected.set(f, `v${k}`);
      views.set(id, to);
    } catch (e) {
      expect((e as Error).name).toBe("EditClash");
      expect((e as EditClash).clashes[0]?.theirs).toBe(expected.get(f));
      clashes++;
    }
    for (const [other, [oid, , look]] of fields.entries())
      expect([k, other, look((await (await database()).get("records", oid)) as StoredRecord)]).toEqual([
        k,
        other,
        expected.get(other),
      ]);
  }
  expect(clashes).toBeGreaterThan(EDITS / 20);
});
