"use client";

import { useEffect, useState, type ComponentType, type ReactNode } from "react";
import type { ColumnMapping, Dialect } from "@/core/files";
import type { NotebookRecord } from "@/core/files/records";
import { PROCEDURES, procedure, type Procedure } from "@/core/procedures";
import type { Analysis, RunSetup } from "@/core/measurement";
import { formatDuration } from "@/core/quantities";
import { rigOf, rulesOf } from "@/notebook";
import { useLive } from "@/storage";
import { useNewWatched, useWatched, type Watched } from "@/browser/watched";
import { openWorker, type WorkerClient } from "@/workers/client";
import type { Look, LookedAt } from "@/workers/protocol";
import { Button } from "@/ui/button";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { ColumnPicker } from "./column-picker";
import { OpenedConditions, type Said } from "./opened-conditions";
import { SaveLog } from "./save-log";
import type { Odd } from "./store-run";

/** What a screen of results is given of a log that is not stored. */
export interface ResultProps {
  readonly procedure: Procedure;
  readonly analysis: Analysis;
  readonly setup: RunSetup;
  /** Of the worker that holds it; null for a table of points. */
  readonly log: {
    readonly id: string;
    readonly rows: number;
    readonly seconds: number;
    readonly worker: WorkerClient;
  } | null;
}

export interface OpenedLogProps {
  readonly file: File;
  readonly acts: ReactNode;
  readonly notebook: NotebookRecord | null;
  makeNotebook(): Promise<NotebookRecord>;
  onSaved(notebookId: string, runId: string): void;
  readonly Result: ComponentType<ResultProps>;
}

/** How a file is to be read, as far as somebody said so. */
interface Wish {
  readonly procedure?: string;
  readonly columns?: ColumnMapping;
  readonly dialect: Partial<Dialect>;
  readonly odd: Odd;
  readonly said: Said;
}

/** What the open notebook knows of meters and rules; nothing where none is open. */
interface Bench {
  readonly instruments: RunSetup["instruments"];
  readonly regulationBand?: number;
}
const NO_BENCH: Bench = { instruments: {} };

/** Null while it is read. */
function useBench(notebook: NotebookRecord | null): Bench | null {
  const live = useLive(
    `opened-bench-${notebook?.id ?? ""}`,
    async (): Promise<Bench> => {
      if (!notebook) return NO_BENCH;
      const [rig, rules] = [await rigOf(notebook.id), await rulesOf(notebook.id)];
      return { instruments: rig?.instruments ?? {}, regulationBand: rules.regulationBand };
    },
    (n) => n.kinds.includes("rig") || n.kinds.includes("rules"),
  );
  return live.state === "ready" ? live.value : live.state === "failed" ? NO_BENCH : null;
}

interface Reading {
  /** It is being read as wished; what is shown is of the wish before. */
  readonly busy: boolean;
  /** Of the file, while it is read; null where that is not told. */
  readonly share: Watched<number | null>;
  readonly failed: string | null;
  readonly looked: LookedAt | null;
  readonly worker: WorkerClient;
}

/** Reads a file as wished, in a worker of its own that holds the log for the charts. */
function useLook(file: File, wish: Wish, bench: Bench | null): Reading {
  const [worker] = useState(openWorker);
  const share = useNewWatched<number | null>(null);
  const [came, setCame] = useState<{ readonly of: Wish; readonly failed: string | null } | null>(null);
  const [looked, setLooked] = useState<LookedAt | null>(null);
  useEffect(() => () => worker.close(), [worker]);
  useEffect(() => {
    if (!bench) return;
    let over = false;
    const { said, columns, procedure: wanted, dialect, odd } = wish;
    const done = (failed: string | null) => {
      setCame({ of: wish, failed });
      share.set(null);
    };
    worker
      .ask(
        "log-look",
        {
          id: "opened",
          file,
          dialect,
          odd,
          ...(columns ? { mapping: columns } : {}),
          ...(wanted ? { procedure: wanted } : {}),
          conditions: said.conditions,
          instruments: said.instruments,
          bench,
        },
        undefined,
        (s) => over || share.set(s),
      )
      .then((r) => {
        if (over) return;
        if (!("error" in r)) setLooked(r);
        done("error" in r ? r.error : null);
      })
      .catch((e: unknown) => over || done((e as Error).message));
    return () => {
      over = true;
    };
  }, [file, wish, bench, worker, share]);
  const busy = came?.of !== wish;
  return { busy, share, failed: busy ? null : (came?.failed ?? null), looked, worker };
}

