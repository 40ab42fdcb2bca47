import type { ChartSpec } from "../measurement";
import { curveKinds, curvesOf, laidOver, type CurveSource } from ".";

const series = (id: string, label: string, xs: number[]) => ({
  id,
  label,
  tone: 0,
  points: xs.map((x, k) => ({ x, y: x * x, id: `${id}${k}`, state: "counts" as const })),
  fit: xs.map((x) => ({ x, y: x * x })),
});
const chart = (id: string, labels: string[], change: Partial<ChartSpec> = {}): ChartSpec => ({
  id,
  title: id === "efficiency" ? "Efficiency" : "Current into the cell",
  x: { label: "Load", unit: "A" },
  y: { label: "Value", unit: "1" },
  claims: [],
  series: labels.map((l) => series(l, l, [0, 1, 2, 3])),
  ...change,
});
const time = { x: { label: "Time", unit: "s" as const }, y: { label: "Current", unit: "A" as const } };
const source = (runId: string, board: string, sample: string, charts: ChartSpec[]): CurveSource => ({
  runId,
  board,
  sample,
  title: `run ${runId}`,
  charts,
});

const sweeps = [
  source("1", "Sedge", "A", [chart("efficiency", ["4.1 V", "3.6 V"])]),
  source("2", "Marl", "A", [chart("efficiency", ["4.1 V"]), chart("output", ["4.1 V"])]),
];

test("kinds that most of the runs share come first; a chart of another axis is another kind", () => {
  const kinds = curveKinds([...sweeps, source("3", "Marl", "B", [chart("efficiency", ["x"], time)])]);
  expect(kinds.map((k) => [k.runs, k.overTime])).toEqual([
    [2, false],
    [1, false],
    [1, true],
  ]);
  expect(kinds[0]?.title).toBe("Efficiency against load");
});

test("curves are named by what tells them apart: boards, samples of one board, runs of one sample, series", () => {
  const key = curveKinds(sweeps)[0]?.key ?? "";
  expect(curvesOf(sweeps, key).map((c) => c.label)).toEqual(["Sedge, 4.1 V", "Sedge, 3.6 V", "Marl, 4.1 V"]);
  const samples = [
    source("1", "Sedge", "A", [chart("efficiency", ["v"])]),
    source("2", "Sedge", "B", [chart("efficiency", ["v"])]),
  ];
  expect(curvesOf(samples, curveKinds(samples)[0]?.key ?? "").map((c) => c.label)).toEqual(["sample A", "sample B"]);
  const again = [
    source("1", "Sedge", "A", [chart("efficiency", ["v"])]),
    source("2", "Sedge", "A", [chart("efficiency", ["v"])]),
  ];
  expect(curvesOf(again, curveKinds(again)[0]?.key ?? "").map((c) => c.label)).toEqual(["run 1", "run 2"]);
});

test("logs are counted from where the charge begins; what lies before it is left out, values stay", () => {
  const logs = [
    source("1", "Sedge", "A", [
      chart("current", ["cell"], { ...time, handles: [{ id: "start", label: "start", at: 2 }] }),
    ]),
    source("2", "Marl", "A", [chart("current", ["cell"], time)]),
  ];
  const key = curveKinds(logs)[0]?.key ?? "";
  const spec = laidOver(logs, key, curvesOf(logs, key));
  expect(spec?.x.label).toBe("Time from the start of the charge");
  expect(spec?.series.map((s) => s.fit?.map((p) => [p.x, p.y]))).toEqual([
    [
      [0, 4],
      [1, 9],
    ],
    [
      [0, 0],
      [1, 1],
      [2, 4],
      [3, 9],
    ],
  ]);
  expect(spec?.series.map((s) => s.tone)).toEqual([0, 1]);
  expect(new Set(spec?.series.map((s) => s.id)).size).toBe(2);
});

test("without a curve there is no chart", () => {
  expect(laidOver(sweeps, curveKinds(sweeps)[0]?.key ?? "", [])).toBeNull();
  expect(laidOver(sweeps, "none", [])).toBeNull();
  expect(curveKinds([])).toEqual([]);
});
