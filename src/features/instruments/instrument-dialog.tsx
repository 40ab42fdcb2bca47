"use client";

import { useState } from "react";
import { useFieldArray, useForm, useWatch, type Control } from "react-hook-form";
import type { InstrumentRecord } from "@/core/files/records";
import {
  INSTRUMENT_KINDS,
  RANGE_UNITS,
  type Instrument,
  type InstrumentKind,
  type MeterRange,
  type RangeUnit,
} from "@/core/instruments";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { editEffect } from "@/notebook";
import { change, edit, newId, now, ofKind, remove, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { choicesByName } from "@/ui/select";
import { notNegative, positive } from "@/ui/refusals";
import { EditQuestion } from "./edit-question";

interface Row {
  id: string;
  title: string;
  unit: RangeUnit;
  upTo: number | null;
  gain: number | null;
  counts: number | null;
  resolution: number | null;
  burden: number | null;
}
const emptyRow = (unit: RangeUnit): Row => ({
  id: newId(),
  title: "",
  unit,
  upTo: null,
  gain: null,
  counts: null,
  resolution: null,
  burden: null,
});
const rowOf = ({ id, title, unit, upTo, accuracy: { gain, counts, resolution }, burden }: MeterRange): Row => ({
  id,
  title,
  unit,
  upTo,
  gain,
  counts,
  resolution,
  burden: burden ?? null,
});

/** All numbers of a form that was not refused are there. */
function rangeOf({ id, title, unit, upTo, gain, counts, resolution, burden }: Row): MeterRange {
  const accuracy = { gain: gain ?? NaN, counts: counts ?? NaN, resolution: resolution ?? NaN };
  return {
    id,
    title: title.trim() || `${upTo} ${unit}`,
    unit,
    upTo: upTo ?? NaN,
    accuracy,
    ...(burden === null ? {} : { burden }),
  };
}
const RANGE_WORDS: Readonly<Record<RangeUnit, string>> = {
  V: "voltage (V)",
  A: "current (A)",
  "°C": "temperature (°C)",
};
const readsSomething = (kind: InstrumentKind) => kind === "meter" || kind === "thermometer" || kind === "logger";
/** Whether what readings are judged by differs. */
const differs = (a: Instrument, b: Instrument) =>
  JSON.stringify(a.ranges.map((r) => [r.id, r.accuracy])) !== JSON.stringify(b.ranges.map((r) => [r.id, r.accuracy]));

interface Fields {
  title: string;
  device: InstrumentKind;
  rows: Row[];
  limit: number | null;
  checkedOn: string;
  checkedNote: string;
  note: string;
}
const fieldsOf = (i: InstrumentRecord | null): Fields => ({
  title: i?.title ?? "",
  device: i?.device ?? "meter",
  rows: i?.ranges.map(rowOf) ?? [emptyRow("V")],
  limit: i?.limit ?? null,
  checkedOn: i?.checked?.date ?? "",
  checkedNote: i?.checked?.note ?? "",
  note: i?.note ?? "",
});

/** What the fields say of the instrument; ranges only where it reads something. */
function instrumentOf(f: Fields): Instrument & { note: string } {
  const reads = readsSomething(f.device);
  return {
    title: f.title.trim(),
    device: f.device,
    ranges: reads ? f.rows.map(rangeOf) : [],
    ...(f.limit === null || reads ? {} : { limit: f.limit }),
    ...(f.checkedOn ? { checked: { date: f.checkedOn, note: f.checkedNote.trim() } } : {}),
    note: f.note.trim(),
  };
}

async function deleteInstrument(instrument: InstrumentRecord, onClose: () => void): Promise<void> {
  const used = (await ofKind(instrument.notebookId, "rig")).find((r) =>
    Object.values(r.meters ?? {}).some((m) => m?.instrumentId === instrument.id),
  );
  if (used) throw new Error(`${used.title} uses it: choose another meter there first. Runs keep their accuracies.`);
  const act = await remove(`delete ${instrument.title}`, [instrument]);
  onClose();
  await notifyUndoable(`${instrument.title} is deleted.`, act && (() => undoAct(act)));
}

/** An instrument with its ranges; where its accuracy changes, it is asked what the change means before anything is kept. */
export function InstrumentDialog({
  instrument,
  onClose,
}: {
  readonly instrument: InstrumentRecord | null;
  onClose(): void;
}) {
  const { notebook } = useSession();
  const { control, handleSubmit } = useForm<Fields>({ defaultValues: fieldsOf(instrument) });
  const [asking, setAsking] = useState<(Instrument & { note: string }) | null>(null);
  const device = useWatch({ control, name: "device" });
  const reads = readsSomething(device);
  const save = handleSubmit(async (f) => {
    const after = instrumentOf(f);
    if (instrument && differs(instrument, after)) return setAsking(after);
    const at = now();
    const next: InstrumentRecord = {
      kind: "instrument",
      id: instrument?.id ?? newId(),
      notebookId: instrument?.notebookId ?? notebook.id,
      createdAt: instrument?.createdAt ?? at,
      updatedAt: at,
      ...(instrument?.earlier ? { earlier: instrument.earlier } : {}),
      ...after,
    };
    if (
      await attempt(() =>
        change(instrument ? `change ${next.title}` : `add ${next.title}`, [instrument ? edit(instrument, next) : next]),
      )
    )
      onClose();
  });
  if (asking && instrument)
    return (
      <EditQuestion
        title={asking.title}
        about="Its accuracy changes."
        effectOf={(meaning) => editEffect(instrument, asking, meaning)}
        back="Back to the instrument"
        onBack={() => setAsking(null)}
        onDone={onClose}
      />
    );
  return (
    <Dialog
      title={instrument ? `Edit ${instrument.title}` : "Add instrument"}
      about="Its name, and each range as its data sheet gives it."
      onClose={onClose}
      wide
    >
      <Form onSubmit={save}>
        <div className="flex flex-wrap gap-x-5">
          <FormText control={control} name="title" label="Name" missing="Enter a name." maxLength={80} autoFocus />
          <FormSelect
            control={control}
            name="device"
            label="It is a"
            place="above"
            choices={choicesByName(INSTRUMENT_KINDS)}
          />
          {reads ? null : (
            <FormNumber
              control={control}
              name="limit"
              label={device === "supply" ? "Highest current it gives" : "Highest power it takes"}
              quantity="A"
              refuse={positive}
            />
          )}
        </div>
        {reads ? <Ranges control={control} /> : null}
        <Remarks control={control} reads={reads} />
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Save
          </Button>
          {instrument ? (
            <Button
              look="danger"
              className="ml-auto"
              onClick={() => void attempt(() => deleteInstrument(instrument, onClose))}
            >
              Delete
            </Button>
          ) : null}
        </div>
      </Form>
    </Dialog>
  );
}

/** When it was checked, for what reads something, and what else is to be known of it. */
const Remarks = ({ control, reads }: { readonly control: Control<Fields>; readonly reads: boolean }) => (
  <div className="flex flex-wrap gap-x-5">
    {reads ? (
      <>
        <FormText
          control={control}
          name="checkedOn"
          label="Last checked (2026-11-26)"
          check={(t) => (t === "" || /^\d{4}-\d{2}-\d{2}$/.test(t) ? null : "Enter a date as 2026-11-26.")}
        />
        <FormText
          control={control}
          name="checkedNote"
          label="Against what, and the result"
          wide
          className="min-w-56 flex-1"
        />
      </>
    ) : null}
    <FormText control={control} name="note" label="Note" wide className="min-w-40 flex-1" />
  </div>
);

const MISSING = "Enter a value, or 0.";

/** Its ranges, as printed on the switch and in the data sheet. */
function Ranges({ control }: { readonly control: Control<Fields> }) {
  const list = useFieldArray({ control, name: "rows", keyName: "key" });
  const rows = useWatch({ control, name: "rows" });
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 font-medium">Ranges</legend>
      {list.fields.map((f, k) => {
        const unit = rows[k]?.unit ?? f.unit;
        return (
          <div key={f.key} role="group" aria-label={`Range ${k + 1}`} className="mb-1 border-l-2 border-rule pl-3">
            <div className="flex flex-wrap gap-x-4">
              <FormSelect
                control={control}
                name={`rows.${k}.unit`}
                label="Reads"
                place="above"
                choices={RANGE_UNITS.map((value) => ({ value, label: RANGE_WORDS[value] }))}
              />
              <FormText control={control} name={`rows.${k}.title`} label="As printed on the switch" />
              <FormNumber
                key={unit}
                control={control}
                name={`rows.${k}.upTo`}
                label="Up to"
                quantity={unit}
                missing={MISSING}
                refuse={positive}
              />
              {unit === "A" ? (
                <FormNumber
                  control={control}
                  name={`rows.${k}.burden`}
                  label="Burden"
                  quantity="Ω"
                  refuse={notNegative}
                />
              ) : null}
            </div>
            <div className="flex flex-wrap items-start gap-x-4">
              <FormNumber
                control={control}
                name={`rows.${k}.gain`}
                label="± share of the reading"
                quantity="1"
                missing={MISSING}
                refuse={notNegative}
              />
              <FormNumber
                control={control}
                name={`rows.${k}.counts`}
                label="+ counts"
                quantity=""
                missing={MISSING}
                refuse={notNegative}
              />
              <FormNumber
                key={`step${unit}`}
                control={control}
                name={`rows.${k}.resolution`}
                label="of resolution"
                quantity={unit}
                missing={MISSING}
                refuse={notNegative}
              />
              {rows.length > 1 ? (
                <Button look="bare" className="mt-6" onClick={() => list.remove(k)}>
                  Delete range
                </Button>
              ) : null}
            </div>
          </div>
        );
      })}
      <Button onClick={() => list.append(emptyRow(rows.at(-1)?.unit ?? "V"))}>Add range</Button>
    </fieldset>
  );
}
