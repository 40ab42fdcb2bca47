import type { PackedColumn } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import { seeded } from "@/core/simulator";
import { ComingIn, type Sight } from "./coming-in";

const board = (id: string) => ({ id }) as BoardRecord;
const column = (boardId: string): PackedColumn => ({
  boardId,
  functions: [],
  names: [],
  values: new Float64Array(),
  uncertainties: new Float64Array(),
  measured: new Uint8Array(),
  marks: [],
});
const made = (id: string) => ({ column: column(id), cells: {} });
const ids = (n: number) => Array.from({ length: n }, (_, k) => `b${k}`);
const sight = (boards: readonly string[], of: readonly string[] = [], near: readonly string[] = []): Sight => ({
  boards,
  near,
  of: new Set(of),
});

/** Takes every turn that there is at once, one after another, and tells each. */
function played(all: ComingIn, look: () => Sight, most = 100): string[] {
  const told: string[] = [];
  for (let turn = all.next(look()); turn && told.length < most; turn = all.next(look())) {
    all.begins(turn);
    told.push(`${turn.boards.map((b) => b.id).join("+")}${turn.first ? ` ${[...turn.first].sort().join(",")}` : ""}`);
    for (const b of turn.boards) all.takes(b, turn, made(b.id));
    all.opened ||= turn.visible && all.inSight(look());
  }
  return told;
}

test("of the boards in sight the rows in sight come first, then the rest of them and of those near, then all others", () => {
  const all = new ComingIn(ids(5).map(board), new Map(), new Map());
  expect(played(all, () => sight(["b2", "b3"], ["charge"], ["b4"]))).toEqual([
    "b2 charge",
    "b3 charge",
    "b2",
    "b3",
    "b4",
    "b0",
    "b1",
  ]);
  expect([all.done, all.idle, all.parts.size, all.columns.size]).toEqual([true, true, 0, 5]);
  // Only what was looked at is held.
  expect([...all.cells.keys()]).toEqual(["b2", "b3", "b4"]);
});

test("rows that come into sight are asked for on top of those that are there", () => {
  const all = new ComingIn(ids(2).map(board), new Map(), new Map());
  const looks = [sight(["b0"], ["charge"]), sight(["b0"], ["sweep"])];
  let k = 0;
  const turns = [];
  for (; k < 2; k++) {
    const turn = all.next(looks[k] as Sight);
    if (!turn) throw new Error("no turn");
    all.begins(turn);
    turns.push([...(turn.first ?? [])].sort());
    all.takes(turn.boards[0] as BoardRecord, turn, made("b0"));
  }
  expect(turns).toEqual([["charge"], ["charge", "sweep"]]);
  expect(all.inSight(looks[0] as Sight) && all.inSight(looks[1] as Sight)).toBe(true);
  expect(all.inSight(sight(["b0", "b1"], ["charge"]))).toBe(false);
});

test("views without rows of their own take boards whole; those that are kept come at once, together", () => {
  const all = new ComingIn(ids(4).map(board), new Map([["b1", column("b1")]]), new Map());
  expect(played(all, () => sight([]))).toEqual(["b0", "b2", "b3"]);
  const kept = new ComingIn(ids(4).map(board), new Map(ids(3).map((id) => [id, column(id)])), new Map());
  expect(played(kept, () => sight(ids(4), ["charge"]))).toEqual(["b0+b1+b2", "b3 charge", "b3"]);
});

test("where all are kept nothing is waited for, though no turn is left to take", () => {
  const kept = new Map(ids(2).map((id) => [id, column(id)]));
  expect(new ComingIn(ids(2).map(board), kept, new Map(ids(2).map((id) => [id, {}]))).opened).toBe(true);
  expect(new ComingIn(ids(3).map(board), kept, new Map()).opened).toBe(false);
});

test("while somebody scrolls, what is kept is fetched and nothing is worked out", () => {
  const all = new ComingIn(ids(3).map(board), new Map([["b1", column("b1")]]), new Map());
  const look = sight(["b0", "b1"], ["charge"]);
  expect(all.next(look, true)?.boards.map((b) => b.id)).toEqual(["b1"]);
  expect(played(all, () => look).length).toBeGreaterThan(0);
  const cold = new ComingIn(ids(3).map(board), new Map(), new Map());
  expect(cold.next(look, true)).toBeNull();
  expect(cold.next(look)?.boards.map((b) => b.id)).toEqual(["b0"]);
});

test("until all in sight are there three are under way, afterwards one; a board that can't be worked out is asked for once", () => {
  const all = new ComingIn(ids(9).map(board), new Map(), new Map());
  const look = sight(ids(4), ["charge"]);
  const turns = [1, 2, 3].map(() => {
    const turn = all.next(look);
    if (turn) all.begins(turn);
    return turn;
  });
  expect(turns.map((t) => t?.boards[0]?.id)).toEqual(["b0", "b1", "b2"]);
  expect(all.next(look)).toBeNull();
  for (const t of turns) if (t?.boards[0]) all.fails(t.boards[0], "its log is damaged");
  expect(all.next(look)?.boards[0]?.id).toBe("b3");
  all.opened = true;
  expect(played(all, () => look)).toEqual(["b3 charge", "b3", "b4", "b5", "b6", "b7", "b8"]);
  expect(all.failed.get("b1")).toBe("its log is damaged");
  expect(all.done).toBe(true);
});

test("whatever is looked at meanwhile, every board comes in whole, once, and what is in sight never waits for what is not", () => {
  const random = seeded(90210);
  for (let round = 0; round < 100; round++) {
    const list = ids(1 + Math.floor(12 * random.uniform()));
    const all = new ComingIn(list.map(board), new Map(), new Map());
    const some = () => list.filter(() => random.uniform() < 0.3);
    let look = sight([]);
    const whole: string[] = [];
    for (let steps = 0; !all.done && steps < 500; steps++) {
      if (random.uniform() < 0.3)
        look = sight(some(), ["charge", "sweep"].slice(0, Math.floor(3 * random.uniform())), some());
      const turn = all.next(look);
      if (!turn) throw new Error(`nothing comes next in round ${round}`);
      const open = look.boards.filter((id) => !all.cells.has(id));
      if (!turn.visible) expect(open).toEqual([]);
      all.begins(turn);
      for (const b of turn.boards) {
        if (!turn.first && !all.columns.has(b.id)) whole.push(b.id);
        all.takes(b, turn, made(b.id));
      }
    }
    expect([...whole].sort()).toEqual([...list].sort());
  }
});
