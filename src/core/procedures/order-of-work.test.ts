import { orderOfWork, progressOf, type OrderAsked, type StepRun } from "./order-of-work";

const order = (more: Partial<OrderAsked>) => {
  const { asked, others } = orderOfWork({ functions: ["charger"], claimed: new Set(), ran: new Set(), ...more });
  return { asked: asked.map((p) => p.id), others: others.map((p) => p.id) };
};

test("a charger with one channel is not asked for the done signals of several; they are at hand", () => {
  const { asked, others } = order({});
  expect(asked).toContain("charge-cycle");
  expect(asked).not.toContain("charge-channels");
  expect(others).toContain("charge-channels");
});

test.each([
  ["a claim is about them", { claimed: new Set(["channels.early-time"]) }],
  ["a run of them is there", { ran: new Set(["charge-channels"]) }],
])("once %s, they are part of the order of work", (_, more) => {
  expect(order(more).asked).toContain("charge-channels");
});

test("what destroys is asked only where a claim is about it", () => {
  expect(order({ functions: ["boost"] }).asked).not.toContain("reverse-polarity");
  expect(order({ functions: ["boost"], claimed: new Set(["reverse.survived"]) }).asked).toContain("reverse-polarity");
});

const run = (state: StepRun["state"], more: Partial<StepRun> = {}): StepRun => ({
  procedure: "standby",
  state,
  stopped: false,
  ...more,
});
test.each<[string, StepRun[], ReturnType<typeof progressOf>]>([
  ["nothing ran", [], { state: null, stopped: false }],
  ["one is open", [run("open")], { state: "under way", stopped: false }],
  ["one ended", [run("finished")], { state: "done", stopped: false }],
  ["one was stopped before its end", [run("finished", { stopped: true })], { state: "under way", stopped: true }],
  [
    "one was stopped, a later one ended",
    [run("finished", { stopped: true }), run("finished")],
    { state: "done", stopped: false },
  ],
  ["the one that ended is set aside", [run("finished", { setAside: "wrong range" })], { state: null, stopped: false }],
  ["it was another procedure", [run("finished", { procedure: "discharge" })], { state: null, stopped: false }],
])("how far a step has come where %s", (_, runs, progress) => {
  expect(progressOf("standby", runs)).toEqual(progress);
});
