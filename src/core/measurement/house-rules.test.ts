import { completeRules, GUARDS, HOUSE_RULES, RULE_CHOICES, RULE_TEXTS, SCHOOLS, type HouseRules } from "./house-rules";

test("every rule has its field or its choice, with a reason, and begins within its own bounds", () => {
  const named = [...RULE_TEXTS.map((t) => t.key), ...RULE_CHOICES.map((c) => c.key)].sort();
  expect(named).toEqual((Object.keys(HOUSE_RULES) as (keyof HouseRules)[]).sort());
  for (const t of RULE_TEXTS) {
    expect([t.key, t.reason.length > 20]).toEqual([t.key, true]);
    expect([t.key, HOUSE_RULES[t.key] >= t.low && HOUSE_RULES[t.key] <= t.high]).toEqual([t.key, true]);
  }
});

test("every choice offers what the house begins with, each with what it gives and costs", () => {
  for (const c of RULE_CHOICES) {
    expect(c.of.map((o) => o.value)).toContain(HOUSE_RULES[c.key]);
    for (const o of c.of) expect(o.why.length).toBeGreaterThan(20);
  }
  expect(RULE_CHOICES.find((c) => c.key === "guard")?.of.map((o) => o.value)).toEqual([...GUARDS]);
});

test("rules that were stored before some came to be have those as the house begins; what was stored stays", () => {
  const { guard: _guard, touchLimit: _touch, digits: _digits, ...early } = { ...HOUSE_RULES, coverage: 3 };
  void [_guard, _touch, _digits];
  expect(completeRules(early)).toEqual({ ...HOUSE_RULES, coverage: 3 });
  expect(completeRules(undefined)).toEqual(HOUSE_RULES);
});

test("the floor under which no cell is charged can be raised, never lowered under 2.0 V", () => {
  expect(RULE_TEXTS.find((t) => t.key === "rejectFloor")).toMatchObject({ low: 2 });
  expect(HOUSE_RULES.rejectFloor).toBeGreaterThanOrEqual(2);
});

test("no school charges a cell beyond its limits, and each says what it costs", () => {
  for (const s of SCHOOLS) {
    const text = RULE_TEXTS.find((t) => t.key === s.key);
    expect([s.label, s.value >= (text?.low ?? Infinity) && s.value <= (text?.high ?? -Infinity)]).toEqual([
      s.label,
      true,
    ]);
    expect(s.why.length).toBeGreaterThan(10);
  }
});
