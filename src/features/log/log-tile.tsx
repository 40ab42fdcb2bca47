"use client";

import { compute } from "@/workers/compute";
import { useEffect } from "react";
import type { BoardRecord } from "@/core/files/records";
import { atBench, procedure } from "@/core/procedures";
import { roleLabel, type Role } from "@/core/measurement";
import { formatRoughly } from "@/core/quantities";
import { useLeaveGuard } from "@/browser/leave";
import { useFollowedRun, useRunWriter, type RunDossier } from "@/notebook";
import { Button, buttonClass } from "@/ui/button";
import { Link } from "@/ui/link";
import type { LiveStatus } from "@/workers/live-protocol";
import { storedPace } from "./pace";
import { shownReading } from "./readout";
import { useLiveLog, type LiveLogView } from "./use-live-log";

/** What a log tells the screen that it is one of. */
export interface TileNews {
  readonly title: string;
  /** A that it takes from its plug; null where no column says so. */
  readonly input: number | null;
  readonly alarm: string | null;
}

/** Readings that a tile has room for. */
const SHOWN = 4;

/** A log among others: it samples, watches and stores here as on its own page. */
export function LogTile({
  id,
  muted,
  onNews,
}: {
  readonly id: string;
  readonly muted: boolean;
  onNews(id: string, news: TileNews): void;
}) {
  const live = useFollowedRun(compute, id);
  const { writer, takeOver } = useRunWriter(id);
  if (live.state !== "ready" || !live.value || writer === "asking")
    return <section className="border-b border-rule p-4 text-pencil">Loading …</section>;
  return (
    <Tile
      d={live.value.d}
      board={live.value.board}
      writing={writer === "writing"}
      muted={muted}
      onTakeOver={takeOver}
      onNews={onNews}
    />
  );
}

/** A from the plug: the input's own column; of a charger that passes its input on, the cell's. */
const inputOf = (status: LiveStatus | null): number | null => status?.row.inputCurrent ?? null;

/** What is wrong with a log, in a word or two; null where nothing is. */
const alarmOf = ({ stopped, events, trouble }: LiveLogView): string | null =>
  stopped
    ? `STOP: ${stopped.message}`
    : trouble
      ? "Not stored"
      : events.at(-1)?.kind === "interrupted"
        ? "Interrupted"
        : null;

function Tile({
  d,
  board,
  writing,
  muted,
  onTakeOver,
  onNews,
}: {
  readonly d: RunDossier;
  readonly board: BoardRecord;
  readonly writing: boolean;
  readonly muted: boolean;
  onTakeOver(): void;
  onNews(id: string, news: TileNews): void;
}) {
  const { run } = d;
  const log = useLiveLog(run, d.marks, writing, storedPace(run.id), muted);
  const { status, stopped } = log;
  useLeaveGuard(writing && status !== null);
  const title = `${board.title}, ${run.title}`;
  const [input, alarm] = [inputOf(status), alarmOf(log)];
  useEffect(() => onNews(run.id, { title, input, alarm }), [onNews, run.id, title, input, alarm]);
  const state = status?.state;
  const last = log.events.at(-1);
  return (
    <section
      aria-label={title}
      data-log={board.title}
      className={`min-w-0 border-b border-rule p-4 min-[900px]:odd:border-r ${stopped ? "bg-film outline-2 -outline-offset-2 outline-misses" : ""}`}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-lg font-semibold">{board.title}</h2>
        <Link href={`/run/${run.id}/log`} className={buttonClass("bare")}>
          Open log
        </Link>
      </div>
      <p className="truncate text-sm text-pencil">{run.title}</p>
      <p className="mt-1 flex flex-wrap items-baseline justify-between gap-x-4 text-2xl font-semibold">
        <span data-testid="tile-phase" aria-live="polite">
          {state?.phase ?? "opening …"}
        </span>
        {state?.remaining ? <span className="figures font-normal">{formatRoughly(state.remaining)} left</span> : null}
      </p>
      {alarm ? (
        <p role="alert" className="mt-1 font-semibold text-misses">
          ! {board.title}: {alarm}
          {stopped ? `. ${stopped.act ?? ""} ` : ""}
          {stopped && writing ? <Button onClick={log.safeAgain}>Clear stop</Button> : null}
        </p>
      ) : last ? (
        <p className="mt-1 truncate text-sm text-pencil">{last.message}</p>
      ) : null}
      <Figures d={d} status={status} />
      {writing ? null : (
        <p className="mt-2 text-sm text-pencil">
          Another tab is writing this log. <Button onClick={onTakeOver}>Take over here</Button>
        </p>
      )}
    </section>
  );
}

/** The log's first readings, as its meters show them. */
function Figures({ d: { run }, status }: { readonly d: RunDossier; readonly status: LiveStatus | null }) {
  const p = procedure(run.procedure);
  const roles: readonly Role[] = (
    atBench(p)?.roles?.(run.setup) ??
    p?.record.roles.map((r) => r.role).filter((r) => r !== "time") ??
    []
  )
    .filter((r) => !status || status.row[r] !== undefined)
    .slice(0, SHOWN);
  return (
    <dl className="mt-2 grid grid-cols-2 gap-x-5 gap-y-1">
      {roles.map((role) => {
        const { number, unit } = shownReading(run, role, status?.row);
        return (
          <div key={role}>
            <dt className="text-sm text-pencil">{roleLabel(role)}</dt>
            <dd className="figures whitespace-nowrap text-3xl leading-tight">
              {number} <span className="text-base text-pencil">{unit}</span>
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
