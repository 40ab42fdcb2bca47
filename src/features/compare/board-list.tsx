import type { Characteristic } from "@/core/characteristics";
import type { BoardRecord } from "@/core/files/records";
import { formatQuantity } from "@/core/quantities";
import { Link } from "@/ui/link";
import type { VerdictWord } from "@/core/verdicts";
import { VerdictMark } from "@/ui/verdict-mark";

/** One board's value of a quantity. */
export interface BoardValue {
  readonly board: BoardRecord;
  readonly value: number;
  /** Expanded uncertainty; NaN where it has none. */
  readonly u: number;
  readonly word: VerdictWord | null;
  readonly limits: readonly number[];
}

/** Boards listed of one quantity. */
const LISTED = 100;

/** The boards of one quantity, best first, with how far each is from the reference. */
export function BoardList({ c, values, picked }: { readonly c: Characteristic; readonly values: readonly BoardValue[]; readonly picked: string | null }) {
  const sign = c.better === "less" ? 1 : -1;
  const sorted = [...values].sort((a, b) => sign * (a.value - b.value));
  const reference = values.find((v) => v.board.id === picked)?.value;
  return (
    <table className="mb-2 ml-4 text-sm">
      <caption className="sr-only">{c.label} of every board</caption>
      <thead>
        <tr className="text-left text-pencil">
          <th className="pr-6 font-normal">Board</th>
          <th className="pr-6 text-right font-normal">{c.label}</th>
          {reference !== undefined ? <th className="pr-6 text-right font-normal">Difference</th> : null}
          <th className="font-normal">Verdict</th>
        </tr>
      </thead>
      <tbody>
        {sorted.slice(0, LISTED).map((v) => (
          <tr key={v.board.id} className={v.board.id === picked ? "font-semibold" : ""}>
            <th scope="row" className="pr-6 text-left font-normal">
              <Link href={`/board/${v.board.id}`} className="hover:underline">
                {v.board.title}
              </Link>
            </th>
            <td className="figures pr-6 text-right">
              {formatQuantity(v.value, c.unit, v.u > 0 ? { uncertainty: v.u } : { digits: 3 })}
              {v.u > 0 ? ` ± ${formatQuantity(v.u, c.unit, { digits: 2 })}` : ""}
            </td>
            {reference !== undefined ? <td className="figures pr-6 text-right">{v.board.id === picked ? "reference" : difference(v.value, reference)}</td> : null}
            <td>{v.word ? <VerdictMark word={v.word} /> : <span className="text-pencil">no claim</span>}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How far a value is from the reference, in per cent of it. */
function difference(value: number, reference: number): string {
  const share = value / reference - 1;
  if (!Number.isFinite(share)) return "–";
  const text = Math.abs(100 * share).toFixed(Math.abs(share) < 0.1 ? 1 : 0);
  return `${share < 0 ? "−" : "+"}${text}\u00a0%`;
}
