import { useMemo } from "react";
import { roleLabel, roleUnit, type ChartSpec } from "@/core/measurement";
import type { PredictedCurve } from "@/core/procedures";
import { LogPlot } from "@/ui/log-plot";
import { ELEMENTS } from "@/core/quantities";

const { nth } = ELEMENTS;

const LABELS = { V: "Voltage", A: "Current", "°C": "Temperature" } as const;

/** What is predicted, drawn: the curves as the log will show them if all goes as planned. */
export function Predicted({ curves }: { readonly curves: readonly PredictedCurve[] }) {
  const charts = useMemo(
    () =>
      curves.map((c): ChartSpec => {
        const unit = roleUnit(c.role) as keyof typeof LABELS;
        return {
          id: `predicted-${c.role}`,
          title: roleLabel(c.role),
          x: { label: "Time", unit: "s" },
          y: { label: LABELS[unit], unit },
          claims: [],
          series: [
            {
              id: c.role,
              label: "predicted",
              tone: 0,
              predicted: true,
              points: [],
              fit: c.time.map((x, k) => ({ x, y: nth(c.values, k) })),
            },
          ],
        };
      }),
    [curves],
  );
  if (charts.length === 0) return null;
  return (
    <div className="mt-3 grid gap-x-6 gap-y-2 grid-cols-1">
      {charts.map((spec) => (
        <LogPlot
          key={spec.id}
          spec={spec}
          claims={[]}
          view={{ from: 0, to: spec.series[0]?.fit?.at(-1)?.x ?? 1 }}
          height={150}
          live
        />
      ))}
    </div>
  );
}
