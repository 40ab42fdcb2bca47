import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type RunSetup } from "../measurement";
import type { PlanContext } from "../procedures";
import { behaviour, type BehaviourPlan } from "../procedures/behaviour";
import { reversePolarity, type ReversePlan } from "../procedures/reverse-polarity";
import {
  BENCH_ACCURACY,
  benchFor,
  randomBoost,
  randomButtons,
  randomReverse,
  seeded,
  SIMULATED_BOARDS,
  SIMULATED_BUTTONS,
  VirtualBench,
  type ButtonModel,
} from "../simulator";
import { rehearseChecklist } from "./checklist";
import { Score } from "@/testing/score";
import { rehearse } from "./sweep";
import { ELEMENTS, numeric } from "../quantities";

const { nth } = ELEMENTS;

const SEED = 20261140;
const BOARDS = 500;
const CONTEXT: PlanContext = {
  claims: [],
  rules: HOUSE_RULES,
  functions: ["charger", "protection", "boost"],
  rig: {
    instruments: BENCH_ACCURACY,
    supplyCurrentLimit: 4,
    inputLeadResistance: 0,
    outputLeadResistance: 0,
    drawer: [],
  },
  configuration: { output: 5 },
};

function reversal(change: Partial<ReversePlan>, model: Parameters<typeof benchFor>[0], seed: number) {
  const r = reversePolarity.plan(CONTEXT);
  if (!r.ok) throw new Error(r.error);
  const setup: RunSetup<ReversePlan> = { ...r.value, plan: { ...(r.value.plan as ReversePlan), ...change } };
  const bench = new VirtualBench(benchFor(model, seed));
  const { points } = rehearse(reversePolarity as never, setup as RunSetup, bench, { dwell: 6, id: (k) => `p${k}` });
  return { bench, setup, points, ...reversePolarity.analyse({ kind: "points", points }, setup, NO_CORRECTIONS) };
}
const find = (list: readonly Finding[], name: string) => list.find((f) => f.characteristic === name);

