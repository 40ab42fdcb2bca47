"use client";

import { useMemo, useState } from "react";
import { characteristic, formatConditions } from "@/core/characteristics";
import type { Analysis, ChartSpec } from "@/core/procedures";
import { formatQuantity } from "@/core/quantities";
import { differences } from "@/core/verdicts/difference";
import { logAnalysis, ofBoard, runDossier, useLive, type RunDossier } from "@/storage";
import { LogPlot } from "@/ui/log-plot";
import { findingValue } from "./findings-table";

interface Side {
  readonly title: string;
  readonly configuration: string;
  readonly analysis: Analysis;
}

/** s at which a log's charge begins, so that two lie on each other there. */
const startOf = (spec: ChartSpec | undefined): number => spec?.handles?.find((h) => h.id === "start")?.at ?? 0;

/** A chart of two logs, both counted from where charging begins. */
function laidOver(a: ChartSpec, b: ChartSpec): ChartSpec {
  const from = (spec: ChartSpec, which: number, word: string) =>
    spec.series.slice(0, 1).map((s) => ({ ...s, id: `${s.id}-${which}`, tone: which, label: word, fit: (s.fit ?? []).map((p) => ({ x: p.x - startOf(spec), y: p.y })).filter((p) => p.x >= 0) }));
  const { spans: _spans, handles: _handles, marks: _marks, ...rest } = a;
  void [_spans, _handles, _marks];
  return { ...rest, id: `${a.id}-over`, x: { label: startOf(a) > 0 ? "Time from the start of the charge" : "Time", unit: "s" }, claims: [], series: [...from(a, 0, "before"), ...from(b, 1, "after")] };
}

/** Two runs of a sample around a modification: curves over each other, the difference of every quantity. */
export function CompareRuns({ d, analysis }: { d: RunDossier; analysis: Analysis }) {
  const [otherId, setOtherId] = useState("");
  const runs = useLive(`others-${d.run.id}`, async () => (await ofBoard(d.run.boardId, "run")).filter((r) => r.id !== d.run.id && r.procedure === d.run.procedure && r.sampleId === d.run.sampleId && r.state === "finished"), (n) => n.kinds.includes("run"));
  const other = useLive<Side | null>(`other-${otherId}`, async () => {
    const found = otherId ? await runDossier(otherId) : null;
    return found ? { title: found.run.title, configuration: found.run.pinned.configuration, analysis: await logAnalysis(found) } : null;
  });
  if (runs.state !== "ready") return null;
  if (runs.value.length === 0) return <p className="text-pencil">Log a second run of this kind with this sample, after another programme resistor or any other change: the two are then laid over each other here.</p>;
  const own: Side = { title: d.run.title, configuration: d.run.pinned.configuration, analysis };
  const chosen = runs.value.find((r) => r.id === otherId);
  const theirs = other.state === "ready" ? other.value : null;
  const earlier = chosen && chosen.startUtc < d.run.startUtc;
  return (
    <>
      <label className="mb-3 flex flex-wrap items-center gap-2">
        Beside
        <select value={otherId} onChange={(e) => setOtherId(e.target.value)} className="max-w-full border border-pencil/60 bg-field px-2 py-1.5">
          <option value="">choose a run of this sample</option>
          {runs.value.map((r) => (
            <option key={r.id} value={r.id}>
              {r.title}
              {r.pinned.configuration ? ` (${r.pinned.configuration})` : ""}
            </option>
          ))}
        </select>
      </label>
      {theirs && chosen ? <Both before={earlier ? theirs : own} after={earlier ? own : theirs} /> : null}
    </>
  );
}

function Both({ before, after }: { before: Side; after: Side }) {
  const charts = useMemo(
    () =>
      before.analysis.charts.flatMap((a) => {
        const b = after.analysis.charts.find((c) => c.id === a.id);
        return b ? [laidOver(a, b)] : [];
      }),
    [before, after],
  );
  const view = useMemo(() => ({ from: 0, to: charts.flatMap((c) => c.series.flatMap((s) => s.fit ?? [])).reduce((m, p) => Math.max(m, p.x), 1) }), [charts]);
  const rows = useMemo(() => differences(before.analysis.findings, after.analysis.findings), [before, after]);
  const said = (s: Side) => `${s.title}${s.configuration ? `, ${s.configuration}` : ""}`;
  return (
    <>
      <p className="mb-3 max-w-prose text-sm text-pencil">
        Before: {said(before)}. After: {said(after)}. A change counts where it is larger than both runs&apos; uncertainties together.
      </p>
      <div className="space-y-4">
        {charts.slice(0, 2).map((spec) => (
          <LogPlot key={spec.id} spec={spec} claims={[]} view={view} height={210} />
        ))}
        {charts.filter((c) => c.id === "temperature-over").map((spec) => (
          <LogPlot key={spec.id} spec={spec} claims={[]} view={view} height={190} />
        ))}
      </div>
      <div className="mt-3 overflow-x-auto">
        <table className="w-full min-w-140 text-left">
          <thead className="text-sm text-pencil">
            <tr className="border-b border-pencil/60">
              <th className="py-1 pr-4 font-medium">Quantity</th>
              <th className="py-1 pr-4 text-right font-medium">before</th>
              <th className="py-1 pr-4 text-right font-medium">after</th>
              <th className="py-1 pr-4 text-right font-medium">change</th>
              <th className="py-1 font-medium" />
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr key={r.characteristic + JSON.stringify(r.conditions)} className="border-b border-rule" data-difference={r.characteristic}>
                <th scope="row" className="py-1 pr-4 font-normal">
                  {characteristic(r.characteristic)?.label ?? r.characteristic} <span className="text-sm text-pencil">{formatConditions(Object.fromEntries(Object.entries(r.conditions).filter(([k]) => k !== "configuration")))}</span>
                </th>
                <td className="figures py-1 pr-4 text-right">{r.before ? findingValue(r.before) : "—"}</td>
                <td className="figures py-1 pr-4 text-right">{r.after ? findingValue(r.after) : "—"}</td>
                <td className="figures py-1 pr-4 text-right">
                  {r.change === null ? "—" : `${r.change > 0 ? "+" : ""}${formatQuantity(r.change, r.unit, { ...(r.expandedUncertainty ? { uncertainty: r.expandedUncertainty } : {}) })}`}
                </td>
                <td className="py-1 text-sm">{r.change === null ? "" : r.beyond ? <strong>changed</strong> : <span className="text-pencil">within the uncertainty</span>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
