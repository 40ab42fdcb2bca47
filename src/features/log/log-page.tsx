"use client";

import { compute } from "@/workers/compute";
import { layer } from "@/notebook/layers";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { atBench, procedure, ofTrace } from "@/core/procedures";
import { capital, formatRoughly } from "@/core/quantities";
import type { BoardRecord } from "@/core/files/records";
import { useKeys } from "@/browser/keys";
import { attempt } from "@/browser/notify";
import { useLeaveGuard } from "@/browser/leave";
import { useWakeLock } from "@/browser/wake-lock";
import { useFollowedRun, useRunWriter, type RunDossier } from "@/notebook";
import { change, edit, compactTrace, remove } from "@/storage";
import { Button } from "@/ui/button";
import { RunHead, StopAlert } from "@/ui/run-head";
import { ConfirmDialog } from "@/ui/confirm-dialog";
import { OtherTab } from "@/ui/other-tab";
import { LogPlot } from "@/ui/log-plot";
import { Quiet } from "@/ui/section";
import { liveCharts, liveExtent } from "./live-charts";
import { LogReadouts } from "./log-readouts";
import { Happened } from "./happened";
import { MarkDialog } from "./mark-dialog";
import { keepPace, PACES, storedPace } from "./pace";
import { TypedRow } from "./typed-row";
import { markAt, useLiveLog } from "./use-live-log";

/** Where a log runs: read from a metre away, watched by itself, marked with one key. */
export function LogPage({ id }: { id: string }) {
  const live = useFollowedRun(compute, id);
  const { writer, takeOver } = useRunWriter(id);
  if (live.state === "loading" || writer === "asking") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The run can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such run in this browser.</Quiet>;
  const { d, board } = live.value;
  if (d.run.state !== "open" || !ofTrace(procedure(d.run.procedure))?.watch)
    return (
      <Quiet>
        This run is not in progress.{" "}
        <Link className="underline" href={`/run/${id}/${d.run.state === "prepared" ? "prepare" : "review"}`}>
          {d.run.state === "prepared" ? "Prepare run" : "Open result"}
        </Link>
        .
      </Quiet>
    );
  return <LogScreen d={d} board={board} writing={writer === "writing"} onTakeOver={takeOver} />;
}

/** The one thing to do now, read from a metre away. */
function Task({ text, typed, writing }: { text: string | undefined; typed: boolean; writing: boolean }) {
  return (
    <div className="mb-3 border-l-4 border-copper bg-film px-3 py-2">
      <p className="text-sm text-pencil">{typed ? "Do now" : "The simulated bench does now"}</p>
      <p className="text-xl font-semibold leading-snug" data-testid="task" aria-live="polite">
        {text ?? (typed && writing ? "Connect the bench as in the wiring sketch, then type a first reading." : "…")}
      </p>
    </div>
  );
}

/** s that nobody waits for beside a simulated bench. */
const LONG = 600;
const QUICK = 600;

/** Nobody has to wait hours for a simulated log: its clock, offered where it is needed. */
function ClockOffer({ seconds, onPace }: { readonly seconds: number; onPace(factor: number): void }) {
  return seconds > LONG ? (
    <p className="mt-2 flex flex-wrap items-center gap-3 text-sm text-pencil">
      {formatRoughly(seconds)} at the ordinary speed.
      <Button onClick={() => onPace(QUICK)}>Run at × {QUICK}</Button>
    </p>
  ) : null;
}

/** What may happen to a charge that nobody looks at, done to the simulated bench. */
const MISHAPS = [
  ["unplug", "Unplug input"],
  ["plug", "Plug input in"],
  ["loose", "Loose plug for 6 s"],
  ["cell-out", "Remove cell"],
  ["cell-in", "Insert cell"],
] as const;

