import { format } from "date-fns";
import { memo, useMemo, type ComponentProps } from "react";
import { formatRoughly } from "@/core/quantities";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Link } from "@/ui/link";
import type { BayRow } from "./bay-rows";

const minutes = (seconds: number): string => formatRoughly(Math.max(120, seconds));

/** Whether a charge takes longer than predicted, by more than an eighth of it: predictions come out a little short. */
export const overdue = (b: BayRow): boolean => b.expected !== null && b.gone > 1.125 * b.expected;

/** How far a bay has come, in words and with a bar. */
function Progress({ b }: { readonly b: BayRow }) {
  if (!b.charge) return <span className="text-pencil">free</span>;
  const late = overdue(b);
  const share = b.expected ? Math.min(1, b.gone / b.expected) : 0;
  const end = b.expected === null ? null : new Date(Date.parse(b.charge.startedAt) + b.expected * 1000);
  return (
    <span className="grid grid-cols-[6rem_minmax(0,1fr)] items-center gap-x-3">
      <span className="h-2 border border-pencil/60" aria-hidden>
        <span className={`block h-full ${late ? "bg-misses" : "bg-copper"}`} style={{ width: `${100 * share}%` }} />
      </span>
      <span className={late ? "font-semibold text-misses" : ""}>
        {late ? <span aria-hidden>! </span> : null}
        {end === null
          ? "no end predicted"
          : late
            ? `overdue by ${minutes(b.gone - (b.expected ?? 0))}: look at it`
            : b.gone > (b.expected ?? 0)
              ? "about done: check it"
              : `until about ${format(end, "HH:mm")}, ${minutes((b.expected ?? 0) - b.gone)} left`}
      </span>
    </span>
  );
}

const columns = (onDone: (cellId: string) => void): readonly DataColumn<BayRow>[] => [
  { id: "bay", head: "Bay", names: true, figures: true, width: "w-14", className: "text-lg", content: (b) => b.bay },
  {
    id: "cell",
    head: "Cell",
    width: "w-[28%]",
    className: "text-lg",
    content: (b) =>
      b.c ? (
        <>
          <Link href={`/cells/${b.c.cell.id}`} className="font-medium hover:underline">
            {b.c.cell.title}
          </Link>{" "}
          <span className="figures text-sm text-pencil">{b.c.code}</span>
        </>
      ) : null,
  },
  {
    id: "since",
    head: "Since",
    figures: true,
    width: "w-20",
    content: (b) => (b.charge ? format(new Date(b.charge.startedAt), "HH:mm") : ""),
  },
  { id: "progress", head: "Predicted end", content: (b) => <Progress b={b} /> },
  {
    id: "done",
    head: "Done",
    bare: true,
    width: "w-24",
    content: (b) =>
      b.c ? (
        <Button aria-label={`${b.c.cell.title} in bay ${b.bay} is done`} onClick={() => onDone(b.c?.cell.id ?? "")}>
          Done
        </Button>
      ) : null,
  },
];

const idOf = (b: BayRow): string => String(b.bay);
const rowProps: ComponentProps<typeof DataTable<BayRow>>["rowProps"] = (b) => ({
  ...(b.charge ? {} : { className: "max-[700px]:!hidden" }),
  "data-bay": String(b.bay),
  "data-state": b.charge ? (overdue(b) ? "overdue" : "charging") : "free",
});

/** A row a bay. */
export const BayTable = memo(function BayTable({
  rows,
  onDone,
}: {
  readonly rows: readonly BayRow[];
  onDone(cellId: string): void;
}) {
  return (
    <DataTable
      label="Bays"
      rows={rows}
      id={idOf}
      columns={useMemo(() => columns(onDone), [onDone])}
      stacks
      steady
      rowProps={rowProps}
    />
  );
});
