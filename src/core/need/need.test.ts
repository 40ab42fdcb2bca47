import type { Claim, ClaimReading, Limit } from "../claims";
import { HOUSE_RULES, type Finding, type HouseRules } from "../measurement";
import { seeded } from "../simulator";
import type { EvidenceSample } from "../verdicts";
import {
  currentForLife,
  judgeNeed,
  judgeRequirement,
  rank as rankOutcomes,
  requirementText,
  voltsBehind,
  ways,
  type Candidate,
  type Need,
  type Requirement,
} from ".";
import { numeric } from "../quantities";

const rank = (n: Need, boards: readonly Candidate[], rules: HouseRules) =>
  rankOutcomes(
    n,
    boards.map((b) => ({ ...b, outcomes: judgeNeed(n, b, rules) })),
  );
const reading = (characteristic: string, limit: Limit, conditions: ClaimReading["conditions"] = {}): ClaimReading => ({
  characteristic,
  limit,
  conditions,
});
const find = (
  characteristic: string,
  value: number | string,
  u = 0.01,
  conditions: Finding["conditions"] = {},
): Finding => ({
  characteristic,
  conditions,
  value,
  unit: "A",
  ...(typeof value === "number" ? { expandedUncertainty: u } : {}),
  budget: [],
  points: [],
  unfair: [],
});
const measured = (...findings: Finding[]): EvidenceSample[] => [
  {
    id: "A",
    name: "A",
    runs: [
      {
        id: "run",
        title: "run",
        startUtc: "2026-11-01T00:00:00Z",
        finished: true,
        setAside: null,
        modifiedFunctions: [],
        findings,
      },
    ],
  },
];
const claim = (id: string, r: ClaimReading): Claim => ({
  id,
  readings: [r],
  source: { kind: "listing", wording: `says ${id}`, date: "2026-11-01" },
});
const board = (change: Partial<Candidate> = {}): Candidate => ({
  boardId: "b",
  title: "Board",
  functions: ["boost", "protection", "charger"],
  facts: {},
  claims: [],
  evidence: [],
  ...change,
});
const amps: Requirement = {
  id: "amps",
  level: "must",
  kind: "quantity",
  reading: reading("boost.max-current", { kind: "at-least", low: 0.25 }, { battery: { at: 3.1 } }),
};
const short: Requirement = {
  id: "short",
  level: "should",
  kind: "quantity",
  reading: reading("protect.short-present", { kind: "yes-no", value: true }),
};
const price: Requirement = { id: "price", level: "should", kind: "fact", fact: "price", atMost: 2 };
const life: Requirement = {
  id: "life",
  level: "should",
  kind: "life",
  seconds: 90 * 86400,
  capacity: 2,
  selfDischarge: 2e-5,
  state: "no-load",
};
const need: Need = { title: "n", note: "", currency: "€", requirements: [amps, short, price] };
const judge = (r: Requirement, b: Partial<Candidate>, taken = 0) =>
  judgeRequirement(r, board(b), need, HOUSE_RULES, taken);

