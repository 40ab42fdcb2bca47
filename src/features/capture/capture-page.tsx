"use client";

import { compute } from "@/workers/compute";
import { pointsToCsv } from "@/core/files/export-run";
import { download, fileName } from "@/browser/download";
import { useLeaveGuard } from "@/browser/leave";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { memo, useCallback, useEffect, useMemo, useState } from "react";
import { procedure, ofPoints } from "@/core/procedures";
import type { BoardRecord } from "@/core/files/records";
import { useKeys } from "@/browser/keys";
import { attempt } from "@/browser/notify";
import { useFollowedRun, useRunWriter, type RunDossier, toPoint } from "@/notebook";
import { change, edit } from "@/storage";
import { analysePoints } from "@/notebook/analysis";
import { Button } from "@/ui/button";
import { RunHead, StopAlert } from "@/ui/run-head";
import { OtherTab } from "@/ui/other-tab";
import { Chart, chartsAhead } from "@/ui/chart";
import { CorrectDialog } from "@/ui/correct-dialog";
import { LeaveOutDialog } from "@/ui/reason-dialog";
import { Quiet } from "@/ui/section";
import { AskedBeforeTaking } from "./asked";
import type { Capture } from "./capture";
import { PasteDialog } from "./paste-dialog";
import { PointsStrip } from "./points-strip";
import { ProposalStrip } from "./proposal-strip";
import { Readouts } from "./readouts";
import { useCapture } from "./use-capture";

chartsAhead();

/** How much faster than real time the simulated bench may run. */
const PACES = [1, 5, 20, 60] as const;

/** Where points are taken: read from a metre away, one key an act, the curve growing beside the figures. */
export function CapturePage({ id }: { id: string }) {
  const live = useFollowedRun(compute, id);
  const { writer, takeOver } = useRunWriter(id);
  if (live.state === "loading" || writer === "asking") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The run can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such run in this browser.</Quiet>;
  const { d, board } = live.value;
  if (d.run.source.kind === "file" || !ofPoints(procedure(d.run.procedure))?.next)
    return (
      <Quiet>
        This run was imported from a file.{" "}
        <Link className="underline" href={`/run/${id}/review`}>
          Open result
        </Link>
        .
      </Quiet>
    );
  return <CaptureScreen d={d} board={board} writing={writer === "writing"} onTakeOver={takeOver} />;
}

/** A value one painted frame late: what depends on it never holds up what is read. */
function useAfterPaint<T>(value: T): T {
  const [late, setLate] = useState(value);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => {
      timer = setTimeout(() => setLate(value), 0);
    });
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [value]);
  return late;
}

interface ScreenProps {
  readonly d: RunDossier;
  readonly board: BoardRecord;
  readonly writing: boolean;
  onTakeOver(): void;
}

type Asking =
  | { readonly kind: "leave-out"; readonly id: string }
  | { readonly kind: "correct"; readonly id: string }
  | { readonly kind: "paste"; readonly text: string };

/** Rows pasted anywhere on the page are asked about; not while another dialog is open. */
function usePasted(on: boolean, onRows: (text: string) => void) {
  useEffect(() => {
    if (!on) return;
    const onPaste = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData("text") ?? "";
      if (!/[\t\n]/.test(text.trim()) || document.querySelector('[role="dialog"]')) return;
      e.preventDefault();
      onRows(text);
    };
    window.addEventListener("paste", onPaste);
    return () => window.removeEventListener("paste", onPaste);
  }, [on, onRows]);
}

