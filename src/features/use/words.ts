import { formatDuration, formatQuantity } from "@/core/quantities";
import type { BoardFit, FitWord, Load, LoadStep } from "@/core/use";

/** How an answer looks: a shape and a tone beside its word. */
export const FIT_LOOK: Readonly<Record<FitWord, { readonly sign: string; readonly tone: string }>> = {
  runs: { sign: "✓", tone: "text-meets" },
  "start not tested": { sign: "?", tone: "text-close" },
  "runs as claimed": { sign: "○", tone: "text-close" },
  "does not start": { sign: "✗", tone: "text-misses" },
  "does not hold": { sign: "✗", tone: "text-misses" },
  "not measured": { sign: "·", tone: "text-pencil" },
};

const q = formatQuantity;

/** What a step takes, and for how long: `180 mA for 10 min`. */
export function stepText(s: LoadStep): string {
  const time =
    s.seconds >= 7200
      ? formatDuration(s.seconds)
      : s.seconds % 60 === 0 && s.seconds >= 60
        ? `${s.seconds / 60}\u00a0min`
        : formatDuration(s.seconds);
  if (s.off) return `off for ${time}`;
  return `${q(s.value, s.draw === "current" ? "A" : s.draw === "power" ? "W" : "Ω")} for ${time}`;
}

/** A load in one line. */
export function loadText(l: Load): string {
  const steps =
    l.steps.length === 1
      ? stepText(l.steps[0] as LoadStep).replace(/ for .*$/, ", all the time")
      : l.steps.map(stepText).join(", ");
  return [
    `${q(l.voltage, "V")} (works down to ${q(l.lowest, "V")})`,
    steps,
    l.surge ? `starts with ${q(l.surge, "A", { digits: 3 })}` : "",
    l.converters.length
      ? `through converters of ${l.converters.map((e) => `${Math.round(100 * e)}\u00a0%`).join(" and ")}`
      : "",
  ]
    .filter(Boolean)
    .join("; ");
}

/** s of run time with their uncertainty, in hours or days. */
export function runTimeText(f: Pick<BoardFit, "seconds" | "secondsU">): string {
  if (f.seconds === undefined) return "—";
  const [size, unit] = f.seconds > 3 * 86_400 ? [86_400, "d"] : [3600, "h"];
  const u = (f.secondsU ?? 0) / size;
  const digits = u > 0 ? Math.max(0, 1 - Math.floor(Math.log10(u))) : 1;
  return `${u > 0 ? "" : "about "}${(f.seconds / size).toFixed(Math.min(3, digits))}${u > 0 ? ` ± ${u.toFixed(Math.min(3, digits))}` : ""}\u00a0${unit}`;
}
