"use client";

import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { formatQuantity } from "@/core/quantities";
import { standing } from "@/core/sheet";
import { feedsOf, SUMS, type Fed, type Sum } from "@/core/sums";
import { useSession } from "@/session/context";
import { boardDossier, boards, useLive } from "@/storage";
import { NumberField } from "@/ui/number-field";
import { Quiet, Section } from "@/ui/section";

/** Sums that are done beside the bench, each by itself or fed from what a board was found to do. */
export function SumsPage() {
  const { notebook } = useSession();
  const [from, setFrom] = useState<string>(() => new URLSearchParams(location.search).get("board") ?? "");
  const list = useLive(`sums-${notebook.id}`, () => boards(notebook.id), (n) => n.kinds.includes("board"));
  const fed = useLive(`feeds-${from}`, async () => (from ? feedsFrom(from) : new Map<string, Fed>()));
  useEffect(() => {
    document.title = "Quick sums · Nimbus Bench";
  }, []);
  if (list.state !== "ready") return <Quiet>Fetching the boards …</Quiet>;
  return (
    <div className="sheet">
      <Section level={1} mark="sums" title="Quick sums">
        <p className="mb-2 max-w-prose text-pencil">Type what you know; each shows its formula with the numbers put in. Fed from a board, its newest findings fill in what they can.</p>
        <label className="text-sm text-pencil">
          Fed from{" "}
          <select value={from} onChange={(e) => setFrom(e.target.value)} className="border border-pencil/60 bg-field px-2 py-1.5 text-base text-ink">
            <option value="">nothing: usual values</option>
            {list.value.map((b) => (
              <option key={b.id} value={b.id}>
                {b.title}
              </option>
            ))}
          </select>
        </label>
      </Section>
      {fed.state === "ready" ? SUMS.map((s) => <SumRow key={s.id + from} sum={s} fed={fed.value} />) : null}
    </div>
  );
}

async function feedsFrom(boardId: string): Promise<ReadonlyMap<string, Fed>> {
  const d = await boardDossier(boardId);
  if (!d) return new Map();
  return feedsOf(standing(d.evidence.flatMap((x) => x.runs).filter((r) => r.finished)));
}

/** A figure that is shown with no more digits than a sum is worth. */
const short = (value: number): number => Number(value.toPrecision(3));

function SumRow({ sum, fed }: { readonly sum: Sum; readonly fed: ReadonlyMap<string, Fed> }) {
  const first = useMemo(() => Object.fromEntries(sum.fields.map((f) => [f.key, short(fed.get(`${sum.id}.${f.key}`)?.value ?? f.first)])), [sum, fed]);
  const [values, setValues] = useState<Readonly<Record<string, number | null>>>(first);
  const known = sum.fields.every((f) => values[f.key] !== null);
  const answer = known ? sum.work(values as Readonly<Record<string, number>>) : null;
  const sources = sum.fields.flatMap((f) => {
    const x = fed.get(`${sum.id}.${f.key}`);
    return x && values[f.key] === short(x.value) ? [{ label: f.label, runId: x.runId }] : [];
  });
  return (
    <Section id={sum.id} mark={<span className="figures">{sum.formula}</span>} title={sum.title}>
      <div className="flex flex-wrap gap-x-5">
        {sum.fields.map((f) => (
          <NumberField
            key={f.key}
            label={f.label}
            quantity={f.unit}
            value={first[f.key] ?? null}
            refuse={(v) => (v >= f.low && v <= f.high ? null : `Between ${formatQuantity(f.low, f.unit)} and ${formatQuantity(f.high, f.unit)}.`)}
            onValue={(v) => setValues((old) => ({ ...old, [f.key]: v }))}
          />
        ))}
      </div>
      {answer ? (
        <div aria-live="polite">
          <dl className="flex flex-wrap gap-x-8 gap-y-1">
            {answer.results.map((r, k) => (
              <div key={r.label} data-sum={r.label}>
                <dt className="text-sm text-pencil">{r.label}</dt>
                <dd className={`figures ${k === 0 ? "text-2xl font-semibold" : "text-xl"}`}>{r.text ?? formatQuantity(r.value, r.unit, { digits: 3 })}</dd>
              </div>
            ))}
          </dl>
          <p className="figures mt-1 text-sm">{answer.filled}</p>
          {answer.remark ? <p className="mt-1 border-l-4 border-rule pl-2">{answer.remark}</p> : null}
        </div>
      ) : (
        <p className="text-pencil">A field above can&apos;t be read yet.</p>
      )}
      {sources.length ? (
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
      ) : null}
    </Section>
  );
}