describe("a reversal", () => {
  test(`of ${BOARDS} random boards gives the current, and whether each lives (seed ${SEED})`, () => {
    const r = seeded(SEED);
    const score = new Score();
    const wrong: unknown[] = [];
    for (let k = 0; k < BOARDS; k++) {
      const reverse = randomReverse(r);
      const ohms = nth([22, 33, 47, 68], Math.floor(r.uniform() * 4));
      const battery = r.between(3.3, 4);
      const { findings } = reversal(
        { ohms, battery, load: r.between(0.1, 0.3) },
        { ...randomBoost(r), reverse },
        k + 1,
      );
      const amps = Math.min(
        0.2,
        (reverse.conducts ? Math.max(0, (battery - reverse.conducts.volts) / (ohms + reverse.conducts.ohms)) : 0) +
          reverse.leak,
      );
      if (reverse.conducts) score.add("current", find(findings, "reverse.current"), amps);
      const lives = !(reverse.hurtAbove !== undefined && amps > reverse.hurtAbove);
      if (find(findings, "reverse.survived")?.value !== (lives ? "yes" : "no")) wrong.push([k, lives, reverse]);
    }
    expect(score.results().filter((x) => !x.good)).toEqual([]);
    expect(wrong.slice(0, 3)).toEqual([]);
  });

  test("is five readings; each reversal asks anew, and says what it may do", () => {
    const { setup, points } = reversal({ repeats: 2 }, SIMULATED_BOARDS["steady-synchronous"].model, 3);
    expect(points).toHaveLength(6);
    const asked = points
      .map((_, k) => reversePolarity.next?.(setup, points.slice(0, k), NO_CORRECTIONS))
      .map((p) => p?.confirm !== undefined);
    expect(asked).toEqual([false, false, true, true, false, false]);
    expect(reversePolarity.next?.(setup, points.slice(0, 2), NO_CORRECTIONS).confirm).toMatch(
      /may kill the board.*No cell is connected/,
    );
  });

  test.each([
    ["steady-synchronous", "yes", /blocks/],
    ["hiccup-limit", "yes", /conducts/],
    ["weak-switch", "no", /conducts/],
    ["diode-rectifier", "no", /conducts/],
  ] as const)("%s: survived %s", (id, word, note) => {
    const { findings, notes } = reversal({}, SIMULATED_BOARDS[id].model, 7);
    expect(find(findings, "reverse.survived")?.value).toBe(word);
    expect(notes.map((n) => n.message).join(" ")).toMatch(note);
  });

  test("through the supply's own limit is a bound, and no load reading afterwards leaves survival open", () => {
    const { findings, points, setup } = reversal(
      { ohms: 5, watts: 5, reverseLimit: 0.05 },
      SIMULATED_BOARDS["hiccup-limit"].model,
      4,
    );
    expect(find(findings, "reverse.current")).toMatchObject({ bound: "at-least", unfair: [{ pushes: "low" }] });
    const cut = reversePolarity.analyse({ kind: "points", points: points.slice(0, 4) }, setup, NO_CORRECTIONS);
    expect(find(cut.findings, "reverse.survived")).toBeUndefined();
    expect(cut.notes.some((n) => n.code === "not-checked")).toBe(true);
  });

  test("a board that was dead before says nothing; a table from elsewhere is read by its signs", () => {
    const cell = (v: number) => ({ value: v, status: "ok" as const });
    const row = (k: number, vb: number, ib: number, vo: number, io: number) => ({
      id: `f${k}`,
      sequence: k,
      settings: {},
      cells: { batteryVoltage: cell(vb), batteryCurrent: cell(ib), outputVoltage: cell(vo), outputCurrent: cell(io) },
    });
    const setup = { conditions: { nominalOutput: 5 }, instruments: BENCH_ACCURACY } as unknown as RunSetup<ReversePlan>;
    const table = (rows: ReturnType<typeof row>[]) =>
      reversePolarity.analyse({ kind: "points", points: rows }, setup, NO_CORRECTIONS);
    const dead = table([row(0, 3.6, 0, 0.1, 0), row(1, -0.7, -0.09, 0, 0), row(2, 3.6, 0, 0.1, 0)]);
    expect(dead.notes.some((n) => n.code === "dead-before")).toBe(true);
    const lives = table([
      row(0, 3.6, 0.001, 5.08, 0),
      row(1, 3.6, 0.31, 5.06, 0.2),
      row(2, -0.7, -0.0879, 0, 0),
      row(3, 3.6, 0.001, 5.081, 0),
      row(4, 3.6, 0.3102, 5.061, 0.2),
    ]);
    expect(find(lives.findings, "reverse.current")?.value).toBeCloseTo(0.0879, 9);
    expect(find(lives.findings, "reverse.survived")?.value).toBe("yes");
  });

  test("a resistor that burns is refused, hot ones are warned of", () => {
    const plan = (change: Partial<ReversePlan>) =>
      reversePolarity.remarks?.({
        ...reversal({}, SIMULATED_BOARDS["steady-synchronous"].model, 1).setup,
        plan: {
          battery: 3.6,
          load: 0.3,
          ohms: 33,
          watts: 1,
          reverseLimit: 0.2,
          repeats: 1,
          dwell: 5,
          partLimit: 85,
          ...change,
        },
      }) ?? [];
    expect(plan({ watts: 0.25 })[0]).toMatchObject({
      severity: "refused",
      text: expect.stringMatching(/393.mW.*burns out/),
    });
    expect(plan({ watts: 0.5 })[0]?.severity).toBe("care");
    expect(plan({}).every((r) => r.severity === "fine")).toBe(true);
  });
});

function checklist(model: ButtonModel, change: Partial<BehaviourPlan> = {}) {
  const r = behaviour.plan(CONTEXT);
  if (!r.ok) throw new Error(r.error);
  const setup: RunSetup<BehaviourPlan> = { ...r.value, plan: { ...(r.value.plan as BehaviourPlan), ...change } };
  const answers = rehearseChecklist(model, behaviour.items?.(setup) ?? [], (k) =>
    new Date(Date.UTC(2026, 10, 26, 8, 0, k)).toISOString(),
  );
  return { setup, answers, ...behaviour.analyse({ kind: "answers", answers }, setup, NO_CORRECTIONS) };
}

