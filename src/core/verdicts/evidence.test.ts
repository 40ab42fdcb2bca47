import { meterSource } from "../instruments";
import type { Claim, ClaimReading } from "../claims";
import { HOUSE_RULES, type Finding, type HouseRules } from "../measurement";
import { seeded, type Random } from "../simulator";
import {
  findingInterval,
  judgeClaim,
  judgeFinding,
  judgeReading,
  whatSettles,
  type EvidenceRun,
  type EvidenceSample,
  type VerdictWord,
} from ".";
import { numeric } from "../quantities";

/** Laws that judging keeps whatever it is given; each failure prints the seed and the turn. */
const TURNS = 300;

function randomFinding(r: Random, battery: number): Finding {
  const value = 0.8 + 0.4 * r.uniform();
  const own = 0.03 * r.uniform();
  const gain = 0.03 * r.uniform();
  const kind = r.uniform();
  const low = value - 0.05 * r.uniform();
  return {
    characteristic: "boost.max-current",
    conditions: { battery },
    value,
    unit: "A",
    expandedUncertainty: 2 * Math.hypot(own, gain),
    ...(kind < 0.15
      ? { bound: "at-least" as const }
      : kind < 0.3
        ? { bracket: { low, high: low + 0.1 * r.uniform() } }
        : {}),
    budget: [
      { source: meterSource("outputCurrent", "gain"), u: gain, share: gain ** 2 / (own ** 2 + gain ** 2) },
      { source: meterSource("outputCurrent", "own", "p"), u: own, share: own ** 2 / (own ** 2 + gain ** 2) },
    ],
    points: [],
    unfair:
      r.uniform() < 0.15
        ? [{ code: "supply", message: "The supply gave up.", remedy: "Raise its limit.", pushes: "low" as const }]
        : [],
  };
}

function randomRun(r: Random, id: string): EvidenceRun {
  return {
    id,
    title: id,
    startUtc: `2026-11-${String(1 + Math.floor(28 * r.uniform())).padStart(2, "0")}T0${Math.floor(9 * r.uniform())}:00:00Z`,
    finished: r.uniform() < 0.9,
    setAside: r.uniform() < 0.1 ? "wrong leads" : null,
    modifiedFunctions: r.uniform() < 0.1 ? ["boost"] : [],
    findings: [4.1, 3.6, 3.1].map((b) => randomFinding(r, b)),
  };
}

const claim = (low: number): Claim => ({
  id: "c",
  source: { kind: "listing", wording: "1 A", date: "2026-11-01" },
  readings: [{ characteristic: "boost.max-current", limit: { kind: "at-least", low }, conditions: {} }],
});
const word = (low: number, samples: readonly EvidenceSample[], rules: HouseRules = HOUSE_RULES): VerdictWord =>
  judgeClaim(claim(low), samples, rules).word;
const counts = (run: EvidenceRun) => run.finished && run.setAside === null && !run.modifiedFunctions.includes("boost");

function each(seed: number, law: (r: Random, say: (facts: object) => object) => void): void {
  const r = seeded(seed);
  for (let k = 0; k < TURNS; k++) law(r, (facts) => ({ seed, k, ...facts }));
}
/** The same without anything that the set-up could have caused: fairness decides which of two runs counts. */
const fair = (samples: readonly EvidenceSample[]): EvidenceSample[] =>
  samples.map((s) => ({
    ...s,
    runs: s.runs.map((x) => ({ ...x, findings: x.findings.map((f) => ({ ...f, unfair: [] })) })),
  }));
const samplesOf = (r: Random): EvidenceSample[] =>
  Array.from({ length: 1 + Math.floor(3 * r.uniform()) }, (_, s) => ({
    id: `s${s}`,
    name: `s${s}`,
    runs: Array.from({ length: 1 + Math.floor(3 * r.uniform()) }, (_x, k) => randomRun(r, `s${s}r${k}`)),
  }));

test("the order of samples and runs changes no word", () => {
  each(101, (r, say) => {
    const samples = samplesOf(r);
    const turned = [...samples].reverse().map((s) => ({ ...s, runs: [...s.runs].reverse() }));
    // Two runs of one moment can't be told apart by age; leave those be.
    if (samples.some((s) => new Set(s.runs.map((x) => x.startUtc)).size < s.runs.length)) return;
    expect(say({ word: word(1, turned) })).toEqual(say({ word: word(1, samples) }));
  });
});

test("runs that don't count are as good as absent", () => {
  each(102, (r, say) => {
    const samples = samplesOf(r);
    const bare = samples.map((s) => ({ ...s, runs: s.runs.filter(counts) }));
    expect(say({ word: word(1, bare) })).toEqual(say({ word: word(1, samples) }));
  });
});

test("a board that meets a claim meets every lower one, and one that misses misses every higher one", () => {
  each(103, (r, say) => {
    const samples = fair(samplesOf(r));
    const low = 0.7 + 0.6 * r.uniform();
    const at = word(low, samples);
    if (at === "meets") expect(say({ word: word(low - 0.1 * r.uniform(), samples) })).toEqual(say({ word: "meets" }));
    if (at === "misses") expect(say({ word: word(low + 0.1 * r.uniform(), samples) })).toEqual(say({ word: "misses" }));
  });
});

