import { characteristic, formatConditions } from "../characteristics";
import type { Finding, Note } from "../measurement";
import type { Procedure } from "../procedures/contract";
import { capital, formatDuration, formatQuantity } from "../quantities";

/** Quantities named in a run's answer, and values of each. */
const MOST = { quantities: 3, values: 3 };

const text = (f: Finding): string =>
  typeof f.value === "string"
    ? f.value
    : `${f.bound === "at-least" ? "at least " : f.bound === "at-most" ? "at most " : ""}${f.unit === "s" ? formatDuration(f.value) : formatQuantity(f.value, f.unit, f.expandedUncertainty ? { uncertainty: f.expandedUncertainty } : { digits: 3 })}`;

/** Notes that change how the answer is read, in the order in which they matter. */
const TELLING = [
  "interrupted",
  "stopped",
  "end-unknown",
  "paused",
  "foldback",
  "input-sagged",
  "supply-limit",
  "over-unity",
];

/**
 * A run in a sentence or two: what its procedure is asked for first, in words, and what has to be known beside it. Null where nothing was
 * found.
 */
export function answerOf(
  { headline, answer }: Pick<Procedure, "headline" | "answer">,
  findings: readonly Finding[],
  notes: readonly Note[],
): { readonly result: string; readonly beside: string | null } | null {
  const beside = TELLING.flatMap((code) => notes.find((n) => n.code === code)?.message ?? [])[0] ?? null;
  const whole = answer?.(findings);
  if (whole) return { result: whole, beside };
  const parts = headline.slice(0, MOST.quantities).flatMap((name) => {
    const own = findings.filter((f) => f.characteristic === name && f.value !== "not stated");
    if (own.length === 0) return [];
    const values = own
      .slice(0, MOST.values)
      .map((f) =>
        [
          text(f),
          formatConditions(Object.fromEntries(Object.entries(f.conditions).filter(([k]) => k !== "configuration"))),
        ]
          .filter(Boolean)
          .join(" "),
      );
    return [
      `${capital(characteristic(name)?.label ?? name)}: ${values.join(", ")}${own.length > MOST.values ? " …" : ""}.`,
    ];
  });
  return parts.length ? { result: parts.join(" "), beside } : null;
}
