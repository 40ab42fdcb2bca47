import type { Control } from "react-hook-form";
import type { FileQuestion, Procedure } from "@/core/procedures";
import { FormNumber, FormSelect } from "@/ui/form-fields";
import { notNegative, positive } from "@/ui/refusals";

/** What is asked beside a file: of which sample it is ("" where no board is open), and the conditions; an empty number is null, and what makes no sense is not a number. */
export interface AskedForm {
  sampleId: string;
  conditions: Record<string, number | string | null>;
}

/** What the words that a procedure asks for begin with. */
export const firstWords = (p: Procedure): Record<string, string> =>
  Object.fromEntries((p.chooses ?? []).map((q) => [q.condition, q.of[0].value]));

/** The conditions as they are stated: what is empty or makes no sense is not. */
export const statedConditions = (conditions: AskedForm["conditions"]): Record<string, number | string> =>
  Object.fromEntries(
    Object.entries(conditions).filter((e): e is [string, number | string] => e[1] !== null && !Number.isNaN(e[1])),
  );

const refusalOf = (q: FileQuestion) => (q.aboveZero ? positive : q.unit === "°C" ? undefined : notNegative);

/** What a procedure asks beside a file. */
export function AskedFields({
  procedure: p,
  control,
}: {
  readonly procedure: Procedure;
  readonly control: Control<AskedForm>;
}) {
  return (
    <>
      {(p.chooses ?? []).map((q) => (
        <span key={q.condition} className="mb-3 self-center">
          <FormSelect control={control} name={`conditions.${q.condition}`} label={q.label} choices={q.of} />
        </span>
      ))}
      {p.asks.map((q) => {
        const refuse = refusalOf(q);
        return (
          <FormNumber
            key={q.condition}
            control={control}
            name={`conditions.${q.condition}`}
            label={q.label}
            quantity={q.unit}
            {...(q.required ? { missing: "Enter a number." } : {})}
            {...(refuse ? { refuse } : {})}
          />
        );
      })}
    </>
  );
}