describe("one requirement against one board", () => {
  test("a measured value decides, whatever is claimed", () => {
    const says = [claim("c", reading("boost.max-current", { kind: "at-least", low: 2 }))];
    expect(
      judge(amps, { evidence: measured(find("boost.max-current", 0.2, 0.01, { battery: 3.1 })), claims: says }),
    ).toMatchObject({ word: "missed", basis: "measured", runId: "run" });
    expect(judge(amps, { evidence: measured(find("boost.max-current", 0.3, 0.01, { battery: 3.1 })) })).toMatchObject({
      word: "met",
      basis: "measured",
    });
    expect(judge(amps, { evidence: measured(find("boost.max-current", 0.252, 0.01, { battery: 3.1 })) })).toMatchObject(
      { word: "in doubt", basis: "measured" },
    );
  });
  test.each<[string, ClaimReading, string]>([
    ["promises more", reading("boost.max-current", { kind: "at-least", low: 1 }), "met"],
    ["a nominal above", reading("boost.max-current", { kind: "nominal", nominal: 1, tolerance: null }), "met"],
    ["a nominal below", reading("boost.max-current", { kind: "nominal", nominal: 0.2, tolerance: null }), "missed"],
    ["at most less", reading("boost.max-current", { kind: "at-most", high: 0.2 }), "missed"],
    ["leaves it open", reading("boost.max-current", { kind: "at-least", low: 0.1 }), "in doubt"],
    [
      "at the same battery",
      reading("boost.max-current", { kind: "at-least", low: 1 }, { battery: { from: 3, to: 4.2 } }),
      "met",
    ],
    [
      "at another battery speaks of something else",
      reading("boost.max-current", { kind: "at-least", low: 1 }, { battery: { at: 3.7 } }),
      "open",
    ],
  ])("not measured, claimed: %s", (_n, r, word) => {
    const o = judge(amps, { claims: [claim("c", r)] });
    expect(o.word).toBe(word);
    expect(o.basis).toBe(word === "open" ? "nothing" : "claimed");
    expect(o.why).toContain("Not measured");
  });
  test("of several claims the worst stands in, and is named", () => {
    const o = judge(amps, {
      claims: [
        claim("good", reading("boost.max-current", { kind: "at-least", low: 1 })),
        claim("bad", reading("boost.max-current", { kind: "at-most", high: 0.1 })),
      ],
    });
    expect(o).toMatchObject({ word: "missed", claimId: "bad" });
    expect(o.why).toContain("says bad");
  });
  test("a board without the function misses what that function does", () => {
    expect(judge(short, { functions: ["boost"] })).toMatchObject({ word: "missed", basis: "entered" });
    expect(judge(short, {})).toMatchObject({ word: "open", basis: "nothing" });
  });
  test("price and size are what was entered, or open", () => {
    expect(judge(price, { facts: { price: 2 } })).toMatchObject({ word: "met", basis: "entered", why: "Price €2.00." });
    expect(judge(price, { facts: { price: 2.01 } }).word).toBe("missed");
    expect(judge(price, {})).toMatchObject({ word: "open" });
  });
  test("standby life, worked: 2 Ah for 90 days with 20 µA of its own leaves 0.906 mA", () => {
    expect(currentForLife(life)).toBeCloseTo(9.0593e-4, 7);
    const at = (a: number, taken = 0) =>
      judge(life, { evidence: measured(find("standby.current", a, 1e-6, { state: "no-load" })) }, taken).word;
    expect([at(9e-4), at(9.2e-4), at(9e-4, 1e-5)]).toEqual(["met", "missed", "missed"]);
    expect(judge({ ...life, selfDischarge: 1e-3 }, {})).toMatchObject({
      word: "missed",
      why: expect.stringContaining("self-discharge"),
    });
    expect(requirementText(life, "€")).toMatch(/lasts 90 d, no-load: standby at most 905\.9.µA/);
  });
});

