import type { VerdictWord } from "@/core/verdicts";
import { VERDICT_TONE } from "@/ui/verdict-mark";

/** What a mark on a strip looks like, by its verdict: filled where it meets, a cross where it misses, a diamond where it is too close, dashed where it was not fair. */
export function StripMark({
  word,
  x,
  y,
}: {
  readonly word: VerdictWord | null;
  readonly x: number;
  readonly y: number;
}) {
  const tone = word ? VERDICT_TONE[word] : "text-ink";
  switch (word) {
    case "misses":
      return (
        <path
          d={`M${x - 4.5} ${y - 4.5}L${x + 4.5} ${y + 4.5}M${x + 4.5} ${y - 4.5}L${x - 4.5} ${y + 4.5}`}
          stroke="currentColor"
          strokeWidth="2.2"
          className={tone}
        />
      );
    case "too close to call":
      return (
        <path
          d={`M${x} ${y - 5.5}L${x + 5.5} ${y}L${x} ${y + 5.5}L${x - 5.5} ${y}Z`}
          fill="var(--sheet)"
          stroke="currentColor"
          strokeWidth="2"
          className={tone}
        />
      );
    case "not fairly tested":
      return (
        <circle
          cx={x}
          cy={y}
          r="4.5"
          fill="var(--sheet)"
          stroke="currentColor"
          strokeWidth="1.8"
          strokeDasharray="2.5 2"
          className={tone}
        />
      );
    case "claim unclear":
      return (
        <circle cx={x} cy={y} r="4.5" fill="var(--sheet)" stroke="currentColor" strokeWidth="1.8" className={tone} />
      );
    default:
      return <circle cx={x} cy={y} r="4.5" fill="currentColor" className={tone} />;
  }
}

/** What the marks mean, in words. */
export function MarkLegend() {
  const words: readonly VerdictWord[] = ["meets", "misses", "too close to call", "not fairly tested"];
  return (
    <span className="inline-flex flex-wrap gap-x-3 text-sm text-pencil">
      {words.map((w) => (
        <span key={w} className="inline-flex items-center gap-1">
          <svg width="14" height="14" aria-hidden className="overflow-visible">
            <StripMark word={w} x={7} y={7} />
          </svg>
          {w}
        </span>
      ))}
    </span>
  );
}