function Disturb({ onAct, disabled }: { onAct(what: string): void; disabled: boolean }) {
  return (
    <details className="mt-3 text-sm">
      <summary>Disturb simulated bench</summary>
      <div className="mt-2 flex flex-wrap gap-2">
        {MISHAPS.map(([what, label]) => (
          <Button key={what} onClick={() => onAct(what)} disabled={disabled}>
            {label}
          </Button>
        ))}
      </div>
    </details>
  );
}

/** Everything that a log's screen can do, by key and by button. */
function useLogActs(d: RunDossier, log: ReturnType<typeof useLiveLog>, setPace: (factor: number) => void) {
  const { run } = d;
  const router = useRouter();
  const { status } = log;
  const act = ofTrace(procedure(run.procedure));
  const guided = act?.guide !== undefined;
  const complete = status?.state.complete ?? false;
  const mark = (kind: string, text: string) =>
    void attempt(() => change(`mark: ${text}`, [markAt(run, status?.row.time ?? 0, kind, text)]));
  return {
    act,
    guided,
    complete,
    mark,
    undoMark: () => {
      const last = d.annotations
        .filter((a) => a.what === "mark")
        .sort((a, b) => a.createdAt.localeCompare(b.createdAt))
        .at(-1);
      if (last) void attempt(() => remove("undo mark", [last]));
    },
    changePace: (factor: number) => {
      setPace(factor);
      keepPace(run.id, factor);
      log.say({ say: "pace", factor });
    },
    finish: () =>
      void attempt(async () => {
        await log.close();
        keepPace(run.id, null);
        await compactTrace(run.id);
        // What was stopped before its end says so: its step of the bench stays open.
        const time = status?.row.time;
        const stop =
          complete || guided || time === undefined
            ? []
            : [{ ...layer(run, "mark", "stopped", "stopped by the tester"), time }];
        await change(`finish ${run.title}`, [edit(run, { ...run, state: "finished" }), ...stop]);
        router.push(`/run/${run.id}/review`);
      }),
    // The simulated bench marks what its guide does; there is nothing left to mark by hand but a note.
    marks: run.source.kind === "simulated" && guided ? [] : (act?.marks ?? []),
    /** Whether done lights of channels are marked. */
    lit: act?.measures.includes("channels.done-voltage") ?? false,
  };
}
type LogActs = ReturnType<typeof useLogActs>;

const CHANNELS = ["1", "2", "3", "4", "5", "6"];

/** The name of the tab: what stops the log, else its phase and the time left, for whoever works in another one. */
function useLogTitle(run: RunDossier["run"], board: BoardRecord, { status, stopped }: ReturnType<typeof useLiveLog>) {
  const state = status?.state;
  const title = stopped
    ? `STOP: ${stopped.message}`
    : state
      ? `${state.phase}${state.remaining !== null ? `, ${formatRoughly(state.remaining)} left` : ""} · ${board.title}`
      : run.title;
  useEffect(() => {
    document.title = `${title} · Nimbus Bench`;
  }, [title]);
}