test("one more sample never turns a miss into anything better", () => {
  each(104, (r, say) => {
    const samples = samplesOf(r);
    if (word(1, samples) !== "misses") return;
    expect(say({ word: word(1, [...samples, ...samplesOf(r).map((s) => ({ ...s, id: `more ${s.id}` }))]) })).toEqual(
      say({ word: "misses" }),
    );
  });
});

test("a wider coverage factor calls no more than a narrower one, and never the other way round", () => {
  each(105, (r, say) => {
    const samples = fair(samplesOf(r));
    const [narrow, wide] = [
      word(1, samples, { ...HOUSE_RULES, coverage: 1.5 }),
      word(1, samples, { ...HOUSE_RULES, coverage: 3 }),
    ];
    if (wide === "meets" || wide === "misses") expect(say({ narrow })).toEqual(say({ narrow: wide }));
  });
});

test("a single finding: what is met lies inside the limit with its whole interval, what is missed outside", () => {
  each(106, (r, say) => {
    const f = { ...randomFinding(r, 3.6), unfair: [] };
    const v = judgeFinding(f, { kind: "at-least", low: 1 }, "A", HOUSE_RULES);
    const i = findingInterval(f, HOUSE_RULES.coverage) as { low: number; high: number };
    if (v.word === "meets") expect(say({ inside: i.low >= 1 })).toEqual(say({ inside: true }));
    if (v.word === "misses") expect(say({ outside: i.high < 1 })).toEqual(say({ outside: true }));
    if (v.word === "too close to call")
      expect(say({ across: i.low < 1 && i.high >= 1 })).toEqual(say({ across: true }));
  });
});

test("whatever is said to settle a close call does, by the interval that is given, and nothing else is listed", async () => {
  const r = seeded(107);
  for (let k = 0; k < TURNS; k++) {
    const f = { ...randomFinding(r, 3.6), unfair: [] };
    const limit = { kind: "at-least", low: 1 } as const;
    const list = await whatSettles(
      f,
      limit,
      "A",
      HOUSE_RULES,
      {
        setup: { conditions: {}, instruments: { outputCurrent: { gain: 0.01, counts: 5, resolution: 0.001 } } },
        ranges: [],
        largest: {},
      },
      () => Promise.resolve([]),
    );
    for (const s of list) {
      const right = s.word === "meets" ? s.interval.low >= 1 : s.interval.high < 1;
      expect({ k, kind: s.change.kind, right }).toEqual({ k, kind: s.change.kind, right: true });
    }
    const repeats = list.find((s) => s.change.kind === "repeats");
    // Repeats can't bring it below what all readings share.
    if (repeats && !f.bracket && !f.bound)
      expect({ k, enough: Math.abs(numeric(f.value) - 1) >= 2 * (f.budget[0]?.u ?? 0) - 1e-9 }).toEqual({
        k,
        enough: true,
      });
  }
});

describe("what judges beside what", () => {
  const voltage = (value: number, u = 0.01): Finding => ({
    characteristic: "boost.no-load-voltage",
    conditions: { battery: 3.6 },
    value,
    unit: "V",
    expandedUncertainty: u,
    budget: [],
    points: [],
    unfair: [],
  });
  const run = (id: string, value: number, more: Partial<EvidenceRun> = {}): EvidenceRun => ({
    id,
    title: id,
    startUtc: `2026-11-0${id.length}T10:00:00Z`,
    finished: true,
    setAside: null,
    modifiedFunctions: [],
    findings: [voltage(value)],
    ...more,
  });
  const claimed: ClaimReading = {
    characteristic: "boost.no-load-voltage",
    limit: { kind: "from-to", low: 4.9, high: 5.1 },
    conditions: { battery: { at: 3.6 } },
  };
  const judged = (...runs: EvidenceRun[]) => judgeReading(claimed, [{ id: "A", name: "A", runs }], HOUSE_RULES);

  test("a simulated run judges nothing that a run with real readings states, on whichever sample", () => {
    const real = run("a", 5.3);
    const played = run("bb", 5, { simulated: true });
    expect(judged(real, played)).toMatchObject({ word: "misses", simulated: false });
    expect(
      judgeReading(
        claimed,
        [
          { id: "A", name: "A", runs: [played] },
          { id: "B", name: "B", runs: [real] },
        ],
        HOUSE_RULES,
      ),
    ).toMatchObject({ word: "misses", samples: 1, simulated: false });
    expect(judged(played)).toMatchObject({ word: "meets", simulated: true });
    // One that was set aside states nothing any more.
    expect(judged({ ...real, setAside: "misread" }, played)).toMatchObject({ word: "meets", simulated: true });
  });

  test("the newest run decides, a run that contradicts it is named, and no probability stands beside it", () => {
    const v = judged(run("a", 5.2), run("bb", 5));
    expect(v.word).toBe("meets");
    expect(v.contradictions).toEqual([expect.objectContaining({ runId: "bb", otherId: "a" })]);
    expect(v.judged[0]?.probability).toBeNull();
    expect(judged(run("a", 5.005), run("bb", 5)).contradictions).toEqual([]);
  });

  test("the run that was chosen decides instead, and the contradiction is settled by it", () => {
    const v = judged(run("a", 5.2, { decides: ["boost.no-load-voltage"] }), run("bb", 5));
    expect(v).toMatchObject({ word: "misses", contradictions: [] });
    expect(v.why.join(" ")).toContain("“a” was chosen to decide.");
    expect(judged(run("a", 5.2, { decides: ["boost.max-current"] }), run("bb", 5)).word).toBe("meets");
  });
});
