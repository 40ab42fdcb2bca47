import { characteristic, formatConditions } from "@/core/characteristics";
import { formatQuantity } from "@/core/quantities";
import { repeatsOf, type EvidenceSample } from "@/core/verdicts";
import { SimulatedMark } from "@/ui/verdict-mark";

/** What several runs of a step found of the same quantity, sample by sample: mean ± U with what they scatter by. */
export function Repeats({ samples, procedureRuns }: { readonly samples: readonly EvidenceSample[]; /** Ids of the step's runs. */ readonly procedureRuns: ReadonlySet<string> }) {
  const means = samples.flatMap((s) => {
    const runs = s.runs.filter((r) => procedureRuns.has(r.id));
    return repeatsOf(runs).map((r) => ({ sample: s.name, simulated: runs.some((x) => x.id === r.runs[0]?.id && x.simulated), ...r }));
  });
  if (means.length === 0) return null;
  return (
    <details className="py-1 text-sm">
      <summary className="font-medium">Means over the runs</summary>
      <ul>
        {means.map((m) => (
          <li key={`${m.sample} ${m.characteristic} ${formatConditions(m.conditions)} ${m.runs[0]?.id}`}>
            <span className="text-pencil">
              {m.sample} · {characteristic(m.characteristic)?.label ?? m.characteristic}:{" "}
            </span>
            <span className="figures">{`${formatQuantity(m.value, m.unit, { uncertainty: m.expandedUncertainty, withUncertainty: m.expandedUncertainty !== undefined })} ${formatConditions(m.conditions)}`.trim()}</span>
            {m.simulated ? <SimulatedMark className="ml-2" /> : null}
            <span className="text-pencil">, from {m.runs.length} runs</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
