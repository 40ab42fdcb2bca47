import { formatQuantity, highest } from "@/core/quantities";
import { packSums, type PackCell } from "@/core/use";
import type { DrawerCell } from "@/notebook";
import { Link } from "@/ui/link";
import { packCell } from "./pack-cells";

/** A that cells may exchange when they are joined without a word of caution. */
const CALM = 0.5;

/** The groups of a pack, each with its cells and what they hold together, the weakest marked; then what follows. */
export function Groups({ groups }: { readonly groups: readonly (readonly DrawerCell[])[] }) {
  const cells: readonly (readonly PackCell[])[] = groups.map((g) => g.map(packCell));
  const sums = packSums(cells);
  const most = highest(sums.groups);
  return (
    <>
      <ol aria-label="Groups in series" className="mb-3 divide-y divide-rule border-y border-rule text-sm">
        {groups.map((g, k) => {
          const held = sums.groups[k] ?? 0;
          const weakest = held === sums.capacity;
          return (
            <li
              key={g.map((c) => c.cell.id).join()}
              data-group={k + 1}
              className="grid grid-cols-[2rem_minmax(0,1fr)_9rem_6rem] items-center gap-x-3 py-1"
            >
              <span className="figures text-pencil">{k + 1}</span>
              <span>
                {g.map((c, n) => (
                  <span key={c.cell.id}>
                    {n ? ", " : ""}
                    <Link href={`/cells/${c.cell.id}`} className="hover:underline">
                      {c.cell.title}
                    </Link>{" "}
                    <span className="figures text-pencil">{c.code}</span>
                    {c.capacity ? "" : " (rated)"}
                  </span>
                ))}
              </span>
              <span className="h-2 border border-pencil/60" aria-hidden>
                <span className="block h-full bg-copper" style={{ width: `${(100 * held) / most}%` }} />
              </span>
              <span className={`figures text-right ${weakest ? "font-semibold" : ""}`}>
                {formatQuantity(held, "Ah", { digits: 4 })}
              </span>
            </li>
          );
        })}
      </ol>
      <dl className="grid gap-x-8 gap-y-2 min-[560px]:grid-cols-3" data-testid="pack-sums">
        <Figure label="The pack gives" value={formatQuantity(sums.capacity, "Ah", { digits: 4 })} />
        <Figure
          label="Groups apart at the low cut, by about"
          value={formatQuantity(sums.spreadAtCut, "V", { digits: 2 })}
        />
        <Figure
          label="Current when its cells are joined, at most"
          value={
            sums.joining
              ? sums.joining.amps
                ? formatQuantity(sums.joining.amps, "A", { digits: 2 })
                : "none: all at one voltage"
              : groups.every((g) => g.length === 1)
                ? "none in parallel"
                : "not stated: read voltage and resistance of every cell"
          }
        />
      </dl>
      {sums.joining && sums.joining.amps > CALM ? (
        <p className="mt-2 max-w-prose text-close">
          <span aria-hidden>! </span>Bring the cells to the same voltage first: joined now,{" "}
          {formatQuantity(sums.joining.volts, "V", { digits: 3 })} between two of them drive{" "}
          {formatQuantity(sums.joining.amps, "A", { digits: 2 })}.
        </p>
      ) : null}
    </>
  );
}

const Figure = ({ label, value }: { readonly label: string; readonly value: string }) => (
  <div>
    <dt className="text-sm text-pencil">{label}</dt>
    <dd className="figures text-lg">{value}</dd>
  </div>
);
