"use client";

import { Link } from "@/ui/link";
import { CHEMISTRY_LIMITS } from "@/core/cells";
import { cellCode } from "@/core/cells/code";
import { plannedCell, type PlannedCell } from "@/core/procedures";
import { formatQuantity } from "@/core/quantities";
import { ofKind, rulesOf, useLive } from "@/storage";
import type { RunRecord } from "@/core/files/records";

interface CellChoiceProps {
  readonly notebookId: RunRecord["notebookId"];
  readonly takes: "cell" | "pack" | "either";
  readonly chosen: string | null;
  onCell(cell: PlannedCell): void;
}

/** Which of the drawer's cells a run is made with; its history then names the run. What was rejected isn't offered. */
export function CellChoice({ notebookId, takes, chosen, onCell }: CellChoiceProps) {
  const live = useLive(`cells-${notebookId}`, async () => ({ cells: await ofKind(notebookId, "cell"), rules: await rulesOf(notebookId) }), (n) => n.kinds.includes("cell") || n.kinds.includes("rules"));
  if (live.state !== "ready") return null;
  const fit = live.value.cells.filter((c) => !c.rejected && (takes === "either" || (takes === "pack") === ((c.series ?? 1) > 1))).sort((a, b) => a.title.localeCompare(b.title, "en", { numeric: true }));
  return (
    <>
      <ul className="mb-2 flex flex-wrap gap-3">
        {fit.map((c) => (
          <li key={c.id}>
            <label className={`inline-flex items-center gap-2 border px-3 py-1.5 ${chosen === c.id ? "border-ink bg-field" : "border-pencil/60"}`}>
              <input type="radio" name="drawer-cell" checked={chosen === c.id} onChange={() => onCell(plannedCell(c, live.value.rules))} className="size-4 accent-(--copper)" />
              {c.title}
              <span className="figures text-sm text-pencil">
                {cellCode(c.id)}, {formatQuantity(c.capacity, "Ah")}
                {c.series ? `, ${c.series} in series` : ""}, {CHEMISTRY_LIMITS[c.chemistry].label.replace(/,.*/, "")}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <p className="text-sm text-pencil">
        {fit.length ? "Choosing one fills in what follows and enters the run in its history. " : takes === "pack" ? "No pack is in the drawer. " : "The drawer is empty. "}
        <Link href="/cells" className="underline underline-offset-4">
          {fit.length ? "The cell drawer" : "Write one down in the cell drawer"}
        </Link>
        {fit.length ? "" : ", or fill in the fields below."}
      </p>
    </>
  );
}
