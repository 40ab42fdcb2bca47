"use client";

import { compute } from "@/workers/compute";
import { useEffect, useEffectEvent, useState } from "react";
import type { EditMeaning } from "@/core/instruments";
import { useSession } from "@/browser/context";
import { attempt, notify } from "@/browser/notify";
import { applyEdit, flipsIf, type EditEffect, type Flip } from "@/notebook";
import { boards, todaysDate } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { FlipList } from "@/ui/flip-list";
import { TextField } from "@/ui/quantity-field";
import { Radio, RadioRoot } from "@/ui/radio-group";

interface EditQuestionProps {
  /** What is edited. */
  readonly title: string;
  /** What of it changes, in one sentence. */
  readonly about: string;
  effectOf(meaning: EditMeaning): Promise<EditEffect>;
  readonly back: string;
  onBack(): void;
  onDone(): void;
}

/** Asks whether an edit corrects a mistake or holds from a day on, and shows which runs follow and which verdicts change. */
export function EditQuestion({ title, about, effectOf, back, onBack, onDone }: EditQuestionProps) {
  const { notebook } = useSession();
  const [kind, setKind] = useState<EditMeaning["kind"] | null>(null);
  const [date, setDate] = useState(todaysDate);
  const [seen, setSeen] = useState<{
    readonly key: string;
    readonly effect: EditEffect;
    readonly flips: readonly Flip[];
  } | null>(null);
  const [busy, setBusy] = useState(false);
  const dated = /^\d{4}-\d{2}-\d{2}$/.test(date) && !Number.isNaN(Date.parse(date));
  const key = kind === null || (kind === "from" && !dated) ? null : kind === "mistake" ? "mistake" : date;
  const work = useEffectEvent(effectOf);
  useEffect(() => {
    if (!key) return;
    let gone = false;
    void attempt(async () => {
      const meaning: EditMeaning = key === "mistake" ? { kind: "mistake" } : { kind: "from", date: key };
      const effect = await work(meaning);
      const flips = await flipsIf(compute, await boards(notebook.id), { runs: effect.runs });
      if (!gone) setSeen({ key, effect, flips });
    });
    return () => {
      gone = true;
    };
  }, [key, notebook.id]);
  const ready = seen && seen.key === key ? seen : null;
  const keep = () => {
    if (!ready) return;
    setBusy(true);
    void attempt(async () => {
      await applyEdit(ready.effect, kind === "mistake" ? `correct ${title}` : `change ${title} from ${date}`);
      await notify(
        ready.effect.runs.length
          ? `${title} is saved; ${ready.effect.runs.length} ${ready.effect.runs.length === 1 ? "run follows" : "runs follow"}.`
          : `${title} is saved; no run changes.`,
      );
      onDone();
    }).finally(() => setBusy(false));
  };
  const option = (value: EditMeaning["kind"], label: string, about: string, first = false) => (
    <Radio value={value} autoFocus={first} className="mb-2 flex">
      <span className="font-medium">{label}</span> <span className="text-pencil">{about}</span>
    </Radio>
  );
  return (
    <Dialog
      title={`What does the change to ${title} mean?`}
      about={`${about} Nothing is saved yet.`}
      onClose={onBack}
      wide
    >
      <RadioRoot<EditMeaning["kind"]> label="Meaning of the change" value={kind} onValue={setKind}>
        {option("mistake", "It was entered wrongly.", "All runs read with it follow.", true)}
        {option("from", "It is new from a day on.", "Earlier runs keep the old values.")}
      </RadioRoot>
      {kind === "from" ? (
        <TextField
          label="From (2026-11-26)"
          text={date}
          onText={setDate}
          error={dated ? null : "Enter a date as 2026-11-26."}
        />
      ) : null}
      {key ? (
        <div role="status" className="my-3">
          {ready ? (
            <>
              <p className="mb-2">
                {ready.effect.runs.length === 0
                  ? "No run changes."
                  : `${ready.effect.runs.length} ${ready.effect.runs.length === 1 ? "run follows" : "runs follow"}: ${ready.effect.runs
                      .slice(0, 4)
                      .map((r) => r.title)
                      .join("; ")}${ready.effect.runs.length > 4 ? ` and ${ready.effect.runs.length - 4} more` : ""}.`}
              </p>
              {ready.flips.length ? (
                <FlipList flips={ready.flips} />
              ) : (
                <p className="mb-2 text-pencil">No verdict changes.</p>
              )}
            </>
          ) : (
            <p className="text-pencil">Working out the effect …</p>
          )}
        </div>
      ) : null}
      <div className="flex flex-wrap gap-3">
        <Button look="main" disabled={!ready || busy} onClick={keep}>
          Save change
        </Button>
        <Button onClick={onBack}>{back}</Button>
      </div>
    </Dialog>
  );
}
