import clsx from "clsx";
import type { VerdictWord } from "@/core/verdicts";

/**
 * The shape of a verdict is a tiny drawing of what it means: the limit as an upright line with its allowed side
 * hatched, the measured interval as a bar inside, outside or across it. Word and shape carry it; colour only helps.
 */
export const VERDICT_TONE: Readonly<Record<VerdictWord, string>> = {
  meets: "text-meets",
  misses: "text-misses",
  "too close to call": "text-close",
  "not fairly tested": "text-unfair",
  "not measured": "text-open",
  "claim unclear": "text-unclear",
};

const BARS: Readonly<Record<VerdictWord, { x1: number; x2: number; dashed?: boolean }[]>> = {
  meets: [{ x1: 21, x2: 36 }],
  misses: [{ x1: 3, x2: 13 }],
  "too close to call": [{ x1: 11, x2: 27 }],
  "not fairly tested": [{ x1: 3, x2: 27, dashed: true }],
  "not measured": [],
  "claim unclear": [
    { x1: 3, x2: 13 },
    { x1: 21, x2: 36 },
  ],
};

export function VerdictShape({ word, className }: { word: VerdictWord; className?: string }) {
  return (
    <svg
      viewBox="0 0 40 16"
      width="40"
      height="16"
      aria-hidden
      className={clsx("shrink-0", VERDICT_TONE[word], className)}
    >
      <rect x="17" y="1" width="22" height="14" fill="currentColor" opacity="0.13" />
      <line x1="17" y1="0" x2="17" y2="16" stroke="currentColor" strokeWidth="1.5" />
      {BARS[word].map((b) => (
        <line
          key={b.x1}
          x1={b.x1}
          x2={b.x2}
          y1="8"
          y2="8"
          stroke="currentColor"
          strokeWidth={b.dashed ? 2.5 : 5}
          {...(b.dashed ? { strokeDasharray: "4 3" } : {})}
        />
      ))}
      {word === "not measured" ? (
        <circle cx="28" cy="8" r="3.2" fill="none" stroke="currentColor" strokeWidth="1.5" strokeDasharray="2 2" />
      ) : null}
    </svg>
  );
}

/** A wave, as the simulated bench draws it: nothing was really read. */
export function SimulatedMark({ className }: { readonly className?: string }) {
  return (
    <span
      className={clsx("inline-flex items-center gap-1 whitespace-nowrap text-sm font-normal text-pencil", className)}
    >
      <svg viewBox="0 0 18 10" width="18" height="10" aria-hidden className="shrink-0">
        <path
          d="M1 5 Q3.5 -1 6 5 T11 5 T16 5"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
          strokeDasharray="2.5 1.5"
        />
      </svg>
      simulated
    </span>
  );
}

/** Two bars that don't meet: two runs found it apart. */
export function DisagreeMark() {
  return (
    <span className="inline-flex items-center gap-1 whitespace-nowrap text-sm font-semibold text-close">
      <svg viewBox="0 0 18 12" width="18" height="12" aria-hidden className="shrink-0">
        <line x1="1" x2="8" y1="3.5" y2="3.5" stroke="currentColor" strokeWidth="3" />
        <line x1="10" x2="17" y1="8.5" y2="8.5" stroke="currentColor" strokeWidth="3" />
      </svg>
      two runs disagree
    </span>
  );
}

/** What has to be said beside a verdict's word: that it rests on the simulated bench, that two runs disagree, that an accuracy is assumed. */
export function VerdictRemarks({
  v,
}: {
  readonly v: { readonly simulated?: boolean; readonly disagree?: boolean; readonly assumed?: boolean } | undefined;
}) {
  if (!v?.simulated && !v?.disagree && !v?.assumed) return null;
  return (
    <span className="flex flex-wrap gap-x-3">
      {v.disagree ? <DisagreeMark /> : null}
      {v.simulated ? <SimulatedMark /> : null}
      {v.assumed ? <span className="text-sm font-normal text-pencil">accuracy assumed</span> : null}
    </span>
  );
}

export function VerdictMark({ word, large = false }: { word: VerdictWord; large?: boolean }) {
  return (
    <span className={clsx("inline-flex items-center gap-2 font-semibold", VERDICT_TONE[word], large && "text-xl")}>
      <VerdictShape word={word} {...(large ? { className: "h-6 w-15" } : {})} />
      {word}
    </span>
  );
}
