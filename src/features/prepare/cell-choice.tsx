"use client";

import { compute } from "@/workers/compute";
import { useState } from "react";
import { CHEMISTRY_LIMITS, rejection } from "@/core/cells";
import { cellCode } from "@/core/cells/code";
import type { CellRecord, RunRecord } from "@/core/files/records";
import { plannedCell } from "@/core/procedures";
import type { PlannedCell } from "@/core/measurement";
import { formatQuantity } from "@/core/quantities";
import { attempt } from "@/browser/notify";
import { drawer, keepCell, type DrawerCell } from "@/notebook";
import { useLive } from "@/storage";
import { Button } from "@/ui/button";
import { CellDialog } from "@/ui/cell-dialog";
import { Link } from "@/ui/link";
import { Radio, RadioRoot } from "@/ui/radio-group";

/** More cells than this are told apart by name and code alone. */
const MANY = 10;

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
  const live = useLive(`drawer-${notebookId}`, () => drawer(compute, notebookId));
  const [edited, setEdited] = useState<CellRecord | "new" | null>(null);
  if (live.state !== "ready") return null;
  const { rules, cells } = live.value;
  const suited = cells.filter(
    ({ cell }) => !cell.rejected && (takes === "either" || (takes === "pack") === (cell.series ?? 1) > 1),
  );
  // A cell that charges elsewhere, or is part of a pack, is not at hand; the one that was chosen stays in sight.
  const fit = suited.filter((c) => c.cell.id === chosen || (c.stage.stage !== "charging" && c.pack === null));
  const many = fit.length > MANY;
  const take = (cell: CellRecord) => onCell(plannedCell(cell, rules));
  return (
    <>
      <RadioRoot
        label="Cell of the run"
        value={chosen}
        onValue={(id) => fit.forEach(({ cell }) => cell.id === id && take(cell))}
      >
        <ul className="mb-2 flex flex-wrap gap-2">
          {fit.map(({ cell, triage }) => (
            <li key={cell.id}>
              <span
                className={`inline-flex items-baseline gap-2 border px-2.5 py-1 ${chosen === cell.id ? "border-ink bg-field" : "border-pencil/60"}`}
              >
                <Radio value={cell.id} disabled={charges && rejection(triage) !== null}>
                  {cell.title}{" "}
                  <span className="figures text-sm text-pencil">
                    {many && cell.id !== chosen ? cellCode(cell.id) : cellText(cell)}
                  </span>
                </Radio>
                {many && cell.id !== chosen ? null : (
                  <Button
                    look="bare"
                    className="text-sm"
                    onClick={() => setEdited(cell)}
                    aria-label={`Edit ${cell.title}`}
                  >
                    edit
                  </Button>
                )}
              </span>
              {charges ? <NotToBeCharged cell={cell} triage={triage} /> : null}
            </li>
          ))}
        </ul>
      </RadioRoot>
      <p className="flex flex-wrap items-center gap-3 text-sm text-pencil">
        <Button look={fit.length ? "plain" : "main"} onClick={() => setEdited("new")}>
          Add cell
        </Button>
        {fit.length
          ? "The cell fills in the plan, and its history names the run."
          : suited.length === 0
            ? takes === "pack"
              ? "The drawer holds no pack."
              : "The drawer is empty."
            : ""}
        {suited.length > fit.length
          ? ` ${suited.length - fit.length}${fit.length ? " more" : ""} ${suited.length - fit.length === 1 ? "is" : "are"} on a charger or in a pack.`
          : ""}
      </p>
      {edited ? (
        <CellDialog
          cell={edited === "new" ? null : edited}
          rules={rules}
          onClose={() => setEdited(null)}
          onKeep={(facts) =>
            attempt(async () => take(await keepCell(edited === "new" ? null : edited, facts, notebookId)))
          }
        />
      ) : null}
    </>
  );
}

const cellText = (c: CellRecord): string =>
  [
    cellCode(c.id),
    formatQuantity(c.capacity, "Ah"),
    ...(c.series ? [`${c.series} in series`] : []),
    CHEMISTRY_LIMITS[c.chemistry].label.replace(/,.*/, ""),
  ].join(", ");

/** Why a cell that is to be rejected can't be chosen for a charge. */
function NotToBeCharged({ cell, triage }: { readonly cell: CellRecord; readonly triage: DrawerCell["triage"] }) {
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
