import { roleLabel, type ChartSpec, type Role } from "@/core/measurement";
import { procedure, type PredictedCurve, ofTrace } from "@/core/procedures";
import type { RunDossier } from "@/notebook";
import type { LiveStatus } from "@/workers/live-protocol";
import { ELEMENTS } from "@/core/quantities";

const { nth, sampleAt } = ELEMENTS;

const GROUPS: readonly {
  readonly id: string;
  readonly title: string;
  readonly label: string;
  readonly unit: "A" | "V" | "°C";
  readonly roles: readonly Role[];
}[] = [
  {
    id: "current",
    title: "Current",
    label: "Current",
    unit: "A",
    roles: ["cellCurrent", "batteryCurrent", "outputCurrent", "inputCurrent", "referenceCurrent"],
  },
  {
    id: "voltage",
    title: "Voltage",
    label: "Voltage",
    unit: "V",
    roles: ["cellVoltage", "batteryVoltage", "inputVoltage", "outputVoltage", "referenceVoltage"],
  },
  {
    id: "temperature",
    title: "Temperature",
    label: "Temperature",
    unit: "°C",
    roles: ["partTemperature", "cellTemperature", "ambientTemperature"],
  },
];

/** s on the log's clock at which what is predicted began: with the first phase, or with the log while none has begun. */
const beginning = (status: LiveStatus): number => status.state.spans[0]?.from ?? 0;

/** The s that a live screen shows: all that was read, and all that is predicted, so that no half of it is empty for hours. */
export function liveExtent(status: LiveStatus | null, predicted: readonly PredictedCurve[]): number {
  const end = status ? predicted.reduce((m, c) => Math.max(m, c.time.at(-1) ?? 0), 0) + beginning(status) : 0;
  return Math.max(10, status?.row.time ?? 0, end);
}

/** The growing curves of a log, phases shaded and marks in them, over what was predicted. */
export function liveCharts(
  status: LiveStatus | null,
  d: RunDossier,
  predicted: readonly PredictedCurve[],
): ChartSpec[] {
  if (!status || status.rows < 2) return [];
  // Beside a charge's own current its input's says little; where a log is guided, both are what it is about.
  const guided = ofTrace(procedure(d.run.procedure))?.guide !== undefined;
  const marks = d.marks.map((m) => ({ at: m.time, label: m.what }));
  return GROUPS.flatMap((g) => {
    const roles =
      g.id === "voltage"
        ? [...g.roles, ...(Object.keys(status.curves) as Role[]).filter((r) => /^cell\d+Voltage$/.test(r))]
        : g.roles.filter((r) => guided || r !== "inputCurrent");
    const series = roles.flatMap((role, tone) => {
      const c = status.curves[role];
      return c && c.x.length > 1
        ? [
            {
              id: role,
              label: roleLabel(role).toLowerCase(),
              tone,
              points: [],
              fit: Array.from(c.x, (x, k) => ({ x, y: sampleAt(c.y, k) })),
            },
          ]
        : [];
    });
    const begun = beginning(status);
    // Behind what is measured, and only of what is measured.
    const ghosts = predicted
      .filter((c) => series.some((x) => x.id === c.role))
      .map((c) => ({
        id: `predicted-${c.role}`,
        label: "predicted",
        tone: 0,
        predicted: true as const,
        points: [],
        fit: c.time.map((t, k) => ({ x: t + begun, y: nth(c.values, k) })),
      }));
    const title = g.id === "current" && series.every((x) => x.id === "cellCurrent") ? "Current into the cell" : g.title;
    return series.length
      ? [
          {
            id: g.id,
            title,
            x: { label: "Time", unit: "s" as const },
            y: { label: g.label, unit: g.unit },
            series: [...ghosts, ...series],
            spans: status.state.spans,
            marks,
            claims: [],
          },
        ]
      : [];
  });
}
