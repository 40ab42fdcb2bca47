import fc from "fast-check";
import {
  bottleneckText,
  feedCurrent,
  feedRanges,
  feedRefusal,
  feedState,
  panelDay,
  sinkFor,
  type FeedCharger,
  type FeedPlan,
  type FeedStage,
} from "./feed";

const SEED = 20262005;
const charger: FeedCharger = {
  kind: "linear",
  efficiency: 0.9,
  current: 1,
  quiescent: 0.005,
  least: 4.5,
  dropout: 0.1,
  cellLow: 3,
  cellFull: 4.2,
  foldback: 110,
  thermal: 0,
};
const supply = (volts: number, limit: number): FeedStage => ({ kind: "supply", volts, limit });
const cable = (resistance: number): FeedStage => ({ kind: "cable", resistance });
const plan = (stages: readonly FeedStage[], more: Partial<FeedCharger> = {}): FeedPlan => ({
  stages,
  charger: { ...charger, ...more },
  ambient: 25,
  day: { sun: 3 * 3600, load: 0.2, energy: 8 },
});
const at = (p: FeedPlan, cell = 3.7) => {
  const a = feedCurrent(p, cell);
  if (!a) throw new Error(`nothing charges: ${JSON.stringify(feedRefusal(p, cell))}`);
  return a;
};

test("a cable's drop and a linear charger's heat, worked by hand", () => {
  const s = feedState(plan([supply(5, 2), cable(0.5)]), 0.5, 3.7);
  // 0.505 A through 0.5 Ω leave 4.7475 V; 4.7475 V × 0.505 A − 3.7 V × 0.5 A = 0.5475 W.
  expect(s?.boardVolts).toBeCloseTo(4.7475, 9);
  expect(s?.chargerHeat).toBeCloseTo(0.54749, 4);
  expect(s?.stages[1]?.heat).toBeCloseTo(0.5 * 0.505 ** 2, 9);
});

test("each limit is found and named: setting, supply, shared port, cable, regulator, heat", () => {
  expect(at(plan([supply(5, 2)]))).toMatchObject({ bottleneck: { what: "set" }, state: { current: 1 } });
  const weak = at(plan([supply(5, 0.6)]));
  expect(weak.bottleneck).toEqual({ what: "limit", stage: 0 });
  expect(weak.state.current).toBeCloseTo(0.595, 9);
  const shared = at(plan([supply(5.1, 3), { kind: "port", limit: 1, others: 0.4 }]));
  expect(shared.bottleneck).toEqual({ what: "limit", stage: 1 });
  expect(shared.state.current).toBeCloseTo(0.595, 9);
  // (5 − 4.5) V ÷ 0.8 Ω = 0.625 A, of which the charger takes 5 mA.
  const thin = at(plan([supply(5, 2), cable(0.8)]));
  expect(thin.bottleneck).toEqual({ what: "voltage" });
  expect(thin.state.current).toBeCloseTo(0.62, 9);
  const regulated = at(plan([supply(12, 2), { kind: "switching", volts: 5, efficiency: 0.9, limit: 0.7, least: 6 }]));
  expect(regulated.bottleneck).toEqual({ what: "limit", stage: 1 });
  expect(regulated.state.stages[1]?.ampsIn).toBeCloseTo((5 * 0.7) / (0.9 * 12), 9);
  // (110 − 25) K ÷ 80 K/W = 1.0625 W; at 3.7 V: 1.3 V × I + 25 mW = 1.0625 W.
  const hot = at(plan([supply(5, 2)], { thermal: 80 }));
  expect(hot.bottleneck).toEqual({ what: "heat" });
  expect(hot.state.current).toBeCloseTo((1.0625 - 0.025) / 1.3, 6);
  // The same part has heat to spare once the cell is nearly full.
  expect(at(plan([supply(5, 2)], { thermal: 80 }), 4.2).bottleneck).toEqual({ what: "set" });
});