describe("the order", () => {
  const good = board({
    boardId: "good",
    title: "Good",
    facts: { price: 1 },
    evidence: measured(find("boost.max-current", 0.5, 0.01, { battery: 3.1 }), find("protect.short-present", "yes")),
  });
  const claimed = board({
    boardId: "promised",
    title: "Promised",
    facts: { price: 1 },
    claims: [claim("c", reading("boost.max-current", { kind: "at-least", low: 2 }))],
    evidence: measured(find("protect.short-present", "yes")),
  });
  const unknown = board({ boardId: "unknown", title: "Unknown", facts: { price: 0.5 } });
  const bad = board({
    boardId: "bad",
    title: "Bad",
    facts: { price: 0.1 },
    evidence: measured(find("boost.max-current", 0.1, 0.01, { battery: 3.1 }), find("protect.short-present", "yes")),
  });

  test("missed stands behind unsure, unsure behind claimed, claimed behind measured; each says why", () => {
    const order = rank(need, [bad, unknown, claimed, good], HOUSE_RULES);
    expect(order.map((r) => [r.place, r.title])).toEqual([
      [1, "Good"],
      [2, "Promised"],
      [3, "Unknown"],
      [4, "Bad"],
    ]);
    expect(order[1]?.reasons.join(" ")).toContain("Behind Good: it rests on claims or simulated runs for 1 more must.");
    expect(order[2]?.reasons.join(" ")).toContain("leaves 1 more must unsure");
    expect(order[3]?.reasons.join(" ")).toContain("misses 1 more must");
    expect(order[0]?.reasons).toEqual(["The one must is met.", "All 2 wishes are met."]);
  });
  test("then the price; boards that nothing tells apart share a place", () => {
    const cheap = { ...good, boardId: "cheap", title: "Cheap", facts: { price: 0.9 } };
    const twin = { ...good, boardId: "twin", title: "Twin" };
    const order = rank(need, [good, cheap, twin], HOUSE_RULES);
    expect(order.map((r) => [r.place, r.title])).toEqual([
      [1, "Cheap"],
      [2, "Good"],
      [2, "Twin"],
    ]);
    expect(order[2]?.reasons.at(-1)).toBe("Nothing tells it apart from Good.");
  });
  test("the order does not depend on the order it is asked in, and a miss never stands before a board without one", () => {
    const seed = 20261126;
    const random = seeded(seed);
    for (let k = 0; k < 200; k++) {
      const boards = Array.from({ length: 6 }, (_, i) => {
        const a = random.uniform();
        return board({
          boardId: `b${i}`,
          title: `B${i}`,
          facts: random.uniform() < 0.7 ? { price: Math.round(random.uniform() * 400) / 100 } : {},
          evidence: a < 0.3 ? [] : measured(find("boost.max-current", random.uniform() * 0.5, 0.01, { battery: 3.1 })),
          claims:
            random.uniform() < 0.5
              ? [claim("c", reading("boost.max-current", { kind: "at-least", low: random.uniform() }))]
              : [],
        });
      });
      const one = rank(need, boards, HOUSE_RULES);
      const other = rank(need, [...boards].reverse(), HOUSE_RULES);
      expect({ seed, k, order: other.map((r) => [r.boardId, r.place]) }).toEqual({
        seed,
        k,
        order: one.map((r) => [r.boardId, r.place]),
      });
      const misses = one.map((r) => r.must.missed);
      expect({ seed, k, misses }).toEqual({ seed, k, misses: [...misses].sort((a, b) => a - b) });
    }
  });
});

