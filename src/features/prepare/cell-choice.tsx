"use client";

import { Link } from "@/ui/link";
import { CHEMISTRY_LIMITS, rejection } from "@/core/cells";
import { cellCode } from "@/core/cells/code";
import { plannedCell, type PlannedCell } from "@/core/procedures";
import { formatQuantity } from "@/core/quantities";
import { drawer, useLive, type DrawerCell } from "@/storage";
import type { CellRecord, RunRecord } from "@/core/files/records";

interface CellChoiceProps {
  readonly notebookId: RunRecord["notebookId"];
  readonly takes: "cell" | "pack" | "either";
  /** The run charges it: what is to be rejected is refused, with the reason. */
  readonly charges: boolean;
  readonly chosen: string | null;
  onCell(cell: PlannedCell): void;
}

/** Which of the drawer's cells a run is made with; its history then names the run. What was rejected isn't offered. */
export function CellChoice({ notebookId, takes, charges, chosen, onCell }: CellChoiceProps) {
  const live = useLive(`drawer-${notebookId}`, () => drawer(notebookId));
  if (live.state !== "ready") return null;
  const fit = live.value.cells.filter(({ cell }) => !cell.rejected && (takes === "either" || (takes === "pack") === ((cell.series ?? 1) > 1)));
  return (
    <>
      <ul className="mb-2 flex flex-wrap gap-3">
        {fit.map(({ cell: c, triage }) => (
          <li key={c.id}>
            <label className={`inline-flex items-center gap-2 border px-3 py-1.5 ${chosen === c.id ? "border-ink bg-field" : "border-pencil/60"}`}>
              <input type="radio" name="drawer-cell" checked={chosen === c.id} disabled={charges && rejection(triage) !== null} onChange={() => onCell(plannedCell(c, live.value.rules))} className="size-4 accent-(--copper)" />
              {c.title}
              <span className="figures text-sm text-pencil">
                {cellCode(c.id)}, {formatQuantity(c.capacity, "Ah")}
                {c.series ? `, ${c.series} in series` : ""}, {CHEMISTRY_LIMITS[c.chemistry].label.replace(/,.*/, "")}
              </span>
            </label>
            {charges ? <NotToBeCharged cell={c} triage={triage} /> : null}
          </li>
        ))}
      </ul>
      <p className="text-sm text-pencil">
        {fit.length ? "The cell fills in the fields below, and the run joins its history. " : takes === "pack" ? "The drawer holds no pack. " : "The drawer is empty. "}
        <Link href="/cells" className="underline underline-offset-4">
          {fit.length ? "The cell drawer" : "Add one in the cell drawer"}
        </Link>
        {fit.length ? "" : ", or fill in the fields below."}
      </p>
    </>
  );
}

/** Why a cell that is to be rejected can't be chosen for a charge. */
export function NotToBeCharged({ cell, triage }: { readonly cell: CellRecord; readonly triage: DrawerCell["triage"] }) {
  const why = rejection(triage);
  return why ? (
    <p className="max-w-prose text-sm text-misses">
      Not to be charged: {why}.{" "}
      <Link href={`/cells/${cell.id}`} className="underline underline-offset-4">
        Reject {cell.title}
      </Link>
    </p>
  ) : null;
}
