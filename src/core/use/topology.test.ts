import { seeded } from "../simulator/random";
import {
  BARE,
  cellCautions,
  checkAdded,
  checkCut,
  checkTopology,
  chooseFuse,
  FUSES,
  inSeries,
  joiningCurrent,
  sampleTopology,
  type Guard,
  type Part,
  type Topology,
} from ".";

const own: Guard = { name: "the cell's own protection", standing: "working" };
const claimed: Guard = { name: "the board's protection", standing: "claimed" };
const jumped: Guard = { name: "the board's protection", standing: "bypassed" };
const guard = (g: Guard): Part => ({ kind: "guard", guard: g });
const board: Part = { kind: "board", name: "Sedge 51" };
const of = (chain: readonly Part[], change: Partial<Topology> = {}): Topology => ({
  cell: "Reed 18",
  chain,
  outside: ["the recorder"],
  taps: [],
  ...change,
});

test.each<[string, Topology, string]>([
  ["no protection at all", of([board]), "nothing protects this cell"],
  ["only claimed: it silences nothing", of([guard(claimed), board]), "claimed, not tested"],
  ["measured, and its jumper open", of([guard({ ...claimed, standing: "working" }), board]), "protected"],
  ["measured, but bypassed by a closed jumper", of([guard(jumped), board]), "nothing protects this cell"],
  ["bypassed, with the cell's own behind it", of([guard(own), guard(jumped), board]), "protected"],
  [
    "a tap on the bare cell",
    of([guard(own), board], { taps: [{ name: "the lamp", after: 0 }] }),
    "nothing protects this cell",
  ],
  ["a tap behind the protection", of([guard(own), board], { taps: [{ name: "the lamp", after: 1 }] }), "protected"],
  ["a claimed one before a working one", of([guard(claimed), guard(own), board]), "protected"],
  ["a fuse is no protection", of([{ kind: "fuse", rating: 2 }, board]), "nothing protects this cell"],
])("%s", (_n, t, safety) => {
  expect(checkTopology(t).safety).toBe(safety);
});

test("a tap on the bare cell says what it bypasses, and that its voltage is the cell's", () => {
  const c = checkTopology(of([guard(own), board], { taps: [{ name: "The lamp", after: 0 }] }));
  expect(c.remarks).toContain(
    "The lamp bypasses the cell's own protection: no cut-off, switch-off or gauge there; its voltage is the cell's.",
  );
  expect(c.ways).toEqual([
    { to: "the recorder", safety: "protected", through: ["the cell's own protection"] },
    { to: "The lamp", safety: "nothing protects this cell", through: [] },
  ]);
  expect(c.remarks).toContain("No fuse at the cell: put one at its positive pole, before anything else.");
  expect(checkTopology(of([{ kind: "fuse", rating: 2 }, guard(own)])).fused).toBe(true);
});

test("1,000 random chains: protected exactly where a working guard stands before everything that leaves (seed 20261130)", () => {
  const r = seeded(20261130);
  for (let k = 0; k < 1000; k++) {
    const chain = Array.from({ length: 1 + Math.floor(r.uniform() * 4) }, (): Part => {
      const x = r.uniform();
      return x < 0.2
        ? board
        : x < 0.4
          ? { kind: "fuse", rating: 1 }
          : guard({ name: "g", standing: x < 0.6 ? "working" : x < 0.8 ? "claimed" : "bypassed" });
    });
    const taps = r.uniform() < 0.5 ? [] : [{ name: "tap", after: Math.floor(r.uniform() * (chain.length + 1)) }];
    const works = (n: number, standings: readonly string[]): boolean =>
      chain.slice(0, n).some((p) => p.kind === "guard" && standings.includes(p.guard.standing));
    const ends = [chain.length, ...taps.map((t) => t.after)];
    const expected = ends.every((n) => works(n, ["working"]))
      ? "protected"
      : ends.every((n) => works(n, ["working", "claimed"]))
        ? "claimed, not tested"
        : "nothing protects this cell";
    expect([k, checkTopology(of(chain, { taps })).safety]).toEqual([k, expected]);
  }
});

