"use client";

import type { Finding, Procedure } from "@/core/procedures";
import type { BoardDossier } from "@/storage";
import { Section } from "@/ui/section";
import { Headline } from "./headline";

type State = "done" | "under way" | "next" | "to do";

interface Step {
  readonly number: number;
  readonly id: string;
  readonly title: string;
  readonly minutes: number;
  readonly state: State;
  readonly procedure: Procedure | null;
  readonly said: string;
}

/** Marks that don't rest on colour alone. */
const SIGNS: Readonly<Record<State, string>> = { done: "\u2713", "under way": "\u2026", next: "\u2192", "to do": "\u00b7" };

/** Runs that the tester stopped before their end: they leave their step open. */
const stoppedRuns = (d: BoardDossier): ReadonlySet<string> => new Set(d.evidence.flatMap((s) => s.runs.filter((r) => r.notStated?.some((n) => n.code === "stopped")).map((r) => r.id)));

function stepsOf(dossier: BoardDossier, procedures: readonly Procedure[]): Step[] {
  const { claims, samples, runs } = dossier;
  const stopped = stoppedRuns(dossier);
  const counted = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;
  const all: (Omit<Step, "state"> & { state: State | null })[] = [
    { number: 1, id: "claims", title: "Claims", minutes: 5, procedure: null, said: claims.length ? counted(claims.length, "claim", "claims") : "", state: claims.length ? "done" : null },
    { number: 2, id: "samples", title: "Samples", minutes: 5, procedure: null, said: samples.length ? counted(samples.length, "sample", "samples") : "", state: samples.length ? "done" : null },
    ...procedures.map((p, k) => {
      const own = runs.filter((r) => r.procedure === p.id && !r.setAside);
      const ended = own.filter((r) => r.state === "finished");
      const finished = ended.some((r) => !stopped.has(r.id));
      const said = !finished && ended.length ? "stopped by the tester" : "";
      return { number: k + 3, id: p.id, title: p.title, minutes: p.minutes, procedure: p, said, state: finished ? ("done" as const) : own.length ? ("under way" as const) : null };
    }),
  ];
  const next = all.findIndex((s) => s.state === null);
  return all.map((s, k) => ({ ...s, state: s.state ?? (k === next ? "next" : "to do") }));
}

/** Minutes in words that suit a plan: `about 1 h 20 min`. */
const roughly = (minutes: number): string => (minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${minutes % 60} min` : ""}`);

/** The whole order of work at a glance: what is done and what it found, what comes next, how long the rest takes. */
export function OrderOfWork({ dossier, procedures }: { readonly dossier: BoardDossier; readonly procedures: readonly Procedure[] }) {
  const steps = stepsOf(dossier, procedures);
  const left = steps.filter((s) => s.state !== "done").reduce((sum, s) => sum + s.minutes, 0);
  const next = steps.find((s) => s.state === "under way") ?? steps.find((s) => s.state === "next");
  return (
    <Section mark="order of work" title="What is done, and what is next">
      <p className="mb-2 text-pencil" data-testid="what-next">
        {next ? (
          <>
            {next.state === "under way" ? "Under way: " : "Next: "}
            <a href={`#${next.id}`} className="font-medium text-ink underline underline-offset-4">
              {next.title}
            </a>
            , about {roughly(next.minutes)}. All that is left takes about {roughly(left)}.
          </>
        ) : (
          "Every step that its functions call for is done."
        )}
      </p>
      <ol className="divide-y divide-rule border-y border-rule">
        {steps.map((s) => (
          <li key={s.id} data-step={s.id} data-state={s.state} className="grid grid-cols-[1.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-1 min-[700px]:grid-cols-[1.5rem_9rem_6.5rem_minmax(0,1fr)_5rem]">
            <span className="figures text-sm text-pencil">{s.number}</span>
            <a href={`#${s.id}`} className={`${s.state === "next" || s.state === "under way" ? "font-semibold" : ""} hover:underline`}>
              {s.title}
            </a>
            <span className={`text-sm ${s.state === "done" ? "text-meets" : s.state === "to do" ? "text-pencil" : "font-semibold"}`}>
              <span aria-hidden="true">{SIGNS[s.state]} </span>
              {s.state}
            </span>
            <span className="min-w-0 text-sm max-[700px]:col-span-2 max-[700px]:col-start-2">{s.said ? <span className="mr-2">{s.said}</span> : null}{s.procedure ? <Found dossier={dossier} procedure={s.procedure} /> : null}</span>
            <span className="figures text-right text-sm text-pencil max-[700px]:hidden">{s.state === "done" ? "" : roughly(s.minutes)}</span>
          </li>
        ))}
      </ol>
    </Section>
  );
}

/** What a step found first: each quantity from its newest finished run that counts. */
function Found({ dossier, procedure }: { readonly dossier: BoardDossier; readonly procedure: Procedure }) {
  const evidence = new Map(dossier.evidence.flatMap((s) => s.runs).map((r) => [r.id as string, r.findings]));
  const newest = new Map<string, Finding>();
  for (const run of dossier.runs.filter((r) => r.procedure === procedure.id && r.state === "finished" && !r.setAside).sort((a, b) => b.startUtc.localeCompare(a.startUtc)))
    for (const f of evidence.get(run.id) ?? []) {
      const key = f.characteristic + JSON.stringify(f.conditions);
      if (!newest.has(key)) newest.set(key, f);
    }
  return <Headline procedure={procedure} findings={[...newest.values()]} most={2} />;
}
