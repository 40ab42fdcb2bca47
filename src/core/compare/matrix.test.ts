import type { Claim } from "../claims";
import { CHARACTERISTICS } from "../characteristics";
import { HOUSE_RULES, type Finding } from "../measurement";
import { seeded } from "../simulator";
import { judgeClaim, type EvidenceSample } from "../verdicts";
import { layColumn } from "./packed";
import { boardColumn, matrixRows as rowsOf, packColumn, type BoardColumn } from ".";
import { numeric } from "../quantities";

const finding = (characteristic: string, value: number | string, conditions: Finding["conditions"] = {}): Finding => ({
  characteristic,
  conditions,
  value,
  unit: typeof value === "number" ? "A" : "",
  expandedUncertainty: 0.001,
  budget: [],
  points: [],
  unfair: [],
});
const sample = (
  name: string,
  findings: readonly Finding[],
  more: Partial<EvidenceSample["runs"][number]> = {},
): EvidenceSample => ({
  id: name,
  name,
  runs: [
    {
      id: `run-${name}`,
      title: "r",
      startUtc: "2026-11-01T00:00:00Z",
      finished: true,
      setAside: null,
      modifiedFunctions: [],
      findings,
      ...more,
    },
  ],
});
const claim = (id: string, low: number): Claim => ({
  id,
  readings: [{ characteristic: "boost.max-current", limit: { kind: "at-least", low }, conditions: {} }],
  source: { kind: "listing", wording: "1 A", date: "2026-11-01" },
});

function column(boardId: string, evidence: readonly EvidenceSample[], claims: readonly Claim[] = []): BoardColumn {
  return boardColumn({
    boardId,
    title: boardId,
    functions: ["boost"],
    claims,
    evidence,
    verdicts: new Map(claims.map((c) => [c.id, judgeClaim(c, evidence, HOUSE_RULES)])),
  });
}

const matrixRows = (columns: readonly BoardColumn[], family: Parameters<typeof rowsOf>[1] = null) =>
  rowsOf(
    columns.map((c) => packColumn(c)),
    family,
  );

test("a cell holds the worst over conditions and samples, how many it stands for, and their spread", () => {
  const b = column("x", [
    sample("A", [
      finding("boost.max-current", 1.8, { battery: 4.1 }),
      finding("boost.max-current", 1.5, { battery: 3.1 }),
    ]),
    sample("B", [finding("boost.max-current", 1.4, { battery: 3.1 })]),
  ]);
  expect(b.cells["boost.max-current"]).toMatchObject({ value: 1.4, count: 3, samples: 2, runId: "run-B" });
  expect(b.cells["boost.max-current"]?.spread?.replace(/\u00a0/g, " ")).toMatch(/^1\.4000 A to 1\.8000 A$/);
});

test("less is worse or better as the quantity has it; of yes and no the no counts", () => {
  const b = column("x", [
    sample("A", [
      finding("standby.current", 1e-3, { state: "no-load" }),
      finding("standby.current", 1e-6, { state: "cut-off" }),
      finding("protect.short-present", "yes"),
    ]),
    sample("B", [finding("protect.short-present", "no")]),
  ]);
  expect(b.cells["standby.current"]?.value).toBe(1e-3);
  expect(b.cells["protect.short-present"]?.value).toBe("no");
});

test("what was only claimed is a gap with its claim, not a zero; a run set aside or of a modified function counts for nothing", () => {
  const c = claim("c", 1);
  const gap = column("x", [], [c]).cells["boost.max-current"];
  expect(gap).toMatchObject({ value: null, text: "", count: 0, claims: [{ id: "c", word: "not measured" }] });
  for (const more of [{ setAside: "slipped" }, { modifiedFunctions: ["boost" as const] }, { finished: false }])
    expect(
      column("x", [sample("A", [finding("boost.max-current", 2)], more)]).cells["boost.max-current"],
    ).toBeUndefined();
  const judged = column(
    "x",
    [
      sample("A", [
        finding("boost.max-current", 2, { battery: 4.1 }),
        finding("boost.max-current", 1.5, { battery: 3.1 }),
      ]),
    ],
    [c],
  ).cells["boost.max-current"];
  expect(judged?.claims.map((x) => x.word)).toEqual(["meets"]);
});

