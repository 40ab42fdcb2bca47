import type { StationNumber, StationPlan } from "@/core/use/station";
import { NumberFields, numberSpec, type NumberSpec } from "@/ui/number-fields";

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
    fields: [field("ambient", "Ambient", "°C", 24, -40, 90), field("thermalResistance", "Thermal resistance of the part", "K/W", 38, 0, 500), field("foldbackTemperature", "It cuts its own current at", "°C", 95, 20, 200)],
  },
];

/** What a station begins with. */
export const USUAL_PLAN = Object.fromEntries(GROUPS.flatMap((g) => g.fields.map((f) => [f.key, f.first]))) as unknown as StationPlan;

/** The numbers of a station; a value that makes no sense changes nothing. The fields begin anew with another `key`. */
export function PlanFields({ plan, onNumber }: { readonly plan: StationPlan; onNumber(key: StationNumber, value: number): void }) {
  return GROUPS.map((g) => (
    <fieldset key={g.title} className="mb-1">
      <legend className="mb-1 font-medium">{g.title}</legend>
      <NumberFields fields={g.fields} values={plan} onNumber={onNumber} />
    </fieldset>
  ));
}