const FROM_FILES = PROCEDURES.filter((p) => p.readings !== "answers");
const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** One file: what it most likely is, its columns, what was assumed, and what it gives. */
export function OpenedLog({ file, acts, Result, ...save }: OpenedLogProps) {
  const [wish, setWish] = useState<Wish>({ dialect: {}, odd: "ask", said: { conditions: {}, instruments: {} } });
  const bench = useBench(save.notebook);
  const { busy, share, failed, looked, worker } = useLook(file, wish, bench);
  const [saving, setSaving] = useState(false);
  const p = procedure(looked?.procedure ?? "");
  const read = looked?.result?.kind === "read" ? looked.result : null;
  const change = (patch: Partial<Wish>) => setWish((w) => ({ ...w, ...patch }));
  return (
    <>
      <Section level={1} mark="log" title={file.name} aside={acts}>
        {failed !== null ? (
          <div role="alert" className="max-w-prose border-l-4 border-misses pl-3">
            <p className="font-medium">{failed}</p>
            <p className="text-sm text-pencil">Nothing was stored.</p>
          </div>
        ) : !looked ? (
          <Quiet>
            Reading {file.name} … <HowFar share={share} />
          </Quiet>
        ) : (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <WhatItIs
              looked={looked}
              busy={busy}
              onProcedure={(id) =>
                change({ procedure: id, odd: "ask", said: { conditions: {}, instruments: wish.said.instruments } })
              }
            />
            {read ? (
              <Button look="main" onClick={() => setSaving(true)}>
                Save to a board
              </Button>
            ) : null}
            <span className="text-sm text-pencil">
              {read
                ? `${read.rows} ${p?.readings === "points" ? "points" : "rows"}${read.seconds ? ` over ${formatDuration(read.seconds)}` : ""}. `
                : ""}
              Not stored yet.
            </span>
          </div>
        )}
        {looked?.result ? (
          <Trouble
            result={looked.result}
            onOdd={(odd) => change({ odd })}
            onDialect={(d) => change({ dialect: { ...looked.table.dialect, ...d } })}
          />
        ) : null}
        {read && p ? (
          <OpenedConditions key={p.id} procedure={p} read={read} said={wish.said} onSaid={(said) => change({ said })} />
        ) : null}
      </Section>
      {read && p && failed === null ? (
        <Result
          procedure={p}
          analysis={read.analysis}
          setup={read.setup}
          log={p.readings === "trace" ? { id: "opened", rows: read.rows, seconds: read.seconds, worker } : null}
        />
      ) : null}
      {looked ? (
        <Section mark="columns" title="Columns">
          <ColumnPicker
            table={looked.table}
            mapping={wish.columns ?? looked.columns}
            roles={
              p
                ? p.record.roles.map((r) => r.role)
                : [...new Set(FROM_FILES.flatMap((x) => x.record.roles.map((r) => r.role)))]
            }
            rows={looked.rows}
            whole={looked.whole}
            onMapping={(columns) => change({ columns })}
            onDialect={(d) => change({ dialect: { ...looked.table.dialect, ...d } })}
          />
        </Section>
      ) : null}
      {saving && read && p && looked ? (
        <SaveLog
          file={file}
          looked={looked}
          procedure={p}
          read={read}
          said={wish.said}
          odd={wish.odd}
          {...save}
          onClose={() => setSaving(false)}
        />
      ) : null}
    </>
  );
}

