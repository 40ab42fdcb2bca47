"use client";

import { useState } from "react";
import type { InstrumentRecord } from "@/core/files/records";
import { INSTRUMENT_KINDS, RANGE_UNITS, type Instrument, type InstrumentKind, type MeterRange, type RangeUnit } from "@/core/instruments";
import { useSession } from "@/session/context";
import { attempt, notifyUndoable } from "@/session/notify";
import { change, edit, editEffect, newId, now, ofKind, remove, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";
import { named, Select } from "@/ui/select";
import { EditQuestion } from "./edit-question";

interface Row {
  readonly id: string;
  readonly title: string;
  readonly unit: RangeUnit;
  readonly upTo: number | null;
  readonly gain: number | null;
  readonly counts: number | null;
  readonly resolution: number | null;
  readonly burden: number | null;
}
const emptyRow = (unit: RangeUnit): Row => ({ id: newId(), title: "", unit, upTo: null, gain: null, counts: null, resolution: null, burden: null });
const rowOf = (r: MeterRange): Row => ({ id: r.id, title: r.title, unit: r.unit, upTo: r.upTo, ...r.accuracy, burden: r.burden ?? null });

function rangeOf(r: Row): MeterRange | null {
  const { id, unit, upTo, gain, counts, resolution, burden } = r;
  if (upTo === null || gain === null || counts === null || resolution === null) return null;
  return { id, title: r.title.trim() || `${upTo} ${unit}`, unit, upTo, accuracy: { gain, counts, resolution }, ...(burden === null ? {} : { burden }) };
}
const RANGE_WORDS: Readonly<Record<RangeUnit, string>> = { V: "voltage (V)", A: "current (A)", "°C": "temperature (°C)" };
const readsSomething = (kind: InstrumentKind) => kind === "meter" || kind === "thermometer" || kind === "logger";
const notNegative = (v: number) => (v >= 0 ? null : "Enter zero or more.");
const positive = (v: number) => (v > 0 ? null : "Enter a value above zero.");
/** Whether what readings are judged by differs. */
const differs = (a: Instrument, b: Instrument) => JSON.stringify(a.ranges.map((r) => [r.id, r.accuracy])) !== JSON.stringify(b.ranges.map((r) => [r.id, r.accuracy]));

/** An instrument with its ranges; where its accuracy changes, it is asked what the change means before anything is kept. */
export function InstrumentDialog({ instrument, onClose }: { readonly instrument: InstrumentRecord | null; onClose(): void }) {
  const { notebook } = useSession();
  const [title, setTitle] = useState(instrument?.title ?? "");
  const [kind, setKind] = useState<InstrumentKind>(instrument?.device ?? "meter");
  const [rows, setRows] = useState<readonly Row[]>(instrument?.ranges.map(rowOf) ?? [emptyRow("V")]);
  const [limit, setLimit] = useState<number | null>(instrument?.limit ?? null);
  const [checked, setChecked] = useState(instrument?.checked ?? { date: "", note: "" });
  const [note, setNote] = useState(instrument?.note ?? "");
  const [tried, setTried] = useState(false);
  const [asking, setAsking] = useState<(Instrument & { note: string }) | null>(null);
  const reads = readsSomething(kind);
  const ranges = reads ? rows.map(rangeOf) : [];
  const missing = tried ? "Enter a value, or 0." : null;
  const dated = checked.date === "" || /^\d{4}-\d{2}-\d{2}$/.test(checked.date);
  const put = (id: string, patch: Partial<Row>) => setRows((all) => all.map((r) => (r.id === id ? { ...r, ...patch } : r)));
  const keep = () => {
    setTried(true);
    if (!title.trim() || ranges.some((r) => r === null) || !dated) return;
    const after: Instrument & { note: string } = {
      title: title.trim(),
      device: kind,
      ranges: ranges as MeterRange[],
      ...(limit === null || reads ? {} : { limit }),
      ...(checked.date ? { checked: { date: checked.date, note: checked.note.trim() } } : {}),
      note: note.trim(),
    };
    if (instrument && differs(instrument, after)) return setAsking(after);
    const at = now();
    const next: InstrumentRecord = {
      ...(instrument ? { kind: "instrument", id: instrument.id, notebookId: instrument.notebookId, createdAt: instrument.createdAt, updatedAt: at } : { kind: "instrument", id: newId(), notebookId: notebook.id, createdAt: at, updatedAt: at }),
      ...(instrument?.earlier ? { earlier: instrument.earlier } : {}),
      ...after,
    };
    void attempt(() => change(instrument ? `change ${next.title}` : `add ${next.title}`, [instrument ? edit(instrument, next) : next])).then((good) => good && onClose());
  };
  const drop = () =>
    void attempt(async () => {
      if (!instrument) return;
      const used = (await ofKind(notebook.id, "rig")).find((r) => Object.values(r.meters ?? {}).some((m) => m?.instrumentId === instrument.id));
      if (used) throw new Error(`${used.title} uses it: choose another meter there first. Runs keep their accuracies.`);
      const act = await remove(`delete ${instrument.title}`, [instrument]);
      onClose();
      await notifyUndoable(`${instrument.title} is deleted.`, act && (() => undoAct(act)));
    });
  if (asking && instrument) return <EditQuestion title={asking.title} about="Its accuracy changes." effectOf={(meaning) => editEffect(instrument, asking, meaning)} back="Back to the instrument" onBack={() => setAsking(null)} onDone={onClose} />;
  return (
    <Dialog title={instrument ? `Edit ${instrument.title}` : "Add instrument"} about="Its name, and each range as its data sheet gives it." onClose={onClose} wide>
      <Form
        onSubmit={() => {
          keep();
        }}
      >
        <div className="flex flex-wrap gap-x-5">
          <TextField label="Name" maxLength={80} text={title} onText={setTitle} autoFocus error={tried && !title.trim() ? "Enter a name." : null} />
          <Select<InstrumentKind> label="It is a" place="above" value={kind} onValue={setKind} choices={named(INSTRUMENT_KINDS)} />
          {reads ? null : <NumberField label={kind === "supply" ? "Highest current it gives" : "Highest power it takes"} quantity="A" value={limit} optional refuse={positive} onValue={setLimit} />}
        </div>
        {reads ? (
          <fieldset className="mb-3">
            <legend className="mb-1 font-medium">Ranges</legend>
            {rows.map((r, k) => (
              <div key={r.id} role="group" aria-label={`Range ${k + 1}`} className="mb-1 border-l-2 border-rule pl-3">
                <div className="flex flex-wrap gap-x-4">
                  <Select label="Reads" place="above" value={r.unit} onValue={(unit) => put(r.id, { unit })} choices={RANGE_UNITS.map((value) => ({ value, label: RANGE_WORDS[value] }))} />
                  <TextField label="As printed on the switch" text={r.title} onText={(t) => put(r.id, { title: t })} />
                  <NumberField key={r.unit} label="Up to" quantity={r.unit} value={r.upTo} missing={missing} refuse={positive} onValue={(v) => put(r.id, { upTo: v })} />
                  {r.unit === "A" ? <NumberField label="Burden" quantity="Ω" value={r.burden} optional refuse={notNegative} onValue={(v) => put(r.id, { burden: v })} /> : null}
                </div>
                <div className="flex flex-wrap items-start gap-x-4">
                  <NumberField label="± share of the reading" quantity="1" value={r.gain} missing={missing} refuse={notNegative} onValue={(v) => put(r.id, { gain: v })} />
                  <NumberField label="+ counts" quantity="" value={r.counts} missing={missing} refuse={notNegative} onValue={(v) => put(r.id, { counts: v })} />
                  <NumberField key={`step${r.unit}`} label="of resolution" quantity={r.unit} value={r.resolution} missing={missing} refuse={notNegative} onValue={(v) => put(r.id, { resolution: v })} />
                  {rows.length > 1 ? (
                    <Button look="bare" className="mt-6" onClick={() => setRows((all) => all.filter((x) => x.id !== r.id))}>
                      Delete range
                    </Button>
                  ) : null}
                </div>
                {tried && !ranges[k] ? <p role="alert" className="text-sm text-misses">Range {k + 1} needs its end, share, counts and resolution (0 where the data sheet gives none).</p> : null}
              </div>
            ))}
            <Button onClick={() => setRows((all) => [...all, emptyRow(all.at(-1)?.unit ?? "V")])}>Add range</Button>
          </fieldset>
        ) : null}
        <div className="flex flex-wrap gap-x-5">
          {reads ? (
            <>
              <TextField label="Last checked (2026-11-26)" text={checked.date} onText={(date) => setChecked((c) => ({ ...c, date }))} error={tried && !dated ? "Enter a date as 2026-11-26." : null} />
              <TextField label="Against what, and the result" wide className="min-w-56 flex-1" text={checked.note} onText={(n) => setChecked((c) => ({ ...c, note: n }))} />
            </>
          ) : null}
          <TextField label="Note" text={note} onText={setNote} wide className="min-w-40 flex-1" />
        </div>
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Save
          </Button>
          {instrument ? (
            <Button look="danger" className="ml-auto" onClick={drop}>
              Delete
            </Button>
          ) : null}
        </div>
      </Form>
    </Dialog>
  );
}
