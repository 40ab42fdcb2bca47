"use client";

import type { Procedure } from "@/core/procedures";
import type { BoardDossier } from "@/notebook";
import { Section } from "@/ui/section";
import { StepRow } from "./step-row";
import { roughly, SIGNS, stepsOf, type Step } from "./steps";

/** The order of work: every step in a row with its runs, results and acts, what comes next, and how long the rest takes. */
export function OrderOfWork({
  dossier,
  asked,
  others,
}: {
  readonly dossier: BoardDossier;
  readonly asked: readonly Procedure[];
  /** What the board's functions allow and nothing asks for. */ readonly others: readonly Procedure[];
}) {
  const steps = stepsOf(dossier, asked, others);
  const left = steps.filter((s) => s.number !== null && s.state !== "done").reduce((sum, s) => sum + s.minutes, 0);
  const next = steps.find((s) => s.number !== null && s.state === "under way") ?? steps.find((s) => s.state === "next");
  return (
    <Section mark="order of work" title="Order of work" aside={<WhatNext next={next} left={left} />}>
      <ol className="divide-y divide-rule border-y border-rule">
        {steps.map((s) => (
          <li key={s.id}>
            {s.procedure ? <StepRow step={s} procedure={s.procedure} dossier={dossier} /> : <PlainRow step={s} />}
          </li>
        ))}
      </ol>
    </Section>
  );
}

function WhatNext({ next, left }: { readonly next: Step | undefined; readonly left: number }) {
  return (
    <p className="text-pencil" data-testid="what-next">
      {next ? (
        <>
          {next.state === "under way" ? "Under way: " : "Next: "}
          <a href={`#${next.id}`} className="font-medium text-ink underline underline-offset-4">
            {next.title}
          </a>
          , about {roughly(next.minutes)}. Time left, about {roughly(left)}.
        </>
      ) : (
        "All steps are done."
      )}
    </p>
  );
}

/** A step that is done further down the page. */
const PlainRow = ({ step: s }: { readonly step: Step }) => (
  <div
    data-step={s.id}
    data-state={s.state}
    className="grid grid-cols-[1.5rem_minmax(0,1fr)] items-baseline gap-x-3 py-0.5 min-[700px]:grid-cols-[1.5rem_11.5rem_minmax(0,1fr)]"
  >
    <span className="figures text-sm text-pencil">{s.number}</span>
    <a href={`#${s.id}`} className={`pl-[18px] hover:underline ${s.state === "next" ? "font-semibold" : ""}`}>
      {s.title}
    </a>
    <span
      className={`text-sm max-[700px]:col-start-2 max-[700px]:pl-[18px] ${s.state === "done" ? "text-meets" : s.state === "to do" ? "text-pencil" : "font-semibold"}`}
    >
      <span aria-hidden="true">{SIGNS[s.state]} </span>
      {[s.state, s.said].filter(Boolean).join(", ")}
    </span>
  </div>
);
