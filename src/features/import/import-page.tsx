"use client";

import { Link } from "@/ui/link";
import { PrefetchKind } from "next/dist/client/components/router-reducer/router-reducer-types";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { ColumnMapping, Dialect, Explanation, TextTable } from "@/core/files";
import { decodeText, ENCODING_NAMES, headerKey } from "@/core/files";
import type { Accuracy, PinnedMeter } from "@/core/instruments";
import { accuraciesFor, metersPinned, procedure, readWith, type Role, type FileChoice, type Procedure, type RunSetup } from "@/core/procedures";
import type { RigRecord, RunId, RunRecord } from "@/core/files/records";
import { useLeaveGuard } from "@/session/leave";
import { attempt, notify } from "@/session/notify";
import { boardDossier, edit, meta, newId, ofKind, rigOf, useLive, withMeters, type BoardDossier } from "@/storage";
import { computing, readingLogs } from "@/workers/client";
import { Button } from "@/ui/button";
import { AccuracyTable, rangeChoices, type RangeChoice } from "@/ui/accuracy-table";
import { FileButton } from "@/ui/file-button";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { AskedFields } from "./asked-fields";
import { claimedAnswers, type Answers } from "./claimed-answers";
import { ColumnPicker } from "./column-picker";
import { firstMoment, StartField, type Began } from "./start-field";
import { MoreFiles, moreFile, type MoreFile } from "./more-files";
import { readable } from "./readable";
import { storeRun, type Odd } from "./store-run";

/** Bigger files than this are logs, not tables of points. */
const LARGEST = 20e6;
const LARGEST_LOG = 1e9;

