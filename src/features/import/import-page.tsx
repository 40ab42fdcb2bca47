"use client";

import { compute } from "@/workers/compute";
import { Progress } from "radix-ui";
import { useEffect } from "react";
import { procedure, type Procedure } from "@/core/procedures";
import type { RigRecord } from "@/core/files/records";
import { boardDossier, rigOf, type BoardDossier } from "@/notebook";
import { ofKind, useLive, localDay } from "@/storage";
import { useLeaveGuard } from "@/browser/leave";
import { useWatched } from "@/browser/watched";
import { Button } from "@/ui/button";
import { AccuracyTable, rangeChoices, type RangeChoice } from "@/ui/accuracy-table";
import { FileButton } from "@/ui/file-button";
import { FormSelect } from "@/ui/form-fields";
import { Link } from "@/ui/link";
import { Quiet, Section } from "@/ui/section";
import { AskedFields } from "./asked-fields";
import { ColumnPicker } from "./column-picker";
import { StartField } from "./start-field";
import { MoreFiles } from "./more-files";
import { useImport, type Importing } from "./use-import";

export function ImportPage({ boardId, procedureId }: { boardId: string; procedureId: string }) {
  const live = useLive(
    `import-${boardId}`,
    async () => {
      const dossier = await boardDossier(compute, boardId);
      return dossier
        ? {
            dossier,
            rig: await rigOf(dossier.board.notebookId),
            choices: rangeChoices(await ofKind(dossier.board.notebookId, "instrument")),
          }
        : null;
    },
    () => false,
  );
  useEffect(() => {
    document.title = "Import file · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The board can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such board in this browser.</Quiet>;
  const p = procedure(procedureId);
  if (!procedureId) return <Quiet>Choose a step of the board, and import a file from there.</Quiet>;
  if (!p || p.readings === "answers")
    return <Quiet>This version has no procedure “{procedureId}” that reads files.</Quiet>;
  return <Import dossier={live.value.dossier} rig={live.value.rig} choices={live.value.choices} p={p} />;
}

interface ImportProps {
  readonly dossier: BoardDossier;
  readonly rig: RigRecord | undefined;
  readonly choices: readonly RangeChoice[];
  readonly p: Procedure;
}

function Import({ dossier, rig, choices, p }: ImportProps) {
  const { board } = dossier;
  const i = useImport({ dossier, rig, p });
  const { isLog, opened, mapping } = i.file;
  const roles = p.record.roles.map((r) => r.role);
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="import"
        title={`${p.title} of ${board.title} from ${isLog ? "a log" : "a CSV"}`}
        aside={
          <Link href={`/board/${board.id}`} className="underline underline-offset-4">
            Back to board
          </Link>
        }
      >
        <p className="mb-3 max-w-prose text-pencil">
          {isLog ? "One row per reading" : "One row per point"}; any delimiter, decimal point or comma, units in the
          heads or chosen below. The file is kept unchanged.
        </p>
        <ChooseFile i={i} />
      </Section>
      {opened ? (
        <>
          <Section mark="columns" title="Columns">
            <ColumnPicker
              table={opened.table}
              mapping={mapping}
              roles={roles}
              onMapping={i.file.assign}
              onDialect={(dialect) => void i.file.cutAs(dialect)}
              rows={opened.rows}
              whole={opened.whole}
            />
            {isLog ? (
              <MoreFiles
                files={i.file.more}
                roles={roles}
                first={{ opened, mapping }}
                onFiles={i.file.setMore}
                onAdd={(f) => void i.file.addFile(f)}
              />
            ) : null}
          </Section>
          <Section mark="conditions" title="Conditions">
            <Conditions i={i} p={p} samples={dossier.samples} choices={choices} />
            <TwinAlert i={i} />
            <OddAlert i={i} />
            <Keep i={i} rows={opened.rows} whole={opened.whole} />
          </Section>
        </>
      ) : null}
    </div>
  );
}

/** A place to drop a file, or to choose one; how far reading it has come. */
function ChooseFile({ i: { file, underWay } }: { readonly i: Importing }) {
  return (
    <div
      className="flex flex-wrap items-center gap-4 border border-dashed border-pencil p-4"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const f = e.dataTransfer.files[0];
        if (f) void file.open(f);
      }}
    >
      <FileButton look={file.opened ? "plain" : "main"} label="CSV to import" onFile={(f) => void file.open(f)}>
        Choose a file
      </FileButton>
      <span className="text-pencil">{file.opened ? file.opened.name : "or drop one here"}</span>
      <HowFar underWay={underWay} />
    </div>
  );
}

