"use client";

import { useForm, useWatch, type Control } from "react-hook-form";
import { CHEMISTRIES, CHEMISTRY_LIMITS, type Chemistry } from "@/core/cells";
import type { CellRecord } from "@/core/files/records";
import { SCHOOLS, type HouseRules } from "@/core/measurement";
import { Button } from "./button";
import { Dialog } from "./dialog";
import { capacityRefusal } from "./capacity";
import { Form } from "./form";
import { FormCheckbox, FormNumber, FormSelect, FormText } from "./form-fields";

/** What is known of a cell. */
export type CellFacts = Pick<
  CellRecord,
  | "title"
  | "chemistry"
  | "series"
  | "capacity"
  | "chargeRateLimit"
  | "chargeRate"
  | "fullVoltage"
  | "emptyVoltage"
  | "ownProtection"
  | "note"
>;

interface CellDialogProps {
  readonly cell: CellRecord | null;
  readonly rules: HouseRules;
  onClose(): void;
  /** Whether it could be kept. */
  onKeep(facts: CellFacts): Promise<boolean>;
  /** Where several that are alike may be added at once. */
  onKeepMany?(facts: CellFacts, count: number): Promise<boolean>;
}

/** Cells that one form adds at most. */
const MOST_ALIKE = 100;

const OWN = { chargeRate: "chargeRate", chargeFull: "fullVoltage", chargeEmpty: "emptyVoltage" } as const;
const TITLES: Readonly<Record<keyof typeof OWN, string>> = {
  chargeRate: "Charge current, in C",
  chargeFull: "Full at",
  chargeEmpty: "Empty at",
};

type OwnField = (typeof OWN)[keyof typeof OWN];
interface Fields {
  title: string;
  chemistry: Chemistry;
  series: number | null;
  capacity: number | null;
  chargeRateLimit: number | null;
  ownProtection: boolean;
  note: string;
  count: number | null;
  /** Its own limits as they stand in the lists; empty: the house rule. */
  own: Record<OwnField, string>;
}

const wholeTo = (most: number) => (v: number) =>
  Number.isInteger(v) && v >= 1 && v <= most ? null : `A whole number from 1 to ${most}.`;
const listed = (own: number | undefined): string => String(own ?? "");

const fieldsOf = (cell: CellRecord | null): Fields => ({
  title: cell?.title ?? "",
  chemistry: cell?.chemistry ?? "lithium-ion",
  series: cell?.series ?? 1,
  capacity: cell?.capacity ?? null,
  chargeRateLimit: cell?.chargeRateLimit ?? 1,
  ownProtection: cell?.ownProtection ?? false,
  note: cell?.note ?? "",
  count: 1,
  own: {
    chargeRate: listed(cell?.chargeRate),
    fullVoltage: listed(cell?.fullVoltage),
    emptyVoltage: listed(cell?.emptyVoltage),
  },
});

/** What the fields say of the cell; all numbers of a form that was not refused are there. */
function factsOf({ title, note, series, capacity, chargeRateLimit, own, chemistry, ownProtection }: Fields): CellFacts {
  const limits = Object.fromEntries(Object.entries(own).flatMap(([key, v]) => (v === "" ? [] : [[key, Number(v)]])));
  return {
    title: title.trim(),
    chemistry,
    ...((series ?? 1) > 1 ? { series: series ?? 1 } : {}),
    capacity: capacity ?? NaN,
    chargeRateLimit: chargeRateLimit ?? NaN,
    ...limits,
    ownProtection,
    note: note.trim(),
  };
}

/** A cell, or several that are alike: what it is, what its maker allows, and where it departs from the house rules. */
export function CellDialog({ cell, rules, onClose, onKeep, onKeepMany }: CellDialogProps) {
  const { control, handleSubmit } = useForm<Fields>({ defaultValues: fieldsOf(cell) });
  const [chemistry, count] = useWatch({ control, name: ["chemistry", "count"] });
  const save = handleSubmit(async (f) => {
    const many = f.count ?? 1;
    if (await (many > 1 && onKeepMany ? onKeepMany(factsOf(f), many) : onKeep(factsOf(f)))) onClose();
  });
  return (
    <Dialog
      title={cell ? `Edit ${cell.title}` : "Add cell"}
      about="Rated values from its data sheet. Put the same name on its label."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <div className="flex flex-wrap gap-x-5">
          <FormText
            control={control}
            name="title"
            label="Name on the label"
            missing="Enter a name."
            autoFocus
            maxLength={80}
          />
          {onKeepMany ? (
            <FormNumber
              control={control}
              name="count"
              label="Number of cells"
              quantity=""
              missing="Enter a number."
              refuse={wholeTo(MOST_ALIKE)}
            />
          ) : null}
          <FormSelect
            control={control}
            name="chemistry"
            label="Chemistry"
            place="above"
            choices={CHEMISTRIES.map((value) => ({ value, label: CHEMISTRY_LIMITS[value].label }))}
          />
          <FormNumber
            control={control}
            name="series"
            label="Cells in series (a pack)"
            quantity=""
            missing="Enter a number."
            refuse={wholeTo(30)}
          />
          <FormNumber
            control={control}
            name="capacity"
            label="Rated capacity"
            quantity="Ah"
            missing="Enter a capacity."
            refuse={capacityRefusal}
          />
          <FormNumber
            control={control}
            name="chargeRateLimit"
            label="Highest charge current, in C"
            quantity=""
            missing="Enter a number."
            refuse={(v) => (v > 0 && v <= 5 ? null : "Between 0 and 5.")}
          />
        </div>
        <FormCheckbox control={control} name="ownProtection" className="my-2">
          It has its own protection board
        </FormCheckbox>
        <FormText control={control} name="note" label="Note" wide />
        {chemistry === "lithium-ion" ? (
          <OwnLimits
            control={control}
            rules={rules}
            open={cell !== null && Object.values(OWN).some((key) => cell[key] !== undefined)}
          />
        ) : null}
        <Button look="main" type="submit">
          {(count ?? 1) > 1 ? `Save ${count} cells` : "Save cell"}
        </Button>
      </Form>
    </Dialog>
  );
}

/** Where this cell departs from the house rules. */
function OwnLimits({
  control,
  rules,
  open,
}: {
  readonly control: Control<Fields>;
  readonly rules: HouseRules;
  readonly open: boolean;
}) {
  return (
    <details className="mb-3" open={open}>
      <summary>Own limits for this cell</summary>
      {(["chargeRate", "chargeFull", "chargeEmpty"] as const).map((key) => {
        const unit = key === "chargeRate" ? "C" : "V";
        const house = { value: "", label: `house rule: ${Number(rules[key].toPrecision(3))} ${unit}` };
        const schools = SCHOOLS.filter((s) => s.key === key).map((s) => ({
          value: String(s.value),
          label: `${Number(s.value.toPrecision(2))} ${unit}, ${s.label}: ${s.why}`,
        }));
        return (
          <div key={key} className="mt-2">
            <FormSelect
              control={control}
              name={`own.${OWN[key]}`}
              label={TITLES[key]}
              place="above"
              wide
              choices={[house, ...schools]}
            />
          </div>
        );
      })}
    </details>
  );
}
