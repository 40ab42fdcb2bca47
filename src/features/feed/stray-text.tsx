import { memo } from "react";
import { formatQuantity, type Unit } from "@/core/quantities";
import { bottleneckText, feedRanges, type FeedPlan, type FeedRange } from "@/core/use/feed";

function rangeText([low, high]: FeedRange, unit: Unit): string {
  const [a, b] = [formatQuantity(low, unit, { digits: 3 }), formatQuantity(high, unit, { digits: 3 })];
  return a === b ? a : `${a} to ${b}`;
}

/** What the tolerances of a feed leave open, and what else may then limit the charge. */
export const StrayText = memo(function StrayText({ plan }: { readonly plan: FeedPlan }) {
  const { cellLow, cellFull } = plan.charger;
  if (Object.values(plan.tolerance ?? {}).every((t) => t === 0))
    return <p className="text-pencil">All values are taken as exact.</p>;
  const [low, full] = [feedRanges(plan, cellLow), feedRanges(plan, cellFull)];
  const others = [...new Set([...low.others, ...full.others].map((b) => bottleneckText(plan, b)))];
  return (
    <div data-testid="stray">
      <p>
        Within them it charges at {rangeText(low.current, "A")} into an empty cell and at {rangeText(full.current, "A")}{" "}
        into a full one; the charger turns {rangeText(low.heat, "W")} into heat at the empty cell.
      </p>
      {low.current[0] === 0 || full.current[0] === 0 ? (
        <p className="font-medium text-misses">It may not charge at all.</p>
      ) : null}
      {others.length ? (
        <>
          <p className="mt-1 text-pencil">There something else may limit it:</p>
          <ul className="max-w-prose list-disc pl-5 text-sm">
            {others.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </>
      ) : null}
    </div>
  );
});
