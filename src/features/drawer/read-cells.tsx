"use client";

import { useController, useForm, useWatch, type Control } from "react-hook-form";
import { CHEMISTRY_LIMITS } from "@/core/cells";
import { CELL_SIGNS, type CellSign } from "@/core/files/records";
import type { HouseRules } from "@/core/measurement";
import { formatQuantity, parseQuantity } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { attempt, notify } from "@/browser/notify";
import { cellMeter, readCells, type CellLookDraft, type DrawerCell } from "@/notebook";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormSelect } from "@/ui/form-fields";
import { TextField } from "@/ui/quantity-field";
import { choicesByName, type Choice } from "@/ui/select";
import { Why } from "@/ui/why";

/** What the cell did since it was read before. */
export type Since = "rest" | "charged" | "used";
export const SINCE_CHOICES: readonly Choice<Since>[] = [
  { value: "rest", label: "at rest since" },
  { value: "charged", label: "just charged" },
  { value: "used", label: "used since" },
];
const SIGN_CHOICES: readonly Choice<CellSign | "">[] = [
  { value: "", label: "nothing observed" },
  ...choicesByName(CELL_SIGNS),
];

interface Draft {
  text: string;
  since: Since;
  sign: CellSign | "";
}
const EMPTY: Draft = { text: "", since: "rest", sign: "" };

/** What is wrong with volts that were typed for a cell; a slip of the finger must not reject it. */
function doubt(volts: number, c: DrawerCell): string | null {
  const series = c.cell.series ?? 1;
  const each = volts / series;
  if (!(each >= 0 && each < 5)) return `${formatQuantity(each, "V", { digits: 3 })} outside any cell's range.`;
  if (each > CHEMISTRY_LIMITS[c.cell.chemistry].maximum)
    return `Above ${formatQuantity(series * CHEMISTRY_LIMITS[c.cell.chemistry].maximum, "V")}: overcharged, or a typing error. A cell this high is dangerous.`;
  return null;
}

/** Keyed by the cells' places in the list: an id may hold what a form's path can't. */
interface Fields {
  drafts: Draft[];
}
const volts = (d: Draft) => (d.text.trim() === "" ? null : parseQuantity(d.text, "V"));

/** What was read or observed of a cell; null where nothing was. */
function lookOf(c: DrawerCell, d: Draft | undefined): CellLookDraft | null {
  if (!d) return null;
  const v = volts(d);
  if (!v?.ok && !d.sign) return null;
  return {
    cell: c.cell,
    volts: v?.ok ? v.value.value : null,
    charged: d.since === "charged" && v?.ok === true,
    used: d.since === "used",
    ...(d.sign ? { sign: d.sign } : {}),
  };
}

/** A voltage that no cell can have is refused; one that is only dangerous is said and kept. */
export function voltageRefusal(volts: number, c: DrawerCell): string | null {
  const each = volts / (c.cell.series ?? 1);
  return each >= 0 && each < 5 ? null : doubt(volts, c);
}

/** The same of what is typed, which may be no number. */
function refusal(text: string, c: DrawerCell): string | null {
  const v = text.trim() === "" ? null : parseQuantity(text, "V");
  return v === null ? null : v.ok ? voltageRefusal(v.value.value, c) : v.error;
}

/** One field a cell, Enter goes on to the next: what lies in the drawer, read in one go. */
export function ReadCells({ cells, rules }: { readonly cells: readonly DrawerCell[]; readonly rules: HouseRules }) {
  const { notebook } = useSession();
  const { control, handleSubmit, reset } = useForm<Fields>({ defaultValues: { drafts: cells.map(() => EMPTY) } });
  const drafts = useWatch({ control, name: "drafts" });
  const looks = cells.flatMap((c, k) => lookOf(c, drafts[k]) ?? []);
  const save = handleSubmit((f) =>
    attempt(async () => {
      const read = cells.flatMap((c, k) => lookOf(c, f.drafts[k]) ?? []);
      await readCells(read, await cellMeter(notebook.id));
      reset({ drafts: cells.map(() => EMPTY) });
      await notify(read.length === 1 ? "One reading saved." : `${read.length} readings saved.`);
    }),
  );
  return (
    <Form onSubmit={save}>
      <p className="mb-2 max-w-prose text-sm text-pencil">
        Measure at the cell with nothing connected. Mark cells that have just been charged.{" "}
        <Why of="charged cells are marked">
          The fall of a cell is counted from its last charge, and it is due again in {rules.restDays} days.
        </Why>
      </p>
      <ul className="mb-3 divide-y divide-rule border-y border-rule">
        {cells.map((c, k) => (
          <ReadRow key={c.cell.id} c={c} k={k} last={k === cells.length - 1} control={control} />
        ))}
      </ul>
      <Button look="main" type="submit" disabled={looks.length === 0}>
        {looks.length > 1 ? `Save ${looks.length} readings` : "Save reading"}
      </Button>
    </Form>
  );
}

function ReadRow({
  c,
  k,
  last,
  control,
}: {
  readonly c: DrawerCell;
  readonly k: number;
  readonly last: boolean;
  readonly control: Control<Fields>;
}) {
  const { field, fieldState } = useController({
    control,
    name: `drafts.${k}.text`,
    rules: { validate: (t) => refusal(t, c) ?? true },
  });
  const v = field.value.trim() === "" ? null : parseQuantity(field.value, "V");
  return (
    <li className="flex flex-wrap items-start gap-x-5 pt-1.5">
      <span className="w-40 pt-1.5">
        {c.cell.title} <span className="figures text-sm text-pencil">{c.code}</span>
      </span>
      <TextField
        label={`Voltage of ${c.cell.title}`}
        hideLabel
        numeric
        unit="V"
        text={field.value}
        onText={field.onChange}
        onKeyDown={(e) => {
          // Enter goes on down the drawer; from the last one it keeps.
          if (e.key !== "Enter" || last) return;
          e.preventDefault();
          e.currentTarget.closest("form")?.querySelectorAll<HTMLInputElement>("input[data-number]")[k + 1]?.focus();
        }}
        echo={v?.ok ? v.value.echo : undefined}
        error={fieldState.error?.message ?? (v === null ? null : v.ok ? doubt(v.value.value, c) : v.error)}
      />
      <FormSelect
        control={control}
        name={`drafts.${k}.since`}
        label={`Since then ${c.cell.title}`}
        place="hidden"
        choices={SINCE_CHOICES}
      />
      <FormSelect
        control={control}
        name={`drafts.${k}.sign`}
        label={`Observed on ${c.cell.title}`}
        place="hidden"
        choices={SIGN_CHOICES}
      />
    </li>
  );
}
