import type { Characteristic } from "@/core/characteristics";
import type { BoardRecord } from "@/core/files/records";
import { formatQuantity } from "@/core/quantities";
import { DataTable, type DataColumn } from "@/ui/data-table";
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
export function BoardList({
  c,
  values,
  picked,
}: {
  readonly c: Characteristic;
  readonly values: readonly BoardValue[];
  readonly picked: string | null;
}) {
  const sign = c.better === "less" ? 1 : -1;
  const sorted = [...values].sort((a, b) => sign * (a.value - b.value));
  const reference = values.find((v) => v.board.id === picked)?.value;
  const columns: readonly DataColumn<BoardValue>[] = [
    {
      id: "board",
      head: "Board",
      names: true,
      by: (v) => v.board.title,
      content: (v) => (
        <Link href={`/board/${v.board.id}`} className="hover:underline">
          {v.board.title}
        </Link>
      ),
    },
    {
      id: "value",
      head: c.label,
      figures: true,
      by: (v) => v.value,
      content: (v) =>
        `${formatQuantity(v.value, c.unit, v.u > 0 ? { uncertainty: v.u } : { digits: 3 })}${v.u > 0 ? ` ± ${formatQuantity(v.u, c.unit, { digits: 2 })}` : ""}`,
    },
    ...(reference !== undefined
      ? [
          {
            id: "difference",
            head: "Difference",
            figures: true,
            content: (v: BoardValue) => (v.board.id === picked ? "reference" : difference(v.value, reference)),
          },
        ]
      : []),
    {
      id: "verdict",
      head: "Verdict",
      by: (v) => v.word ?? undefined,
      content: (v) => (v.word ? <VerdictMark word={v.word} /> : <span className="text-pencil">no claim</span>),
    },
  ];
  return (
    <div className="mb-2 ml-4 max-w-3xl">
      <DataTable
        label={`${c.label} of every board`}
        rows={sorted.slice(0, LISTED)}
        columns={columns}
        id={(v) => v.board.id}
        rowProps={(v) => ({ className: v.board.id === picked ? "font-semibold" : "" })}
      />
    </div>
  );
}

/** How far a value is from the reference, in per cent of it. */
function difference(value: number, reference: number): string {
  const share = value / reference - 1;
  if (!Number.isFinite(share)) return "–";
  const text = Math.abs(100 * share).toFixed(Math.abs(share) < 0.1 ? 1 : 0);
  return `${share < 0 ? "−" : "+"}${text}\u00a0%`;
}
