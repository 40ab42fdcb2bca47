"use client";

import { formatDuration, formatParts, formatRoughly } from "@/core/quantities";
import type { ReactNode } from "react";
import { atBench, procedure } from "@/core/procedures";
import { roleLabel, type Role } from "@/core/measurement";
import type { RunRecord } from "@/core/files/records";
import type { LiveStatus } from "@/workers/live-protocol";
import { displayOf, shownReading } from "./readout";

/** s without a reading after which the figures are said to be old. */
const OLD = 5;

/** Running values, the largest thing on the page, the phase and the time left, and what has been counted. `typed` stands in place of the values where they are typed. */
export function LogReadouts({
  run,
  status,
  typed = null,
}: {
  readonly run: RunRecord;
  readonly status: LiveStatus | null;
  readonly typed?: ReactNode;
}) {
  const p = procedure(run.procedure);
  if (!p) return null;
  // Of the simulated bench, what it has no meter for is not shown empty.
  const own = atBench(p)
    ?.roles?.(run.setup)
    .filter((r) => run.source.kind !== "simulated" || !status || status.row[r] !== undefined);
  const shown =
    own ??
    p.record.roles
      .map((r) => r.role)
      .filter(
        (r) => r !== "time" && (status?.row[r] !== undefined || p.record.roles.find((x) => x.role === r)?.required),
      );
  // On a phone two readouts with a sign and four decimals don't stand beside each other.
  const long = shown.some((role) => displayOf(run, role).decimals > 3);
  const state = status?.state;
  const simulated = run.source.kind === "simulated";
  return (
    <>
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4 border-b border-rule pb-2">
        <p className="text-2xl font-semibold" data-testid="phase" aria-live="polite">
          {state?.phase ?? "opening …"}
        </p>
        {state?.remaining === null || state?.remaining === undefined ? null : (
          <p className="text-right">
            <span className="text-sm text-pencil">done in about </span>
            <span className="figures text-2xl" data-testid="remaining">
              {formatRoughly(state.remaining)}
            </span>
          </p>
        )}
      </div>
      {typed ?? (
        <div className={`grid gap-x-5 gap-y-2 ${long ? "min-[430px]:grid-cols-2" : "grid-cols-2"}`}>
          {shown.map((role) => (
            <Readout key={role} run={run} role={role} status={status} />
          ))}
        </div>
      )}
      <dl className="mt-3 grid grid-cols-2 gap-x-5 gap-y-1 border-t border-rule pt-2">
        {state?.figures.map((f) => {
          const parts =
            f.unit === "s"
              ? { number: formatDuration(Math.round(f.value)), unit: "" }
              : formatParts(f.value, f.unit, { digits: f.digits ?? 4 });
          return (
            <div key={f.label}>
              <dt className="text-sm text-pencil">{f.label}</dt>
              <dd className="figures whitespace-nowrap text-2xl leading-tight" data-figure={f.label}>
                {parts.number} <span className="text-base text-pencil">{parts.unit}</span>
              </dd>
            </div>
          );
        })}
      </dl>
      {simulated && status && !state?.complete && status.silent > OLD ? (
        <p className="mt-1 text-sm text-misses">No reading for {formatDuration(Math.round(status.silent))}.</p>
      ) : null}
    </>
  );
}

function Readout({
  run,
  role,
  status,
}: {
  readonly run: RunRecord;
  readonly role: Role;
  readonly status: LiveStatus | null;
}) {
  const { number, unit } = shownReading(run, role, status?.row);
  return (
    <div>
      <p className="text-sm text-pencil">{roleLabel(role)}</p>
      <p className="figures whitespace-nowrap text-5xl leading-none" data-readout={roleLabel(role)}>
        <span className="inline-block min-w-[5ch]">{number}</span>
        <span className="ml-1 text-xl text-pencil">{unit}</span>
      </p>
    </div>
  );
}