function HowFar({ share: far }: { readonly share: Watched<number | null> }) {
  const share = useWatched(far);
  return share === null ? null : percent(share);
}

/** What was measured: the likeliest first, everything else to choose from. */
function WhatItIs({
  looked,
  busy,
  onProcedure,
}: {
  readonly looked: LookedAt;
  readonly busy: boolean;
  onProcedure(id: string): void;
}) {
  const share = new Map(looked.guess.alternatives.map((a) => [a.procedure, a.share]));
  const unlikely = FROM_FILES.filter((p) => !share.has(p.id));
  const others = looked.guess.alternatives.filter((a) => a.procedure !== looked.procedure).slice(0, 2);
  const likely = looked.guess.alternatives.flatMap((a) => procedure(a.procedure) ?? []);
  const choices = [
    ...(looked.procedure === null ? [{ value: "none", label: "not known" }] : []),
    ...[...likely, ...unlikely].map((p) => ({
      value: p.id,
      label: `${p.title}${share.has(p.id) ? ` (${percent(share.get(p.id) ?? 0)})` : ""}`,
    })),
  ];
  return (
    <>
      <Select
        label={
          looked.procedure === null
            ? "What was measured?"
            : looked.guess.procedure === looked.procedure
              ? "Looks like a"
              : "Read as a"
        }
        value={looked.procedure ?? "none"}
        onValue={(id) => (id === "none" ? undefined : onProcedure(id))}
        choices={choices}
      />
      {others.length && looked.guess.procedure === looked.procedure ? (
        <span className="inline-flex flex-wrap items-center gap-1 text-sm text-pencil">
          or
          {others.map((a) => (
            <Button key={a.procedure} look="bare" onClick={() => onProcedure(a.procedure)}>
              {procedure(a.procedure)?.title.toLowerCase()} ({percent(a.share)})
            </Button>
          ))}
        </span>
      ) : null}
      {busy ? (
        <span role="status" className="text-sm text-pencil">
          Working …
        </span>
      ) : null}
      {looked.procedure === null ? (
        <p className="w-full max-w-prose text-sm">
          The columns don&apos;t say what was measured. Choose it, and assign the columns below.
        </p>
      ) : null}
    </>
  );
}

/** Why there is no result yet, and what to do about it. */
function Trouble({
  result,
  onOdd,
  onDialect,
}: {
  readonly result: Look;
  onOdd(odd: Odd): void;
  onDialect(d: Partial<Dialect>): void;
}) {
  if (result.kind === "read") return null;
  if (result.kind !== "odd")
    return (
      <p role="alert" className="mt-3 max-w-prose border-l-4 border-misses pl-3">
        {result.text} {result.kind === "lacking" ? "Assign it below." : ""}
      </p>
    );
  const { explanation } = result;
  const asExplained = () =>
    explanation?.lastLine ? onOdd("whole") : explanation?.dialect ? onDialect(explanation.dialect) : undefined;
  return (
    <div role="alert" className="mt-3 border-l-4 border-misses pl-3">
      <p className="font-medium">
        {result.bad} {result.bad === 1 ? "row" : "rows"} can&apos;t be read.
      </p>
      <ul className="my-1 max-h-48 overflow-auto text-sm">
        {result.problems.map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      {explanation ? (
        <p className="mb-2">
          One cause would explain {result.bad === 1 ? "it" : "all"}: {explanation.text}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-3">
        {explanation ? (
          <Button look="main" onClick={asExplained}>
            Read it that way
          </Button>
        ) : null}
        <Button onClick={() => onOdd("skip")}>
          Skip {result.bad === 1 ? "that row" : "those rows"} and read {result.good}
        </Button>
      </div>
    </div>
  );
}
