"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import type { LiveEvent, TraceEvent } from "@/core/measurement";
import { writtenDigits } from "@/core/quantities";
import type { AnnotationRecord, RunRecord } from "@/core/files/records";
import { attempt, notify } from "@/browser/notify";
import { download, fileName } from "@/browser/download";
import { play, type Tone } from "@/browser/sound";
import { change, now, ofRun } from "@/storage";
import { layer } from "@/notebook/layers";
import { liveChannel, type FromLiveLog, type LiveStatus, type ToLiveLog } from "@/workers/live-protocol";

const TONES: Readonly<Record<LiveEvent["kind"], Tone>> = {
  phase: "phase",
  done: "done",
  interrupted: "interrupted",
  hot: "stop",
  "stop-rule": "stop",
  step: "step",
  "cut-back": "cut-back",
  "input-low": "input-low",
  "no-current": "no-current",
  clock: "step",
  stalled: "stalled",
};

export interface LiveLogView {
  readonly status: LiveStatus | null;
  /** Newest last. */
  readonly events: readonly LiveEvent[];
  /** A stop rule that is met and not yet said to be safe. */
  readonly stopped: LiveEvent | null;
  readonly trouble: string | null;
  /** Rows that are read and not on disk. */
  readonly held: number;
  say(what: ToLiveLog): void;
  safeAgain(): void;
  /** Writes everything and gives the log up; rejects where it can't be written, and the log then goes on. */
  close(): Promise<void>;
}

const unwatched = (run: RunRecord, from: number, until: number): AnnotationRecord => ({
  ...layer(run, "unwatched", "log", "not watched: the page was asleep, frozen or closed"),
  time: from,
  until,
});

/**
 * The live log of a run: where this tab writes, a worker of its own samples, watches and stores; where another does, what that
 * one says is shown here.
 */
