import { useForm, useWatch, type UseFormReturn } from "react-hook-form";
import type { StationNumber, StationPlan } from "@/core/use/station";
import type { MeasuredCharger } from "@/notebook/chargers";
import { FormNumbers, numberSpec, type NumberSpec } from "@/ui/form-numbers";
import { Select } from "@/ui/select";
import { useTaken } from "@/ui/use-taken";

const field = numberSpec<StationNumber>;

const GROUPS: readonly { readonly title: string; readonly fields: readonly NumberSpec<StationNumber>[] }[] = [
  {
    title: "The chargers",
    fields: [
      { ...field("bays", "Bays", "", 12, 1, 500), whole: true },
      field("chargeCurrent", "Charge current of a bay", "A", 0.5, 0.001, 20),
      field("currentTolerance", "Current tolerance, ±", "1", 0.08, 0, 0.9),
      field("quiescent", "Quiescent current", "A", 0.004, 0, 1),
      field("minimumInput", "Lowest input voltage", "V", 4.6, 0.5, 60),
      field("lowestCellVoltage", "Lowest cell voltage", "V", 3, 0, 5),
    ],
  },
  {
    title: "Supply and wire",
    fields: [
      field("volts", "Supply voltage", "V", 5.15, 0.5, 60),
      field("voltsTolerance", "Voltage tolerance, ±", "1", 0.01, 0, 0.5),
      field("amps", "Supply gives", "A", 10, 0.1, 500),
      field("margin", "Margin", "1", 0.25, 0, 3),
      field("ampacity", "Wire carries", "A", 16, 0.1, 500),
      field("segmentResistance", "Wire from bay to bay, there and back", "Ω", 0.003, 0, 10),
      field("resistanceTolerance", "Wire and thermal tolerance, ±", "1", 0.1, 0, 0.9),
    ],
  },
  {
    title: "Heat",
    fields: [
      field("ambient", "Ambient", "°C", 24, -40, 90),
      field("thermalResistance", "Thermal resistance of the part", "K/W", 38, 0, 500),
      field("foldbackTemperature", "It cuts its own current at", "°C", 95, 20, 200),
    ],
  },
];

/** What a station begins with. */
export const USUAL_PLAN = Object.fromEntries(
  GROUPS.flatMap((g) => g.fields.map((f) => [f.key, f.first])),
) as unknown as StationPlan;

/** A station's plan while it is typed: an empty field is null, and what makes no sense is not a number. */
export interface PlanForm {
  plan: StationPlan;
  /** Id of the board whose measured numbers were filled in; "" for none. */
  from: string;
}

/** The form of a plan, with the plan as it last could be taken. */
export function usePlanForm(first: StationPlan) {
  const form = useForm<PlanForm>({ defaultValues: { plan: first, from: "" } });
  return { form, taken: useTaken(useWatch({ control: form.control, name: "plan" })) };
}

interface PlanFieldsProps {
  readonly form: UseFormReturn<PlanForm>;
  readonly chargers: readonly MeasuredCharger[];
}

/** The numbers of a station; what was measured of a board of the notebook can fill them in. */
export function PlanFields({ form: { control, setValue }, chargers }: PlanFieldsProps) {
  const from = useWatch({ control, name: "from" });
  const choose = (boardId: string) => {
    setValue("from", boardId);
    for (const [key, value] of Object.entries(chargers.find((c) => c.boardId === boardId)?.numbers ?? {}))
      setValue(`plan.${key as StationNumber}`, value);
  };
  return (
    <>
      {chargers.length ? (
        <div className="mb-3">
          <Select
            label="Charger of a bay"
            value={from}
            onValue={choose}
            choices={[
              { value: "", label: "values typed below" },
              ...chargers.map((c) => ({ value: c.boardId, label: `${c.title}, as measured` })),
            ]}
          />
        </div>
      ) : null}
      {GROUPS.map((g) => (
        <fieldset key={g.title} className="mb-1">
          <legend className="mb-1 font-medium">{g.title}</legend>
          <FormNumbers control={control} at="plan." fields={g.fields} />
        </fieldset>
      ))}
    </>
  );
}