function CaptureScreen({ d, board, writing, onTakeOver }: ScreenProps) {
  const router = useRouter();
  const capture = useCapture(d, writing);
  const [dialog, setDialog] = useState<Asking | null>(null);
  const [keysOn, setKeysOn] = useState(true);
  const [chart, setChart] = useState(0);
  const nextChart = useCallback(() => setChart((c) => c + 1), []);
  const { proposal, stopped } = capture;
  const title = stopped ? `STOP: ${stopped.why}` : `${d.points.length} points · ${board.title}`;
  useEffect(() => {
    document.title = `${title} · Nimbus Bench`;
  }, [title]);
  useLeaveGuard(capture.held !== null);
  const finish = () =>
    void attempt(async () => {
      await change(`finish ${d.run.title}`, [edit(d.run, { ...d.run, state: "finished" })]);
      router.push(`/run/${d.run.id}/review`);
    });
  const about = (kind: "leave-out" | "correct") => () => {
    const target = capture.lastShown();
    if (target) setDialog({ kind, id: target.id });
  };
  const restart = proposal.kind === "restart";
  useKeys(
    {
      t: capture.take,
      z: capture.undo,
      x: about("leave-out"),
      d: about("correct"),
      ...(capture.asked ? { r: capture.takeAsRead, i: capture.takeAsMeant } : {}),
      ...(capture.sets ? { h: () => capture.setAuto(!capture.auto), w: capture.watch } : {}),
      y: nextChart,
      ...(proposal.column && proposal.kind === "point" ? { c: capture.closeColumn } : {}),
      ...(stopped ? { g: capture.clearStop } : {}),
      ...(restart
        ? {
            "1": () => capture.recovered("automatic"),
            "2": () => capture.recovered("load-removal"),
            "3": () => capture.recovered("power-cycle"),
            "4": () => capture.recovered("none"),
          }
        : {}),
      ...(proposal.kind === "done" ? { f: finish } : {}),
    },
    writing && keysOn,
  );
  usePasted(
    writing,
    useCallback((text: string) => setDialog({ kind: "paste", text }), []),
  );
  return (
    <div className="border border-rule bg-sheet">
      <RunHead
        title={d.run.title}
        board={board}
        count={`${proposal.progress.taken} of about ${proposal.progress.of} points`}
        clock={capture.canPace ? { pace: capture.pace, of: PACES, onPace: capture.setPace } : null}
        tones={{ on: !capture.muted, onTones: (on) => capture.setMuted(!on) }}
        keys={{ on: keysOn, onKeys: setKeysOn }}
        resultOf={d.run.id}
      />
      {!writing ? (
        <OtherTab says="Another tab is recording this run. Its points appear here." onTakeOver={onTakeOver} />
      ) : null}
      {stopped ? <StopAlert why={stopped.why} act={stopped.act} onSafe={capture.clearStop} /> : null}
      <Troubles d={d} capture={capture} />
      <ProposalStrip capture={capture} writing={writing} onFinish={finish} onSkip={capture.closeColumn} />
      <div className="grid min-[1000px]:grid-cols-[minmax(0,33rem)_minmax(0,1fr)]">
        <div className="border-rule px-4 py-3 min-[1000px]:border-r">
          <div className={capture.silent ? "opacity-40" : undefined} data-stale={capture.silent ? true : undefined}>
            <Readouts d={d} capture={capture} writing={writing} />
          </div>
          <LastRemarks capture={capture} />
          <AskedBeforeTaking capture={capture} />
          {writing ? (
            <PointActs d={d} capture={capture} onLeaveOut={about("leave-out")} onCorrect={about("correct")} />
          ) : null}
        </div>
        <GrowingCurve d={d} chart={chart} onNext={nextChart} />
      </div>
      <PointsStrip
        d={d}
        onLeaveOut={(pid) => setDialog({ kind: "leave-out", id: pid })}
        onCorrect={(pid) => setDialog({ kind: "correct", id: pid })}
        onCount={(pid) => void capture.count(pid)}
        writing={writing}
      />
      {dialog ? <PointDialog d={d} capture={capture} asking={dialog} onClose={() => setDialog(null)} /> : null}
    </div>
  );
}

/** What keeps readings from coming or from being stored. */
function Troubles({ d, capture }: { readonly d: RunDossier; readonly capture: Capture }) {
  const saveHeld = () => {
    const p = procedure(d.run.procedure);
    if (p && capture.held)
      download(
        fileName(`${d.run.title} not stored`, "csv"),
        pointsToCsv(p, d.run.setup, [...d.points, toPoint(capture.held)], d.corrections.leftOut),
        "text/csv",
      );
  };
  return (
    <>
      {capture.silent ? (
        <p role="alert" className="border-b-4 border-misses bg-misses/10 px-4 py-3 text-lg text-misses">
          {capture.silent}
        </p>
      ) : null}
      {capture.held ? (
        <p role="alert" className="border-b border-misses px-4 py-2 text-misses">
          The browser&apos;s storage is full: 1 point (
          {Math.max(1, Math.round(JSON.stringify(capture.held).length / 100) / 10)} kB) is not stored. Free some space,
          then record it again.
          <Button className="ml-3" onClick={saveHeld}>
            Save point to a file
          </Button>
        </p>
      ) : null}
      {capture.portError ? (
        <p role="alert" className="border-b border-rule px-4 py-2 text-misses">
          {capture.portError}
        </p>
      ) : null}
    </>
  );
}

