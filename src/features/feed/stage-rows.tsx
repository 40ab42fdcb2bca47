import { STAGE_KINDS, stageName, type FeedCharger, type FeedPlan, type FeedStage, type StageKind } from "@/core/use/feed";
import { Button } from "@/ui/button";
import { NumberField } from "@/ui/number-field";
import { NumberFields } from "@/ui/number-fields";
import { Select } from "@/ui/select";
import { CELL_FIELDS, CHARGER_FIELDS, DAY_FIELDS, isSource, STAGE_FIELDS, usualStage } from "./stage-fields";

export interface PlanEditing {
  readonly plan: FeedPlan;
  onPlan(plan: FeedPlan): void;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const choices = (kinds: readonly StageKind[]) => kinds.map((k) => ({ value: k, label: capital(stageName(k)) }));

/** What describes a stage, by the keys of its fields. */
const numbersOf = (s: FeedStage): Readonly<Record<string, number>> => Object.fromEntries(Object.entries(s).filter((e): e is [string, number] => typeof e[1] === "number"));

/** The stages from the source to the board, each with its numbers. */
export function StageRows({ plan, onPlan }: PlanEditing) {
  const { stages } = plan;
  const put = (next: readonly FeedStage[]) => onPlan({ ...plan, stages: next });
  const swap = (k: number): readonly FeedStage[] => stages.map((s, j) => (j === k ? (stages[k - 1] ?? s) : j === k - 1 ? (stages[k] ?? s) : s));
  return (
    <>
      <ol aria-label="Stages" className="divide-y divide-rule border-y border-rule">
        {stages.map((s, k) => (
          <li key={k} className="py-2">
            <fieldset className="grid gap-x-4 min-[900px]:grid-cols-[15rem_minmax(0,1fr)]">
              <legend className="sr-only">
                Stage {k + 1}: {stageName(s.kind)}
              </legend>
              <div className="flex flex-wrap items-center gap-x-3 gap-y-1 self-center">
                <span className="figures text-pencil">{k + 1}</span>
                <Select label={`Stage ${k + 1}`} place="hidden" value={s.kind} choices={choices(STAGE_KINDS.filter((kind) => isSource(kind) === (k === 0)))} onValue={(kind) => put(stages.map((t, j) => (j === k ? usualStage(kind) : t)))} />
                {k > 1 ? (
                  <Button look="bare" aria-label={`Move stage ${k + 1} up`} onClick={() => put(swap(k))}>
                    Move up
                  </Button>
                ) : null}
                {k > 0 ? (
                  <Button look="bare" aria-label={`Delete stage ${k + 1}`} onClick={() => put(stages.filter((_, j) => j !== k))}>
                    Delete
                  </Button>
                ) : null}
              </div>
              <NumberFields key={`${s.kind} ${stages.length}`} fields={STAGE_FIELDS[s.kind]} values={numbersOf(s)} onNumber={(key, value) => put(stages.map((t, j) => (j === k ? { ...t, [key]: value } : t)))} />
            </fieldset>
          </li>
        ))}
      </ol>
      <div className="my-2 flex flex-wrap gap-3">
        {choices(STAGE_KINDS.filter((k) => !isSource(k))).map(({ value, label }) => (
          <Button key={value} onClick={() => put([...stages, usualStage(value)])}>
            Add {label.toLowerCase()}
          </Button>
        ))}
      </div>
    </>
  );
}

/** The charger and its cell; a switching one has an efficiency. */
export function ChargerFields({ plan, onPlan }: PlanEditing) {
  const { charger } = plan;
  const put = (more: Partial<FeedCharger>) => onPlan({ ...plan, charger: { ...charger, ...more } });
  const fields = CHARGER_FIELDS.filter((f) => f.key !== "efficiency" || charger.kind === "switching").filter((f) => f.key !== "foldback" || charger.thermal > 0);
  return (
    <fieldset>
      <legend className="sr-only">Charger and cell</legend>
      <div className="mb-2">
        <Select label="Kind of charger" value={charger.kind} onValue={(kind) => put({ kind })} choices={[{ value: "linear", label: "Linear" }, { value: "switching", label: "Switching" }]} />
      </div>
      <NumberFields fields={[...fields, ...CELL_FIELDS]} values={charger} onNumber={(key, value) => put({ [key]: value })}>
        <NumberField label="Ambient" quantity="°C" value={plan.ambient} refuse={(x) => (x < -40 || x > 90 ? "Between −40 °C and 90 °C." : null)} onValue={(x) => x !== null && onPlan({ ...plan, ambient: x })} />
      </NumberFields>
    </fieldset>
  );
}

/** A day of the panel and of what runs from its cells. */
export function DayFields({ plan, onPlan }: PlanEditing) {
  return (
    <fieldset>
      <legend className="sr-only">A day</legend>
      <NumberFields fields={DAY_FIELDS} values={plan.day} onNumber={(key, value) => onPlan({ ...plan, day: { ...plan.day, [key]: value } })} />
    </fieldset>
  );
}
