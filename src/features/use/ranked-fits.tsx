import { formatQuantity } from "@/core/quantities";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Link } from "@/ui/link";
import type { Fitted } from "./fitted";
import { FIT_LOOK, runTimeText } from "./words";

const columns = (shown: string, floor: number, onShow: (id: string) => void): readonly DataColumn<Fitted>[] => [
  {
    id: "board",
    head: "Board",
    names: true,
    by: (f) => f.usable.board.title,
    content: ({ usable: { board } }) => (
      <button
        type="button"
        aria-pressed={board.id === shown}
        onClick={() => onShow(board.id)}
        className="text-left text-base font-semibold underline decoration-pencil/60 underline-offset-4 aria-pressed:decoration-margin aria-pressed:decoration-2 pointer-coarse:min-h-11"
      >
        {board.title}
      </button>
    ),
  },
  {
    id: "answer",
    head: "Answer",
    content: ({ fit }) => (
      <>
        <span className={`whitespace-nowrap font-semibold ${FIT_LOOK[fit.word].tone}`}>
          <span aria-hidden>{FIT_LOOK[fit.word].sign} </span>
          {fit.word}
        </span>
        {fit.claimed && fit.word !== "runs as claimed" ? (
          <span className="block text-xs text-pencil">by its claims</span>
        ) : null}
        {fit.simulated ? <span className="block text-xs text-pencil">simulated run</span> : null}
      </>
    ),
  },
  {
    id: "time",
    head: "Run time, k = 2",
    figures: true,
    className: "whitespace-nowrap",
    by: (f) => f.fit.seconds,
    content: ({ fit }) => runTimeText(fit),
  },
  {
    id: "day",
    head: "Cells for a day",
    figures: true,
    by: (f) => f.fit.perDay,
    content: ({ fit }) => fit.perDay ?? "—",
  },
  {
    id: "floor",
    head: `Holds at ${formatQuantity(floor, "V")}`,
    figures: true,
    className: "whitespace-nowrap",
    by: (f) => f.fit.atFloor?.current,
    content: ({ fit }) => (fit.atFloor ? formatQuantity(fit.atFloor.current, "A", { digits: 3 }) : "—"),
  },
  {
    id: "why",
    head: "Why",
    className: "max-w-96",
    content: ({ fit, usable }) => (
      <>
        {fit.why[0]}{" "}
        {fit.runId ? (
          <Link href={`/run/${fit.runId}/review`} className="underline underline-offset-4">
            Sweep{fit.sample ? ` of sample ${fit.sample}` : ""}
          </Link>
        ) : (
          <Link href={`/board/${usable.board.id}`} className="underline underline-offset-4">
            Open board
          </Link>
        )}
      </>
    ),
  },
];

/** Every board that boosts, the best for this load first; select one for its details. */
export const RankedFits = ({
  fits,
  shown,
  floor,
  onShow,
}: {
  readonly fits: readonly Fitted[];
  readonly shown: string;
  /** V to which the cell is discharged. */ readonly floor: number;
  onShow(id: string): void;
}) =>
  fits.length ? (
    <DataTable
      label="Boards for this load"
      rows={fits}
      columns={columns(shown, floor, onShow)}
      id={(f) => f.usable.board.id}
      least={760}
    />
  ) : (
    <p className="text-pencil">No board boosts yet. Add one and run its load sweep.</p>
  );
