"use client";

import { ChevronRight } from "lucide-react";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { atBench, type Procedure } from "@/core/procedures";
import { useKeys } from "@/browser/keys";
import { attempt } from "@/browser/notify";
import { keepDraft, preparedRun, type BoardDossier } from "@/notebook";
import { Button, buttonClass } from "@/ui/button";
import { Link } from "@/ui/link";
import { Select } from "@/ui/select";
import { Repeats } from "./repeats";
import { RunLine, RunLines } from "./run-lines";
import { roughly, SIGNS, type Step } from "./steps";

const withArticle = (noun: string): string =>
  noun.endsWith("s") ? noun : `${/^[aeiou]/.test(noun) ? "an" : "a"} ${noun}`;

/** One step of the bench: its state and its acts in a line, its runs under it; it opens in place to what it is for and to all that was found. */
export function StepRow({
  step,
  procedure,
  dossier,
}: {
  readonly step: Step;
  readonly procedure: Procedure;
  readonly dossier: BoardDossier;
}) {
  const [open, setOpen] = useState(false);
  const runs = dossier.runs.filter((r) => r.procedure === procedure.id);
  // One run stands in the step's own line; several, and all that was found, under it.
  const [only] = runs.length === 1 && !open ? runs : [];
  return (
    <section
      id={procedure.id}
      aria-label={procedure.title}
      className="py-px"
      {...(step.number === null ? {} : { "data-step": procedure.id, "data-state": step.state })}
    >
      <div className="grid grid-cols-[1.5rem_minmax(0,1fr)_auto] items-center gap-x-3 min-[900px]:grid-cols-[1.5rem_11.5rem_minmax(6.5rem,auto)_minmax(0,1fr)_auto]">
        <span className="figures text-sm text-pencil">{step.number ?? "–"}</span>
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className={`flex items-center gap-1 text-left ${step.state === "next" || step.state === "under way" ? "font-semibold" : ""}`}
        >
          <ChevronRight size={14} aria-hidden className={`shrink-0 ${open ? "rotate-90" : ""}`} />
          {procedure.title}
        </button>
        <span
          className={`text-sm max-[899px]:col-span-2 max-[899px]:col-start-2 max-[899px]:row-start-2 ${step.state === "done" ? "text-meets" : step.state === "to do" ? "text-pencil" : "font-semibold"}`}
        >
          <span aria-hidden="true">{SIGNS[step.state]} </span>
          {[
            step.number === null && step.state === "to do"
              ? procedure.destructive
                ? "only if wanted"
                : procedure.anyTime
                  ? "any time"
                  : "from files"
              : step.state,
            step.said,
            procedure.destructive ? "destructive" : "",
            step.state === "done" ? "" : `about ${roughly(step.minutes)}`,
          ]
            .filter(Boolean)
            .join(", ")}
        </span>
        <div className="min-w-0 max-[899px]:order-last max-[899px]:col-span-3">
          {only ? <RunLine run={only} procedure={procedure} dossier={dossier} whole={false} inline /> : null}
        </div>
        <div className="max-[899px]:col-start-3 max-[899px]:row-start-1">
          <StepActs procedure={procedure} dossier={dossier} main={step.state === "next"} />
        </div>
      </div>
      <div className="min-[900px]:pl-9">
        {open ? <p className="max-w-prose py-1 text-sm text-pencil">{procedure.summary}</p> : null}
        {runs.length && !only ? <RunLines runs={runs} procedure={procedure} dossier={dossier} whole={open} /> : null}
        {open && runs.length > 1 ? (
          <Repeats samples={dossier.evidence} procedureRuns={new Set(runs.map((r) => r.id))} />
        ) : null}
      </div>
    </section>
  );
}

/** Preparing a run of a step, with the sample where there are several, and importing one. */
function StepActs({
  procedure,
  dossier,
  main,
}: {
  readonly procedure: Procedure;
  readonly dossier: BoardDossier;
  readonly main: boolean;
}) {
  const router = useRouter();
  const bench = atBench(procedure);
  const { board, samples } = dossier;
  const [chosen, setChosen] = useState<string | null>(null);
  const sample = samples.find((s) => s.id === chosen) ?? samples[0];
  const start = () =>
    void attempt(async () => {
      if (!sample) throw new Error("Add a sample first: a run measures one sample.");
      if (!bench) return;
      const run = await preparedRun(bench, dossier, sample);
      router.push(`/run/${await keepDraft(run, false)}/prepare`);
    });
  useKeys({ p: start }, main && bench !== null);
  const name = procedure.title.toLowerCase();
  const importing =
    procedure.readings === "trace"
      ? `Import log of ${withArticle(name)}`
      : procedure.destructive
        ? `Import readings of ${withArticle(name)}`
        : bench && !procedure.rare
          ? "Import CSV"
          : `Import CSV of ${name}`;
  return (
    <span className="flex items-center justify-end gap-2">
      {bench && samples.length > 1 ? (
        <Select
          dense
          place="hidden"
          label={`Sample for ${withArticle(name)}`}
          value={sample?.id ?? ""}
          onValue={setChosen}
          choices={samples.map((s) => ({ value: s.id as string, label: s.name }))}
        />
      ) : null}
      {bench ? (
        <Button
          look={main && !procedure.destructive ? "main" : "plain"}
          dense
          {...(main ? { keyName: "P" } : {})}
          onClick={start}
          aria-label={`Prepare ${withArticle(name)}`}
        >
          Prepare
        </Button>
      ) : null}
      {procedure.ofDrawer ? (
        <Link href="/cells#read" className={buttonClass("plain", true)}>
          Open cell drawer
        </Link>
      ) : null}
      {procedure.readings !== "answers" ? (
        <Link
          href={`/board/${board.id}/import?of=${procedure.id}`}
          aria-label={importing}
          className={buttonClass("plain", true)}
        >
          Import
        </Link>
      ) : null}
    </span>
  );
}