// eslint-disable-next-line max-lines-per-function -- one conversation with one worker: each of its messages sets a state that another one reads
export function useLiveLog(
  run: RunRecord,
  marks: readonly TraceEvent[],
  writing: boolean,
  pace: number,
  muted: boolean,
): LiveLogView {
  const [status, setStatus] = useState<LiveStatus | null>(null);
  const [events, setEvents] = useState<readonly LiveEvent[]>([]);
  const [stopped, setStopped] = useState<LiveEvent | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [held, setHeld] = useState(0);
  const worker = useRef<Worker | null>(null);
  const closing = useRef<((kept: boolean) => void) | null>(null);
  const quiet = useRef(muted);
  const first = useRef(pace);
  const opened = useRef(run);
  const marked = useRef(marks);
  useEffect(() => {
    quiet.current = muted;
  }, [muted]);
  useEffect(() => {
    const { id, procedure, setup, source, title } = opened.current;
    const hear = (m: FromLiveLog) => {
      switch (m.kind) {
        case "status":
          setStatus(m.status);
          break;
        case "event":
          // A log that was taken up again says once more what was recognised in it.
          setEvents((e) =>
            m.past && e.some((x) => x.kind === m.event.kind && x.time === m.event.time && x.message === m.event.message)
              ? e
              : [...e.slice(-199), m.event],
          );
          if (m.past) break;
          // Where the bench drives itself, its steps need nobody.
          if (m.event.kind !== "step" || source.kind !== "simulated") play(TONES[m.event.kind], quiet.current);
          if (m.event.act !== undefined) setStopped(m.event);
          // A phase stands large on the page itself; a notice would only cover what happened before.
          else if (m.event.kind !== "phase" && m.event.kind !== "step") void notify(m.event.message);
          callOut(title, m.event);
          break;
        case "mark":
          if (worker.current) void attempt(() => keepMark(opened.current, m.mark));
          break;
        case "unwatched":
          if (worker.current)
            void attempt(() =>
              change("mark a stretch as not watched", [unwatched(opened.current, m.from, m.until)], { journal: false }),
            );
          break;
        case "trouble":
          setTrouble(m.message);
          setHeld(m.held?.rows ?? 0);
          break;
        case "held":
          download(fileName(`${title} not stored`, "csv"), m.csv, "text/csv");
          break;
        case "failed":
          setTrouble(`The log stopped: ${m.message}. What was stored is safe; reload the page to resume.`);
          break;
        case "closed":
          closing.current?.(m.kept);
          break;
      }
    };
    if (!writing) {
      const channel = new BroadcastChannel(liveChannel(id));
      channel.onmessage = (e: MessageEvent<FromLiveLog>) => hear(e.data);
      return () => channel.close();
    }
    const w = new Worker(new URL("../../workers/live-log.worker.ts", import.meta.url), { type: "module" });
    worker.current = w;
    w.onmessage = (e: MessageEvent<FromLiveLog>) => hear(e.data);
    w.onerror = (e) =>
      setTrouble(
        `The log's worker stopped: ${e.message || "it could not be loaded"}. What was stored is safe; reload the page to resume.`,
      );
    w.postMessage({
      say: "open",
      runId: id,
      procedure,
      setup,
      simulated:
        source.kind === "simulated"
          ? { charger: source.board, seed: source.seed, disturbances: disturbancesIn(marked.current) }
          : null,
      pace: first.current,
      digits: writtenDigits(),
    } satisfies ToLiveLog);
    return () => {
      // What is not on disk yet is written before the worker ends.
      worker.current = null;
      w.onmessage = (e: MessageEvent<FromLiveLog>) => {
        if (e.data.kind === "closed") w.terminate();
      };
      w.postMessage({ say: "close" } satisfies ToLiveLog);
      setTimeout(() => w.terminate(), 5000);
    };
  }, [writing]);
  const say = useCallback((what: ToLiveLog) => worker.current?.postMessage(what), []);
  const safeAgain = useCallback(() => {
    setStopped(null);
    worker.current?.postMessage({ say: "safe-again" } satisfies ToLiveLog);
  }, []);
  const close = useCallback(
    () =>
      new Promise<void>((resolve, reject) => {
        if (!worker.current) resolve();
        closing.current = (kept) =>
          kept ? resolve() : reject(new Error("The last readings are not stored yet. Free some space and try again."));
        worker.current?.postMessage({ say: "close" } satisfies ToLiveLog);
      }),
    [],
  );
  return { status, events, stopped, trouble, held, say, safeAgain, close };
}

/** What was done to a simulated bench before its log is taken up again. */
const disturbancesIn = (marks: readonly TraceEvent[]): { readonly what: string; readonly at: number }[] =>
  marks.flatMap((m) => (m.kind?.startsWith("bench:") ? [{ what: m.kind.slice(6), at: m.time }] : []));

/** A mark that the bench's guide made, unless a log that was taken up again says it anew. */
async function keepMark(run: RunRecord, mark: TraceEvent): Promise<void> {
  const kind = mark.kind ?? "note";
  const { annotations } = await ofRun(run.id);
  if (annotations.some((a) => a.what === "mark" && a.target === kind && Math.abs((a.time ?? 0) - mark.time) < 1e-6))
    return;
  await change(`mark: ${mark.what}`, [markAt(run, mark.time, kind, mark.what)], { journal: false });
}

/** A notice of the browser's own, where the user allowed them and the page is out of sight. */
function callOut(title: string, e: LiveEvent): void {
  if (
    typeof Notification === "undefined" ||
    Notification.permission !== "granted" ||
    document.visibilityState === "visible"
  )
    return;
  try {
    new Notification(title, { body: `${e.message} ${e.act ?? ""}`.trim(), tag: `${title}${e.kind}` });
  } catch {
    // Some browsers only allow them from elsewhere; tone, title and notice remain.
  }
}

/** A mark on the log at the newest reading. */
export const markAt = (run: RunRecord, time: number, kind: string, text: string): AnnotationRecord => ({
  ...layer(run, "mark", kind, text),
  time,
  updatedAt: now(),
});
