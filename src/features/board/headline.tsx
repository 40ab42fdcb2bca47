import { characteristic, formatConditions } from "@/core/characteristics";
import { formatQuantity } from "@/core/quantities";
import type { Finding } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";

/** The figures of a run that people ask for first. */
export function Headline({
  procedure,
  findings,
  most = 6,
}: {
  procedure: Procedure;
  findings: readonly Finding[];
  /** Quantities shown, and values of each. */ most?: number;
}) {
  const shown = findings.filter((f) => procedure.headline.includes(f.characteristic));
  if (shown.length === 0) return null;
  const value = (f: Finding) =>
    typeof f.value === "number" ? formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty }) : f.value;
  const names = [...new Set(shown.map((f) => f.characteristic))]
    .sort((a, b) => procedure.headline.indexOf(a) - procedure.headline.indexOf(b))
    .slice(0, most);
  return (
    <p className="text-sm">
      {names.map((name, i) => (
        <span key={name}>
          {i > 0 ? "; " : ""}
          <span className="text-pencil">{characteristic(name)?.label}: </span>
          <span className="figures">
            {shown
              .filter((f) => f.characteristic === name)
              .slice(0, most)
              .map((f) =>
                `${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${value(f)} ${formatConditions(f.conditions)}`.trim(),
              )
              .join(" · ")}
            {shown.filter((f) => f.characteristic === name).length > most ? " · …" : ""}
          </span>
        </span>
      ))}
    </p>
  );
}
