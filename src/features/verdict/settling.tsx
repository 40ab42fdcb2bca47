"use client";

import { compute } from "@/workers/compute";
import { highest } from "@/core/quantities";
import { useState } from "react";
import { limitBounds, type Limit } from "@/core/claims";
import type { Unit } from "@/core/quantities";
import type { HouseRules, Role } from "@/core/measurement";
import {
  pointToTake,
  whatSettles,
  writtenFor,
  type JudgedFinding,
  type OtherRange,
  type Settling,
} from "@/core/verdicts";
import { attempt } from "@/browser/notify";
import { findingsUnder, runDossier, type RunDossier } from "@/notebook";
import { ofKind } from "@/storage";
import { readingLogs } from "@/workers/client";
import { Button } from "@/ui/button";
import { VerdictMark } from "@/ui/verdict-mark";

/** The largest magnitude that a run read of each role; a log is looked through where it lies, in its worker. */
async function largestOf(d: RunDossier, roles: readonly Role[]): Promise<Partial<Record<Role, number>>> {
  if (d.log) {
    const figures = await readingLogs().ask("log-figures", { runId: d.run.id, rows: d.log.rows, roles });
    return Object.fromEntries(Object.entries(figures).flatMap(([role, f]) => (f ? [[role, f.largest]] : [])));
  }
  return Object.fromEntries(
    roles.flatMap((role) => {
      const read = d.points.flatMap((p) => p.cells[role]?.value ?? []).map(Math.abs);
      return read.length ? [[role, highest(read)]] : [];
    }),
  );
}

async function settle(
  j: JudgedFinding,
  limit: Limit,
  unit: Unit,
  rules: HouseRules,
  notebookId: string,
): Promise<readonly Settling[]> {
  const d = await runDossier(compute, j.runId);
  if (!d) return [];
  const instruments = await ofKind(notebookId, "instrument");
  const ranges = instruments.flatMap((i): OtherRange[] =>
    i.ranges.map((range) => ({ instrumentId: i.id, instrument: i.title, range })),
  );
  return whatSettles(
    j.finding,
    limit,
    unit,
    rules,
    { setup: d.run.setup, ranges, largest: await largestOf(d, Object.keys(d.run.setup.instruments) as Role[]) },
    (setup) => findingsUnder(compute, j.runId, setup),
  );
}

/** On a close call: each change that would settle it, with the interval it would give. What would leave it open is not listed. */
export function WhatWouldSettle({
  j,
  limit,
  unit,
  rules,
  notebookId,
}: {
  readonly j: JudgedFinding;
  readonly limit: Limit;
  readonly unit: Unit;
  readonly rules: HouseRules;
  readonly notebookId: string;
}) {
  const [list, setList] = useState<readonly Settling[] | null>(null);
  const [busy, setBusy] = useState(false);
  const bounds = limitBounds(limit, rules.houseTolerance);
  const point = bounds ? pointToTake(j.finding, bounds, unit) : null;
  const look = () => {
    setBusy(true);
    void attempt(async () => setList(await settle(j, limit, unit, rules, notebookId))).finally(() => setBusy(false));
  };
  return (
    <div className="mt-1 text-sm min-[760px]:col-span-2">
      {list === null ? (
        <Button onClick={look} disabled={busy}>
          {busy ? "Working out each change …" : "What would settle this?"}
        </Button>
      ) : (
        <div role="status">
          <h4 className="font-semibold">What would settle this, with the same readings</h4>
          {list.length || point ? (
            <ul className="divide-y divide-rule border-y border-rule">
              {point ? <li className="py-1">{point}</li> : null}
              {list.map((s) => (
                <li key={s.change.text} className="grid gap-x-4 py-1 min-[640px]:grid-cols-[minmax(0,1fr)_14rem_6rem]">
                  <span>{s.change.text}</span>
                  <span className="figures">
                    {writtenFor(s.interval, unit)(s.interval.low)} to {writtenFor(s.interval, unit)(s.interval.high)}
                  </span>
                  <VerdictMark word={s.word} />
                </li>
              ))}
            </ul>
          ) : (
            <p>
              Nothing on this bench: no other range, no four-wire measurement and no reasonable number of repeats. Use a
              better meter.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
