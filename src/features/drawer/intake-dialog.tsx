"use client";

import { useForm, useWatch, type Control } from "react-hook-form";
import { CHEMISTRIES, CHEMISTRY_LIMITS, readIntake, type Chemistry } from "@/core/cells";
import { useSession } from "@/browser/context";
import { attempt, notify } from "@/browser/notify";
import { takeIn } from "@/notebook";
import { Button } from "@/ui/button";
import { capacityRefusal } from "@/ui/capacity";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormCheckbox, FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { FormArea } from "@/ui/text-area";

interface Fields {
  list: string;
  chemistry: Chemistry;
  capacity: number | null;
  chargeRateLimit: number | null;
  ownProtection: boolean;
  note: string;
}

/** Many cells at once: a pasted list, or so many that are alike. What a line does not say is the same for all. */
export function IntakeDialog({ onClose }: { onClose(): void }) {
  const { notebook } = useSession();
  const { control, handleSubmit } = useForm<Fields>({
    defaultValues: {
      list: "",
      chemistry: "lithium-ion",
      capacity: null,
      chargeRateLimit: 0.5,
      ownProtection: false,
      note: "",
    },
  });
  const list = useWatch({ control, name: "list" });
  const read = readIntake(list);
  const lacking = read.ok && read.value.some((c) => c.capacity === undefined);
  const save = handleSubmit(async (f) => {
    const cells = readIntake(f.list);
    if (!cells.ok) return;
    const { chemistry, chargeRateLimit, ownProtection, note } = f;
    const stored = await attempt(() =>
      takeIn(
        cells.value,
        {
          title: "",
          chemistry,
          capacity: f.capacity ?? NaN,
          chargeRateLimit: chargeRateLimit ?? NaN,
          ownProtection,
          note: note.trim(),
        },
        notebook.id,
      ),
    );
    if (!stored) return;
    onClose();
    await notify(`${cells.value.length} cells added. Print their labels next.`);
  });
  return (
    <Dialog
      title="Take in cells"
      about="A line a cell: name, capacity, voltage as found. “24 x Torch; 1200 mAh” adds 24."
      onClose={onClose}
      wide
    >
      <Form onSubmit={save}>
        <FormArea
          control={control}
          name="list"
          label="Cells"
          autoFocus
          placeholder={"24 x Torch; 1200 mAh\nReed 7; 2.2 Ah; 3.71 V"}
          check={(t) => {
            const r = readIntake(t);
            return r.ok ? null : r.error;
          }}
          echo={
            read.ok
              ? `${read.value.length} ${read.value.length === 1 ? "cell" : "cells"}: ${read.value[0]?.title}${read.value.length > 1 ? ` to ${read.value.at(-1)?.title}` : ""}`
              : undefined
          }
        />
        <SameForAll control={control} lacking={lacking} />
        <FormCheckbox control={control} name="ownProtection" className="my-2">
          They have their own protection boards
        </FormCheckbox>
        <FormText control={control} name="note" label="Note" wide />
        <p className="mb-3 max-w-prose text-sm text-pencil">
          <span className="font-semibold text-ink">Caution. </span>Taking an old pack apart: insulate your tools, cut
          one tab at a time, pry away from the cells, never into one. Don&apos;t solder on a cell.
        </p>
        <Button look="main" type="submit">
          {read.ok ? `Add ${read.value.length} ${read.value.length === 1 ? "cell" : "cells"}` : "Add cells"}
        </Button>
      </Form>
    </Dialog>
  );
}

/** What a line of the list does not say; `lacking` where some line gives no capacity. */
const SameForAll = ({ control, lacking }: { readonly control: Control<Fields>; readonly lacking: boolean }) => (
  <div className="flex flex-wrap gap-x-5">
    <FormSelect
      control={control}
      name="chemistry"
      label="Chemistry"
      place="above"
      choices={CHEMISTRIES.map((value) => ({ value, label: CHEMISTRY_LIMITS[value].label }))}
    />
    <FormNumber
      control={control}
      name="capacity"
      label="Rated capacity where the list gives none"
      quantity="Ah"
      {...(lacking ? { missing: "Enter a capacity." } : {})}
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
);