test("a linear regulator without enough input drops out and follows; its sink is told", () => {
  const linear = { kind: "linear", volts: 5, dropout: 1.5, limit: 2, hottest: 110, junctionSink: 6 } as const;
  const s = feedState(plan([supply(9, 2), linear]), 0.995, 3.7);
  expect(s?.stages[1]?.heat).toBeCloseTo(4, 9);
  expect(sinkFor(linear, 4, 40)).toBeCloseTo(11.5, 9);
  expect(sinkFor(linear, 0, 40)).toBeNull();
  expect(feedState(plan([supply(6, 2), linear]), 0.5, 3.7)?.boardVolts).toBeCloseTo(4.5, 9);
});

test("what can't charge at all says why", () => {
  expect(feedCurrent(plan([supply(4.3, 2)]), 3.7)).toBeNull();
  expect(feedRefusal(plan([supply(4.3, 2)]), 3.7)).toEqual({ what: "voltage" });
  expect(feedRefusal(plan([supply(5, 2), { kind: "port", limit: 1, others: 1.2 }]), 3.7)).toEqual({
    what: "limit",
    stage: 1,
  });
  const short = plan([supply(5, 2), cable(1), { kind: "switching", volts: 5, efficiency: 0.9, limit: 2, least: 6 }]);
  expect(feedRefusal(short, 3.7)).toEqual({ what: "least", stage: 2 });
  expect(bottleneckText(short, { what: "least", stage: 2 })).toMatch(/it needs 6\.00\sV/);
});

test("a switching charger draws more the lower its input: behind a long cable it collapses before its limit", () => {
  const p = plan([supply(5, 5), cable(2)], {
    kind: "switching",
    efficiency: 0.9,
    least: 2.4,
    dropout: 0,
    quiescent: 0,
  });
  const a = at(p, 4);
  // At most E² ÷ 4R = 3.125 W come through the cable, at half its voltage.
  expect((a.state.current * 4) / 0.9).toBeLessThanOrEqual(3.125 + 1e-6);
  expect(a.bottleneck.what).toBe("voltage");
  expect(feedState(p, 0.75, 4)).toBeNull();
});

test(`random feeds: energy is kept, and no current exceeds a limit, yet a little more would (seed ${SEED})`, () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const middle = fc.oneof(
    fc.record({ kind: fc.constant("cable" as const), resistance: number(0, 1.5) }),
    fc.record({
      kind: fc.constant("linear" as const),
      volts: number(4.8, 6),
      dropout: number(0, 2),
      limit: number(0.2, 3),
      hottest: fc.constant(110),
      junctionSink: fc.constant(5),
    }),
    fc.record({
      kind: fc.constant("switching" as const),
      volts: number(4.8, 6),
      efficiency: number(0.7, 0.97),
      limit: number(0.2, 3),
      least: number(4, 8),
    }),
    fc.record({ kind: fc.constant("port" as const), limit: number(0.3, 3), others: number(0, 1) }),
  );
  let charged = 0;
  fc.assert(
    fc.property(
      number(4.5, 15),
      number(0.3, 4),
      fc.array(middle, { maxLength: 4 }),
      fc.constantFrom("linear" as const, "switching" as const),
      number(0.1, 2),
      fc.constantFrom(0, 40, 120),
      number(2.8, 4.2),
      (volts, limit, middles, kind, current, thermal, cell) => {
        const p = plan([supply(volts, limit), ...middles], { kind, current, thermal });
        const a = feedCurrent(p, cell);
        if (!a) return;
        charged++;
        const { state, bottleneck } = a;
        const source = state.stages[0];
        if (!source) throw new Error("a feed without a source");
        const others = p.stages.reduce(
          (sum, s, k) => sum + (s.kind === "port" ? s.others * (state.stages[k]?.voltsOut ?? 0) : 0),
          0,
        );
        const lost = state.stages.reduce((sum, s) => sum + s.heat, 0) + state.chargerHeat;
        expect(source.voltsOut * source.ampsOut).toBeCloseTo(cell * state.current + lost + others, 6);
        expect(state.stages.every((s) => s.heat > -1e-9)).toBe(true);
        expect(source.ampsOut).toBeLessThanOrEqual(limit);
        if (bottleneck.what === "set") expect(state.current).toBe(current);
        else
          expect(
            feedCurrent({ ...p, charger: { ...p.charger, current: state.current * 1.001 } }, cell)?.state.current,
          ).toBeCloseTo(state.current, 6);
        // More resistance on the way never charges faster, but where heat is what limits: a lower input heats less.
        const longer = feedCurrent({ ...p, stages: [...p.stages, cable(0.2)] }, cell);
        if (thermal === 0) expect(longer?.state.current ?? 0).toBeLessThanOrEqual(state.current * (1 + 1e-9));
      },
    ),
    { seed: SEED, numRuns: 500 },
  );
  expect(charged).toBeGreaterThan(150);
});

