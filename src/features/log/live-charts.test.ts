import type { RunDossier } from "@/notebook";
import type { LiveStatus } from "@/workers/live-protocol";
import { liveCharts, liveExtent } from "./live-charts";

const PREDICTED = [
  { role: "cellCurrent" as const, time: [0, 100, 5000], values: [1, 1, 0.1] },
  { role: "partTemperature" as const, time: [0, 5000], values: [22, 60] },
];
const d = { run: { procedure: "charge-cycle" }, marks: [] } as unknown as RunDossier;
const status = (spans: readonly { from: number; to: number; label: string }[], time: number): LiveStatus =>
  ({
    rows: 3,
    row: { time },
    curves: { cellCurrent: { x: [0, 30, time], y: [0, 1, 1] }, cellVoltage: { x: [0, 30, time], y: [3.4, 3.5, 3.6] } },
    state: { spans },
  }) as unknown as LiveStatus;

test("what is predicted lies behind what is measured, from the moment in which the charge began", () => {
  const charts = liveCharts(status([{ from: 30, to: 60, label: "constant current" }], 60), d, PREDICTED);
  expect(charts.map((c) => c.id)).toEqual(["current", "voltage"]);
  expect(charts[0]?.series.map((s) => [s.id, s.predicted ?? false])).toEqual([
    ["predicted-cellCurrent", true],
    ["cellCurrent", false],
  ]);
  expect(charts[0]?.series[0]?.fit?.map((p) => p.x)).toEqual([30, 130, 5030]);
  // Nothing is predicted of what is not logged, and nothing drawn before a reading came.
  expect(charts[1]?.series.map((s) => s.id)).toEqual(["cellVoltage"]);
  expect(liveCharts(null, d, PREDICTED)).toEqual([]);
});

test("the screen reaches to the predicted end, and past it where the log does", () => {
  expect(liveExtent(null, PREDICTED)).toBe(10);
  expect(liveExtent(status([{ from: 30, to: 60, label: "constant current" }], 60), PREDICTED)).toBe(5030);
  expect(liveExtent(status([], 60), [])).toBe(60);
  expect(liveExtent(status([{ from: 30, to: 60, label: "x" }], 9000), PREDICTED)).toBe(9000);
});
