"use client";

import { useForm, useWatch } from "react-hook-form";
import { formatQuantity } from "@/core/quantities";
import type { Fed, Sum, SumRules } from "@/core/sums";
import { FormNumbers } from "@/ui/form-numbers";
import { Link } from "@/ui/link";
import { Section } from "@/ui/section";
import { isTaken } from "@/ui/use-taken";

/** A figure that is shown with no more digits than a sum is worth. */
const short = (value: number): number => Number(value.toPrecision(3));

interface Source {
  readonly label: string;
  readonly runId: string;
}

/** A sum with its fields, which begin with what is known, its formula filled in, and the runs that its numbers come from. */
export function SumForm({
  sum,
  fed,
  rules,
}: {
  readonly sum: Sum;
  readonly fed: ReadonlyMap<string, Fed>;
  readonly rules: SumRules;
}) {
  const first = (key: string, usual: number | null): number | null => {
    const value = fed.get(`${sum.id}.${key}`)?.value ?? usual;
    return value === null ? null : short(value);
  };
  const { control } = useForm<Record<string, number | null>>({
    defaultValues: Object.fromEntries(sum.fields.map((f) => [f.key, first(f.key, f.first)])),
  });
  const values = useWatch({ control });
  const sources = sum.fields.flatMap((f): Source[] => {
    const x = fed.get(`${sum.id}.${f.key}`);
    return x?.runId && values[f.key] === short(x.value) ? [{ label: f.label, runId: x.runId }] : [];
  });
  return (
    <Section id={sum.id} mark={<span className="figures">{sum.formula}</span>} title={sum.title}>
      <FormNumbers control={control} at="" fields={sum.fields} />
      {isTaken(values) ? (
        <Answer answer={sum.work(values as Readonly<Record<string, number>>, rules)} />
      ) : (
        <p className="text-pencil">A field above is empty or invalid.</p>
      )}
      {sources.length ? <Sources sources={sources} /> : null}
    </Section>
  );
}

function Answer({ answer }: { readonly answer: ReturnType<Sum["work"]> }) {
  return (
    <div aria-live="polite">
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {answer.results.map((r, k) => (
          <div key={r.label} data-sum={r.label}>
            <dt className="text-sm text-pencil">{r.label}</dt>
            <dd className={`figures ${k === 0 ? "text-2xl font-semibold" : "text-xl"}`}>
              {r.text ?? formatQuantity(r.value, r.unit, { digits: 3 })}
            </dd>
          </div>
        ))}
      </dl>
      <p className="figures mt-1 text-sm">{answer.filled}</p>
      {answer.remark ? <p className="mt-1 border-l-4 border-rule pl-2">{answer.remark}</p> : null}
    </div>
  );
}

function Sources({ sources }: { readonly sources: readonly Source[] }) {
  return (
    <p className="mt-1 text-sm text-pencil">
      From runs:{" "}
      {sources.map((s, k) => (
        <span key={s.label}>
          {k ? ", " : ""}
          <Link href={`/run/${s.runId}/review`} className="underline underline-offset-4">
            {s.label.toLowerCase()}
          </Link>
        </span>
      ))}
      .
    </p>
  );
}
