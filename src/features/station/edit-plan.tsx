import { compute } from "@/workers/compute";
import { sameValue } from "@/core/files/three-way";
import type { StationRecord } from "@/core/files/records";
import { attempt } from "@/browser/notify";
import { change, edit, useLive } from "@/storage";
import { measuredChargers } from "@/notebook/chargers";
import { SaveButton } from "@/ui/form";
import { NotTaken } from "@/ui/not-taken";
import { Section } from "@/ui/section";
import { PlanAnswer } from "./plan-answer";
import { PlanFields, usePlanForm } from "./plan-fields";

/** The numbers of a saved station, changed by one act. */
export function EditPlan({ station }: { readonly station: StationRecord }) {
  const { form, taken } = usePlanForm(station.plan);
  const chargers = useLive(`chargers-${station.notebookId}`, () => measuredChargers(compute, station.notebookId));
  const save = form.handleSubmit(({ plan }) =>
    attempt(() => change(`change ${station.title}`, [edit(station, { ...station, plan })])),
  );
  return (
    <>
      <Section
        mark="plan"
        title="Plan of the station"
        aside={
          <SaveButton onSave={save} disabled={taken.whole && sameValue(taken.values, station.plan)}>
            Save plan
          </SaveButton>
        }
      >
        <PlanFields form={form} chargers={chargers.state === "ready" ? chargers.value : []} />
        {taken.whole ? null : <NotTaken />}
      </Section>
      <PlanAnswer plan={taken.values} before={station.plan} />
    </>
  );
}
