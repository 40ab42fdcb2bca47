"use client";

import { compute } from "@/workers/compute";
import { useDeferredValue, useEffect, useState } from "react";
import { useForm, useWatch, type UseFormReturn } from "react-hook-form";
import type { FeedRecord } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { attempt, notify, notifyUndoable } from "@/browser/notify";
import { change, edit, newId, now, ofKind, remove, undoAct, useLive } from "@/storage";
import { measuredChargers, type MeasuredCharger } from "@/notebook/chargers";
import { Button } from "@/ui/button";
import { SaveButton } from "@/ui/form";
import { FormText } from "@/ui/form-fields";
import { FormNumbers } from "@/ui/form-numbers";
import { NotTaken } from "@/ui/not-taken";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { useTaken } from "@/ui/use-taken";
import { DayLoad } from "./day-load";
import { FeedAnswerText, FeedLine, PanelDay, useWorkedFeed } from "./feed-answer";
import { StrayText } from "./stray-text";
import { askedOf, planWithTolerance, TOLERANCE_FIELDS, USUAL_FEED } from "./stage-fields";
import { ChargerFields, DayFields, StageRows, type FeedFields } from "./stage-rows";

interface Loaded {
  readonly feeds: readonly FeedRecord[];
  readonly chargers: readonly MeasuredCharger[];
}

/** What feeds a charger: stages from wall or panel to the board, and what then limits the charge. */
export function FeedPage() {
  const { notebook } = useSession();
  const live = useLive<Loaded>(`feeds-${notebook.id}`, async () => ({
    feeds: await ofKind(notebook.id, "feed"),
    chargers: await measuredChargers(compute, notebook.id),
  }));
  useEffect(() => {
    document.title = "Charger feed · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The feeds can&apos;t be loaded: {live.message}</Quiet>;
  return <Feeds {...live.value} />;
}

const NEW = "new";
const FIRST_NAME = "Charger feed";

/** One feed at a time: a saved one, or a new one. */
function Feeds({ feeds, chargers }: Loaded) {
  const [shown, setShown] = useState<string | null>(null);
  const id = shown ?? feeds[0]?.id ?? NEW;
  const saved = feeds.find((f) => f.id === id) ?? null;
  return <Feed key={saved?.id ?? NEW} saved={saved} feeds={feeds} chargers={chargers} onShow={setShown} />;
}

interface FeedProps extends Loaded {
  readonly saved: FeedRecord | null;
  onShow(id: string): void;
}

function useFeed({ saved, onShow }: Pick<FeedProps, "saved" | "onShow">) {
  const { notebook } = useSession();
  const form = useForm<FeedFields>({
    defaultValues: { title: saved?.title ?? FIRST_NAME, from: "", plan: planWithTolerance(saved?.plan ?? USUAL_FEED) },
  });
  const typed = useWatch({ control: form.control, name: "plan" });
  const taken = useTaken(askedOf(typed));
  const save = form.handleSubmit((f) =>
    attempt(async () => {
      const at = now();
      const next: FeedRecord = {
        kind: "feed",
        id: saved?.id ?? newId(),
        notebookId: notebook.id,
        createdAt: saved?.createdAt ?? at,
        updatedAt: at,
        title: f.title.trim(),
        plan: askedOf(f.plan),
      };
      await change(`save feed “${next.title}”`, [saved ? edit(saved, next) : next]);
      onShow(next.id);
      await notify(`“${next.title}” is saved.`);
    }),
  );
  const drop = (f: FeedRecord) =>
    void attempt(async () => {
      // Before it is gone: an Undo that comes at once must not be overtaken.
      onShow(NEW);
      const act = await remove(`delete feed “${f.title}”`, [f]);
      await notifyUndoable(`“${f.title}” is deleted.`, act && (() => undoAct(act)));
    });
  return { form, taken, save, drop };
}

function Feed({ saved, feeds, chargers, onShow }: FeedProps) {
  const { form, taken, save, drop } = useFeed({ saved, onShow });
  const { control } = form;
  const worked = useWorkedFeed(taken.values);
  // Over the corners of the tolerances it takes a while: typing does not wait for it.
  const strayed = useDeferredValue(worked.plan);
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="feed"
        title="Charger feed"
        aside={
          <span className="no-print flex flex-wrap items-center gap-2">
            {feeds.length ? (
              <Select
                label="Which feed"
                place="hidden"
                value={saved?.id ?? NEW}
                onValue={onShow}
                choices={[
                  ...feeds.map((f) => ({ value: f.id as string, label: f.title })),
                  { value: NEW, label: "new feed" },
                ]}
              />
            ) : null}
            {saved ? <Button onClick={() => drop(saved)}>Delete feed</Button> : null}
            <SaveButton onSave={save}>Save feed</SaveButton>
          </span>
        }
      >
        <FormText control={control} name="title" label="Name" maxLength={80} missing="Enter a name." />
        {taken.whole ? null : <NotTaken />}
        <FeedAnswerText {...worked} />
      </Section>
      <Section mark="stages" title="Wall or panel to board">
        <StageRows control={control} />
      </Section>
      <Section mark="charger" title="Charger and cell">
        <ChargerChoice chargers={chargers} form={form} />
        <ChargerFields control={control} />
      </Section>
      <Section mark="tolerances" title="How far the values may stray">
        <FormNumbers control={control} at="plan.tolerance." fields={TOLERANCE_FIELDS} />
        <StrayText plan={strayed} />
      </Section>
      <FeedLine {...worked} />
      {worked.plan.stages[0]?.kind === "panel" ? (
        <Section mark="day" title="A day">
          <DayLoad form={form} />
          <DayFields control={control} />
          <PanelDay {...worked} />
        </Section>
      ) : null}
    </div>
  );
}

/** What was measured of a charger, by the fields that it fills in. */
const MEASURED = [
  ["current", "chargeCurrent"],
  ["least", "minimumInput"],
  ["thermal", "thermalResistance"],
  ["foldback", "foldbackTemperature"],
] as const;

/** Fills in what was measured of a board of the notebook. */
function ChargerChoice({
  chargers,
  form: { control, setValue },
}: {
  readonly chargers: readonly MeasuredCharger[];
  readonly form: UseFormReturn<FeedFields>;
}) {
  const from = useWatch({ control, name: "from" });
  if (chargers.length === 0) return null;
  const choose = (boardId: string) => {
    setValue("from", boardId);
    const numbers = chargers.find((c) => c.boardId === boardId)?.numbers ?? {};
    for (const [field, name] of MEASURED) {
      const value = numbers[name];
      if (value !== undefined) setValue(`plan.charger.${field}`, value);
    }
  };
  return (
    <div className="mb-3">
      <Select
        label="Charger"
        value={from}
        onValue={choose}
        choices={[
          { value: "", label: "values typed below" },
          ...chargers.map((c) => ({ value: c.boardId, label: `${c.title}, as measured` })),
        ]}
      />
    </div>
  );
}
