import { seeded } from "../simulator/random";
import { barsOf, endOfDay, lengthOf, nextAct, replanned, restOfDay, troublesOf, type Day, type DayTask } from ".";

const task = (
  id: string,
  steps: readonly (readonly [minutes: number, ...needs: string[]])[],
  more: Partial<DayTask> = {},
): DayTask => ({
  id,
  title: id,
  about: {},
  after: [],
  ...more,
  steps: steps.map(([minutes, ...needs]) => ({ minutes, needs: Object.fromEntries(needs.map((n) => [n, 1])) })),
});
const charge = (id: string, more: Partial<DayTask> = {}): DayTask =>
  task(
    id,
    [
      [10, "hands", "supply"],
      [150, "supply"],
    ],
    more,
  );
const sweep = (id: string, more: Partial<DayTask> = {}): DayTask => task(id, [[45, "hands", "load"]], more);
const day = (tasks: readonly DayTask[], instruments: Day["instruments"] = { hands: 1, supply: 1, load: 1 }): Day => ({
  date: "2026-12-01",
  begins: 540,
  instruments,
  tasks,
  plan: {},
});
const plan = (d: Day, now = 0): Day => replanned(d, now, seeded(1));
const change = (d: Day, id: string, more: Partial<DayTask>): Day => ({
  ...d,
  tasks: d.tasks.map((t) => (t.id === id ? { ...t, ...more } : t)),
});

test("a charge runs beside sweeps, hands are in one place, and nothing breaks", () => {
  const d = plan(day([charge("charge"), sweep("a"), sweep("b")]));
  expect(d.plan).toEqual({ charge: 0, a: 10, b: 55 });
  expect(endOfDay(d, 0)).toBe(160);
  expect(troublesOf(d, 0)).toEqual([]);
  expect(nextAct(d, 0)).toMatchObject({ act: "start", at: 0, task: { id: "charge" } });
});

test("what takes longer pushes what needs the same hands, and only that", () => {
  let d = plan(day([sweep("a"), sweep("b"), task("soak", [[60, "supply"]])]));
  expect(d.plan).toEqual({ a: 0, b: 45, soak: 0 });
  d = change(change(d, "a", { started: 0 }), "soak", { started: 0 });
  // Half an hour late: it is given ten more minutes, and b moves behind it.
  expect(barsOf(d, 75).find((b) => b.task.id === "a")).toMatchObject({ state: "overdue", end: 85 });
  expect(nextAct(d, 75)).toMatchObject({ act: "finish", task: { id: "a" }, at: 45 });
  d = plan(d, 75);
  expect(d.plan).toEqual({ a: 0, soak: 0, b: 85 });
  expect(nextAct(change(change(d, "a", { ended: 80 }), "soak", { ended: 60 }), 80)).toMatchObject({
    act: "start",
    task: { id: "b" },
  });
});

test("a charge that was interrupted frees its supply at once", () => {
  let d = plan(day([charge("one"), charge("two")]));
  expect(d.plan).toEqual({ one: 0, two: 160 });
  d = plan(change(d, "one", { started: 0, ended: 30, note: "the plug fell out" }), 30);
  expect(d.plan).toEqual({ one: 0, two: 30 });
  expect(endOfDay(d, 30)).toBe(190);
});

test("a task moved by hand stays there, the rest makes way; what can't be is said", () => {
  const moved = change(day([sweep("a"), sweep("b")]), "a", { at: 20 });
  const d = plan(moved);
  expect(d.plan).toEqual({ a: 20, b: 65 });
  expect(troublesOf(d, 0)).toEqual([]);
  const clash = plan(change(moved, "b", { at: 30 }));
  expect(troublesOf(clash, 0)).toEqual([
    { kind: "shared", instrument: "hands", there: 1, from: 30, to: 65, tasks: ["a", "b"] },
    { kind: "shared", instrument: "load", there: 1, from: 30, to: 65, tasks: ["a", "b"] },
  ]);
  const early = plan(change(day([sweep("a"), task("rest", [[5]], { after: ["a"], at: 10 })]), "a", { at: 0 }));
  expect(troublesOf(early, 0)).toEqual([{ kind: "order", task: "rest", before: "a" }]);
});

test("a task waits for the one it comes after, over it or not", () => {
  const d = day([charge("charge"), task("rest", [[5, "hands"]], { after: ["charge"] })]);
  expect(plan(d).plan).toEqual({ charge: 0, rest: 160 });
  expect(plan(change(d, "charge", { started: 0, ended: 100 }), 100).plan).toEqual({ charge: 0, rest: 100 });
});

const SEED = 20261201;
test(`200 random days, disturbed four times each: what began stays where it was, the rest never lies in the past nor in each other's way (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const whole = (low: number, high: number): number => Math.min(high, low + Math.floor(r.uniform() * (high - low + 1)));
  for (let k = 0; k < 200; k++) {
    const tasks: DayTask[] = [];
    for (let n = whole(2, 6); n > 0; n--)
      tasks.push(
        (r.uniform() < 0.5 ? charge : sweep)(
          `t${n}`,
          tasks.length && r.uniform() < 0.3 ? { after: [tasks[0]?.id ?? ""] } : {},
        ),
      );
    let d = plan(day(tasks, { hands: 1, supply: whole(1, 2), load: 1 }));
    let now = 0;
    for (let n = 0; n < 4; n++) {
      now += whole(1, 70);
      for (const b of barsOf(d, now)) {
        if (b.state === "to come" && b.start <= now && r.uniform() < 0.8) d = change(d, b.task.id, { started: now });
        else if (b.state !== "to come" && b.state !== "over" && (b.end <= now || r.uniform() < 0.2))
          d = change(d, b.task.id, { ended: now });
      }
      const before = d;
      d = replanned(d, now, seeded(1), { orders: 40, branches: 2000 });
      for (const b of barsOf(d, now)) expect([k, n, b.state !== "to come" || b.start >= now]).toEqual([k, n, true]);
      for (const t of before.tasks) if (t.started !== undefined) expect([k, d.plan[t.id]]).toEqual([k, t.started]);
      // Only what was started by hand at the same time may share what there is once.
      const own = new Set(d.tasks.filter((t) => t.started !== undefined).map((t) => t.id));
      expect([
        k,
        n,
        troublesOf(d, now).filter((x) => x.kind === "order" || !x.tasks.every((id) => own.has(id))),
      ]).toEqual([k, n, []]);
    }
  }
});

test("the rest of a day holds what is left of each task, and a minute of what is overdue is none too few", () => {
  const d = change(plan(day([charge("c")])), "c", { started: 5 });
  expect(restOfDay(d, 65).tasks).toEqual([{ id: "c", steps: [{ minutes: 100, needs: { supply: 1 } }], at: 0 }]);
  expect(restOfDay(d, 500).tasks.map((t) => [lengthOf(t), t.steps[0]?.needs])).toEqual([[10, { supply: 1 }]]);
});
