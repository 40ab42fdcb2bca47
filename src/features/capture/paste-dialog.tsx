"use client";

import { useMemo } from "react";
import { formatQuantity } from "@/core/quantities";
import { procedure } from "@/core/procedures";
import { roleLabel, roleUnit } from "@/core/measurement";
import type { RunDossier } from "@/notebook";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Dialog } from "@/ui/dialog";
import { parsePasted, type PastedRow } from "./paste";

/** Rows from a spreadsheet, shown as they were understood before any of them is kept. */
export function PasteDialog({
  text,
  d,
  onClose,
  onRows,
}: {
  text: string;
  d: RunDossier;
  onClose(): void;
  onRows(rows: readonly PastedRow[]): Promise<boolean>;
}) {
  const roles = useMemo(() => procedure(d.run.procedure)?.record.roles.map((r) => r.role) ?? [], [d.run.procedure]);
  const plan = d.run.setup.plan as { batteries?: readonly number[] } | undefined;
  const pasted = useMemo(
    () =>
      parsePasted(
        text,
        roles,
        plan?.batteries ?? [],
        d.run.setup.conditions.supplyCurrentLimit,
        d.run.setup.conditions.nominalOutput,
      ),
    [text, roles, plan, d.run.setup.conditions],
  );
  const columns: readonly DataColumn<PastedRow>[] = [
    {
      id: "set",
      head: "Supply set",
      content: (r) =>
        r.settings.supplyVoltage !== undefined ? `at ${formatQuantity(r.settings.supplyVoltage, "V")}` : "",
    },
    ...roles.map((role) => ({
      id: role,
      head: roleLabel(role),
      figures: true,
      content: (r: PastedRow) =>
        r.cells[role]?.value != null
          ? formatQuantity(r.cells[role].value, roleUnit(role), { digits: 5 })
          : r.cells[role]?.status === "overload"
            ? "OL"
            : "—",
    })),
  ];
  return (
    <Dialog
      wide
      title={`Paste ${pasted.rows.length} points`}
      about={`Columns in the order of the screen: ${roles.map((r) => `${roleLabel(r).toLowerCase()} (${roleUnit(r)})`).join(", ")}.`}
      onClose={onClose}
    >
      {pasted.problems.length ? (
        <div className="mb-3 border-l-4 border-misses pl-3 text-sm">
          <p className="font-medium">{pasted.problems.length} cells can&apos;t be read; their rows are left unsaved:</p>
          <ul>
            {pasted.problems.slice(0, 6).map((p) => (
              <li key={p}>{p}</li>
            ))}
          </ul>
        </div>
      ) : null}
      {pasted.doubts.length ? (
        <div role="alert" className="mb-3 border-l-4 border-close pl-3 text-sm">
          <p className="font-medium">Check these before you save:</p>
          <ul>
            {pasted.doubts.slice(0, 6).map((q) => (
              <li key={q}>{q}</li>
            ))}
          </ul>
          {pasted.doubts.length > 6 ? <p>and {pasted.doubts.length - 6} more</p> : null}
        </div>
      ) : null}
      <div className="mb-4 max-h-72 overflow-auto">
        <DataTable
          label="Points as they were read"
          headless
          rows={pasted.rows}
          columns={columns}
          id={(r) => String(r.line)}
        />
      </div>
      <Button
        look="main"
        disabled={pasted.rows.length === 0}
        onClick={() => void onRows(pasted.rows).then((good) => good && onClose())}
      >
        {pasted.doubts.length ? `Save all ${pasted.rows.length} points as read` : `Save ${pasted.rows.length} points`}
      </Button>
    </Dialog>
  );
}