const LastRemarks = ({ capture }: { readonly capture: Capture }) => (
  <ul className={capture.asked ? "hidden" : "min-h-14 text-sm"} aria-live="polite" aria-label="Notes on the last point">
    {(capture.asked ? [] : capture.remarks).map((r) => (
      <li
        key={r.code + (r.role ?? "")}
        className={r.severity === "doubt" ? "border-l-4 border-close pl-2 font-medium" : "border-l-4 border-rule pl-2"}
      >
        {r.message}
      </li>
    ))}
  </ul>
);

/** One key an act. */
function PointActs({
  d,
  capture,
  onLeaveOut,
  onCorrect,
}: {
  readonly d: RunDossier;
  readonly capture: Capture;
  onLeaveOut(): void;
  onCorrect(): void;
}) {
  const { proposal } = capture;
  const none = d.points.length === 0;
  return (
    <div className="mt-1 flex flex-wrap gap-2">
      <Button
        look={proposal.kind === "point" && !capture.asked ? "main" : "plain"}
        keyName="T"
        onClick={capture.take}
        disabled={
          capture.busy ||
          proposal.kind === "restart" ||
          capture.unconfirmed ||
          capture.stopped !== null ||
          capture.settingAgain ||
          capture.silent !== null
        }
      >
        Record point
      </Button>
      <Button keyName="Z" onClick={capture.undo} disabled={none || capture.busy}>
        Undo point
      </Button>
      <Button keyName="X" onClick={onLeaveOut} disabled={none}>
        Exclude point
      </Button>
      <Button keyName="D" onClick={onCorrect} disabled={none}>
        Correct point
      </Button>
      {capture.sets ? (
        <Button
          keyName="H"
          aria-pressed={capture.auto}
          onClick={() => capture.setAuto(!capture.auto)}
          look={capture.auto ? "main" : "plain"}
        >
          {capture.auto ? "Recording automatically" : "Record when steady"}
        </Button>
      ) : null}
    </div>
  );
}

/** The curve so far. The figures come first; it may follow a moment later. */
const GrowingCurve = memo(function GrowingCurve({
  d: { run, points, corrections },
  chart,
  onNext,
}: {
  readonly d: RunDossier;
  readonly chart: number;
  onNext(): void;
}) {
  const growing = useMemo(() => ({ run, points, corrections, trace: null }), [run, points, corrections]);
  const shown = useAfterPaint(growing);
  const analysis = useMemo(() => analysePoints(shown), [shown]);
  const spec = analysis.charts[chart % Math.max(1, analysis.charts.length)];
  return (
    <div className="min-w-0 px-4 py-3">
      {spec ? <Chart spec={spec} height={300} marked={shown.points[shown.points.length - 1]?.id} /> : null}
      {!spec && analysis.notes.length ? (
        <ul className="list-disc space-y-1 pl-5" aria-label="Results so far">
          {analysis.notes.map((n) => (
            <li key={n.code + n.message}>{n.message}</li>
          ))}
        </ul>
      ) : null}
      {analysis.charts.length > 1 ? (
        <Button look="bare" className="text-sm" keyName="Y" onClick={onNext}>
          Next curve
        </Button>
      ) : null}
    </div>
  );
});

function PointDialog({
  d,
  capture,
  asking,
  onClose,
}: {
  readonly d: RunDossier;
  readonly capture: Capture;
  readonly asking: Asking;
  onClose(): void;
}) {
  if (asking.kind === "paste")
    return <PasteDialog text={asking.text} d={d} onClose={onClose} onRows={capture.addPasted} />;
  if (asking.kind === "leave-out")
    return <LeaveOutDialog onClose={onClose} onReason={(why) => capture.leaveOut(asking.id, why)} />;
  const point = d.points.find((x) => x.id === asking.id);
  const roles = procedure(d.run.procedure)?.record.roles.map((r) => r.role) ?? [];
  return point ? (
    <CorrectDialog
      key={point.id}
      point={point}
      number={d.points.indexOf(point) + 1}
      roles={roles}
      onClose={onClose}
      onCorrect={(anew, why) => capture.correct(point.id, anew, why)}
    />
  ) : null;
}
