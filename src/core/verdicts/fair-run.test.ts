import type { ClaimReading } from "../claims";
import { HOUSE_RULES, type RunSetup } from "../measurement";
import { loadSweep, type SweepPlan } from "../procedures/load-sweep";
import { standby } from "../procedures/standby";
import { claim, RIG } from "../procedures/load-sweep/fixtures/make";
import { fairRun, type FairSample } from "./fair-run";

const samples: readonly FairSample[] = [
  { id: "A", name: "A", configuration: "J1 open", output: 5 },
  { id: "B", name: "B", configuration: "J1 closed", output: 9 },
];
const reading = (characteristic: string, conditions: ClaimReading["conditions"] = {}): ClaimReading => ({
  characteristic,
  limit: { kind: "at-least", low: 1 },
  conditions,
});
const unmeasured = { word: "not measured", why: [], settle: [] } as const;
const planned = (p: typeof loadSweep | typeof standby): RunSetup => {
  const made = p.plan?.({
    claims: [claim("boost.no-load-voltage", { kind: "nominal", nominal: 5, tolerance: null })],
    rules: HOUSE_RULES,
    rig: RIG,
  } as never);
  if (!made?.ok) throw new Error("no plan");
  return made.value as RunSetup;
};

test("a claim that was judged needs no run, and one that nothing measures gets none", () => {
  expect(
    fairRun(reading("boost.max-current"), { word: "meets", why: [], settle: [] }, samples, HOUSE_RULES),
  ).toBeNull();
  expect(
    fairRun(reading("boost.max-current"), { word: "too close to call", why: [], settle: [] }, samples, HOUSE_RULES),
  ).toBeNull();
  expect(fairRun(reading("no.such"), unmeasured, samples, HOUSE_RULES)).toBeNull();
});

test("battery voltage that no run was made at are added to the sweep, fullest first; those that are near are not", () => {
  const run = fairRun(
    reading("boost.max-current", { battery: { from: 2.7, to: 4.12 } }),
    unmeasured,
    samples,
    HOUSE_RULES,
  );
  expect(run?.procedure.id).toBe("load-sweep");
  expect(run?.words[0]).toMatch(/^A load sweep of sample A at battery voltage 2\.7.V to 4\.12.V\.$/);
  expect((run?.patch(planned(loadSweep), 5).plan as SweepPlan).batteries).toEqual([4.1, 3.6, 3.1, 2.7]);
});

test("a claim that names no battery is swept over the house's range, and that is said to be ours", () => {
  const run = fairRun(reading("boost.max-current"), unmeasured, samples, HOUSE_RULES);
  expect(run?.words[0]).toContain("our range");
  expect((run?.patch(planned(loadSweep), 5).plan as SweepPlan).batteries).toEqual([4.1, 3.6, 3.1]);
});

test("an idle state that the plan leaves out is put in", () => {
  const run = fairRun(reading("standby.current", { state: { word: "auto-off" } }), unmeasured, samples, HOUSE_RULES);
  expect(run?.procedure.id).toBe("standby");
  const plan = run?.patch(planned(standby), 5).plan as { states: readonly string[] };
  expect(plan.states).toContain("auto-off");
  expect(plan.states).toContain("no-load");
});

test("the piece that stands as the claim has it is taken; where none does, what has to be set is said", () => {
  expect(
    fairRun(reading("boost.max-current", { configuration: { word: "j1 closed" } }), unmeasured, samples, HOUSE_RULES)
      ?.sampleId,
  ).toBe("B");
  expect(fairRun(reading("boost.max-current", { output: { at: 9 } }), unmeasured, samples, HOUSE_RULES)?.sampleId).toBe(
    "B",
  );
  const none = fairRun(
    reading("boost.max-current", { configuration: { word: "J2 closed" }, output: { at: 12 } }),
    unmeasured,
    samples,
    HOUSE_RULES,
  );
  expect(none?.sampleId).toBeUndefined();
  expect(none?.words.join(" ")).toMatch(/set one to J2 closed, 12.V/);
  expect(fairRun(reading("boost.max-current"), unmeasured, [], HOUSE_RULES)?.words.join(" ")).toContain(
    "Add sample first",
  );
});

test("where the supply gave up its limit is raised to all that it gives, and the remedy is repeated", () => {
  const remedy = "Raise the supply's current limit (or shorten the battery leads) and repeat from the last point held.";
  const finding = {
    characteristic: "boost.max-current",
    conditions: {},
    value: 1,
    unit: "A",
    budget: [],
    points: [],
    unfair: [{ code: "supply-gave-up", message: "The supply gave up.", remedy, pushes: "low" }],
  } as const;
  const judged = [
    {
      finding,
      word: "not fairly tested",
      interval: null,
      limits: null,
      probability: null,
      why: [],
      settle: [remedy],
      unfair: ["supply-gave-up"],
      sampleId: "A",
      sampleName: "A",
      runId: "r",
      runTitle: "r",
    },
  ] as const;
  const run = fairRun(
    reading("boost.max-current"),
    { word: "not fairly tested", why: ["The supply gave up."], settle: [remedy], judged },
    samples,
    HOUSE_RULES,
  );
  const setup = planned(loadSweep);
  const low = { ...setup, conditions: { ...setup.conditions, supplyCurrentLimit: 1 } };
  expect(run?.words).toContain(remedy);
  expect(run?.patch(low, 5).conditions.supplyCurrentLimit).toBe(5);
  expect(
    fairRun(reading("boost.max-current"), unmeasured, samples, HOUSE_RULES)?.patch(low, 5).conditions
      .supplyCurrentLimit,
  ).toBe(1);
});

test("the input voltage goes into the plan, the ambient into the conditions, with words to bring the bench there", () => {
  const run = fairRun(
    reading("charge.cc-current", { inputVoltage: { at: 5 }, ambient: { at: 40 } }),
    unmeasured,
    samples,
    HOUSE_RULES,
  );
  expect(run?.procedure.id).toBe("charge-cycle");
  expect(run?.words.join(" ")).toMatch(/Bring the ambient to 40.°C before the start/);
  const setup = run?.patch(
    { conditions: {}, instruments: {}, plan: { supplyVoltage: 5.2, cable: 0.1, supplyLimit: 1 } },
    5,
  );
  expect(setup).toMatchObject({ conditions: { ambientTemperature: 40 }, plan: { supplyVoltage: 5 } });
});