test("a panel's day against the load's, worked by hand", () => {
  const state = feedState(plan([{ kind: "panel", volts: 5.5, limit: 0.505 }]), 0.5, 3.7);
  if (!state) throw new Error("no state");
  expect(panelDay(state, { sun: 3 * 3600, load: 0.2, energy: 8 })).toEqual({
    gained: 5.55,
    taken: expect.closeTo(4.8, 9),
    bridged: expect.closeTo(8 / 4.8, 9),
    emptyAfter: null,
  });
  expect(panelDay(state, { sun: 3600, load: 0.2, energy: 8 }).emptyAfter).toBeCloseTo(8 / (4.8 - 1.85), 9);
});

test("tolerances leave a range, and say what else may limit the charge", () => {
  const exact = plan([supply(5, 2), cable(0.8)]);
  expect(feedRanges(exact, 3.7).current).toEqual([expect.closeTo(0.62, 9), expect.closeTo(0.62, 9)]);
  expect(feedRanges(exact, 3.7).others).toEqual([]);
  // (5.1 − 4.5) V ÷ 0.72 Ω − 5 mA at best, (4.9 − 4.5) V ÷ 0.88 Ω − 5 mA at worst.
  const loose = feedRanges({ ...exact, tolerance: { volts: 0.02, current: 0.1, resistance: 0.1 } }, 3.7);
  expect(loose.current).toEqual([expect.closeTo(0.4 / 0.88 - 0.005, 6), expect.closeTo(0.6 / 0.72 - 0.005, 6)]);
  // A source near what the charger needs may charge nothing.
  const near = feedRanges(
    { ...plan([supply(4.55, 2), cable(0.01)]), tolerance: { volts: 0.02, current: 0, resistance: 0 } },
    3.7,
  );
  expect(near.current[0]).toBe(0);
  expect(near.others).toEqual([{ what: "voltage" }]);
  const set = feedRanges({ ...plan([supply(5, 1.04)]), tolerance: { volts: 0, current: 0.1, resistance: 0 } }, 3.7);
  expect(set.others).toEqual([{ what: "limit", stage: 0 }]);
});

test(`whatever lies within the tolerances stays in the range of their corners (100 feeds, seed ${SEED})`, () => {
  const share = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(
      fc.double({ min: 4.6, max: 7, noNaN: true }),
      fc.double({ min: 0.3, max: 2, noNaN: true }),
      fc.double({ min: 0, max: 1.5, noNaN: true }),
      fc.double({ min: 0, max: 120, noNaN: true }),
      share,
      share,
      share,
      (volts, limit, ohms, thermal, v, i, r) => {
        const tolerance = { volts: 0.05, current: 0.15, resistance: 0.2 };
        const of = (dv: number, di: number, dr: number): FeedPlan =>
          plan(
            [
              supply(volts * dv, limit),
              cable(ohms * dr),
              { kind: "linear", volts: 5 * dv, dropout: 0.2, limit: 1.5, hottest: 110, junctionSink: 5 },
            ],
            { thermal: thermal * dr, current: di },
          );
        const { current, heat } = feedRanges({ ...of(1, 1, 1), tolerance }, 3.2);
        const inside = feedCurrent(
          of(1 + v * tolerance.volts, 1 + i * tolerance.current, 1 + r * tolerance.resistance),
          3.2,
        );
        const [amps, watts] = [inside?.state.current ?? 0, inside?.state.chargerHeat ?? 0];
        expect(amps).toBeGreaterThanOrEqual(current[0] - 1e-6);
        expect(amps).toBeLessThanOrEqual(current[1] + 1e-6);
        expect(watts).toBeGreaterThanOrEqual(heat[0] - 1e-6);
        expect(watts).toBeLessThanOrEqual(heat[1] + 1e-6);
      },
    ),
    { seed: SEED, numRuns: 100 },
  );
});
