import { CHARACTERISTICS, characteristic, formatConditions } from "@/core/characteristics";
import type { Finding } from "@/core/measurement";
import { formatQuantity } from "@/core/quantities";
import { reallyMeasured, type EvidenceRun } from "@/core/verdicts";
import { SimulatedMark } from "@/ui/verdict-mark";

const BOUNDS = { "at-least": "at least ", "at-most": "at most " } as const;
const valueOf = (f: Finding): string =>
  typeof f.value === "number"
    ? `${f.bound ? BOUNDS[f.bound] : ""}${formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: f.expandedUncertainty !== undefined })}`
    : f.value;

/** Beside an end that was seen, where it was lost. */
function lostAt(f: Finding): string {
  const side = characteristic(f.characteristic)?.end?.side;
  return f.bracket && side
    ? `, no longer at ${formatQuantity(side === "low" ? f.bracket.low : f.bracket.high, f.unit, { digits: 4 })}`
    : "";
}

/** What a sample's runs show together, in the order of the dictionary; what was played on the simulated bench only where nothing was measured. */
function shownOf(runs: readonly EvidenceRun[]) {
  const real = reallyMeasured(runs);
  const findings = runs.flatMap((run) =>
    run.findings.flatMap((f) =>
      f.over && !(run.simulated && real.has(f.characteristic)) ? [{ run, f, over: f.over }] : [],
    ),
  );
  const place = (name: string) => CHARACTERISTICS.findIndex((c) => c.name === name);
  return findings.sort((a, b) => place(a.f.characteristic) - place(b.f.characteristic));
}

/** Results of a sample over several runs, each with the runs that it rests on. */
export function OverRuns({
  runs,
  configuration,
}: {
  readonly runs: readonly EvidenceRun[];
  readonly configuration: string;
}) {
  return (
    <>
      {shownOf(runs).map(({ run, f, over }) => {
        const { configuration: words, ...conditions } = f.conditions;
        const load = f.under?.load;
        return (
          <p key={run.id + f.characteristic + formatConditions(f.conditions)} className="text-sm">
            <span className="text-pencil">{characteristic(f.characteristic)?.label}: </span>
            <span className="figures">
              {`${valueOf(f)} ${formatConditions({ ...conditions, ...(words === configuration || words === undefined ? {} : { configuration: words }), ...(load === undefined ? {} : { load }) })}`.trim()}
              {lostAt(f)}
            </span>
            {run.simulated ? <SimulatedMark className="ml-2" /> : null}
            <span className="text-pencil">, from {over.map((o) => o.title).join(", ")}</span>
          </p>
        );
      })}
    </>
  );
}
