"use client";

import { useEffect, useState } from "react";
import type { FeedRecord } from "@/core/files/records";
import type { FeedCharger, FeedPlan } from "@/core/use/feed";
import { useSession } from "@/session/context";
import { attempt, notify, notifyUndoable } from "@/session/notify";
import { change, edit, newId, now, ofKind, remove, undoAct, useLive } from "@/storage";
import { measuredChargers, type MeasuredCharger } from "@/storage/chargers";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/quantity-field";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { FeedAnswerText, FeedLine, PanelDay, useWorkedFeed } from "./feed-answer";
import { USUAL_FEED } from "./stage-fields";
import { ChargerFields, DayFields, StageRows } from "./stage-rows";

interface Loaded {
  readonly feeds: readonly FeedRecord[];
  readonly chargers: readonly MeasuredCharger[];
}

/** What feeds a charger: stages from wall or panel to the board, and what then limits the charge. */
export function FeedPage() {
  const { notebook } = useSession();
  const live = useLive<Loaded>(`feeds-${notebook.id}`, async () => ({ feeds: await ofKind(notebook.id, "feed"), chargers: await measuredChargers(notebook.id) }));
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
  const [title, setTitle] = useState(saved?.title ?? FIRST_NAME);
  /** `round`: how often numbers were filled in at once; the fields then begin anew. */
  const [{ plan, round }, setPlan] = useState({ plan: saved?.plan ?? USUAL_FEED, round: 0 });
  const name = title.trim();
  const save = () =>
    void attempt(async () => {
      const at = now();
      const next: FeedRecord = { kind: "feed", id: saved?.id ?? newId(), notebookId: notebook.id, createdAt: saved?.createdAt ?? at, updatedAt: at, title: name, plan };
      await change(`save feed “${name}”`, [saved ? edit(saved, next) : next]);
      onShow(next.id);
      await notify(`“${name}” is saved.`);
    });
  const drop = (f: FeedRecord) =>
    void attempt(async () => {
      const act = await remove(`delete feed “${f.title}”`, [f]);
      onShow(NEW);
      await notifyUndoable(`“${f.title}” is deleted.`, act && (() => undoAct(act)));
    });
  return { title, setTitle, name, plan, round, onPlan: (p: FeedPlan) => setPlan((s) => ({ ...s, plan: p })), fill: (p: FeedPlan) => setPlan((s) => ({ plan: p, round: s.round + 1 })), save, drop };
}

function Feed({ saved, feeds, chargers, onShow }: FeedProps) {
  const { title, setTitle, name, plan, round, onPlan, fill, save, drop } = useFeed({ saved, onShow });
  const worked = useWorkedFeed(plan);
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="feed"
        title="Charger feed"
        aside={
          <span className="no-print flex flex-wrap items-center gap-2">
            {feeds.length ? <Select label="Which feed" place="hidden" value={saved?.id ?? NEW} onValue={onShow} choices={[...feeds.map((f) => ({ value: f.id as string, label: f.title })), { value: NEW, label: "new feed" }]} /> : null}
            {saved ? <Button onClick={() => drop(saved)}>Delete feed</Button> : null}
            <Button look="main" disabled={!name} onClick={save}>
              Save feed
            </Button>
          </span>
        }
      >
        <TextField label="Name" text={title} onText={setTitle} maxLength={80} error={name ? undefined : "Enter a name."} />
        <FeedAnswerText {...worked} />
      </Section>
      <Section mark="stages" title="Wall or panel to board">
        <StageRows plan={plan} onPlan={onPlan} />
      </Section>
      <Section mark="charger" title="Charger and cell">
        <ChargerChoice chargers={chargers} onCharger={(numbers) => fill({ ...plan, charger: { ...plan.charger, ...numbers } })} />
        <ChargerFields key={round} plan={plan} onPlan={onPlan} />
      </Section>
      <FeedLine {...worked} />
      {plan.stages[0]?.kind === "panel" ? (
        <Section mark="day" title="A day">
          <DayFields plan={plan} onPlan={onPlan} />
          <PanelDay {...worked} />
        </Section>
      ) : null}
    </div>
  );
}

/** Fills in what was measured of a board of the notebook. */
function ChargerChoice({ chargers, onCharger }: { readonly chargers: readonly MeasuredCharger[]; onCharger(numbers: Partial<FeedCharger>): void }) {
  const [id, setId] = useState("");
  if (chargers.length === 0) return null;
  const choose = (v: string) => {
    setId(v);
    const n = chargers.find((c) => c.boardId === v)?.numbers;
    if (!n) return;
    onCharger({
      ...(n.chargeCurrent !== undefined ? { current: n.chargeCurrent } : {}),
      ...(n.minimumInput !== undefined ? { least: n.minimumInput } : {}),
      ...(n.thermalResistance !== undefined ? { thermal: n.thermalResistance } : {}),
      ...(n.foldbackTemperature !== undefined ? { foldback: n.foldbackTemperature } : {}),
    });
  };
  return (
    <div className="mb-3">
      <Select label="Charger" value={id} onValue={choose} choices={[{ value: "", label: "values typed below" }, ...chargers.map((c) => ({ value: c.boardId, label: `${c.title}, as measured` }))]} />
    </div>
  );
}