describe("the picture of a sample, from a few choices", () => {
  const bare = { title: "Fen 7", measured: null, claimed: false, charges: true };
  const shows = { ...bare, measured: true, claimed: true };
  const safety = (
    ...[between, b, guard]: [
      Parameters<typeof sampleTopology>[0],
      typeof bare | typeof shows,
      Parameters<typeof sampleTopology>[2],
    ]
  ) => checkTopology(sampleTopology(between, b, guard, true)).safety;
  test.each<[string, string, string]>([
    ["a bare cell on a board that protects nothing", safety(BARE, bare, null), "nothing protects this cell"],
    ["on one that was shown to disconnect", safety(BARE, shows, null), "protected"],
    ["whose jumper is closed", safety({ ...BARE, jumper: true }, shows, null), "nothing protects this cell"],
    ["with the cell's own protection", safety({ ...BARE, ownProtection: true }, bare, null), "protected"],
    ["with an added board that nobody tested", safety({ ...BARE, added: {} }, bare, null), "claimed, not tested"],
    [
      "with one of the notebook that disconnects",
      safety({ ...BARE, added: { boardId: "x" } }, bare, { title: "Rill 2", measured: true }),
      "protected",
    ],
    [
      "with one that was shown not to",
      safety({ ...BARE, added: { boardId: "x" } }, bare, { title: "Rill 2", measured: false }),
      "nothing protects this cell",
    ],
    [
      "with a lamp on the bare cell",
      safety({ ...BARE, ownProtection: true, taps: ["a lamp"] }, bare, null),
      "nothing protects this cell",
    ],
  ])("%s", (_n, found, expected) => {
    expect(found).toBe(expected);
  });
  test("what hangs on it: the loads that are named, else the load, and the charger", () => {
    expect(sampleTopology(BARE, bare, null, true).outside).toEqual(["the load", "the charger"]);
    expect(
      sampleTopology({ ...BARE, loads: ["recorder", "lamp"], fuse: 2 }, { ...bare, charges: false }, null, true),
    ).toMatchObject({
      outside: ["recorder", "lamp"],
      chain: [
        { kind: "fuse", rating: 2 },
        { kind: "board", name: "Fen 7" },
      ],
    });
    expect(sampleTopology(BARE, bare, null, false).outside).toEqual(["the charger"]);
  });
});

describe("before a run connects a cell to a board", () => {
  const board = { title: "Fen 7", measured: null, claimed: false, charges: true } as const;
  const [claims, shows, fails] = [
    { ...board, claimed: true },
    { ...board, claimed: true, measured: true },
    { ...board, claimed: true, measured: false },
  ];
  test.each<[string, Parameters<typeof cellCautions>, string | null]>([
    ["neither has any", [{ board, added: null }, false], "neither it nor the board has protection"],
    [
      "the board's is only claimed",
      [{ board: claims, added: null }, false],
      "Nothing protects this cell that was tested: the protection of Fen 7 is only claimed",
    ],
    [
      "only an added board's is claimed",
      [{ board, between: { ...BARE, added: {} }, added: null }, false],
      "that was tested: the protection of the added board is only claimed",
    ],
    [
      "both are only claimed",
      [
        { board: claims, between: { ...BARE, added: { boardId: "x" } }, added: { title: "Rill 2", measured: null } },
        false,
      ],
      "the protection of Rill 2 and Fen 7 is only claimed",
    ],
    [
      "the board was shown not to disconnect",
      [{ board: fails, added: null }, false],
      "Fen 7 was shown not to disconnect it",
    ],
    [
      "its jumper is closed",
      [{ board: shows, between: { ...BARE, jumper: true }, added: null }, false],
      "a closed jumper bypasses the board's protection",
    ],
    [
      "a lamp hangs on the bare cell",
      [{ board: shows, between: { ...BARE, taps: ["the lamp"] }, added: null }, true],
      "on the way to the lamp",
    ],
    ["the cell has its own", [{ board, added: null }, true], null],
    [
      "the owner says that the cell has its own",
      [{ board, between: { ...BARE, ownProtection: true }, added: null }, false],
      null,
    ],
    ["the board was shown to disconnect, its jumper open", [{ board: shows, between: BARE, added: null }, false], null],
    [
      "an added board was shown to",
      [{ board, between: { ...BARE, added: { boardId: "x" } }, added: { title: "Rill 2", measured: true } }, false],
      null,
    ],
  ])("%s", (_n, [guards, own], expected) => {
    const said = cellCautions(guards, own);
    expect(said.map((c) => c.severity)).toEqual(expected === null ? [] : ["danger"]);
    if (expected) expect(said[0]?.text).toContain(expected);
  });
  test("of a board that was shown to disconnect, nobody said how its jumper stands: it is asked, not feared", () => {
    expect(cellCautions({ board: shows, added: null }, false)).toEqual([
      { severity: "care", text: expect.stringContaining("it must be open") },
    ]);
  });
});