test("best and worst are marked among those measured, and only where they differ", () => {
  const boards = [
    column("a", [sample("A", [finding("boost.max-current", 1)])]),
    column("b", [sample("A", [finding("boost.max-current", 2)])]),
    column("c", [], [claim("k", 3)]),
    column("d", [sample("A", [finding("boost.max-current", 2)])]),
  ];
  const [row] = matrixRows(boards);
  expect(row).toMatchObject({ name: "boost.max-current", way: "more" });
  expect([...(row?.best ?? [])].sort()).toEqual(["b", "d"]);
  expect([...(row?.worst ?? [])]).toEqual(["a"]);
  expect(matrixRows(boards.slice(1, 2))[0]?.best.size).toBe(0);
  expect(matrixRows([boards[1] as BoardColumn, boards[3] as BoardColumn])[0]?.best.size).toBe(0);
});

test("rows follow the dictionary, may be kept to one function, and every quantity with a usual one-sided claim has a better way", () => {
  const b = column("a", [
    sample("A", [finding("standby.current", 1e-3), finding("boost.max-current", 1), finding("charge.cc-current", 1)]),
  ]);
  expect(matrixRows([b]).map((r) => r.name)).toEqual(["charge.cc-current", "boost.max-current", "standby.current"]);
  expect(matrixRows([b], "charger").map((r) => r.name)).toEqual(["charge.cc-current"]);
  for (const c of CHARACTERISTICS)
    if (c.kind === "number" && (c.usualLimit === "at-least" || c.usualLimit === "at-most"))
      expect([c.name, c.better]).not.toEqual([c.name, null]);
});

test("a packed column holds its numbers by name, tells claimed from measured, and is read right under another dictionary", () => {
  const cell = (value: number | string | null) => ({ value, text: String(value), count: 1, samples: 1, claims: [] });
  const column: BoardColumn = {
    boardId: "b",
    title: "B",
    functions: ["boost"],
    cells: { "boost.max-current": cell(1.5), "protect.short-present": cell("no"), "standby.current": cell(null) },
  };
  const packed = packColumn(column);
  const laid = layColumn(packed);
  expect([...laid.values].filter((v) => !Number.isNaN(v))).toEqual([1.5]);
  expect(laid.values[CHARACTERISTICS.findIndex((c) => c.name === "boost.max-current")]).toBe(1.5);
  expect(laid.there.reduce((s, x) => s + x, 0)).toBe(2 + 2 + 1);
  // A quantity that is known no more is passed over, and moves none of the others.
  const older = layColumn({
    ...packed,
    names: ["boost.gone", ...packed.names],
    values: Float64Array.of(7, ...packed.values),
    measured: Uint8Array.of(1, ...packed.measured),
  });
  expect(older).toEqual(laid);
  expect(matrixRows([column]).map((r) => [r.name, r.measured])).toEqual([
    ["boost.max-current", true],
    ["protect.short-present", true],
    ["standby.current", false],
  ]);
});

test("rows of random columns are those of a slow twin that looks at every cell", () => {
  const seed = 515;
  const random = seeded(seed);
  const names = CHARACTERISTICS.filter((c) => c.kind === "number").map((c) => c.name);
  for (let k = 0; k < 60; k++) {
    const columns = Array.from({ length: 1 + Math.floor(12 * random.uniform()) }, (_, b): BoardColumn => ({
      boardId: `b${b}`,
      title: `B${b}`,
      functions: [],
      cells: Object.fromEntries(
        names
          .filter(() => random.uniform() < 0.4)
          .map((name) => {
            // Few different values, so that boards often share the best.
            const value = random.uniform() < 0.2 ? null : Math.floor(4 * random.uniform());
            return [name, { value, text: String(value), count: 1, samples: 1, claims: [] }];
          }),
      ),
    }));
    const slow = CHARACTERISTICS.flatMap((c) => {
      const own = columns.filter((b) => b.cells[c.name]);
      if (own.length === 0) return [];
      const values = own
        .flatMap((b) =>
          typeof b.cells[c.name]?.value === "number" ? [{ id: b.boardId, v: numeric(b.cells[c.name]?.value) }] : [],
        )
        .sort((x, y) => x.v - y.v);
      const way = c.better;
      const [low, high] = [values[0]?.v, values.at(-1)?.v];
      const at = (v: number | undefined) =>
        way && values.length > 1 && low !== high
          ? values
              .filter((x) => x.v === v)
              .map((x) => x.id)
              .sort()
          : [];
      return [
        {
          name: c.name,
          measured: values.length > 0,
          best: at(way === "more" ? high : low),
          worst: at(way === "more" ? low : high),
        },
      ];
    });
    expect({
      seed,
      k,
      rows: matrixRows(columns).map((r) => ({
        name: r.name,
        measured: r.measured,
        best: [...r.best].sort(),
        worst: [...r.worst].sort(),
      })),
    }).toEqual({ seed, k, rows: slow });
  }
});
