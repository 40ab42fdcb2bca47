"use client";

import {
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type SortingState,
} from "@tanstack/react-table";
import clsx from "clsx";
import { memo, useMemo, useState, type HTMLAttributes, type ReactNode } from "react";

export interface DataColumn<T> {
  readonly id: string;
  /** For readers of the screen alone where `bare`. */
  readonly head: string;
  readonly bare?: boolean;
  /** Drawn in place of the head where that is more than words. */
  readonly heading?: ReactNode;
  content(row: T): ReactNode;
  /** What the column is sorted by; absent where sorting it would say nothing. Nothing known (undefined) comes last. */
  by?(row: T): string | number | undefined;
  /** Figures: in the steady face, to the right. */
  readonly figures?: boolean;
  /** What the row is about. */
  readonly names?: boolean;
  readonly className?: string | ((row: T) => string);
  /** The class that gives its width. */
  readonly width?: string;
}

export interface DataTableProps<T> {
  readonly label?: string;
  readonly rows: readonly T[];
  readonly columns: readonly DataColumn<T>[];
  id(row: T): string;
  /** What a row carries besides: an anchor, a state. */
  rowProps?(row: T): HTMLAttributes<HTMLTableRowElement> & { readonly [data: `data-${string}`]: string | undefined };
  /** Least width in px before it scrolls. */
  readonly least?: number;
  /** What a row opens to, across all columns; null while it is closed. */
  below?(row: T): ReactNode;
  /** Each row a block of its own on a phone, without heads. */
  readonly stacks?: boolean;
  /** Without heads, where the columns speak for themselves. */
  readonly headless?: boolean;
  /** Low rows. */
  readonly dense?: boolean;
  /** Columns keep the widths of their heads, whatever the rows hold: a long table is then laid out quickly. */
  readonly steady?: boolean;
  /** Without a look of its own, where the page has one for its tables: on paper. */
  readonly plain?: boolean;
}

/** Rows and columns that sort where sorting tells something; in the order they were given until then. */
export function DataTable<T>({
  label,
  rows,
  columns,
  id,
  rowProps,
  least = 0,
  below,
  stacks = false,
  headless = false,
  dense = false,
  steady = false,
  plain = false,
}: DataTableProps<T>) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const data = useMemo(() => [...rows], [rows]);
  const defs = useMemo<ColumnDef<T>[]>(
    () =>
      columns.map((c) => ({
        id: c.id,
        header: c.head,
        accessorFn: (row: T) => c.by?.(row),
        enableSorting: c.by !== undefined,
        sortUndefined: "last" as const,
      })),
    [columns],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- the table is asked anew at each drawing; nothing here is memoized on what it gives
  const table = useReactTable({
    data,
    columns: defs,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getRowId: id,
  });
  const of = new Map(columns.map((c) => [c.id, c]));
  return (
    <div className="overflow-x-auto">
      <table
        {...(label ? { "aria-label": label } : {})}
        className={clsx(!plain && "w-full text-left text-sm", stacks && "max-[700px]:block", steady && "table-fixed")}
        style={least ? { minWidth: `${least}px` } : {}}
      >
        <thead className={clsx(!plain && "text-pencil", headless && "sr-only", stacks && "max-[700px]:sr-only")}>
          {table.getHeaderGroups().map((g) => (
            <tr key={g.id} {...(plain ? {} : { className: "border-b border-pencil/60" })}>
              {g.headers.map((h) => (
                <Head
                  key={h.id}
                  plain={plain}
                  column={of.get(h.id) as DataColumn<T>}
                  direction={h.column.getIsSorted()}
                  onSort={h.column.getToggleSortingHandler()}
                />
              ))}
            </tr>
          ))}
        </thead>
        <tbody {...(stacks ? { className: "max-[700px]:block" } : {})}>
          {table.getRowModel().rows.map((row) => (
            <Row
              key={row.id}
              row={row.original}
              columns={columns}
              {...(rowProps ? { rowProps } : {})}
              {...(below ? { below } : {})}
              stacks={stacks}
              dense={dense}
              plain={plain}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

type RowOf<T> = Pick<DataTableProps<T>, "columns" | "rowProps" | "below" | "stacks" | "dense" | "plain"> & {
  readonly row: T;
};

function RowBody<T>({ row, columns, rowProps, below, stacks, dense, plain }: RowOf<T>) {
  const { className, ...more } = rowProps?.(row) ?? {};
  const opened = below?.(row) ?? null;
  return (
    <>
      <tr
        {...more}
        className={clsx(
          !plain && "border-b border-rule align-top",
          stacks && "max-[700px]:block max-[700px]:py-2",
          className,
        )}
      >
        {columns.map((column) => {
          const look = clsx(
            !plain && [dense ? "py-0.5" : "py-1", "pr-4 last:pr-0"],
            stacks && "max-[700px]:block max-[700px]:py-0.5",
            column.figures && (stacks ? "figures text-right max-[700px]:text-left" : "figures text-right"),
            typeof column.className === "function" ? column.className(row) : column.className,
          );
          // Called, not drawn as a component: fields in a cell keep their focus when the columns are made anew.
          const content = column.content(row);
          return column.names ? (
            <th key={column.id} scope="row" className={clsx("font-normal", look)}>
              {content}
            </th>
          ) : (
            <td key={column.id} className={look}>
              {content}
            </td>
          );
        })}
      </tr>
      {opened ? (
        <tr>
          <td colSpan={columns.length} className="bg-film px-2 py-1.5">
            {opened}
          </td>
        </tr>
      ) : null}
    </>
  );
}

/** One row; drawn again only when it, its columns or what is asked of it have changed, so that a long table takes a new row at once. */
const Row = memo(RowBody) as typeof RowBody;

function Head<T>({
  column: c,
  plain,
  direction,
  onSort,
}: {
  readonly plain: boolean;
  readonly column: DataColumn<T>;
  readonly direction: "asc" | "desc" | false;
  readonly onSort: ((e: unknown) => void) | undefined;
}) {
  return (
    <th
      scope="col"
      className={clsx(!plain && "py-1 pr-4 font-medium last:pr-0", c.figures && "text-right", c.width)}
      {...(c.by
        ? {
            "aria-sort":
              direction === "asc"
                ? ("ascending" as const)
                : direction === "desc"
                  ? ("descending" as const)
                  : ("none" as const),
          }
        : {})}
    >
      {c.heading !== undefined ? (
        c.heading
      ) : c.bare ? (
        <span className="sr-only">{c.head}</span>
      ) : c.by ? (
        <button type="button" onClick={onSort}>
          {c.head}
          {direction === "asc" ? " ↑" : direction === "desc" ? " ↓" : ""}
        </button>
      ) : (
        c.head
      )}
    </th>
  );
}