/** How far what is under way has come, and a way to stop it. */
function HowFar({ underWay }: Pick<Importing, "underWay">) {
  const { busy, share } = useWatched(underWay);
  useLeaveGuard(busy !== null);
  if (!busy) return null;
  return (
    <span role="status" className="inline-flex items-center gap-3">
      {share === null ? (
        "Working …"
      ) : (
        <Progress.Root
          value={100 * share}
          aria-label="Read so far"
          className="h-2 w-40 border border-pencil/60 bg-field"
        >
          <Progress.Indicator asChild>
            <svg className="block h-full w-full" viewBox="0 0 100 1" preserveAspectRatio="none">
              <rect width={100 * share} height="1" fill="var(--copper)" />
            </svg>
          </Progress.Indicator>
        </Progress.Root>
      )}
      {share === null ? null : <span className="figures">{Math.round(share * 100)} %</span>}{" "}
      <Button onClick={() => busy.abort()}>Cancel</Button>
    </span>
  );
}

function Conditions({
  i: { file, answers, roles },
  p,
  samples,
  choices,
}: {
  readonly i: Importing;
  readonly p: Procedure;
  readonly samples: BoardDossier["samples"];
  readonly choices: readonly RangeChoice[];
}) {
  return (
    <>
      <div className="flex flex-wrap gap-x-5">
        <FormSelect
          control={answers.control}
          name="sampleId"
          label="Sample"
          place="above"
          choices={samples.map((s) => ({ value: s.id, label: s.name }))}
        />
        <StartField began={file.began} onBegan={file.setBegan} />
        <AskedFields procedure={p} control={answers.control} />
      </div>
      <details className="mb-3">
        <summary className="font-medium">
          Accuracy of the meters{" "}
          <span className="text-pencil">(from your rig; every uncertainty comes from these)</span>
        </summary>
        <div className="mt-2 overflow-x-auto">
          <AccuracyTable
            roles={roles}
            instruments={answers.meters}
            meters={answers.pinned}
            choices={choices}
            onAccuracy={answers.state}
          />
        </div>
      </details>
    </>
  );
}

/** The same bytes are there as a run already. */
function TwinAlert({ i: { twin, importAgain } }: { readonly i: Importing }) {
  if (!twin) return null;
  return (
    <div role="alert" className="mb-3 max-w-prose border-l-4 border-close pl-3">
      <p>
        This file was imported on {localDay(twin.run.createdAt)} as{" "}
        <Link href={`/run/${twin.run.id}/review`} className="underline underline-offset-4">
          {twin.run.title}
        </Link>
        . A second copy would count twice.
      </p>
      <Button onClick={importAgain}>Import again</Button>
    </div>
  );
}

/** Rows that can't be read: which, what would explain them, and what can be done. */
function OddAlert({ i: { file, keep, readSo } }: { readonly i: Importing }) {
  const { odd } = file;
  if (!odd) return null;
  const { explanation } = odd;
  return (
    <div role="alert" className="mb-3 border-l-4 border-misses pl-3">
      <p className="font-medium">
        {odd.bad} {odd.bad === 1 ? "row" : "rows"} can&apos;t be read. Nothing has been imported yet.
      </p>
      <ul className="my-1 max-h-48 overflow-auto text-sm">
        {odd.problems.slice(0, 50).map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      {explanation ? (
        <p className="mb-2">
          One cause would explain {odd.bad === 1 ? "it" : "all"}: {explanation.text}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-3">
        {explanation ? (
          <Button look="main" onClick={() => readSo(explanation)}>
            Read it that way
          </Button>
        ) : null}
        <Button onClick={() => void keep("skip")}>Skip those rows and import {odd.points}</Button>
        <Button onClick={file.close}>Cancel import</Button>
      </div>
    </div>
  );
}

function Keep({
  i: { underWay, file, answers, lacking, keep },
  rows,
  whole,
}: {
  readonly i: Importing;
  readonly rows: number;
  readonly whole: boolean;
}) {
  const { busy } = useWatched(underWay);
  const unready = busy !== null || file.more.some((m) => m.starts === null) || lacking.length > 0 || answers.open;
  return (
    <div className="flex flex-wrap items-center gap-4">
      <Button look="main" disabled={unready} onClick={() => void keep("ask")}>
        Import {whole ? "" : "about "}
        {rows} rows
      </Button>
      {lacking.length ? (
        <span className="text-sm text-pencil">
          Not assigned yet: {lacking.map((r) => r.replace(/([A-Z])/g, " $1").toLowerCase()).join(", ")}.
        </span>
      ) : null}
    </div>
  );
}