function LogScreen({
  d,
  board,
  writing,
  onTakeOver,
}: {
  d: RunDossier;
  board: BoardRecord;
  writing: boolean;
  onTakeOver(): void;
}) {
  const { run } = d;
  const [pace, setPace] = useState(() => storedPace(run.id));
  const [muted, setMuted] = useState(false);
  const [keysOn, setKeysOn] = useState(true);
  const [noting, setNoting] = useState(false);
  /** A log that has not come to its end is only finished after asking. */
  const [asking, setAsking] = useState(false);
  const log = useLiveLog(run, d.marks, writing, pace, muted);
  const { status, stopped } = log;
  useWakeLock(writing);
  useLeaveGuard(writing && status !== null);
  const acts = useLogActs(d, log, setPace);
  const simulated = run.source.kind === "simulated";
  const state = status?.state;
  useLogTitle(run, board, log);
  const channels = acts.lit
    ? Object.fromEntries(CHANNELS.map((n) => [n, () => acts.mark(`channel:${n}`, `channel ${n} done`)]))
    : {};
  const byKey = Object.fromEntries(acts.marks.map((m) => [m.key, () => acts.mark(m.kind, m.what)]));
  useKeys(
    {
      ...byKey,
      o: () => setNoting(true),
      z: acts.undoMark,
      s: () => setMuted((x) => !x),
      ...(acts.complete ? { f: acts.finish } : {}),
      ...channels,
      ...(stopped ? { g: log.safeAgain } : {}),
    },
    writing && keysOn && status !== null,
  );

  return (
    <div className="border border-rule bg-sheet">
      <RunHead
        title={run.title}
        board={board}
        count={`${status?.rows ?? 0} ${status?.rows === 1 ? "reading" : "readings"}`}
        countId="rows"
        clock={simulated && writing ? { pace, of: PACES, onPace: acts.changePace } : null}
        tones={{ on: !muted, onTones: (on) => setMuted(!on) }}
        keys={{ on: keysOn, onKeys: setKeysOn }}
      />
      {!writing ? (
        <OtherTab says="Another tab is writing this log. Its readings appear here." onTakeOver={onTakeOver} />
      ) : null}
      {stopped ? <StopAlert why={stopped.message} act={stopped.act} onSafe={writing ? log.safeAgain : null} /> : null}
      <Trouble log={log} writing={writing} />
      <div className="grid min-[1000px]:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <div className="border-rule px-4 py-3 min-[1000px]:border-r">
          {acts.guided ? <Task text={state?.task} typed={!simulated} writing={writing} /> : null}
          <LogReadouts
            run={run}
            status={status}
            typed={
              writing && !simulated ? (
                <TypedRow
                  d={d}
                  before={status?.row ?? null}
                  onRow={(values) => log.say({ say: "row", values })}
                  muted={muted}
                />
              ) : null
            }
          />
          {writing ? <Marking d={d} status={status} acts={acts} onNote={() => setNoting(true)} /> : null}
          {writing && simulated ? <SimulatedActs d={d} log={log} acts={acts} pace={pace} /> : null}
          {writing ? <FinishLog acts={acts} ready={status !== null} onAsk={() => setAsking(true)} /> : null}
        </div>
        <LiveCurves d={d} log={log} />
      </div>
      <StopRules d={d} />
      {asking ? (
        <ConfirmDialog
          title="Finish before the end?"
          about={`${acts.act?.title ?? "This log"} is still running${state?.phase ? ` (${state.phase})` : ""}. The result will be marked as stopped, without the quantities that need the end.`}
          act="Finish log"
          onClose={() => setAsking(false)}
          onAct={acts.finish}
        />
      ) : null}
      {noting ? <MarkDialog onClose={() => setNoting(false)} onNote={(text) => acts.mark("note", text)} /> : null}
    </div>
  );
}

interface FinishLogProps {
  readonly acts: LogActs;
  readonly ready: boolean;
  /** A log that has not come to its end is asked about first. */
  onAsk(): void;
}

const FinishLog = ({ acts, ready, onAsk }: FinishLogProps) => (
  <div className="mt-3">
    <Button
      look={acts.complete ? "main" : "plain"}
      {...(acts.complete ? { keyName: "F" } : {})}
      onClick={() => (acts.complete ? acts.finish() : onAsk())}
      disabled={!ready}
    >
      Finish log
    </Button>
    <Link href="/logs" className="ml-4 text-sm underline decoration-pencil/60 underline-offset-4">
      All logs under way
    </Link>
    {acts.complete && acts.lit ? (
      <span className="ml-3 text-sm text-pencil">
        One minute of rest gives the rest voltage; longer shows whether it recharges.
      </span>
    ) : null}
  </div>
);

/** What keeps rows from being stored; they are held meanwhile. */
function Trouble({ log, writing }: { readonly log: ReturnType<typeof useLiveLog>; readonly writing: boolean }) {
  if (!log.trouble) return null;
  return (
    <p role="alert" className="border-b border-rule px-4 py-2 text-misses">
      {log.trouble}
      {log.held && writing ? (
        <Button className="ml-3" onClick={() => log.say({ say: "held" })}>
          Save {log.held} {log.held === 1 ? "row" : "rows"} to a file
        </Button>
      ) : null}
    </p>
  );
}

