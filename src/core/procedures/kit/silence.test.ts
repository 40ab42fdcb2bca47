import { analyseReadings, PROCEDURES, type Procedure } from "..";
import { NO_CORRECTIONS, type Readings, type RunSetup } from "../../measurement";

const SETUP: RunSetup = { conditions: {}, instruments: {} };
const empty = (p: Procedure): Readings =>
  p.readings === "trace"
    ? { kind: "trace", trace: { columns: { time: new Float64Array() }, events: [] } }
    : p.readings === "points"
      ? { kind: "points", points: [] }
      : { kind: "answers", answers: [] };
/** A log of every column that the procedure reads, flat at nought. */
const flat = (p: Procedure): Readings => {
  if (p.readings !== "trace") return empty(p);
  const columns = Object.fromEntries(p.record.roles.map(({ role }) => [role, new Float64Array(200)]));
  return {
    kind: "trace",
    trace: { columns: { ...columns, time: Float64Array.from({ length: 200 }, (_, k) => k) }, events: [] },
  };
};

describe.each(PROCEDURES.map((p) => [p.id, p] as const))("%s", (_, p) => {
  test("has a reason at hand for every quantity that it measures", () => {
    expect(Object.keys(p.silences).sort()).toEqual([...p.measures].sort());
    for (const s of Object.values(p.silences)) expect(s.otherwise[1]).toMatch(/^[A-Z].*\.$/);
  });

  test.each([
    ["nothing", empty],
    ["a flat line", flat],
  ] as const)(
    "of %s gives every quantity or the reason why not, and never nothing without a word",
    (_what, readings) => {
      const a = analyseReadings(p, readings(p), SETUP, NO_CORRECTIONS);
      const found = new Set(a.findings.filter((f) => f.value !== "not stated").map((f) => f.characteristic));
      for (const name of p.measures)
        expect([
          name,
          found.has(name) || a.notStated.some((n) => n.characteristic === name && n.reason.length > 10),
        ]).toEqual([name, true]);
      for (const f of a.findings)
        expect([f.characteristic, p.measures.includes(f.characteristic)]).toEqual([f.characteristic, true]);
      if (a.findings.length === 0) expect(a.notes.length).toBeGreaterThan(0);
    },
  );
});

describe("what is missing is named so that it can be supplied", () => {
  const heat = PROCEDURES.find((p) => p.id === "heat-soak") as Procedure;
  const time = Float64Array.from({ length: 300 }, (_, k) => 10 * k);
  const warm = time.map((t) => 22 + 30 * (1 - Math.exp(-t / 600)));
  const soak = (
    columns: Record<string, Float64Array>,
    conditions: RunSetup["conditions"] = { ambientTemperature: 22, dissipation: 0.8 },
  ) =>
    analyseReadings(
      heat,
      { kind: "trace", trace: { columns: { time, ...columns }, events: [] } },
      { ...SETUP, conditions },
      NO_CORRECTIONS,
    );

  test("a column", () => {
    expect(soak({}).notStated.find((n) => n.characteristic === "heat.steady-temperature")).toMatchObject({
      code: "needs",
      reason: "The readings have no part temperature.",
      needs: { roles: ["partTemperature"] },
    });
  });
  test("a condition, and with it the quantity is there", () => {
    const without = soak({ partTemperature: warm });
    expect(without.notStated.find((n) => n.characteristic === "heat.max-ambient")).toMatchObject({
      code: "needs",
      reason: "The highest temperature that the part may reach is not stated.",
      needs: { condition: "partLimitTemperature" },
    });
    const stated = soak(
      { partTemperature: warm },
      { ambientTemperature: 22, dissipation: 0.8, partLimitTemperature: 85 },
    );
    expect(stated.notStated.map((n) => n.characteristic)).not.toContain("heat.max-ambient");
  });
});
