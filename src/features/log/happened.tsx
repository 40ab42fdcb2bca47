"use client";

import type { LiveEvent } from "@/core/measurement";
import { formatDuration } from "@/core/quantities";
import type { RunDossier } from "@/notebook";

interface Entry {
  readonly time: number;
  readonly word: string;
  readonly text: string;
  readonly loud: boolean;
}

const WORDS: Readonly<Record<LiveEvent["kind"], string>> = {
  phase: "phase",
  done: "done",
  interrupted: "interrupted",
  hot: "too hot",
  "stop-rule": "stop",
  step: "next step",
  "cut-back": "cut back",
  "input-low": "input low",
  "no-current": "no current",
  clock: "clock",
  stalled: "stalled",
};

/** What happened in the log, newest first: what was recognised, what was marked, when nobody watched. */
export function Happened({ events, d }: { events: readonly LiveEvent[]; d: RunDossier }) {
  const entries: Entry[] = [
    ...events.map((e) => ({
      time: e.time,
      word: WORDS[e.kind],
      text: `${e.message} ${e.act ?? ""}`.trim(),
      loud: e.kind !== "phase" && e.kind !== "done" && e.kind !== "step" && e.kind !== "clock",
    })),
    ...d.marks.map((m) => ({ time: m.time, word: "mark", text: m.what, loud: false })),
    ...d.annotations.flatMap((a) =>
      a.what === "unwatched" && a.time !== undefined
        ? [
            {
              time: a.time,
              word: "not watched",
              text: `for ${formatDuration((a.until ?? a.time) - a.time)}: the page was asleep, frozen or closed.`,
              loud: true,
            },
          ]
        : [],
    ),
  ].sort((a, b) => b.time - a.time);
  return (
    <section className="mt-2 border-t border-rule pt-2" aria-label="Events">
      <h2 className="text-sm font-semibold">Events</h2>
      {entries.length === 0 ? <p className="text-sm text-pencil">Phases, warnings and marks appear here.</p> : null}
      <ol className="max-h-36 overflow-auto text-sm" tabIndex={0} aria-label="Events, newest first">
        {entries.map((e, k) => (
          <li
            key={`${e.time}${e.word}${k}`}
            className="grid grid-cols-[6rem_6rem_minmax(0,1fr)] gap-x-3 border-b border-rule py-0.5"
          >
            <span className="figures text-pencil">{formatDuration(Math.round(e.time))}</span>
            <span className={e.loud ? "font-semibold text-misses" : "font-medium"}>{e.word}</span>
            <span>{e.text}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
