"use client";

import { ConfirmDialog } from "@/ui/confirm-dialog";
import { useState } from "react";
import { Controller, useFieldArray, useForm, type Control } from "react-hook-form";
import { BOARD_FUNCTIONS, FUNCTION_CHOICES, type BoardFunction } from "@/core/characteristics";
import { exactText, formatQuantity, parseQuantity } from "@/core/quantities";
import type { SampleRecord } from "@/core/files/records";
import { readResistor } from "@/core/fit";
import { attempt, notifyUndoable } from "@/session/notify";
import { change, edit, newId, now, remove, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { CheckList } from "@/ui/checkbox";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { TextField } from "@/ui/quantity-field";

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
  return r?.ok ? `${formatQuantity(r.value.ohms, "Ω")} ± ${formatQuantity(r.value.tolerance ?? UNMARKED, "1")}${r.value.tolerance === null ? " (no tolerance given)" : ""}` : undefined;
}

/** One piece of a board: how it is configured now, and what was changed on it when. Runs taken before keep what they had. */
export function SampleDialog({ sample, runs, onClose }: { sample: SampleRecord; /** How many runs it has. */ runs: number; onClose(): void }) {
  const { control, handleSubmit } = useForm<Fields>({
    mode: "onTouched",
    defaultValues: {
      name: sample.name,
      configuration: sample.configuration,
      output: sample.output ? formatQuantity(sample.output, "V") : "",
      programme: sample.programme ? `${exactText(sample.programme.ohms, "Ω")} ± ${exactText(sample.programme.tolerance, "1")}` : "",
      note: sample.note,
      modifications: sample.modifications.map((m) => ({ key: m.id, date: m.date, text: m.text, functions: [...m.functions] })),
    },
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
  const [today] = useState(() => now().slice(0, 10));
  const save = handleSubmit(async (f) => {
    const output = f.output.trim() ? parseQuantity(f.output, "V") : null;
    const programme = resistorOf(f.programme);
    const { output: _was, programme: _had, ...rest } = opened;
    void [_was, _had];
    const next: SampleRecord = {
      ...rest,
      name: f.name.trim(),
      configuration: f.configuration.trim(),
      note: f.note.trim(),
      ...(output?.ok ? { output: output.value.value } : {}),
      ...(programme?.ok ? { programme: { ohms: programme.value.ohms, tolerance: programme.value.tolerance ?? UNMARKED } } : {}),
      modifications: f.modifications.map((m) => ({ id: m.key, date: m.date, text: m.text.trim(), functions: BOARD_FUNCTIONS.filter((x) => m.functions.includes(x)) })),
    };
    if (await attempt(() => change(`edit sample ${sample.name}`, [edit(opened, next)]))) onClose();
  });
  return (
    <Dialog wide title={`Sample ${sample.name}`} about="Runs that start from now on use this. Earlier runs keep what they had." onClose={onClose}>
      <Form onSubmit={save}>
        <div className="grid gap-x-4 min-[560px]:grid-cols-[8rem_minmax(0,1fr)_10rem]">
          <Controller control={control} name="name" rules={{ validate: (v) => (v.trim() ? true : "Enter a letter or a number.") }} render={({ field, fieldState }) => <TextField label="Name" maxLength={80} text={field.value} onText={field.onChange} error={fieldState.error?.message} wide />} />
          <Controller control={control} name="configuration" render={({ field }) => <TextField label="Configuration: jumpers" text={field.value} onText={field.onChange} wide />} />
          <Controller
            control={control}
            name="output"
            rules={{
              validate: (v) => {
                if (!v.trim()) return true;
                const p = parseQuantity(v, "V");
                return p.ok ? (p.value.value > 0 ? true : "Enter a value above zero.") : p.error;
              },
            }}
            render={({ field, fieldState }) => <TextField label="Adjustable output set to" unit="V" numeric text={field.value} onText={field.onChange} onBlur={field.onBlur} error={fieldState.error?.message} wide />}
          />
        </div>
        <ProgrammeField control={control} />
        <Controller control={control} name="note" render={({ field }) => <TextField label="Note" text={field.value} onText={field.onChange} wide />} />
        {mods.fields.map((m, i) => (
          <Modification key={m.id} control={control} i={i} onDelete={() => mods.remove(i)} />
        ))}
        <div className="mt-2 flex flex-wrap gap-3">
          <Button look="main" type="submit">
            Save
          </Button>
          <Button onClick={() => mods.append({ key: newId(), date: today, text: "", functions: [] })}>Add modification</Button>
          <Button look="danger" className="ml-auto" onClick={() => (runs ? setAsking(true) : del())}>
            Delete sample
          </Button>
        </div>
      </Form>
      {asking ? <ConfirmDialog danger title={`Delete sample ${sample.name}?`} about={`It has ${runs} ${runs === 1 ? "run" : "runs"}, which then judge no claim. Undo restores everything.`} act="Delete sample" onClose={() => setAsking(false)} onAct={del} /> : null}
    </Dialog>
  );
}

/** The resistor that sets the charge current, as it is marked. */
function ProgrammeField({ control }: { readonly control: Control<Fields> }) {
  const validate = (v: string) => {
    const r = resistorOf(v);
    return !r || r.ok ? true : r.error;
  };
  return (
    <Controller
      control={control}
      name="programme"
      rules={{ validate }}
      render={({ field, fieldState }) => <TextField label="Programming resistor" placeholder="1k2 ± 1 %, brown red red gold or code 122" text={field.value} onText={field.onChange} onBlur={field.onBlur} error={fieldState.error?.message} echo={echoOf(field.value)} wide />}
    />
  );
}

function Modification({ control, i, onDelete }: { readonly control: Control<Fields>; readonly i: number; onDelete(): void }) {
  return (
    <fieldset className="border-t border-rule pt-1">
      <legend className="pr-2 text-sm font-medium">Modification {i + 1}</legend>
      <div className="grid gap-x-4 min-[560px]:grid-cols-[9rem_minmax(0,1fr)]">
        <Controller control={control} name={`modifications.${i}.date`} rules={{ validate: (v) => (/^\d{4}-\d{2}-\d{2}$/.test(v) ? true : "Enter a date as 2026-11-26.") }} render={({ field, fieldState }) => <TextField label="On" text={field.value} onText={field.onChange} error={fieldState.error?.message} wide />} />
        <Controller control={control} name={`modifications.${i}.text`} rules={{ validate: (v) => (v.trim() ? true : "Enter what was changed.") }} render={({ field, fieldState }) => <TextField label="What was changed" text={field.value} onText={field.onChange} error={fieldState.error?.message} wide />} />
      </div>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-1 text-sm">
        <Controller control={control} name={`modifications.${i}.functions`} render={({ field }) => <CheckList label="It affects a function that" values={field.value} onValues={field.onChange} choices={FUNCTION_CHOICES} />} />
        <Button look="bare" className="ml-auto" onClick={onDelete}>
          Delete
        </Button>
      </div>
    </fieldset>
  );
}
