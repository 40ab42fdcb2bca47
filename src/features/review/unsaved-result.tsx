"use client";

import { useMemo } from "react";
import { characteristic } from "@/core/characteristics";
import type { Analysis } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import { attempt, notify } from "@/browser/notify";
import { Button } from "@/ui/button";
import { Charts, chartsAhead } from "@/ui/chart";
import { Section } from "@/ui/section";
import { Answer } from "./answer";
import { findingsAsTable, FindingsTable } from "./findings-table";
import { LogCurves, type DrawnLog } from "./log-curves";
import { ResultList } from "./result-list";

chartsAhead();

const NONE = new Map<string, never>();
const nowhere = () => undefined;

/** What a log gives that no board has: the answer, its curves, its results and why some are absent. */
export function UnsavedResult({
  procedure: p,
  analysis,
  log,
}: {
  readonly procedure: Procedure;
  readonly analysis: Analysis;
  readonly log: DrawnLog | null;
}) {
  const { findings, notes, charts } = analysis;
  const overTime = useMemo(
    () => charts.filter((c) => c.x.unit === "s").map((spec) => ({ spec, claims: [] })),
    [charts],
  );
  const apart = useMemo(
    () => charts.filter((c) => !log || c.x.unit !== "s").map((spec) => ({ spec, claims: [] })),
    [charts, log],
  );
  const beside =
    log !== null &&
    findings.length > 0 &&
    !findings.some((f) => f.conditions.battery !== undefined || f.conditions.channel !== undefined);
  const absent = (analysis.notStated ?? []).filter((n) => n.code !== "did-not-happen");
  const copy = (
    <Button
      className="no-print"
      onClick={() =>
        void attempt(() =>
          navigator.clipboard.writeText(findingsAsTable(findings)).then(() => notify("Results copied.")),
        )
      }
    >
      Copy table
    </Button>
  );
  return (
    <>
      <Section mark="results" title="Results" aside={copy}>
        <Answer procedure={p} analysis={analysis} verdicts={NONE} />
        <div className={beside ? "grid gap-x-6 gap-y-4 min-[1100px]:grid-cols-[minmax(0,1fr)_23rem]" : ""}>
          {log && overTime.length ? (
            <div className="min-w-0">
              <LogCurves log={log} charts={overTime} />
            </div>
          ) : null}
          {beside ? (
            <div className="min-w-0 min-[1100px]:order-last">
              <ResultList findings={findings} verdicts={NONE} boardId="" onPoint={nowhere} />
            </div>
          ) : null}
        </div>
        {apart.length ? (
          <div className="space-y-8">
            <Charts charts={apart} />
          </div>
        ) : null}
        {beside ? null : <FindingsTable findings={findings} onPoint={nowhere} />}
        {absent.length ? (
          <>
            <h3 className="mt-4 font-semibold">Not stated</h3>
            <ul className="text-sm">
              {absent.map((n) => (
                <li key={n.characteristic + JSON.stringify(n.conditions ?? {})}>
                  <span className="font-medium">{characteristic(n.characteristic)?.label ?? n.characteristic}:</span>{" "}
                  {n.reason}
                </li>
              ))}
            </ul>
          </>
        ) : null}
        {notes.length ? (
          <>
            <h3 className="mt-4 font-semibold">Notes</h3>
            <ul className="list-disc space-y-0.5 pl-5 text-sm">
              {notes.map((n, k) => (
                <li key={n.code + k}>{n.message}</li>
              ))}
            </ul>
          </>
        ) : null}
      </Section>
    </>
  );
}
