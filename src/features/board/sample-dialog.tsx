"use client";

import { ConfirmDialog } from "@/ui/confirm-dialog";
import { useState } from "react";
import { useFieldArray, useForm, type Control } from "react-hook-form";
import { BOARD_FUNCTIONS, FUNCTION_CHOICES, type BoardFunction } from "@/core/characteristics";
import { exactText, formatQuantity, parseQuantity } from "@/core/quantities";
import type { SampleRecord } from "@/core/files/records";
import { readResistor } from "@/core/fit";
import { attempt, notifyUndoable } from "@/browser/notify";
import { change, edit, newId, remove, undoAct, todaysDate } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormCheckList, FormText } from "@/ui/form-fields";
import { noDate, positive } from "@/ui/refusals";

interface Fields {
  name: string;
  configuration: string;
  output: string;
  programme: string;
  note: string;
  modifications: { key: string; date: string; text: string; functions: BoardFunction[] }[];
}

/** Tolerance of a resistor whose marking says none. */
const UNMARKED = 0.05;

const resistorOf = (text: string) => (text.trim() ? readResistor(text) : null);

/** What was understood of a resistor's marking. */
function echoOf(text: string): string | undefined {
  const r = resistorOf(text);
  return r?.ok
    ? `${formatQuantity(r.value.ohms, "Ω")} ± ${formatQuantity(r.value.tolerance ?? UNMARKED, "1")}${r.value.tolerance === null ? " (no tolerance given)" : ""}`
    : undefined;
}

/** Why a marking can't be read, or a voltage can't be set; null where it can, and where nothing is said. */
function noResistor(text: string): string | null {
  const r = resistorOf(text);
  return !r || r.ok ? null : r.error;
}
function noOutput(text: string): string | null {
  if (!text.trim()) return null;
  const p = parseQuantity(text, "V");
  return p.ok ? positive(p.value.value) : p.error;
}

/** A sample as its dialog shows it. */
const fieldsOf = (sample: SampleRecord): Fields => ({
  name: sample.name,
  configuration: sample.configuration,
  output: sample.output ? formatQuantity(sample.output, "V") : "",
  programme: sample.programme
    ? `${exactText(sample.programme.ohms, "Ω")} ± ${exactText(sample.programme.tolerance, "1")}`
    : "",
  note: sample.note,
  modifications: sample.modifications.map((m) => ({
    key: m.id,
    date: m.date,
    text: m.text,
    functions: [...m.functions],
  })),
});

/** The sample as it was when its dialog opened, with what was entered since. */
function sampleOf(f: Fields, opened: SampleRecord): SampleRecord {
  const output = f.output.trim() ? parseQuantity(f.output, "V") : null;
  const programme = resistorOf(f.programme);
  const { output: _was, programme: _had, ...rest } = opened;
  void [_was, _had];
  return {
    ...rest,
    name: f.name.trim(),
    configuration: f.configuration.trim(),
    note: f.note.trim(),
    ...(output?.ok ? { output: output.value.value } : {}),
    ...(programme?.ok
      ? { programme: { ohms: programme.value.ohms, tolerance: programme.value.tolerance ?? UNMARKED } }
      : {}),
    modifications: f.modifications.map((m) => ({
      id: m.key,
      date: m.date,
      text: m.text.trim(),
      functions: BOARD_FUNCTIONS.filter((x) => m.functions.includes(x)),
    })),
  };
}

/** One piece of a board: how it is configured now, and what was changed on it when. Runs taken before keep what they had. */
export function SampleDialog({
  sample,
  runs,
  onClose,
}: {
  sample: SampleRecord;
  /** How many runs it has. */ runs: number;
  onClose(): void;
}) {
  const { control, handleSubmit } = useForm<Fields>({
    mode: "onTouched",
    defaultValues: fieldsOf(sample),
  });
  /** As it was when the dialog opened. */
  const [opened] = useState(sample);
  const mods = useFieldArray({ control, name: "modifications" });
  const [asking, setAsking] = useState(false);
  const del = () =>
    void attempt(async () => {
      const act = await remove(`delete sample ${sample.name}`, [sample]);
      onClose();
      await notifyUndoable(`Sample ${sample.name} is deleted.`, act && (() => undoAct(act)));
    });
  const [today] = useState(todaysDate);
  const save = handleSubmit(async (f) => {
    const next = sampleOf(f, opened);
    if (await attempt(() => change(`edit sample ${sample.name}`, [edit(opened, next)]))) onClose();
  });
  return (
    <Dialog
      wide
      title={`Sample ${sample.name}`}
      about="Runs that start from now on use this. Earlier runs keep what they had."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <div className="grid gap-x-4 min-[560px]:grid-cols-[8rem_minmax(0,1fr)_10rem]">
          <FormText
            control={control}
            name="name"
            label="Name"
            maxLength={80}
            missing="Enter a letter or a number."
            wide
          />
          <FormText control={control} name="configuration" label="Configuration: jumpers" wide />
          <FormText
            control={control}
            name="output"
            label="Adjustable output set to"
            unit="V"
            numeric
            check={noOutput}
            wide
          />
        </div>
        <FormText
          control={control}
          name="programme"
          label="Programming resistor"
          placeholder="1k2 ± 1 %, brown red red gold or code 122"
          check={noResistor}
          echoOf={echoOf}
          wide
        />
        <FormText control={control} name="note" label="Note" wide />
        {mods.fields.map((m, i) => (
          <Modification key={m.id} control={control} i={i} onDelete={() => mods.remove(i)} />
        ))}
        <div className="mt-2 flex flex-wrap gap-3">
          <Button look="main" type="submit">
            Save
          </Button>
          <Button onClick={() => mods.append({ key: newId(), date: today, text: "", functions: [] })}>
            Add modification
          </Button>
          <Button look="danger" className="ml-auto" onClick={() => (runs ? setAsking(true) : del())}>
            Delete sample
          </Button>
        </div>
      </Form>
      {asking ? (
        <ConfirmDialog
          danger
          title={`Delete sample ${sample.name}?`}
          about={`It has ${runs} ${runs === 1 ? "run" : "runs"}, which then judge no claim. Undo restores everything.`}
          act="Delete sample"
          onClose={() => setAsking(false)}
          onAct={del}
        />
      ) : null}
    </Dialog>
  );
}

function Modification({
  control,
  i,
  onDelete,
}: {
  readonly control: Control<Fields>;
  readonly i: number;
  onDelete(): void;
}) {
  return (
    <fieldset className="border-t border-rule pt-1">
      <legend className="pr-2 text-sm font-medium">Modification {i + 1}</legend>
      <div className="grid gap-x-4 min-[560px]:grid-cols-[9rem_minmax(0,1fr)]">
        <FormText control={control} name={`modifications.${i}.date`} label="On" check={noDate} wide />
        <FormText
          control={control}
          name={`modifications.${i}.text`}
          label="What was changed"
          missing="Enter what was changed."
          wide
        />
      </div>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-1 text-sm">
        <FormCheckList<Fields, BoardFunction>
          control={control}
          name={`modifications.${i}.functions`}
          label="It affects a function that"
          choices={FUNCTION_CHOICES}
        />
        <Button look="bare" className="ml-auto" onClick={onDelete}>
          Delete
        </Button>
      </div>
    </fieldset>
  );
}