describe("buy, modify or build", () => {
  const full: Need = {
    ...need,
    requirements: [
      amps,
      short,
      price,
      life,
      { id: "height", level: "should", kind: "fact", fact: "height", atMost: 0.008 },
      {
        id: "charge",
        level: "must",
        kind: "quantity",
        reading: reading("charge.cc-current", { kind: "from-to", low: 0.4, high: 0.6 }),
      },
    ],
    addedBoard: { price: 0.5, current: 1e-5, height: 0.003, supplies: ["protect.short-present"] },
    build: { parts: 3, hours: 2, hourly: 5 },
  };
  const b = board({
    facts: { price: 1.8, height: 0.006 },
    evidence: measured(
      find("boost.max-current", 0.5, 0.01, { battery: 3.1 }),
      find("protect.short-present", "no"),
      find("standby.current", 9e-4, 1e-6, { state: "no-load" }),
      find("charge.cc-current", 1, 0.005),
    ),
  });
  const of = (kind: string) => {
    const r = rank(full, [b], HOUSE_RULES)[0];
    const w = r && ways(full, b, r, HOUSE_RULES).find((x) => x.kind === kind);
    return w ? { w, word: (id: string) => w.outcomes.find((o) => o.requirementId === id) } : null;
  };
  test("an added board supplies what is missing, and its current, price and height count", () => {
    const m = of("modify");
    expect(m?.word("short")).toMatchObject({ word: "met", basis: "changed" });
    expect([m?.word("price")?.word, m?.word("height")?.word, m?.word("life")?.word]).toEqual([
      "missed",
      "missed",
      "missed",
    ]);
    expect([of("buy")?.word("price")?.word, of("buy")?.word("height")?.word, of("buy")?.word("life")?.word]).toEqual([
      "met",
      "met",
      "met",
    ]);
    expect(m?.w.price).toBeCloseTo(2.3, 9);
  });
  test("a charge current that is too high is brought down by another resistor; one that is too low is not", () => {
    expect(of("modify")?.word("charge")).toMatchObject({ word: "met", basis: "changed" });
    expect(of("modify")?.w.takes.join(" ")).toMatch(/resistor 2\.00 times as large, for 500.mA instead of 1\.00.A/);
    const slow = board({ evidence: measured(find("charge.cc-current", 0.2, 0.005)) });
    const r = rank(
      { ...full, requirements: full.requirements.filter((q) => q.id === "charge") },
      [slow],
      HOUSE_RULES,
    )[0];
    expect(
      r &&
        ways({ ...full, requirements: full.requirements.filter((q) => q.id === "charge") }, slow, r, HOUSE_RULES).map(
          (w) => w.kind,
        ),
    ).toEqual(["buy", "build"]);
  });
  test("volts behind a resistance, worked; the power that arrives is the power that was asked for", () => {
    expect(voltsBehind(3.1, 0.05, 1.470588)).toBeCloseTo(3.076097, 6);
    expect(voltsBehind(3, 1, 2.25)).toBeCloseTo(1.5, 9);
    expect(voltsBehind(3, 1, 2.2501)).toBeNull();
    const seed = 20261127;
    const random = seeded(seed);
    for (let k = 0; k < 200; k++) {
      const [cell, r] = [2.5 + random.uniform() * 2, random.uniform() * 0.3];
      const power = (random.uniform() * cell * cell) / 4 / r;
      const v = numeric(voltsBehind(cell, r, power));
      expect({ seed, k, power: Number(((v * (cell - v)) / r).toPrecision(6)) }).toEqual({
        seed,
        k,
        power: Number(power.toPrecision(6)),
      });
    }
  });
  describe("behind an added board's resistance", () => {
    const added = { price: 0.5, current: 1e-5, height: 0.003, resistance: 0.05, supplies: ["protect.short-present"] };
    const ask: Need = { ...need, requirements: [amps, short], addedBoard: added };
    const swept = (held: number, ...more: Finding[]) =>
      measured(
        find("boost.max-current", held, 0.01, { battery: 3.1 }),
        find("protect.short-present", "no"),
        find("boost.lowest-efficiency", 0.85, 0.01, { battery: 3.1 }),
        find("boost.no-load-voltage", 5, 0.01, { battery: 3.1 }),
        ...more,
      );
    const modified = (evidence: EvidenceSample[], asked = ask) => {
      const candidate = board({ evidence });
      const r = rank(asked, [candidate], HOUSE_RULES)[0];
      return r && ways(asked, candidate, r, HOUSE_RULES).find((w) => w.kind === "modify");
    };
    const ampsOf = (evidence: EvidenceSample[], asked = ask) =>
      modified(evidence, asked)?.outcomes.find((o) => o.requirementId === "amps");
    test("what was barely held at the cell's volts is open for what the board then sees; what was held to spare is met", () => {
      expect(ampsOf(swept(0.264))).toMatchObject({
        word: "met",
        basis: "changed",
        why: expect.stringMatching(/sees 3\.07\d?.V of the cell's 3\.1\d*.V; at 3\.1\d*.V it held enough to spare/),
      });
      // (3.1/3.076)² asks for 0.2539 A, and 0.01 A of it is not sure.
      expect(ampsOf(swept(0.263))).toMatchObject({
        word: "open",
        why: expect.stringContaining("it was not measured that low"),
      });
      expect(modified(swept(0.263))?.must).toMatchObject({ met: 0, unsure: 1 });
      expect(modified(swept(0.263))?.takes[0]).toMatch(/50.mΩ in the battery's way \(50.mV less for each ampere\)/);
    });
    test("a battery far above says nothing of one far below", () => {
      expect(ampsOf(swept(2), { ...ask, addedBoard: { ...added, resistance: 0.4 } })).toMatchObject({ word: "open" });
    });
    test("held at a lower battery it is met; not held there it is open", () => {
      expect(ampsOf(swept(0.263, find("boost.max-current", 0.4, 0.01, { battery: 3 })))).toMatchObject({
        word: "met",
        basis: "changed",
        why: expect.stringMatching(/at 3\.?\d*.V it held enough\./),
      });
      expect(ampsOf(swept(0.263, find("boost.max-current", 0.1, 0.01, { battery: 3 })))).toMatchObject({
        word: "open",
        why: expect.stringContaining("did not hold enough"),
      });
    });
    test("without a resistance nothing changes; without an efficiency it is said what to measure; through too much it can't be", () => {
      expect(ampsOf(swept(0.5), { ...ask, addedBoard: { ...added, resistance: 0 } })).toMatchObject({
        word: "met",
        basis: "measured",
      });
      expect(
        ampsOf(measured(find("boost.max-current", 0.5, 0.01, { battery: 3.1 }), find("protect.short-present", "no"))),
      ).toMatchObject({ word: "open", why: expect.stringContaining("run a load sweep") });
      expect(ampsOf(swept(0.5), { ...ask, addedBoard: { ...added, resistance: 2 } })).toMatchObject({
        word: "missed",
        basis: "changed",
      });
    });
  });
  describe("an added board that is a board of the notebook", () => {
    const ask: Need = {
      ...need,
      requirements: [amps, short, life],
      addedBoard: { boardId: "p", price: 0.5, current: 1e-6, height: 0.003, resistance: 0, supplies: [] },
    };
    const bare = board({
      evidence: measured(
        find("boost.max-current", 0.5, 0.01, { battery: 3.1 }),
        find("protect.short-present", "no"),
        find("standby.current", 8.9e-4, 1e-6, { state: "no-load" }),
        find("boost.lowest-efficiency", 0.85, 0.01, { battery: 3.1 }),
        find("boost.no-load-voltage", 5, 0.01, { battery: 3.1 }),
      ),
    });
    const protection = (...findings: Finding[]) =>
      board({
        boardId: "p",
        title: "Rail 3",
        functions: ["protection"],
        facts: { price: 0.4 },
        evidence: measured(...findings),
      });
    const wayOf = (p: Candidate, kind = "modify", asked = ask) => {
      const r = rank(asked, [bare], HOUSE_RULES)[0];
      return r && ways(asked, bare, r, HOUSE_RULES, [bare, p]).find((w) => w.kind === kind);
    };
    const word = (p: Candidate, id: string) => wayOf(p)?.outcomes.find((o) => o.requirementId === id);
    const sound = [find("protect.short-present", "yes"), find("standby.current", 4e-6, 1e-7, { state: "no-load" })];
    test("what it was measured to do counts as measured, not as a tick; its standby and price as they are", () => {
      expect(word(protection(...sound), "short")).toMatchObject({
        word: "met",
        basis: "measured",
        why: expect.stringMatching(/^Rail 3: Measured “yes”/),
      });
      expect(wayOf(protection(...sound))?.takes[0]).toMatch(
        /^Rail 3 for short-circuit protection: €0\.40, 4\s?µA more/,
      );
      // 0.906 mA less 4 µA still holds 0.89 mA; less 20 µA does not.
      expect(word(protection(...sound), "life")?.word).toBe("met");
      expect(
        word(protection(sound[0] as Finding, find("standby.current", 2e-5, 1e-7, { state: "no-load" })), "life")?.word,
      ).toBe("missed");
    });
    test("one that was measured not to protect, or of which nothing is known, supplies nothing", () => {
      expect(wayOf(protection(find("protect.short-present", "no")))).toBeUndefined();
      // Open is better than missed: it would have to be tested.
      expect(word(protection(), "short")).toMatchObject({ word: "open" });
    });
    test("a trip below what the load takes from the battery, and a cut above the battery that is asked of, miss", () => {
      // 5 V · 0.25 A ÷ 0.85 is 1.47 W: 0.474 A at 3.1 V.
      expect(word(protection(...sound, find("protect.over-current", 0.48, 0.001)), "amps")?.word).toBe("met");
      expect(word(protection(...sound, find("protect.over-current", 0.48, 0.02)), "amps")).toMatchObject({
        word: "missed",
        why: expect.stringMatching(/takes 474\smA from the battery, and Rail 3 trips at 460\smA\./),
      });
      expect(word(protection(...sound, find("protect.over-discharge-voltage", 3.2, 0.01)), "amps")).toMatchObject({
        word: "missed",
        why: expect.stringMatching(/Rail 3 disconnects at 3\.21\sV, before the cell is down to 3\.10\sV/),
      });
      const claims = [claim("trip", reading("protect.over-current", { kind: "from-to", low: 0.4, high: 0.6 }))];
      expect(word({ ...protection(...sound), claims }, "amps")).toMatchObject({
        word: "missed",
        why: expect.stringContaining("as claimed"),
      });
    });
    test("its measured resistance is the one that counts; the slope of a converter's output is none", () => {
      const boosts = {
        ...protection(...sound, find("boost.output-resistance", 0.5, 0.001, { battery: 3.6 })),
        functions: ["protection" as const, "boost" as const],
      };
      expect(wayOf(boosts)?.takes[0]).not.toContain("in the battery's way");
      expect(
        word(protection(...sound, find("boost.output-resistance", 0.05, 0.001, { battery: 3.6 })), "amps"),
      ).toMatchObject({ word: "met", why: expect.stringMatching(/^Behind 50\smΩ/) });
    });
    test("it is not added to itself; an own build that is a board is judged like one", () => {
      const asked = { ...ask, build: { boardId: "own", parts: 3, hours: 2, hourly: 5 } };
      const itself = protection(find("protect.short-present", "no"));
      const r = rank(asked, [itself], HOUSE_RULES)[0];
      expect(r && ways(asked, itself, r, HOUSE_RULES, [itself]).map((w) => w.kind)).toEqual(["buy", "build"]);
      const own = board({
        boardId: "own",
        title: "Hide 1",
        evidence: measured(find("boost.max-current", 0.4, 0.01, { battery: 3.1 })),
      });
      const built = wayOf(own, "build", asked);
      expect(built?.title).toBe("Hide 1");
      expect(built?.outcomes.find((o) => o.requirementId === "amps")).toMatchObject({ word: "met", basis: "measured" });
      expect(built?.takes.at(-1)).toBe("It is built, and judged as it was measured.");
      const first = rank(asked, [own], HOUSE_RULES)[0];
      expect(first && ways(asked, own, first, HOUSE_RULES, [own]).map((w) => [w.kind, w.title])).toEqual([
        ["build", "Hide 1 as it is"],
      ]);
    });
  });
  test("one's own has met nothing but its price", () => {
    const w = of("build");
    expect(w?.w.price).toBe(13);
    expect(w?.word("price")).toMatchObject({ word: "missed", why: "€13.00 with the hours." });
    expect(w?.w.outcomes.filter((o) => o.word === "met")).toEqual([]);
    expect(w?.w.must).toMatchObject({ met: 0, unsure: 2, of: 2 });
  });
  test("nothing to add where nothing is missing", () => {
    const whole = { ...need, addedBoard: { price: 1, current: 0, height: 0, supplies: ["protect.short-present"] } };
    const fine = board({
      evidence: measured(find("boost.max-current", 0.5, 0.01, { battery: 3.1 }), find("protect.short-present", "yes")),
    });
    const r = rank(whole, [fine], HOUSE_RULES)[0];
    expect(r && ways(whole, fine, r, HOUSE_RULES).map((w) => w.kind)).toEqual(["buy"]);
  });
});

test("of a board whose functions nobody wrote down nothing is missed for lack of one", () => {
  expect(judge(short, { functions: [] })).toMatchObject({ word: "open", basis: "nothing" });
  expect(judge(amps, { functions: [] })).toMatchObject({ word: "open" });
  expect(judge(amps, { functions: ["charger"] })).toMatchObject({ word: "missed", why: "It has no boost." });
});

test("why something is open says whether it was measured, not fairly, or not far enough", () => {
  const unfair = {
    ...find("boost.max-current", 0.1, 0.01, { battery: 3.1 }),
    unfair: [{ code: "s", message: "The supply gave up.", remedy: "Raise it.", pushes: "low" as const }],
  };
  expect(judge(amps, {}).why).toMatch(/^Not measured, and highest load held is not claimed\.$/);
  expect(judge(amps, { evidence: measured(unfair) }).why).toMatch(/^Not fairly tested, and/);
  expect(
    judge(amps, {
      evidence: measured({ ...find("boost.max-current", 0.2, 0.01, { battery: 3.1 }), bound: "at-least" }),
    }).why,
  ).toMatch(/^Not measured far enough, and/);
  expect(
    judge(amps, {
      evidence: measured(unfair),
      claims: [claim("c", reading("boost.max-current", { kind: "at-least", low: 1 }))],
    }).why,
  ).toMatch(/^Not fairly tested: the listing \(“says c”\) claimed\.$/);
});
