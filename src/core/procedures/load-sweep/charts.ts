import { formatQuantity, highest, lowest, median } from "../../quantities";
import type { ChartSpec, RunSetup } from "../../measurement";
import { efficiencyAt, type LossModel } from "./loss-model";
import { regulationBand, type SweepColumn, type SweepPoint } from "./points";

const state = (p: SweepPoint): "counts" | "left-out" | "fell" =>
  p.leftOut !== null ? "left-out" : p.fell ? "fell" : "counts";

/** Loads of a fitted curve from the lightest to the heaviest point, closer together at light load where it bends. */
function curveLoads(points: readonly SweepPoint[]): number[] {
  const loads = points.filter((p) => p.efficiency !== null && p.inBand).map((p) => p.outputI.value);
  if (loads.length < 2) return [];
  const low = lowest(loads);
  const high = highest(loads);
  return Array.from({ length: 60 }, (_, i) => low + (high - low) * (i / 59) ** 2);
}

const over = (p: SweepPoint): boolean => p.efficiency !== null && p.efficiency.value > 1;

/** What is said of a chart in which more comes out than goes in. */
function overUnity(points: readonly SweepPoint[]): Pick<ChartSpec, "note"> {
  const count = points.filter(over).length;
  return count
    ? {
        note: `${count === 1 ? "1 point is" : `${count} points are`} above 100 %, which can't be: a meter reads wrong.`,
      }
    : {};
}

/** Efficiency and output voltage against load, a series a battery voltage. */
export function sweepCharts(
  columns: readonly (SweepColumn & { readonly model: LossModel | null })[],
  setup: RunSetup,
): ChartSpec[] {
  const { nominalOutput } = setup.conditions;
  const band = regulationBand(setup);
  const x = { label: "Load current", unit: "A" as const };
  const all = (c: SweepColumn) => [...c.points, ...c.leftOut];
  const label = (c: SweepColumn) => `battery ${formatQuantity(c.battery, "V")}`;
  return [
    {
      id: "efficiency",
      title: "Efficiency against load",
      namesX: true,
      ...overUnity(columns.flatMap(all)),
      x,
      y: { label: "Efficiency", unit: "1" },
      claims: [
        { characteristic: "boost.peak-efficiency", axis: "y" },
        { characteristic: "boost.max-current", axis: "x" },
      ],
      series: columns.map((c, tone) => ({
        id: `efficiency-${c.battery}`,
        label: label(c),
        tone,
        points: all(c).flatMap((p) =>
          p.efficiency ? [{ x: p.outputI.value, y: p.efficiency.value, id: p.id, state: state(p) }] : [],
        ),
        // No curve of losses goes through points that have none.
        ...(c.model && !all(c).some(over)
          ? {
              fit: curveLoads(c.points).map((amps) => ({
                x: amps,
                y: efficiencyAt(
                  c.model as LossModel,
                  amps,
                  nominalOutput ?? median(c.points.map((p) => p.outputV.value)),
                ),
              })),
            }
          : {}),
      })),
    },
    {
      id: "output",
      title: "Output voltage against load",
      namesX: true,
      x,
      y: { label: "Output", unit: "V" },
      ...(band ? { band: { ...band, label: "regulation band" } } : {}),
      claims: [
        { characteristic: "boost.no-load-voltage", axis: "y" },
        { characteristic: "boost.max-current", axis: "x" },
      ],
      series: columns.map((c, tone) => ({
        id: `output-${c.battery}`,
        label: label(c),
        tone,
        points: all(c).map((p) => ({ x: p.outputI.value, y: p.outputV.value, id: p.id, state: state(p) })),
      })),
    },
  ];
}