describe("behaviour", () => {
  test(`of ${BOARDS} random boards: every step of the gauge lies in its bracket, and what each press and plug does is found (seed ${SEED + 1})`, () => {
    const r = seeded(SEED + 1);
    for (let k = 0; k < BOARDS; k++) {
      const model = randomButtons(r);
      const { findings } = checklist(model);
      const word = (action: string) =>
        findings.find((f) => f.characteristic === "behaviour.response" && f.conditions.action === action)?.value;
      const at = `board ${k}`;
      expect([at, word("gauge falling")]).toEqual([at, model.gauge.follows ? "follows" : "stays"]);
      const steps = findings.filter(
        (f) => f.characteristic === "behaviour.gauge-step" && String(f.conditions.action).startsWith("falling"),
      );
      if (model.gauge.follows) {
        const seen = model.gauge.steps.filter((s) => s > 3.1 && s < 4.2);
        // Two thresholds between the same two looks are one step.
        expect(steps.length).toBeLessThanOrEqual(seen.length);
        for (const f of steps)
          expect([at, seen.some((s) => Math.abs(s - numeric(f.value)) <= 0.056)]).toEqual([at, true]);
        for (const s of seen)
          expect([at, steps.some((f) => Math.abs(s - numeric(f.value)) <= 0.056)]).toEqual([at, true]);
      } else expect(steps).toHaveLength(0);
      expect([at, word("charges from a C-to-C cable")]).toEqual([at, model.pullDowns ? "yes" : "no"]);
      expect([at, word("short press")]).toEqual([
        at,
        model.on === "short" ? "output on" : model.torch === "short" ? "torch on" : "nothing",
      ]);
      expect([at, word("long press")]).toEqual([
        at,
        model.on === "long" ? "output on" : model.torch === "long" ? "torch on" : "nothing",
      ]);
      const light = (state: "charging" | "full" | "fault") =>
        model.lightPolarity === "reversed" ? "none" : model.lights[state];
      expect([at, word("lights with no cell")]).toEqual([at, light(model.emptyTerminals)]);
      expect([at, word("lights with a dead cell")]).toEqual([
        at,
        light(model.deadBelow !== null && model.deadBelow > 1.5 ? "fault" : "charging"),
      ]);
      expect([at, word("wakes after the cut-off")]).toEqual([at, model.wakes]);
      expect([at, word("low-battery sign")]).toEqual([
        at,
        model.low.sign === "none" ? "switches off without a sign" : model.low.sign,
      ]);
    }
  });

  test("what was said stands beside what was seen, and what several answers say together is said", () => {
    const said = {
      "long press": "output on",
      "lights when full": "green or blue",
      "charges from a C-to-C cable": "yes",
    };
    const sound = checklist(SIMULATED_BUTTONS["steady-synchronous"].model, { said });
    expect(sound.notes).toEqual([]);
    const poor = checklist(SIMULATED_BUTTONS["weak-switch"].model, { said });
    expect(poor.notes.map((n) => n.code)).toEqual(
      expect.arrayContaining(["unlike-said", "no-pull-downs", "gauge-stays", "no-cell-looks-full"]),
    );
    expect(poor.notes.find((n) => n.code === "unlike-said")?.message).toMatch(/C-to-C cable: “no”, claimed “yes”/);
    expect(checklist(SIMULATED_BUTTONS["hiccup-limit"].model).notes.map((n) => n.code)).toEqual(
      expect.arrayContaining(["bypassed", "no-cell-looks-charging", "removal-unseen"]),
    );
  });

  test("an answer given anew stands for the earlier one; a gauge that jumps is said to", () => {
    const at = (k: number) => `2026-11-26T08:00:0${k}Z`;
    const { setup } = checklist(SIMULATED_BUTTONS["steady-synchronous"].model);
    const gauge = [4.2, 4, 3.8].map((volts, k) => ({
      id: `g${k}`,
      item: "gauge falling",
      word: ["4", "2", "3"][k] as string,
      volts,
      at: at(k),
    }));
    const a = behaviour.analyse(
      {
        kind: "answers",
        answers: [
          { id: "a", item: "short press", word: "nothing", at: at(1) },
          { id: "b", item: "short press", word: "output on", at: at(2) },
          ...gauge,
        ],
      },
      setup,
      NO_CORRECTIONS,
    );
    expect(a.findings.filter((f) => f.conditions.action === "short press").map((f) => [f.value, f.points])).toEqual([
      ["output on", ["b"]],
    ]);
    expect(a.findings.find((f) => f.conditions.action === "gauge falling")?.value).toBe("jumps");
  });

  test("only what a board can do is asked, and the claims' table comes along", () => {
    const planned = behaviour.plan({
      ...CONTEXT,
      functions: ["charger"],
      claims: [
        {
          id: "c",
          readings: [
            {
              characteristic: "behaviour.response",
              limit: { kind: "one-of", words: ["red"] },
              conditions: { action: { word: "Lights while charging" } },
            },
          ],
          source: { kind: "print on the board", wording: "CHRG", date: "2026-11-20" },
        },
      ],
    });
    if (!planned.ok) throw new Error(planned.error);
    const items = behaviour.items?.(planned.value) ?? [];
    expect(items.some((i) => i.group === "Button")).toBe(false);
    expect(items.find((i) => i.id === "lights while charging")?.said).toBe("red");
    expect(
      behaviour.remarks?.({ ...planned.value, plan: { ...(planned.value.plan as BehaviourPlan), groups: [] } })[0]
        ?.severity,
    ).toBe("refused");
  });
});
