"use client";

import { useEffect, useState, type ComponentProps } from "react";
import type { InstrumentRecord, RigRecord } from "@/core/files/records";
import { formatQuantity } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { namingIn, freeName, titlesOf } from "@/notebook";
import { change, newId, now, ofKind, remove, useLive, undoAct } from "@/storage";
import { accuracyText } from "@/core/instruments";
import { Button } from "@/ui/button";
import { Select } from "@/ui/select";
import { useHeld } from "@/ui/use-held";
import { Quiet, Section } from "@/ui/section";
import { InstrumentDialog } from "./instrument-dialog";
import { RigForm } from "./rig-form";

/** What lies on the bench, and which of it reads what. */
export function InstrumentsPage() {
  const { notebook } = useSession();
  const live = useLive(
    `bench-${notebook.id}`,
    async () => ({ instruments: await ofKind(notebook.id, "instrument"), rigs: await ofKind(notebook.id, "rig") }),
    (n) => n.kinds.includes("instrument") || n.kinds.includes("rig"),
  );
  useEffect(() => {
    document.title = "Instruments and rigs · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The instruments can&apos;t be loaded: {live.message}</Quiet>;
  return <Bench {...live.value} />;
}

function HeldRig({ rig, ...more }: Omit<ComponentProps<typeof RigForm>, "onDirty">) {
  const { held, onDirty } = useHeld(rig);
  return <RigForm key={`${held.id} ${held.updatedAt}`} rig={held} {...more} onDirty={onDirty} />;
}

function Entry({ instrument: i, onEdit }: { readonly instrument: InstrumentRecord; onEdit(): void }) {
  return (
    <li className="grid gap-x-5 gap-y-1 py-2 min-[760px]:grid-cols-[11rem_minmax(0,1fr)_auto]">
      <div>
        <p className="font-medium">{i.title}</p>
        <p className="text-sm text-pencil">{i.device}</p>
      </div>
      <div className="min-w-0 text-sm">
        {i.ranges.map((r) => (
          <p key={r.id} className="flex flex-wrap gap-x-3">
            <span className="w-16">{r.title}</span>
            <span className="figures">{accuracyText(r.accuracy, r.unit)}</span>
            {r.burden ? <span className="text-pencil">burden {formatQuantity(r.burden, "Ω")}</span> : null}
          </p>
        ))}
        {i.limit ? <p>at most {formatQuantity(i.limit, "A")}</p> : null}
        <p className="text-pencil">
          {i.ranges.length
            ? i.checked
              ? `Checked ${i.checked.date}: ${i.checked.note || "no note"}.`
              : "Never checked against another."
            : ""}
          {i.earlier?.length ? ` Other accuracies applied before ${i.earlier.at(-1)?.until}.` : ""}
          {i.note ? ` ${i.note}` : ""}
        </p>
      </div>
      <div>
        <Button onClick={onEdit} aria-label={`Edit ${i.title}`}>
          Edit
        </Button>
      </div>
    </li>
  );
}

function Bench({
  instruments,
  rigs,
}: {
  readonly instruments: readonly InstrumentRecord[];
  readonly rigs: readonly RigRecord[];
}) {
  const [editing, setEditing] = useState<InstrumentRecord | "new" | null>(null);
  const inUse = rigs.find((r) => r.inUse) ?? rigs[0];
  const [shown, setShown] = useState<string | null>(null);
  const rig = rigs.find((r) => r.id === shown) ?? inUse;
  const sorted = [...instruments].sort((a, b) => a.title.localeCompare(b.title, "en", { numeric: true }));
  const another = () =>
    void attempt(async () => {
      if (!rig) return;
      const at = now();
      const { inUse: _used, ...copy } = rig;
      void _used;
      await namingIn(rig.notebookId, async () => {
        const next: RigRecord = {
          ...copy,
          id: newId(),
          title: freeName(`${rig.title}, copy`, await titlesOf(rig.notebookId, "rig")),
          createdAt: at,
          updatedAt: at,
        };
        await change("add a rig", [next]);
        setShown(next.id);
      });
    });
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="bench"
        title="Instruments and rigs"
        aside={
          <Button look={instruments.length ? "plain" : "main"} onClick={() => setEditing("new")}>
            Add instrument
          </Button>
        }
      >
        <p className="mb-3 max-w-prose text-pencil">
          Every uncertainty comes from the range used. Runs keep their ranges; an edit asks whether old runs follow.
        </p>
        {sorted.length === 0 ? (
          <HowToBegin />
        ) : (
          <ul className="divide-y divide-rule border-y border-rule">
            {sorted.map((i) => (
              <Entry key={i.id} instrument={i} onEdit={() => setEditing(i)} />
            ))}
          </ul>
        )}
      </Section>
      {rig ? (
        <Section
          mark="rig"
          title="Rigs"
          aside={
            <span className="flex flex-wrap items-center gap-2">
              {rigs.length > 1 ? (
                <Select
                  label="Rig shown"
                  place="hidden"
                  value={rig.id as string}
                  onValue={setShown}
                  choices={rigs.map((r) => ({
                    value: r.id as string,
                    label: `${r.title}${r === inUse ? " (in use)" : ""}`,
                  }))}
                />
              ) : null}
              <Button onClick={another}>Add rig</Button>
              {rigs.length > 1 && rig !== inUse ? <DeleteRig rig={rig} /> : null}
            </span>
          }
        >
          <HeldRig rig={rig} rigs={rigs} inUse={rig === inUse} instruments={sorted} />
        </Section>
      ) : null}
      {editing ? (
        <InstrumentDialog instrument={editing === "new" ? null : editing} onClose={() => setEditing(null)} />
      ) : null}
    </div>
  );
}

const HowToBegin = () => (
  <ol className="max-w-prose list-decimal pl-5">
    <li>
      Add each meter and thermometer with the ranges in its data sheet: ±(share of the reading + counts × resolution).
    </li>
    <li>Choose below which meter reads what. New runs use them.</li>
    <li>On a close call the verdict lists which range, meter or check would settle it.</li>
  </ol>
);

const DeleteRig = ({ rig }: { readonly rig: RigRecord }) => (
  <Button
    look="danger"
    onClick={() =>
      void attempt(async () => {
        const act = await remove(`delete ${rig.title}`, [rig]);
        await notifyUndoable(`${rig.title} is deleted.`, act && (() => undoAct(act)));
      })
    }
  >
    Delete rig
  </Button>
);