/** Events, marked with one key each. */
function Marking({
  d,
  status,
  acts,
  onNote,
}: {
  readonly d: RunDossier;
  readonly status: ReturnType<typeof useLiveLog>["status"];
  readonly acts: LogActs;
  onNote(): void;
}) {
  return (
    <div className="mt-3 flex flex-wrap gap-2" role="group" aria-label="Mark an event">
      {acts.marks.map((m) => (
        <Button key={m.kind} keyName={m.key.toUpperCase()} onClick={() => acts.mark(m.kind, m.what)} disabled={!status}>
          {capital(m.what)}
        </Button>
      ))}
      <Button keyName="O" onClick={onNote} disabled={!status}>
        Note
      </Button>
      <Button keyName="Z" onClick={acts.undoMark} disabled={d.marks.length === 0}>
        Undo mark
      </Button>
      {acts.lit ? (
        <p className="w-full text-sm text-pencil">
          Keys 1 to 6: done light of that channel.
          {status?.lights.length
            ? ` On the simulated bench now lit: ${status.lights.map((n) => `channel ${n}`).join(", ")}.`
            : ""}
        </p>
      ) : null}
      {acts.guided && d.run.source.kind !== "simulated" ? (
        <p className="w-full text-sm text-pencil">Prompted steps mark themselves. Mark only what you did besides.</p>
      ) : null}
    </div>
  );
}

/** What only a simulated bench offers: a faster clock, mishaps. */
function SimulatedActs({
  d,
  log,
  acts,
  pace,
}: {
  readonly d: RunDossier;
  readonly log: ReturnType<typeof useLiveLog>;
  readonly acts: LogActs;
  readonly pace: number;
}) {
  const predicted = usePredicted(d);
  const { status } = log;
  return (
    <>
      {pace === 1 && !acts.complete ? (
        <ClockOffer
          seconds={status?.state.remaining ?? (predicted.length ? liveExtent(status, predicted) : 0)}
          onPace={acts.changePace}
        />
      ) : null}
      {acts.guided ? null : <Disturb onAct={(what) => log.say({ say: "disturb", what })} disabled={!status} />}
    </>
  );
}

/** What the plan predicts of this log; drawn behind what is measured. */
function usePredicted({ run }: RunDossier) {
  return useMemo(() => ofTrace(procedure(run.procedure))?.predicts?.(run.setup) ?? [], [run.procedure, run.setup]);
}

function LiveCurves({
  d,
  log: { status, events },
}: {
  readonly d: RunDossier;
  readonly log: ReturnType<typeof useLiveLog>;
}) {
  const predicted = usePredicted(d);
  const charts = useMemo(() => liveCharts(status, d, predicted), [status, d, predicted]);
  const view = useMemo(() => ({ from: 0, to: liveExtent(status, predicted) }), [status, predicted]);
  return (
    <div className="min-w-0 px-4 py-3">
      <div className="space-y-2">
        {charts.map((spec) => (
          <LogPlot key={spec.id} spec={spec} claims={[]} view={view} height={spec.id === "current" ? 165 : 145} live />
        ))}
      </div>
      {charts.length === 0 ? <p className="text-pencil">The curves appear here.</p> : null}
      <Happened events={events} d={d} />
    </div>
  );
}

const StopRules = ({ d: { run } }: { readonly d: RunDossier }) => (
  <details className="border-t border-rule px-4 py-2 text-sm">
    <summary>Stop rules, and what to disconnect</summary>
    <ul className="list-disc pl-5">
      {atBench(procedure(run.procedure))
        ?.stopRules(run.setup)
        .map((r) => (
          <li key={r.why}>
            {r.why} {r.act}
          </li>
        ))}
    </ul>
  </details>
);
