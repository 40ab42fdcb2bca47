"use client";

import { useForm } from "react-hook-form";
import { characteristic, formatConditions } from "@/core/characteristics";
import type { FileQuestion, Procedure } from "@/core/procedures";
import type { NotStated } from "@/core/measurement";
import type { Unit } from "@/core/quantities";
import { attempt } from "@/browser/notify";
import type { RunDossier } from "@/notebook";
import { stateCondition } from "@/notebook/layers";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormNumber } from "@/ui/form-fields";
import { Link } from "@/ui/link";

/** What a missing condition is called in its field, and its unit, where no question of the procedure has it. */
const FIELDS: Readonly<Record<string, { readonly label: string; readonly unit: Unit }>> = {
  ambientTemperature: { label: "Ambient temperature", unit: "°C" },
  partLimitTemperature: { label: "Highest temperature the part may reach", unit: "°C" },
  dissipation: { label: "Power turned into heat", unit: "W" },
  usableCapacity: { label: "Usable capacity of the cell", unit: "Ah" },
  panelMaximumPower: { label: "Panel's maximum power", unit: "W" },
  nominalOutput: { label: "Nominal output voltage", unit: "V" },
};

const nameOf = (n: NotStated): string => {
  const at = formatConditions(n.conditions ?? {});
  return `${characteristic(n.characteristic)?.label ?? n.characteristic}${at ? ` ${at}` : ""}`;
};

/** What the run could have measured and does not state, with the reason, and the act that would supply what is missing. */
export function NotStatedList({
  d,
  procedure,
  notStated,
}: {
  readonly d: RunDossier;
  readonly procedure: Procedure;
  readonly notStated: readonly NotStated[];
}) {
  const open = notStated.filter((n) => n.code !== "did-not-happen");
  const never = notStated.filter((n) => n.code === "did-not-happen");
  if (notStated.length === 0) return null;
  return (
    <div className="mt-4" data-testid="not-stated">
      {open.length ? (
        <>
          <h3 className="font-semibold">Not stated</h3>
          <Reasons list={open} d={d} procedure={procedure} />
        </>
      ) : null}
      {never.length ? (
        <details className="mt-2">
          <summary className="text-sm">
            Did not happen in this run <span className="text-pencil">({never.length})</span>
          </summary>
          <Reasons list={never} d={d} procedure={procedure} />
        </details>
      ) : null}
    </div>
  );
}

/** One line a reason: the quantities that it keeps from being stated, and what supplies it. */
function Reasons({
  list,
  d,
  procedure,
}: {
  readonly list: readonly NotStated[];
  readonly d: RunDossier;
  readonly procedure: Procedure;
}) {
  const byReason = new Map<string, NotStated[]>();
  for (const n of list) byReason.set(n.reason, [...(byReason.get(n.reason) ?? []), n]);
  return (
    <ul className="divide-y divide-rule text-sm">
      {[...byReason].map(([reason, own]) => (
        <li key={reason} className="py-1">
          <span className="font-medium">{own.map(nameOf).join(", ")}.</span> {reason}
          <Supply needs={own[0]?.needs} d={d} procedure={procedure} />
        </li>
      ))}
    </ul>
  );
}

function Supply({
  needs,
  d,
  procedure,
}: {
  readonly needs: NotStated["needs"];
  readonly d: RunDossier;
  readonly procedure: Procedure;
}) {
  if (needs?.condition)
    return (
      <StateCondition
        key={needs.condition}
        d={d}
        name={needs.condition}
        question={procedure.asks.find((q) => q.condition === needs.condition)}
      />
    );
  if (!needs?.roles || d.run.source.kind !== "file") return null;
  return (
    <>
      {" "}
      <Link className="underline underline-offset-4" href={`/board/${d.run.boardId}/import?of=${d.run.procedure}`}>
        Import the log again with that column
      </Link>
    </>
  );
}

function StateCondition({
  d,
  name,
  question,
}: {
  readonly d: RunDossier;
  readonly name: string;
  readonly question: FileQuestion | undefined;
}) {
  const { control, handleSubmit } = useForm<{ value: number | null }>({ defaultValues: { value: null } });
  const field = FIELDS[name] ?? (question ? { label: question.label, unit: question.unit } : null);
  if (!field) return null;
  return (
    <Form
      className="no-print mt-1 flex flex-wrap items-end gap-3"
      onSubmit={handleSubmit(({ value }) => attempt(() => stateCondition(d, name, value ?? NaN)))}
    >
      <FormNumber
        control={control}
        name="value"
        label={field.label}
        quantity={field.unit}
        missing="Enter a value."
        refuse={(v) => (field.unit !== "°C" && !(v > 0) ? "Enter a value above zero." : null)}
      />
      <Button type="submit" className="mb-4">
        Save
      </Button>
    </Form>
  );
}
