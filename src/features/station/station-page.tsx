"use client";

import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { StationRecord } from "@/core/files/records";
import type { StationPlan } from "@/core/use/station";
import { useSession } from "@/session/context";
import { attempt } from "@/session/notify";
import { addStation, ofKind, useLive } from "@/storage";
import { measuredChargers, type MeasuredCharger } from "@/storage/chargers";
import { Button } from "@/ui/button";
import { Link } from "@/ui/link";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { PlanAnswer } from "./plan-answer";
import { PlanFields, USUAL_PLAN } from "./plan-fields";

/** Many chargers on one supply: planned here, saved as a station to run. */
export function StationPage() {
  const { notebook } = useSession();
  const live = useLive(`stations-${notebook.id}`, async () => ({ stations: await ofKind(notebook.id, "station"), chargers: await measuredChargers(notebook.id) }));
  useEffect(() => {
    document.title = "Charging station · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The stations can&apos;t be loaded: {live.message}</Quiet>;
  return <Planner {...live.value} />;
}

/** The numbers of a plan, and how often they were filled in at once: the fields then begin anew. */
export function useStationPlan(first: StationPlan) {
  const [state, setState] = useState({ plan: first, round: 0 });
  return {
    ...state,
    onNumber: (key: keyof StationPlan, value: number) => setState((s) => ({ ...s, plan: { ...s.plan, [key]: value } })),
    fill: (numbers: Partial<StationPlan>) => setState((s) => ({ plan: { ...s.plan, ...numbers }, round: s.round + 1 })),
  };
}

/** Fills in what was measured of a board of the notebook. */
export function ChargerChoice({ chargers, onNumbers }: { readonly chargers: readonly MeasuredCharger[]; onNumbers(numbers: Partial<StationPlan>): void }) {
  const [id, setId] = useState("");
  if (chargers.length === 0) return null;
  return (
    <div className="mb-3">
      <Select
        label="Charger of a bay"
        value={id}
        onValue={(v) => {
          setId(v);
          const charger = chargers.find((c) => c.boardId === v);
          if (charger) onNumbers(charger.numbers);
        }}
        choices={[{ value: "", label: "values typed below" }, ...chargers.map((c) => ({ value: c.boardId, label: `${c.title}, as measured` }))]}
      />
    </div>
  );
}

function Planner({ stations, chargers }: { readonly stations: readonly StationRecord[]; readonly chargers: readonly MeasuredCharger[] }) {
  const { notebook } = useSession();
  const router = useRouter();
  const { plan, round, onNumber, fill } = useStationPlan(USUAL_PLAN);
  const [reference, setReference] = useState<StationPlan | null>(null);
  const save = () => void attempt(async () => router.push(`/station/${(await addStation("Charging station", plan, notebook.id)).id}`));
  return (
    <div className="sheet">
      <Section level={1} mark="station" title="Charging station" aside={<Button look="main" onClick={save}>Save station</Button>}>
        <p className="mb-3 text-pencil">
          Many chargers on one supply, all bays of a lane on one line. One charger on an adapter or panel: <Link href="/feed" className="underline">Charger feed</Link>.
        </p>
        {stations.length ? (
          <ul aria-label="Saved stations" className="mb-4 divide-y divide-rule border-y border-rule">
            {stations.map((s) => (
              <li key={s.id} className="flex flex-wrap items-baseline gap-x-4 py-1">
                <Link href={`/station/${s.id}`} className="font-medium hover:underline">
                  {s.title}
                </Link>
                <span className="text-sm text-pencil">
                  {s.plan.bays} bays; open it to charge
                </span>
              </li>
            ))}
          </ul>
        ) : null}
        <ChargerChoice chargers={chargers} onNumbers={fill} />
        <PlanFields key={round} plan={plan} onNumber={onNumber} />
      </Section>
      <PlanAnswer
        plan={plan}
        {...(reference ? { before: reference } : {})}
        aside={reference ? <Button look="bare" onClick={() => setReference(null)}>Clear reference</Button> : <Button look="bare" onClick={() => setReference(plan)}>Set as reference</Button>}
      />
    </div>
  );
}
