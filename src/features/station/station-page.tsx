"use client";

import { compute } from "@/workers/compute";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { StationRecord } from "@/core/files/records";
import type { StationPlan } from "@/core/use/station";
import { useSession } from "@/browser/context";
import { attempt } from "@/browser/notify";
import { addStation } from "@/notebook";
import { ofKind, useLive } from "@/storage";
import { measuredChargers, type MeasuredCharger } from "@/notebook/chargers";
import { Button } from "@/ui/button";
import { SaveButton } from "@/ui/form";
import { Link } from "@/ui/link";
import { NotTaken } from "@/ui/not-taken";
import { Quiet, Section } from "@/ui/section";
import { PlanAnswer } from "./plan-answer";
import { PlanFields, usePlanForm, USUAL_PLAN } from "./plan-fields";

/** Many chargers on one supply: planned here, saved as a station to run. */
export function StationPage() {
  const { notebook } = useSession();
  const live = useLive(`stations-${notebook.id}`, async () => ({
    stations: await ofKind(notebook.id, "station"),
    chargers: await measuredChargers(compute, notebook.id),
  }));
  useEffect(() => {
    document.title = "Charging station · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The stations can&apos;t be loaded: {live.message}</Quiet>;
  return <Planner {...live.value} />;
}

function Planner({
  stations,
  chargers,
}: {
  readonly stations: readonly StationRecord[];
  readonly chargers: readonly MeasuredCharger[];
}) {
  const { notebook } = useSession();
  const router = useRouter();
  const { form, taken } = usePlanForm(USUAL_PLAN);
  const plan = taken.values;
  const [reference, setReference] = useState<StationPlan | null>(null);
  const save = form.handleSubmit((f) =>
    attempt(async () => router.push(`/station/${(await addStation("Charging station", f.plan, notebook.id)).id}`)),
  );
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="station"
        title="Charging station"
        aside={<SaveButton onSave={save}>Save station</SaveButton>}
      >
        <p className="mb-3 text-pencil">
          Many chargers on one supply, all bays of a lane on one line. One charger on an adapter or panel:{" "}
          <Link href="/feed" className="underline">
            Charger feed
          </Link>
          .
        </p>
        {stations.length ? (
          <ul aria-label="Saved stations" className="mb-4 divide-y divide-rule border-y border-rule">
            {stations.map((s) => (
              <li key={s.id} className="flex flex-wrap items-baseline gap-x-4 py-1">
                <Link href={`/station/${s.id}`} className="font-medium hover:underline">
                  {s.title}
                </Link>
                <span className="text-sm text-pencil">{s.plan.bays} bays; open it to charge</span>
              </li>
            ))}
          </ul>
        ) : null}
        <PlanFields form={form} chargers={chargers} />
        {taken.whole ? null : <NotTaken />}
      </Section>
      <PlanAnswer
        plan={plan}
        {...(reference ? { before: reference } : {})}
        aside={
          reference ? (
            <Button look="bare" onClick={() => setReference(null)}>
              Clear reference
            </Button>
          ) : (
            <Button look="bare" onClick={() => setReference(plan)}>
              Set as reference
            </Button>
          )
        }
      />
    </div>
  );
}
