import type { ChartSpec, Role } from "@/core/procedures";
import { procedure, roleLabel } from "@/core/procedures";
import type { RunDossier } from "@/storage";
import type { LiveStatus } from "@/workers/live-protocol";

const GROUPS: readonly { readonly id: string; readonly title: string; readonly label: string; readonly unit: "A" | "V" | "°C"; readonly roles: readonly Role[] }[] = [
  { id: "current", title: "Current", label: "Current", unit: "A", roles: ["cellCurrent", "batteryCurrent", "outputCurrent", "inputCurrent", "referenceCurrent"] },
  { id: "voltage", title: "Voltage", label: "Voltage", unit: "V", roles: ["cellVoltage", "batteryVoltage", "inputVoltage", "outputVoltage", "referenceVoltage"] },
  { id: "temperature", title: "Temperature", label: "Temperature", unit: "°C", roles: ["partTemperature", "cellTemperature", "ambientTemperature"] },
];

/** The growing curves of a log, phases shaded and marks in them. */
export function liveCharts(status: LiveStatus | null, d: RunDossier): ChartSpec[] {
  if (!status || status.rows < 2) return [];
  // Beside a charge's own current its input's says little; where a log is led, both are what it is about.
  const led = procedure(d.run.procedure)?.guide !== undefined;
  const marks = d.marks.map((m) => ({ at: m.time, label: m.what }));
  return GROUPS.flatMap((g) => {
    const roles = g.id === "voltage" ? [...g.roles, ...(Object.keys(status.curves) as Role[]).filter((r) => /^cell\d+Voltage$/.test(r))] : g.roles.filter((r) => led || r !== "inputCurrent");
    const series = roles.flatMap((role, tone) => {
      const c = status.curves[role];
      return c && c.x.length > 1 ? [{ id: role, label: roleLabel(role).toLowerCase(), tone, points: [], fit: Array.from(c.x, (x, k) => ({ x, y: c.y[k] as number })) }] : [];
    });
    const title = g.id === "current" && series.every((x) => x.id === "cellCurrent") ? "Current into the cell" : g.title;
    return series.length ? [{ id: g.id, title, x: { label: "Time", unit: "s" as const }, y: { label: g.label, unit: g.unit }, series, spans: status.state.spans, marks, claims: [] }] : [];
  });
}
