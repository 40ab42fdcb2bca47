"use client";

import { compute } from "@/workers/compute";
import { useMemo, useState } from "react";
import { characteristic, formatConditions } from "@/core/characteristics";
import { curveKinds, curvesOf, laidOver } from "@/core/compare";
import type { Analysis } from "@/core/measurement";
import { formatQuantity } from "@/core/quantities";
import { differences } from "@/core/verdicts/difference";
import { datedTitle } from "@/core/files/run-name";
import { logAnalysis, runDossier, type RunDossier } from "@/notebook";
import { ofBoard, useLive } from "@/storage";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { LogPlot } from "@/ui/log-plot";
import { Select } from "@/ui/select";
import { findingValue } from "./findings-table";

interface Side {
  readonly title: string;
  readonly configuration: string;
  readonly analysis: Analysis;
}

/** Two runs of a sample around a modification: curves over each other, the difference of every quantity. */
export function CompareRuns({ d, analysis }: { d: RunDossier; analysis: Analysis }) {
  const [otherId, setOtherId] = useState("");
  const runs = useLive(
    `others-${d.run.id}`,
    async () =>
      (await ofBoard(d.run.boardId, "run")).filter(
        (r) =>
          r.id !== d.run.id &&
          r.procedure === d.run.procedure &&
          r.sampleId === d.run.sampleId &&
          r.state === "finished",
      ),
    (n) => n.kinds.includes("run"),
  );
  const other = useLive<Side | null>(`other-${otherId}`, async () => {
    const dossier = otherId ? await runDossier(compute, otherId) : null;
    return dossier
      ? {
          title: dossier.run.title,
          configuration: dossier.run.pinned.configuration,
          analysis: await logAnalysis(compute, dossier),
        }
      : null;
  });
  if (runs.state !== "ready") return null;
  if (runs.value.length === 0)
    return (
      <p className="text-pencil">
        Log a second run of this kind with this sample, for example after changing the programming resistor. The two are
        overlaid here.
      </p>
    );
  const own: Side = { title: d.run.title, configuration: d.run.pinned.configuration, analysis };
  const chosen = runs.value.find((r) => r.id === otherId);
  const theirs = other.state === "ready" ? other.value : null;
  const earlier = chosen && chosen.startUtc < d.run.startUtc;
  return (
    <>
      <p className="mb-3">
        <Select
          label="Beside"
          value={otherId}
          onValue={setOtherId}
          choices={[
            { value: "", label: "choose a run of this sample" },
            ...runs.value.map((r) => ({
              value: r.id as string,
              label: `${datedTitle(r)}${r.pinned.configuration ? ` (${r.pinned.configuration})` : ""}`,
            })),
          ]}
        />
      </p>
      {theirs && chosen ? <Both before={earlier ? theirs : own} after={earlier ? own : theirs} /> : null}
    </>
  );
}

function Both({ before, after }: { before: Side; after: Side }) {
  const charts = useMemo(() => {
    const sources = [before, after].map((x, k) => ({
      runId: k === 0 ? "before" : "after",
      board: "",
      sample: "",
      title: k === 0 ? "before" : "after",
      charts: x.analysis.charts,
    }));
    return curveKinds(sources).flatMap((kind) => {
      const both = curvesOf(sources, kind.key);
      // Of each run the first curve: what it is about, not what was logged beside it.
      const one = ["before", "after"]
        .flatMap((id) => both.find((c) => c.runId === id) ?? [])
        .map((c) => ({ ...c, label: c.runId }));
      return (kind.runs > 1 && laidOver(sources, kind.key, one)) || [];
    });
  }, [before, after]);
  const view = useMemo(
    () => ({
      from: 0,
      to: charts.flatMap((c) => c.series.flatMap((s) => s.fit ?? [])).reduce((m, p) => Math.max(m, p.x), 1),
    }),
    [charts],
  );
  const rows = useMemo(() => differences(before.analysis.findings, after.analysis.findings), [before, after]);
  const nameOf = (s: Side) => `${s.title}${s.configuration ? `, ${s.configuration}` : ""}`;
  return (
    <>
      <p className="mb-3 max-w-prose text-sm text-pencil">
        Before: {nameOf(before)}. After: {nameOf(after)}. A change counts if it exceeds the combined uncertainty.
      </p>
      <div className="space-y-4">
        {charts.slice(0, 2).map((spec) => (
          <LogPlot key={spec.id} spec={spec} claims={[]} view={view} height={210} />
        ))}
        {charts
          .filter((c) => c.id === "temperature-over")
          .map((spec) => (
            <LogPlot key={spec.id} spec={spec} claims={[]} view={view} height={190} />
          ))}
      </div>
      <div className="mt-3">
        <DataTable
          label="Differences"
          rows={rows}
          columns={DIFFERENCES}
          id={(r) => r.characteristic + JSON.stringify(r.conditions)}
          rowProps={(r) => ({ "data-difference": r.characteristic })}
          least={560}
        />
      </div>
    </>
  );
}

type Difference = ReturnType<typeof differences>[number];

const apartFrom = ({ conditions }: Difference) =>
  formatConditions(Object.fromEntries(Object.entries(conditions).filter(([k]) => k !== "configuration")));
const DIFFERENCES: readonly DataColumn<Difference>[] = [
  {
    id: "quantity",
    head: "Quantity",
    names: true,
    className: "text-base",
    content: (r) => (
      <>
        {characteristic(r.characteristic)?.label ?? r.characteristic}{" "}
        <span className="text-sm text-pencil">{apartFrom(r)}</span>
      </>
    ),
  },
  {
    id: "before",
    head: "Before",
    figures: true,
    className: "text-base",
    content: (r) => (r.before ? findingValue(r.before) : "—"),
  },
  {
    id: "after",
    head: "After",
    figures: true,
    className: "text-base",
    content: (r) => (r.after ? findingValue(r.after) : "—"),
  },
  {
    id: "change",
    head: "Change",
    figures: true,
    className: "text-base",
    content: (r) =>
      r.change === null
        ? "—"
        : `${r.change > 0 ? "+" : ""}${formatQuantity(r.change, r.unit, { ...(r.expandedUncertainty ? { uncertainty: r.expandedUncertainty } : {}) })}`,
  },
  {
    id: "beyond",
    head: "Beyond the uncertainty",
    bare: true,
    content: (r) =>
      r.change === null ? (
        ""
      ) : r.beyond ? (
        <strong>changed</strong>
      ) : (
        <span className="text-pencil">within the uncertainty</span>
      ),
  },
];
