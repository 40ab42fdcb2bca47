import { atBench, procedure, type PlanContext, type AtBench, type TraceProcedure, ofTrace } from "../procedures";
import { HOUSE_RULES, type RunSetup } from "../measurement";
import { LiveLog, type LiveNews } from "@/workers/live-log";
import { LiveModule, logModule, type LiveModuleOptions } from "./live-module";
import { liveOptions } from "./simulated-bench";

const METER = { gain: 0.001, counts: 2, resolution: 0.001 };
const CONTEXT: PlanContext = {
  claims: [],
  rules: HOUSE_RULES,
  rig: {
    instruments: { batteryVoltage: METER, batteryCurrent: METER, outputVoltage: METER, outputCurrent: METER },
    supplyCurrentLimit: 4,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
};

function ready(
  id: string,
  patch: object = {},
): { p: AtBench<TraceProcedure>; setup: RunSetup; options: LiveModuleOptions } {
  const p = ofTrace(atBench(procedure(id))) as AtBench<TraceProcedure>;
  const planned = p.plan(CONTEXT);
  if (!planned.ok) throw new Error(planned.error);
  const setup: RunSetup = {
    ...planned.value,
    conditions: { nominalOutput: 5, ...planned.value.conditions },
    plan: { ...(planned.value.plan as object), ...patch },
  };
  return { p, setup, options: liveOptions(p, "steady-synchronous", setup, 9) };
}

/** Every guided procedure; some hurried by their plan. */
const LED: Readonly<Record<string, object>> = {
  "threshold-ramp": {},
  standby: {},
  "light-load": {},
  overload: {},
  "heat-soak": {},
  "power-path": { dwell: 0.3 },
  "solar-input": {},
  "meter-check": {},
  discharge: { rate: 2 },
  "pack-charge": { wait: 300 },
};

test.each(Object.keys(LED))("%s: what is read follows from seed and number, whichever samples were looked at", (id) => {
  const { options } = ready(id, LED[id]);
  const [all, some] = [new LiveModule(options), new LiveModule(options)];
  const rows = Array.from({ length: 120 }, (_, k) => all.sample(k));
  for (const k of [0, 7, 40, 119]) expect(some.sample(k)).toEqual(rows[k]);
  expect(some.marks()).toEqual(all.marks());
  expect(() => some.sample(3)).toThrow(/asked for after/);
});

test.each(Object.keys(LED))("%s: its guide comes to its end by itself, and every mark says what was done", (id) => {
  const { options, p } = ready(id, LED[id]);
  const { live, trace } = logModule(options);
  expect(live.done).toBe(true);
  const kinds = new Set((p.marks ?? []).map((m) => m.kind));
  for (const m of trace.events) {
    expect(m.what.length).toBeGreaterThan(3);
    // What a guide marks by itself can also be marked by hand.
    expect(kinds.has(m.kind ?? "") || m.kind === "charger-off").toBe(true);
  }
});

/** A live log over the simulated bench, its clock hurried by the test. */
function logged(id: string, patch: object = {}) {
  const { p, setup, options } = ready(id, patch);
  let now = 0;
  const news: LiveNews[] = [];
  const source = new LiveModule(options);
  const log = new LiveLog({
    runId: "r",
    watch: (p.watch as NonNullable<typeof p.watch>)(setup),
    rules: p.stopRules(setup),
    source,
    every: options.every,
    clock: () => now,
    store: () => Promise.resolve(),
    tell: (n) => news.push(n),
  });
  log.setPace(60);
  const pass = async (seconds: number) => {
    for (let t = 0; t < seconds; t += 0.1) {
      now += 100;
      log.turn();
      await Promise.resolve();
    }
  };
  return { log, news, pass, source };
}
const statuses = (news: readonly LiveNews[]) => news.flatMap((n) => (n.kind === "status" ? [n.status] : []));

test("a live overload tells each mark once, says its steps, and reads nothing more once all has been seen", async () => {
  const { news, pass, source } = logged("overload", { from: 1.2, repeats: 2 });
  await pass(20);
  const marks = news.flatMap((n) => (n.kind === "mark" ? [n.mark.kind] : []));
  expect(marks.filter((m) => m === "short-on")).toHaveLength(2);
  expect(marks.filter((m) => m === "short-off")).toHaveLength(2);
  expect(source.done).toBe(true);
  const last = statuses(news).at(-1);
  expect(last?.state.complete).toBe(true);
  expect(last?.state.task).toMatch(/Finish the log/);
  const rows = last?.rows;
  await pass(5);
  expect(statuses(news).at(-1)?.rows).toBe(rows);
  const kinds = news.flatMap((n) => (n.kind === "event" ? [n.event.kind] : []));
  expect(kinds.filter((k) => k === "done")).toHaveLength(1);
  expect(kinds).toEqual(expect.arrayContaining(["step", "cut-back"]));
});

test("a live ramp shows its phases in their order, and the cut near where it was", async () => {
  const { news, pass } = logged("threshold-ramp");
  await pass(6);
  const last = statuses(news).at(-1);
  expect(last?.state.spans.map((s) => s.label)).toEqual([
    "settling",
    "quick ramp",
    "slow ramp",
    "cut off",
    "way back",
    "back on",
    "done",
  ]);
  const cut = last?.state.figures.find((f) => f.label === "Cut near");
  expect(Math.abs((cut?.value ?? 0) - 2.9)).toBeLessThan(0.03);
});

test("typed readings lead the same way: the marks are those of what was said", () => {
  const { p, setup } = ready("overload", { from: 1, dwell: 2, every: 1 });
  const watch = (p.watch as NonNullable<typeof p.watch>)(setup);
  const row = (time: number, outputVoltage: number, outputCurrent: number) =>
    watch.push({ time, outputVoltage, outputCurrent, batteryCurrent: 1 });
  row(0, 5, 0);
  row(3, 5, 0);
  expect(watch.state().task).toMatch(/Set the load to 1\sA/);
  // It falls: what brings it back is tried in order.
  for (const t of [4, 5, 6]) row(t, 0.1, 0.2);
  expect(watch.state().phase).toBe("recovering");
  row(13, 0, 0);
  expect(watch.marks?.().map((m) => m.kind)).toEqual(["load-off"]);
  expect(watch.state().task).toBe("It doesn't recover. Remove the load.");
  row(20, 0, 0);
  row(23, 0, 0);
  expect(watch.marks?.().map((m) => m.kind)).toEqual(["load-off", "supply-off", "supply-on"]);
});

test("a live heat soak shows where it will settle, surer and surer, and calls out when it is too hot to touch", async () => {
  const { news, pass } = logged("heat-soak", { load: 1, enough: 0.5, touchLimit: 25 });
  await pass(26);
  const seen = statuses(news).flatMap((s) => {
    const [settles, within] = ["Settles at", "known within"].map(
      (label) => s.state.figures.find((f) => f.label === label)?.value,
    );
    return settles !== undefined && within !== undefined ? [{ settles, within }] : [];
  });
  const [first, last] = [seen[0], seen.at(-1)];
  expect(last?.within).toBeLessThan((first?.within ?? 0) / 2);
  // The last prediction lies within what an early one allowed.
  expect(Math.abs((last?.settles ?? 0) - (first?.settles ?? 0))).toBeLessThan(2 * (first?.within ?? 0));
  const hot = news.flatMap((n) => (n.kind === "event" && n.event.kind === "hot" ? [n.event.message] : []));
  expect(hot).toHaveLength(1);
  expect(hot[0]).toMatch(/too hot to touch/);
});

test("a live handover marks each coming and going of the input once, and shows how low the output went", async () => {
  const { log, news, pass, source } = logged("power-path", { dwell: 0.5, every: 0.002, repeats: 2 });
  log.setPace(1);
  await pass(4);
  const marks = news.flatMap((n) => (n.kind === "mark" ? [n.mark.kind] : []));
  expect(marks).toEqual(["plugged", "unplugged", "plugged", "unplugged"]);
  expect(source.done).toBe(true);
  expect(statuses(news).some((s) => s.state.figures.some((f) => f.label === "Lowest output here" && f.value < 5))).toBe(
    true,
  );
});

test("a panel's live log counts its steady light, and says when the light goes and comes", async () => {
  const { news, pass } = logged("solar-input", { steady: 400, seconds: 1500 });
  await pass(30);
  const steady = statuses(news).map((s) => s.state.figures.find((f) => f.label === "Steady light so far")?.value ?? 0);
  expect(Math.max(...steady)).toBeGreaterThanOrEqual(400);
  const kinds = new Set(news.flatMap((n) => (n.kind === "event" ? [n.event.kind] : [])));
  expect([...kinds]).toEqual(expect.arrayContaining(["phase", "step", "done"]));
});

test("typed readings lead a meter check through its currents", () => {
  const { p, setup } = ready("meter-check", { most: 1, steps: 2, dwell: 2 });
  const watch = (p.watch as NonNullable<typeof p.watch>)(setup);
  const tasks = [0, 2, 4, 6].map((time) => {
    watch.push({ time, outputVoltage: 4.9, referenceVoltage: 5, outputCurrent: 0.5 });
    return watch.state().task ?? "";
  });
  expect(tasks[0]).toMatch(/No current; read both meters/);
  expect(tasks[1]).toMatch(/Set the current to 500\smA/);
  expect(tasks[2]).toMatch(/Set the current to 1\sA/);
  expect(tasks[3]).toMatch(/Finish the log/);
  expect(watch.state().figures[0]).toMatchObject({ label: "Difference now", value: expect.closeTo(-0.1, 9) });
});
