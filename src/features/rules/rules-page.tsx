"use client";

import { useEffect } from "react";
import { RULE_GROUPS } from "@/core/measurement";
import type { RulesRecord } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { rulesRecord, useLive } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { FlipList } from "@/ui/flip-list";
import { useHeld } from "@/ui/use-held";
import { Quiet, Section } from "@/ui/section";
import { RuleRows } from "./rule-rows";
import { useRules, type EditedRules } from "./use-rules";

/** What the house has settled once, each with its reason. Runs that were taken keep what was pinned to them. */
export function RulesPage() {
  const { notebook } = useSession();
  const live = useLive(
    `rules-${notebook.id}`,
    () => rulesRecord(notebook.id),
    (n) => n.kinds.includes("rules"),
  );
  useEffect(() => {
    document.title = "House rules · Nimbus Bench";
  }, []);
  if (live.state !== "ready") return <Quiet>Loading …</Quiet>;
  return <Held stored={live.value} />;
}

function Held({ stored }: { readonly stored: RulesRecord | null }) {
  const { held, onDirty } = useHeld(stored);
  return <Rules key={held?.updatedAt ?? "none"} stored={held} onDirty={onDirty} />;
}

function Rules({ stored, onDirty }: { readonly stored: RulesRecord | null; onDirty(dirty: boolean): void }) {
  const edited = useRules(stored, onDirty);
  return (
    <div className="sheet">
      <Section level={1} mark="house" title="House rules">
        <p className="max-w-prose text-pencil">
          Defaults of this notebook: new plans follow them, and verdicts are judged by them.
        </p>
      </Section>
      {RULE_GROUPS.map(({ group, title }) => (
        <Section key={group} title={title}>
          <RuleRows group={group} edited={edited} />
        </Section>
      ))}
      <SaveBar edited={edited} />
      {edited.flips ? <Flips edited={edited} count={edited.flips.length} /> : null}
    </div>
  );
}

/** In sight from wherever on the page one is. */
function SaveBar({ edited }: { readonly edited: EditedRules }) {
  const { changed, wrong } = edited;
  return (
    <div className="sticky bottom-0 z-10 flex flex-wrap items-center gap-4 border-t-2 border-margin bg-sheet px-4 py-2 min-[900px]:px-6">
      <Button look="main" disabled={wrong !== null || edited.looking} onClick={edited.save}>
        {edited.looking ? "Checking the effect …" : "Save house rules"}
      </Button>
      {changed ? <Button onClick={edited.reset}>Discard changes</Button> : null}
      {wrong ? (
        <p role="alert" className="text-sm text-misses">
          {wrong}
        </p>
      ) : (
        <p role="status" className="text-sm text-pencil">
          {changed === 0 ? "No changes." : changed === 1 ? "One rule changed." : `${changed} rules changed.`}
        </p>
      )}
    </div>
  );
}

function Flips({ edited, count }: { readonly edited: EditedRules; readonly count: number }) {
  return (
    <Dialog
      title={count === 1 ? "One verdict would change" : `${count} verdicts would change`}
      about="Nothing is saved yet. Results stay the same and are judged by the new rules."
      onClose={edited.cancel}
      wide
    >
      <FlipList flips={edited.flips ?? []} />
      <div className="flex flex-wrap gap-3">
        <Button look="main" onClick={edited.confirm}>
          Save house rules
        </Button>
        <Button onClick={edited.cancel}>Cancel</Button>
      </div>
    </Dialog>
  );
}