describe("a fuse at the cell", () => {
  test("worked: 1.2 A in use, a 5 A wire, 3 V behind 0.13 Ω", () => {
    const f = chooseFuse({ highest: 1.2, ampacity: 5, volts: 3, resistance: 0.13 });
    expect(f).toMatchObject({ rating: 1.6, least: expect.closeTo(1.6, 9), most: expect.closeTo(2.3077, 4) });
  });
  test("a wire too thin, a cell too weak: no rating, and the remedy", () => {
    expect(chooseFuse({ highest: 4, ampacity: 3, volts: 3, resistance: 0.05 })).toMatchObject({
      rating: null,
      why: expect.stringContaining("Use a thicker wire."),
    });
    expect(chooseFuse({ highest: 2, ampacity: 10, volts: 3, resistance: 0.2 })).toMatchObject({
      rating: null,
      why: expect.stringContaining("more cells in parallel"),
    });
  });
  test("whatever is chosen carries the load, guards the wire and can be blown (500, seed 20261131)", () => {
    const r = seeded(20261131);
    for (let k = 0; k < 500; k++) {
      const q = {
        highest: r.between(0.05, 5),
        ampacity: r.between(0.5, 10),
        volts: r.between(2.5, 4.2),
        resistance: r.between(0.02, 0.5),
      };
      const { rating, why } = chooseFuse(q);
      const fits = (x: number): boolean => 0.75 * x >= q.highest && x <= q.ampacity && q.volts / q.resistance >= 10 * x;
      if (rating === null) expect(FUSES.some(fits)).toBe(false);
      else expect([k, fits(rating), why]).toEqual([k, true, expect.any(String)]);
    }
  });
});

describe("an added protection board", () => {
  const b = { trip: 2, tolerance: 0.2, cut: 2.9, resistance: 0.05, current: 4e-6 };
  test("its trip has to leave room for the load at the lowest battery", () => {
    expect(checkAdded(b, { batteryPower: 3, lowestVoltage: 3, floor: 2.8 })).toEqual([]);
    expect(checkAdded(b, { batteryPower: 4.1, lowestVoltage: 3, floor: 2.8 })[0]).toContain("It may trip at 1.6");
  });
  test("its cut has to suit the cell and the load", () => {
    expect(checkAdded(b, { batteryPower: 1, lowestVoltage: 3, floor: 3 })[0]).toContain("below the cell's floor");
    expect(checkAdded({ ...b, cut: 3.2 }, { batteryPower: 1, lowestVoltage: 3, floor: 3 })[0]).toContain(
      "before the battery is down",
    );
  });
  test("in series: the lowest trip, the highest cut, resistances and currents added", () => {
    expect(inSeries([b, { trip: 1.8, tolerance: 0, cut: 2.5, resistance: 0.03, current: 1e-6 }])).toEqual({
      trip: 2,
      tolerance: 0.2,
      cut: 2.9,
      resistance: 0.08,
      current: expect.closeTo(5e-6, 12),
    });
    expect(inSeries([])).toBeNull();
  });
});

test("worked: a cut that leaves 1.5 % of 2.2 Ah lasts 55 days at 25 µA; under the floor it is said", () => {
  const soc = (v: number): number => (v <= 2 ? 0 : 0.015);
  expect(
    checkCut({ cut: 2.6, floor: 2.8, capacity: 2.2, residual: 5e-6, selfDischarge: 20e-6, stateOfCharge: soc }),
  ).toEqual({ belowFloor: true, unused: 0.015, days: expect.closeTo(55, 9) });
  expect(
    checkCut({ cut: 3, floor: 2.8, capacity: 2.2, residual: 0, selfDischarge: 0, stateOfCharge: soc }).days,
  ).toBeNull();
});

test("worked: 4.1 V and 3.7 V of 50 mΩ each drive 4 A when they are joined", () => {
  expect(joiningCurrent({ volts: 4.1, resistance: 0.05 }, { volts: 3.7, resistance: 0.05 })).toBeCloseTo(4, 9);
});
