import { useFieldArray, useWatch, type Control } from "react-hook-form";
import { STAGE_KINDS, stageName, type FeedPlan, type StageKind } from "@/core/use/feed";
import { Button } from "@/ui/button";
import { FormSelect } from "@/ui/form-fields";
import { FormNumbers } from "@/ui/form-numbers";
import { Select } from "@/ui/select";
import { chargerFields, DAY_FIELDS, isSource, STAGE_FIELDS, usualStage } from "./stage-fields";

/** A feed while it is typed: an empty field is null, and what makes no sense is not a number. */
export interface FeedFields {
  title: string;
  /** Id of the board whose measured numbers were filled in; "" for none. */
  from: string;
  plan: FeedPlan;
}
interface InForm {
  readonly control: Control<FeedFields>;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const choices = (kinds: readonly StageKind[]) => kinds.map((k) => ({ value: k, label: capital(stageName(k)) }));

/** The stages from the source to the board, each with its numbers. */
export function StageRows({ control }: InForm) {
  // Its rows are typed as those of a list that may change.
  const { fields, append, remove, swap, update } = useFieldArray({ control, name: "plan.stages" as never });
  const stages = useWatch({ control, name: "plan.stages" });
  return (
    <>
      <ol aria-label="Stages" className="divide-y divide-rule border-y border-rule">
        {fields.map(({ id }, k) => {
          const kind = stages[k]?.kind;
          return kind ? (
            <li key={id} className="py-2">
              <fieldset className="grid gap-x-4 min-[900px]:grid-cols-[15rem_minmax(0,1fr)]">
                <legend className="sr-only">
                  Stage {k + 1}: {stageName(kind)}
                </legend>
                <div className="flex flex-wrap items-center gap-x-3 gap-y-1 self-center">
                  <span className="figures text-pencil">{k + 1}</span>
                  <Select
                    label={`Stage ${k + 1}`}
                    place="hidden"
                    value={kind}
                    choices={choices(STAGE_KINDS.filter((x) => isSource(x) === (k === 0)))}
                    onValue={(x) => update(k, usualStage(x) as never)}
                  />
                  {k > 1 ? (
                    <Button look="bare" aria-label={`Move stage ${k + 1} up`} onClick={() => swap(k, k - 1)}>
                      Move up
                    </Button>
                  ) : null}
                  {k > 0 ? (
                    <Button look="bare" aria-label={`Delete stage ${k + 1}`} onClick={() => remove(k)}>
                      Delete
                    </Button>
                  ) : null}
                </div>
                <FormNumbers control={control} at={`plan.stages.${k}.`} fields={STAGE_FIELDS[kind]} />
              </fieldset>
            </li>
          ) : null;
        })}
      </ol>
      <div className="my-2 flex flex-wrap gap-3">
        {choices(STAGE_KINDS.filter((k) => !isSource(k))).map(({ value, label }) => (
          <Button key={value} onClick={() => append(usualStage(value) as never, { shouldFocus: false })}>
            Add {label.toLowerCase()}
          </Button>
        ))}
      </div>
    </>
  );
}

/** The charger and its cell. */
export function ChargerFields({ control }: InForm) {
  const [kind, thermal] = useWatch({ control, name: ["plan.charger.kind", "plan.charger.thermal"] });
  return (
    <fieldset>
      <legend className="sr-only">Charger and cell</legend>
      <div className="mb-2">
        <FormSelect
          control={control}
          name="plan.charger.kind"
          label="Kind of charger"
          choices={[
            { value: "linear", label: "Linear" },
            { value: "switching", label: "Switching" },
          ]}
        />
      </div>
      <FormNumbers control={control} at="plan." fields={chargerFields({ kind, thermal })} />
    </fieldset>
  );
}

/** A day of the panel and of what runs from its cells. */
export function DayFields({ control }: InForm) {
  return (
    <fieldset>
      <legend className="sr-only">A day</legend>
      <FormNumbers control={control} at="plan.day." fields={DAY_FIELDS} />
    </fieldset>
  );
}
