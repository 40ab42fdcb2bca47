import { Fragment, useState } from "react";
import { characteristic, formatConditions } from "@/core/characteristics";
import { formatQuantity } from "@/core/quantities";
import { roleLabel, type Finding, type Role } from "@/core/procedures";

/** An error source in words: `outputCurrent|gain` is the gain error of the output amps meter. */
export function sourceText(source: string): string {
  const [role, kind] = source.split("|");
  if (!role || !kind) return source;
  const label = roleLabel(role as Role).toLowerCase();
  return kind === "own" ? `noise and resolution, ${label}` : `${kind} error, ${label}`;
}

export function findingValue(f: Finding): string {
  if (typeof f.value === "string") return f.value;
  const value = formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: true });
  if (f.bracket) return `${value}; fell at ${formatQuantity(f.bracket.high, f.unit, { uncertainty: f.expandedUncertainty })}`;
  return `${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${value}`;
}

/** Every finding with its expanded uncertainty (k = 2); each opens to where the uncertainty comes from. */
export function FindingsTable({ findings, onPoint }: { findings: readonly Finding[]; onPoint(id: string): void }) {
  const [open, setOpen] = useState<string | null>(null);
  if (findings.length === 0) return <p className="text-pencil">Nothing yet: a finding needs at least one whole point.</p>;
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-140 text-left">
        <thead className="text-sm text-pencil">
          <tr className="border-b border-pencil/60">
            <th className="py-1 pr-4 font-medium">Quantity</th>
            <th className="py-1 pr-4 font-medium">At</th>
            <th className="py-1 pr-4 font-medium">Value ± U (k = 2)</th>
            <th className="py-1 font-medium">From</th>
          </tr>
        </thead>
        <tbody>
          {findings.map((f) => {
            const key = f.characteristic + formatConditions(f.conditions);
            const shown = open === key;
            return (
              <Fragment key={key}>
                <tr className="border-b border-rule">
                  <th scope="row" className="py-1 pr-4 font-normal">
                    {characteristic(f.characteristic)?.label ?? f.characteristic}
                    {f.unfair.length ? <span className="text-unfair"> (not fair)</span> : null}
                  </th>
                  <td className="figures py-1 pr-4 text-sm">{formatConditions(f.conditions).replace("@ ", "")}</td>
                  <td className="figures whitespace-nowrap py-1 pr-4">{findingValue(f)}</td>
                  <td className="py-1 text-sm">
                    <button type="button" className="underline underline-offset-4" aria-expanded={shown} onClick={() => setOpen(shown ? null : key)}>
                      {f.points.length} {f.points.length === 1 ? "point" : "points"}, uncertainty
                    </button>
                  </td>
                </tr>
                {shown ? (
                  <tr>
                    <td colSpan={4} className="bg-film px-3 py-2 text-sm">
                      {f.budget.length ? (
                        <ul className="mb-1">
                          {mergeOwn(f).slice(0, 6).map((b) => (
                            <li key={b.label}>
                              <span className="figures inline-block w-14 text-right">{Math.round(b.share * 100)} %</span> {b.label}
                            </li>
                          ))}
                        </ul>
                      ) : (
                        <p>No uncertainty is stated.</p>
                      )}
                      {f.points.slice(0, 12).map((id, i) => (
                        <button key={id} type="button" className="mr-3 underline underline-offset-4" onClick={() => onPoint(id)}>
                          point {i + 1} of {f.points.length}
                        </button>
                      ))}
                      {f.unfair.map((u) => (
                        <p key={u.code} className="text-unfair">
                          {u.message} {u.remedy}
                        </p>
                      ))}
                    </td>
                  </tr>
                ) : null}
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** The budget with each meter's own noise over many readings in one line. */
function mergeOwn(f: Finding): { label: string; share: number }[] {
  const merged = new Map<string, number>();
  for (const b of f.budget) merged.set(sourceText(b.source), (merged.get(sourceText(b.source)) ?? 0) + b.share);
  return [...merged].map(([label, share]) => ({ label, share })).sort((a, b) => b.share - a.share);
}
