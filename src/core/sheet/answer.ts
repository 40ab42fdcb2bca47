import { characteristic, formatConditions } from "../characteristics";
import type { Finding, Note } from "../procedures";
import { capital, formatDuration, formatQuantity, numeric } from "../quantities";

/** Quantities named in a run's answer, and values of each. */
const MOST = { quantities: 3, values: 3 };

const text = (f: Finding): string =>
  typeof f.value === "string"
    ? f.value
    : `${f.bound === "at-least" ? "at least " : f.bound === "at-most" ? "at most " : ""}${f.unit === "s" ? formatDuration(f.value) : formatQuantity(f.value, f.unit, f.expandedUncertainty ? { uncertainty: f.expandedUncertainty } : { digits: 3 })}`;

/** What a charge came to: current, full voltage, time, charge; each only where the log holds it. */
function chargeAnswer(findings: readonly Finding[]): string | null {
  const of = (name: string) => findings.find((f) => f.characteristic === name && typeof f.value === "number");
  const rounded = (name: string): string => {
    const f = of(name);
    return f ? formatQuantity(numeric(f.value), f.unit, { digits: f.unit === "V" ? 4 : 3 }) : "";
  };
  const [amps, volts, time] = [rounded("charge.cc-current"), rounded("charge.cv-voltage"), of("charge.total-time")];
  if (!amps && !volts) return null;
  const whole = rounded("charge.capacity");
  const parts = [
    amps ? `charges at ${amps}` : "",
    volts
      ? time
        ? `full at ${volts} after ${formatDuration(numeric(time.value))}`
        : `held at ${volts}`
      : time
        ? `done after ${formatDuration(numeric(time.value))}`
        : "",
    whole ? `${whole} delivered` : of("charge.partial-capacity") ? `${rounded("charge.partial-capacity")} so far` : "",
  ].filter(Boolean);
  return `${capital(parts.join(", "))}.`;
}

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
  procedure: string,
  headline: readonly string[],
  findings: readonly Finding[],
  notes: readonly Note[],
): { readonly result: string; readonly beside: string | null } | null {
  const beside = TELLING.flatMap((code) => notes.find((n) => n.code === code)?.message ?? [])[0] ?? null;
  const charge = procedure === "charge-cycle" ? chargeAnswer(findings) : null;
  if (charge) return { result: charge, beside };
  const said = headline.slice(0, MOST.quantities).flatMap((name) => {
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
  return said.length ? { result: said.join(" "), beside } : null;
}
