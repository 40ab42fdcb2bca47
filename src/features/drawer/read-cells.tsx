"use client";

import { useState } from "react";
import { CHEMISTRY_LIMITS } from "@/core/cells";
import { CELL_SIGNS, type CellSign } from "@/core/files/records";
import type { HouseRules } from "@/core/procedures/house-rules";
import { accuraciesFor } from "@/core/procedures/roles";
import { formatQuantity, parseQuantity } from "@/core/quantities";
import { useSession } from "@/session/context";
import { attempt, notify } from "@/session/notify";
import { readCells, rigOf, type CellLookDraft, type DrawerCell } from "@/storage";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { TextField } from "@/ui/quantity-field";
import { named, Select, type Choice } from "@/ui/select";

/** What the cell did since it was read before. */
type Since = "rest" | "charged" | "used";
const SINCE_CHOICES: readonly Choice<Since>[] = [
  { value: "rest", label: "at rest since" },
  { value: "charged", label: "just charged" },
  { value: "used", label: "used since" },
];
const SIGN_CHOICES: readonly Choice<CellSign | "">[] = [{ value: "", label: "nothing observed" }, ...named(CELL_SIGNS)];

interface Draft {
  readonly text: string;
  readonly since: Since;
  readonly sign: CellSign | "";
}
const EMPTY: Draft = { text: "", since: "rest", sign: "" };

/** What is wrong with volts that were typed for a cell; a slip of the finger must not reject it. */
function doubt(volts: number, c: DrawerCell): string | null {
  const series = c.cell.series ?? 1;
  const each = volts / series;
  if (!(each >= 0 && each < 5)) return `${formatQuantity(each, "V", { digits: 3 })} outside any cell's range.`;
  if (each > CHEMISTRY_LIMITS[c.cell.chemistry].maximum) return `Above ${formatQuantity(series * CHEMISTRY_LIMITS[c.cell.chemistry].maximum, "V")}: overcharged, or a typing error. A cell this high is dangerous.`;
  return null;
}

/** One field a cell, Enter goes on to the next: what lies in the drawer, read in one go. */
export function ReadCells({ cells, rules }: { readonly cells: readonly DrawerCell[]; readonly rules: HouseRules }) {
  const { notebook } = useSession();
  const [drafts, setDrafts] = useState<Readonly<Record<string, Draft>>>({});
  const draft = (id: string) => drafts[id] ?? EMPTY;
  const put = (id: string, patch: Partial<Draft>) => setDrafts((d) => ({ ...d, [id]: { ...(d[id] ?? EMPTY), ...patch } }));
  const understood = (c: DrawerCell) => {
    const { text } = draft(c.cell.id);
    return text.trim() === "" ? null : parseQuantity(text, "V");
  };
  const looks = cells.flatMap((c): CellLookDraft[] => {
    const { since, sign } = draft(c.cell.id);
    const v = understood(c);
    if ((v === null || !v.ok) && !sign) return [];
    return [{ cell: c.cell, volts: v?.ok ? v.value.value : null, charged: since === "charged" && v?.ok === true, used: since === "used", ...(sign ? { sign } : {}) }];
  });
  const wrong = cells.some((c) => {
    const v = understood(c);
    return v !== null && (!v.ok || !(v.value.value / (c.cell.series ?? 1) < 5) || v.value.value < 0);
  });
  const keep = () =>
    void attempt(async () => {
      const rig = await rigOf(notebook.id);
      await readCells(looks, accuraciesFor(["cellVoltage"], rig?.instruments ?? {}).cellVoltage);
      setDrafts({});
      await notify(looks.length === 1 ? "One reading saved." : `${looks.length} readings saved.`);
    });
  return (
    <Form
      onSubmit={() => {
        if (looks.length && !wrong) keep();
      }}
    >
      <p className="mb-2 max-w-prose text-sm text-pencil">
        Measure at the cell with nothing connected. Mark cells that have just been charged: their fall is counted from then, and they are due again in {rules.restDays} days.
      </p>
      <ul className="mb-3 divide-y divide-rule border-y border-rule">
        {cells.map((c, k) => {
          const v = understood(c);
          const { text, since, sign } = draft(c.cell.id);
          return (
            <li key={c.cell.id} className="flex flex-wrap items-start gap-x-5 pt-1.5">
              <span className="w-40 pt-1.5">
                {c.cell.title} <span className="figures text-sm text-pencil">{c.code}</span>
              </span>
              <TextField
                label={`Voltage of ${c.cell.title}`}
                hideLabel
                numeric
                unit="V"
                text={text}
                onText={(t) => put(c.cell.id, { text: t })}
                onKeyDown={(e) => {
                  // Enter goes on down the drawer; from the last one it keeps.
                  if (e.key !== "Enter" || k === cells.length - 1) return;
                  e.preventDefault();
                  e.currentTarget.closest("form")?.querySelectorAll<HTMLInputElement>("input[data-number]")[k + 1]?.focus();
                }}
                echo={v?.ok ? v.value.echo : undefined}
                error={v === null ? null : v.ok ? doubt(v.value.value, c) : v.error}
              />
              <Select label={`Since then ${c.cell.title}`} place="hidden" value={since} onValue={(v) => put(c.cell.id, { since: v })} choices={SINCE_CHOICES} />
              <Select label={`Observed on ${c.cell.title}`} place="hidden" value={sign} onValue={(v) => put(c.cell.id, { sign: v })} choices={SIGN_CHOICES} />
            </li>
          );
        })}
      </ul>
      <Button look="main" type="submit" disabled={looks.length === 0 || wrong}>
        {looks.length > 1 ? `Save ${looks.length} readings` : "Save reading"}
      </Button>
    </Form>
  );
}