export function ImportPage({ boardId, procedureId }: { boardId: string; procedureId: string }) {
  const live = useLive(
    `import-${boardId}`,
    async () => {
      const dossier = await boardDossier(boardId);
      return dossier ? { dossier, rig: await rigOf(dossier.board.notebookId), choices: rangeChoices(await ofKind(dossier.board.notebookId, "instrument")) } : null;
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
  if (!p || p.readings === "answers") return <Quiet>This version has no procedure “{procedureId}” that reads files.</Quiet>;
  return <Import dossier={live.value.dossier} rig={live.value.rig} choices={live.value.choices} p={p} />;
}

/** The text of a file with its byte-order mark, so that it can go out as it came. What isn't UTF-8 is said. */
async function wholeText(file: File): Promise<string> {
  const { text, encoding } = decodeText(new Uint8Array(await file.arrayBuffer()), true);
  if (encoding !== "utf-8") await notify(`${file.name} is not written in UTF-8; it was read as ${ENCODING_NAMES[encoding]}.`);
  return text;
}

/** A file as its beginning shows it. */
interface Opened {
  readonly name: string;
  readonly file: File;
  /** Whole, for a table of points; a log stays in its file. */
  readonly text: string;
  readonly table: TextTable;
  /** About how many rows it has. */
  readonly rows: number;
  readonly whole: boolean;
  readonly encoding: "utf-8" | "windows-1252";
}

type Words = Readonly<Partial<Record<FileChoice["condition"], string>>>;

type Tried = { readonly problems: readonly string[]; readonly bad: number; readonly points: number; readonly explanation: Explanation | null } | null;

/** File → columns → conditions → kept, or nothing at all. */
function Import({ dossier, rig, choices, p }: { dossier: BoardDossier; rig: RigRecord | undefined; choices: readonly RangeChoice[]; p: Procedure }) {
  const { board, samples } = dossier;
  const router = useRouter();
  const [opened, setOpened] = useState<Opened | null>(null);
  const [mapping, setMapping] = useState<ColumnMapping>({});
  const [tried, setTried] = useState<Tried>(null);
  const [sampleId, setSampleId] = useState(samples[0]?.id ?? "");
  const measured = p.record.roles.map((r) => r.role).filter((r) => r !== "time");
  const [meters, setMeters] = useState(() => accuraciesFor(measured, rig?.instruments ?? {}));
  /** What was changed here: a role, and the meter where a range was chosen for it. */
  const [touched, setTouched] = useState<ReadonlyMap<Role, PinnedMeter | undefined>>(new Map());
  const [conditions, setConditions] = useState<Answers>(() => claimedAnswers(p, dossier.claims));
  const [words, setWords] = useState<Words>(() => Object.fromEntries((p.chooses ?? []).map((q) => [q.condition, q.of[0].value])));
  const [busy, setBusy] = useState<AbortController | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [began, setBegan] = useState<Began>({ moment: "", assumed: false, read: false });
  const [more, setMore] = useState<readonly MoreFile[]>([]);
  /** A run that came from the same bytes, and how odd rows were to be taken; it is asked about. */
  const [twin, setTwin] = useState<{ readonly run: RunRecord; readonly odd: Odd } | null>(null);
  const isLog = p.readings === "trace";
  useLeaveGuard(busy !== null);

  const work = async (run: (signal: AbortSignal) => Promise<void>) => {
    const controller = new AbortController();
    setBusy(controller);
    await attempt(() => run(controller.signal));
    setBusy(null);
    setShare(null);
  };
  const show = async (o: Opened, guessed: ColumnMapping) => {
    const remembered = await meta<ColumnMapping>(`mapping:${headerKey(o.table.headers)}`);
    setOpened(o);
    setBegan(firstMoment(o, remembered ?? guessed));
    setMapping(remembered ?? guessed);
    setTried(null);
  };
  const cutLog = async (file: File, dialect: Partial<Dialect>, signal: AbortSignal) => {
    const r = await readingLogs().ask("log-head", { file, dialect }, signal);
    if ("error" in r) throw new Error(`${file.name}: ${r.error} Nothing was imported.`);
    if (r.encoding !== "utf-8" && Object.keys(dialect).length === 0) await notify(`${file.name} is not written in UTF-8; it was read as Windows-1252.`);
    return { opened: { name: file.name, file, text: "", table: r.table, rows: r.rows, whole: r.whole, encoding: r.encoding }, mapping: r.mapping };
  };
  const cut = async (file: File, text: string, dialect: Partial<Dialect>, signal: AbortSignal) => {
    if (isLog) {
      const r = await cutLog(file, dialect, signal);
      await show(r.opened, r.mapping);
      return;
    }
    const r = await computing().ask("table", { text, dialect }, signal);
    if ("error" in r) throw new Error(`${file.name}: ${r.error} Nothing was imported.`);
    await show({ name: file.name, file, text, table: r.table, rows: r.table.rows.length, whole: true, encoding: "utf-8" }, r.mapping);
  };
  const open = (chosen: File) =>
    work(async (signal) => {
      const file = isLog ? await readable(chosen) : chosen;
      const most = isLog ? LARGEST_LOG : LARGEST;
      if (file.size > most) throw new Error(`${file.name} has ${(file.size / 1e6).toFixed(0)} MB; ${isLog ? "a log" : "a table of points"} has less than ${most / 1e6} MB.`);
      setMore([]);
      await cut(file, isLog ? "" : await wholeText(file), {}, signal);
    });
  const addFile = (file: File) =>
    work(async (signal) => {
      if (!opened) return;
      const r = await cutLog(await readable(file), {}, signal);
      setMore([...more, moreFile(r.opened, r.mapping, opened, mapping)]);
    });

  const sampleNow = () => samples.find((s) => s.id === sampleId);
  const setupOf = (): RunSetup => {
    const sample = sampleNow();
    return {
      conditions: {
        ...Object.fromEntries(Object.entries(conditions).filter(([, v]) => v !== null)),
        ...words,
        regulationBand: dossier.rules.regulationBand,
        ...(sample?.output ? { output: sample.output } : {}),
        ...(sample?.configuration ? { configuration: sample.configuration } : {}),
      },
      instruments: accuraciesFor(measured.filter((r) => mapping[r] || more.some((m) => m.mapping[r])), meters),
    };
  };

  const keep = (odd: Odd, again = false) =>
    work(async (signal) => {
      const sample = sampleNow();
      if (!sample) throw new Error("Add a sample to the board first: a run measures one sample.");
      if (!opened) return;
      const runId = newId() as RunId;
      // The result's page is fetched whole while the file is read: going there then asks the server for nothing.
      router.prefetch(`/run/${runId}/review`, { kind: PrefetchKind.FULL });
      const after = rig ? [...touched].reduce((r, [role, meter]) => readWith(r, role, meters[role] as Accuracy, meter), rig) : null;
      const stored = await storeRun(
        runId,
        {
          board, sample, procedure: p, text: opened.text, rows: opened.rows, odd, again,
          files: [{ ...opened, mapping, join: "first", starts: 0 }, ...more.map((m) => ({ ...m, starts: m.starts ?? 0 }))],
          setup: after ? withMeters(setupOf(), after) : setupOf(),
          start: began.moment,
          startAssumed: began.assumed,
          ...(rig && after && touched.size ? { beside: [edit(rig, after)] } : {}),
        },
        signal,
        setShare,
      );
      if (stored.kind === "odd") setTried(stored);
      else if (stored.kind === "twin") setTwin({ run: stored.run, odd });
      else {
        const { rows, bad, remarks } = stored;
        void notify(`${rows} ${isLog ? "rows" : "points"} imported${bad ? `, ${bad} rows skipped` : ""}.${remarks.length ? ` ${remarks.join(" ")}` : ""}`);
        router.push(`/run/${runId}/review`);
      }
    });

  /** Reads the file as the one explanation of its odd rows has it. */
  const readSo = (e: Explanation) => {
    if (e.lastLine) void keep("whole");
    else if (e.dialect && opened) void work((signal) => cut(opened.file, opened.text, { ...opened.table.dialect, ...e.dialect }, signal));
  };

  const twinAt = twin ? new Date(twin.run.createdAt).toISOString().slice(0, 10) : "";
  const required = p.record.roles.filter((r) => r.required).map((r) => r.role);
  const lacking = required.filter((r) => !mapping[r] && !more.some((m) => m.join === "beside" && m.mapping[r]));
  return (
    <div className="sheet">
      <Section level={1} mark="import" title={`${p.title} of ${board.title} from ${p.readings === "trace" ? "a log" : "a CSV"}`} aside={<Link href={`/board/${board.id}`} className="underline underline-offset-4">Back to board</Link>}>
        <p className="mb-3 max-w-prose text-pencil">{isLog ? "One row per reading" : "One row per point"}; any delimiter, decimal point or comma, units in the heads or chosen below. The file is kept unchanged.</p>
        <div
          className="flex flex-wrap items-center gap-4 border border-dashed border-pencil p-4"
          onDragOver={(e) => e.preventDefault()}
          onDrop={(e) => {
            e.preventDefault();
            const f = e.dataTransfer.files[0];
            if (f) void open(f);
          }}
        >
          <FileButton look={opened ? "plain" : "main"} label="CSV to import" onFile={(f) => void open(f)}>
            Choose a file
          </FileButton>
          <span className="text-pencil">{opened ? opened.name : "or drop one here"}</span>
          {busy ? (
            <span role="status" className="inline-flex items-center gap-3">
              {share === null ? "Working …" : <progress className="w-40 accent-(--copper)" value={share} aria-label="Read so far" />}
              {share === null ? null : <span className="figures">{Math.round(share * 100)} %</span>} <Button onClick={() => busy.abort()}>Cancel</Button>
            </span>
          ) : null}
        </div>
      </Section>
      {opened ? (
        <>
          <Section mark="columns" title="Columns">
            <ColumnPicker table={opened.table} mapping={mapping} roles={p.record.roles.map((r) => r.role)} onMapping={(m) => { setMapping(m); setTried(null); if (began.assumed || began.read) setBegan(firstMoment(opened, m)); }} onDialect={(dialect) => void work((signal) => cut(opened.file, opened.text, { ...opened.table.dialect, ...dialect }, signal))} rows={opened.rows} whole={opened.whole} />
            {isLog ? <MoreFiles files={more} roles={p.record.roles.map((r) => r.role)} first={{ opened, mapping }} onFiles={setMore} onAdd={(f) => void addFile(f)} /> : null}
          </Section>
          <Section mark="conditions" title="Conditions">
            <div className="flex flex-wrap gap-x-5">
              <Select label="Sample" place="above" value={sampleId} onValue={setSampleId} choices={samples.map((s) => ({ value: s.id, label: s.name }))} />
              <StartField began={began} onBegan={setBegan} />
              <AskedFields
                procedure={p}
                value={(c) => conditions[c] ?? null}
                word={(c) => words[c]}
                onValue={(c, v) => setConditions((all) => ({ ...all, [c]: v }))}
                onWord={(c, v) => setWords((all) => ({ ...all, [c]: v }))}
              />
            </div>
            <details className="mb-3">
              <summary className="font-medium">
                Accuracy of the meters <span className="text-pencil">(from your rig; every uncertainty comes from these)</span>
              </summary>
              <div className="mt-2 overflow-x-auto">
                <AccuracyTable
                  roles={measured.filter((r) => mapping[r] || more.some((m) => m.mapping[r]))}
                  instruments={meters}
                  meters={{ ...(rig ? metersPinned(meters, rig) : {}), ...Object.fromEntries(touched) }}
                  choices={choices}
                  onAccuracy={(role, a, meter) => {
                    setMeters((m) => ({ ...m, [role]: a }));
                    setTouched((t) => new Map([...t, [role, meter]]));
                  }}
                />
              </div>
            </details>
            {twin ? (
              <div role="alert" className="mb-3 max-w-prose border-l-4 border-close pl-3">
                <p>
                  This file was imported on {twinAt} as{" "}
                  <Link href={`/run/${twin.run.id}/review`} className="underline underline-offset-4">
                    {twin.run.title}
                  </Link>
                  . A second copy would count twice.
                </p>
                <Button
                  onClick={() => {
                    setTwin(null);
                    void keep(twin.odd, true);
                  }}
                >
                  Import again
                </Button>
              </div>
            ) : null}
            {tried ? (
              <div role="alert" className="mb-3 border-l-4 border-misses pl-3">
                <p className="font-medium">
                  {tried.bad} {tried.bad === 1 ? "row" : "rows"} can&apos;t be read. Nothing has been imported yet.
                </p>
                <ul className="my-1 max-h-48 overflow-auto text-sm">
                  {tried.problems.slice(0, 50).map((t) => (
                    <li key={t}>{t}</li>
                  ))}
                </ul>
                {tried.explanation ? <p className="mb-2">One cause would explain {tried.bad === 1 ? "it" : "all"}: {tried.explanation.text}</p> : null}
                <div className="flex flex-wrap gap-3">
                  {tried.explanation ? <Button look="main" onClick={() => readSo(tried.explanation as Explanation)}>Measure it that way</Button> : null}
                  <Button onClick={() => void keep("skip")}>Skip those rows and import {tried.points}</Button>
                  <Button onClick={() => { setOpened(null); setTried(null); }}>Cancel import</Button>
                </div>
              </div>
            ) : null}
            <div className="flex flex-wrap items-center gap-4">
              <Button look="main" disabled={busy !== null || more.some((m) => m.starts === null) || lacking.length > 0 || p.asks.some((q) => q.required && (conditions[q.condition] ?? null) === null)} onClick={() => void keep("ask")}>
                Import {opened.whole ? "" : "about "}
                {opened.rows} rows
              </Button>
              {lacking.length ? <span className="text-sm text-pencil">Not assigned yet: {lacking.map((r) => r.replace(/([A-Z])/g, " $1").toLowerCase()).join(", ")}.</span> : null}
            </div>
          </Section>
        </>
      ) : null}
    </div>
  );
}
