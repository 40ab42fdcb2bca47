import { characteristic, formatConditions } from "@/core/characteristics";
import { formatQuantity } from "@/core/quantities";
import { channelOrders, repeatsOf, type ChannelOrders, type EvidenceSample } from "@/core/verdicts";
import { SimulatedMark } from "@/ui/verdict-mark";

const listed = (channels: readonly number[]): string => channels.join(", ");

/** Whether the channels signal done in the same order in every run, in words. */
function orderText({ orders, unclear }: ChannelOrders): string {
  const [first] = orders;
  const close = unclear
    ? ` In ${unclear} ${unclear === 1 ? "run" : "runs"} two of them signalled too close together to tell.`
    : "";
  if (!first) return `Order of the channels: can’t be told.${close}`;
  if (orders.length > 1)
    return `Order of the channels: it changes from run to run: ${orders.map((o) => `${listed(o.channels)} (${o.runs} ${o.runs === 1 ? "run" : "runs"})`).join("; ")}.${close}`;
  const runs =
    first.runs === 1
      ? "the one run that tells"
      : first.runs === 2 && !unclear
        ? "both runs"
        : `all ${first.runs} runs${unclear ? " that tell" : ""}`;
  return `Order of the channels: ${listed(first.channels)}, the same in ${runs}.${close}`;
}

/** What several runs of a step found of the same quantity, sample by sample: mean ± U with what they scatter by. */
export function Repeats({
  samples,
  procedureRuns,
}: {
  readonly samples: readonly EvidenceSample[];
  /** Ids of the step's runs. */ readonly procedureRuns: ReadonlySet<string>;
}) {
  const means = samples.flatMap((s) => {
    const runs = s.runs.filter((r) => procedureRuns.has(r.id));
    return repeatsOf(runs).map((r) => ({
      sample: s.name,
      simulated: runs.some((x) => x.id === r.runs[0]?.id && x.simulated),
      ...r,
    }));
  });
  const orders = samples.flatMap((s) => {
    const orders = channelOrders(s.runs.filter((r) => procedureRuns.has(r.id)));
    return orders ? [{ sample: s.name, text: orderText(orders) }] : [];
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
            <span className="figures">
              {`${formatQuantity(m.value, m.unit, { uncertainty: m.expandedUncertainty, withUncertainty: m.expandedUncertainty !== undefined })} ${formatConditions(m.conditions)}`.trim()}
            </span>
            {m.simulated ? <SimulatedMark className="ml-2" /> : null}
            <span className="text-pencil">, from {m.runs.length} runs</span>
          </li>
        ))}
        {orders.map((o) => (
          <li key={o.sample}>
            <span className="text-pencil">{o.sample} · </span>
            {o.text}
          </li>
        ))}
      </ul>
    </details>
  );
}
