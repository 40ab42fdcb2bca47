"use client";

import { PrefetchKind } from "next/dist/client/components/router-reducer/router-reducer-types";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import type { ColumnMapping, Dialect, Explanation, TextTable } from "@/core/files";
import { decodeText, ENCODING_NAMES, headerKey } from "@/core/files";
import type { Accuracy, PinnedMeter } from "@/core/instruments";
import { accuraciesFor, metersPinned, readWith, type Role, type RunSetup } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import type { RigRecord, RunId, RunRecord } from "@/core/files/records";
import { attempt, notify } from "@/browser/notify";
import { useNewWatched } from "@/browser/watched";
import { withMeters, type BoardDossier } from "@/notebook";
import { edit, meta, newId } from "@/storage";
import { computing, readingLogs } from "@/workers/client";
import { firstWords, statedConditions, type AskedForm } from "./asked-fields";
import { claimedAnswers } from "./claimed-answers";
import { firstMoment, type Began } from "./start-field";
import { moreFile, type MoreFile } from "./more-files";
import { readable } from "./readable";
import { storeRun, sumAhead, type Odd } from "./store-run";

/** Bigger files than this are logs, not tables of points. */
const LARGEST = 20e6;
const LARGEST_LOG = 1e9;

/** The text of a file with its byte-order mark, so that it can go out as it came. What isn't UTF-8 is said. */
async function wholeText(file: File): Promise<string> {
  const { text, encoding } = decodeText(new Uint8Array(await file.arrayBuffer()), true);
  if (encoding !== "utf-8")
    await notify(`${file.name} is not written in UTF-8; it was read as ${ENCODING_NAMES[encoding]}.`);
  return text;
}

/** A file as its beginning shows it. */
export interface Opened {
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

interface Cut {
  readonly opened: Opened;
  readonly mapping: ColumnMapping;
}

/** The beginning of a log as it is cut into columns. What importing it will take is begun meanwhile. */
async function cutLog(file: File, dialect: Partial<Dialect>, p: Procedure, signal: AbortSignal): Promise<Cut> {
  const r = await readingLogs().ask("log-head", { file, dialect, procedure: p.id }, signal);
  sumAhead(file);
  if ("error" in r) throw new Error(`${file.name}: ${r.error} Nothing was imported.`);
  if (r.encoding !== "utf-8" && Object.keys(dialect).length === 0)
    await notify(`${file.name} is not written in UTF-8; it was read as Windows-1252.`);
  return {
    opened: { name: file.name, file, text: "", table: r.table, rows: r.rows, whole: r.whole, encoding: r.encoding },
    mapping: r.mapping,
  };
}

/** A table of points, whole. */
async function cutPoints(file: File, text: string, dialect: Partial<Dialect>, signal: AbortSignal): Promise<Cut> {
  const r = await computing().ask("table", { text, dialect }, signal);
  if ("error" in r) throw new Error(`${file.name}: ${r.error} Nothing was imported.`);
  return {
    opened: { name: file.name, file, text, table: r.table, rows: r.table.rows.length, whole: true, encoding: "utf-8" },
    mapping: r.mapping,
  };
}

/** Rows that can't be read, before anything is kept. */
export interface OddRows {
  readonly problems: readonly string[];
  readonly bad: number;
  readonly points: number;
  readonly explanation: Explanation | null;
}

export interface ImportOf {
  readonly dossier: BoardDossier;
  readonly rig: RigRecord | undefined;
  readonly p: Procedure;
}

/** What is under way, and the share of it that is done; null where there is nothing, or nothing that is counted. */
interface UnderWay {
  readonly busy: AbortController | null;
  readonly share: number | null;
}
const IDLE: UnderWay = { busy: null, share: null };

/** One thing at a time that takes a while, with how far it is and a way to stop it. Only what shows it is drawn anew meanwhile. */
function useWork() {
  const underWay = useNewWatched(IDLE);
  const work = async (run: (signal: AbortSignal, far: (share: number) => void) => Promise<void>) => {
    const busy = new AbortController();
    underWay.set({ busy, share: null });
    await attempt(() => run(busy.signal, (share) => underWay.set({ busy, share })));
    underWay.set(IDLE);
  };
  return { underWay, work };
}

/** The file that was chosen, cut into columns, and those that continue it. */
function useFile(p: Procedure, work: ReturnType<typeof useWork>["work"]) {
  const isLog = p.readings === "trace";
  const [opened, setOpened] = useState<Opened | null>(null);
  const [mapping, setMapping] = useState<ColumnMapping>({});
  const [began, setBegan] = useState<Began>({ moment: "", assumed: false, read: false });
  const [more, setMore] = useState<readonly MoreFile[]>([]);
  const [odd, setOdd] = useState<OddRows | null>(null);
  const show = async ({ opened: o, mapping: guessed }: Cut) => {
    const remembered = await meta<ColumnMapping>(`mapping:${headerKey(o.table.headers)}`);
    setOpened(o);
    setBegan(firstMoment(o, remembered ?? guessed));
    setMapping(remembered ?? guessed);
    setOdd(null);
  };
  const cut = async (file: File, text: string, dialect: Partial<Dialect>, signal: AbortSignal) =>
    show(isLog ? await cutLog(file, dialect, p, signal) : await cutPoints(file, text, dialect, signal));
  return {
    isLog,
    opened,
    mapping,
    began,
    setBegan,
    more,
    setMore,
    odd,
    setOdd,
    open: (chosen: File) =>
      work(async (signal) => {
        const file = isLog ? await readable(chosen) : chosen;
        const most = isLog ? LARGEST_LOG : LARGEST;
        if (file.size > most)
          throw new Error(
            `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; ${isLog ? "a log" : "a table of points"} has less than ${most / 1e6} MB.`,
          );
        setMore([]);
        await cut(file, isLog ? "" : await wholeText(file), {}, signal);
      }),
    addFile: (file: File) =>
      work(async (signal) => {
        if (!opened) return;
        const r = await cutLog(await readable(file), {}, p, signal);
        setMore([...more, moreFile(r.opened, r.mapping, opened, mapping)]);
      }),
    /** Cuts the file anew. */
    cutAs: (dialect: Partial<Dialect>) =>
      opened
        ? work((signal) => cut(opened.file, opened.text, { ...opened.table.dialect, ...dialect }, signal))
        : undefined,
    assign: (m: ColumnMapping) => {
      setMapping(m);
      setOdd(null);
      if (opened && (began.assumed || began.read)) setBegan(firstMoment(opened, m));
    },
    close: () => {
      setOpened(null);
      setOdd(null);
    },
  };
}

/** What was measured under which conditions with which meters, as the page asks it. */
function useAnswers({ dossier, rig, p }: ImportOf) {
  const { samples } = dossier;
  const measured = p.record.roles.map((r) => r.role).filter((r) => r !== "time");
  const { control } = useForm<AskedForm>({
    defaultValues: {
      sampleId: samples[0]?.id ?? "",
      conditions: { ...firstWords(p), ...claimedAnswers(p, dossier.claims) },
    },
  });
  const { sampleId, conditions } = useWatch({ control }) as AskedForm;
  const stated = statedConditions(conditions);
  const [meters, setMeters] = useState(() => accuraciesFor(measured, rig?.instruments ?? {}));
  /** What was changed here: a role, and the meter where a range was chosen for it. */
  const [touched, setTouched] = useState<ReadonlyMap<Role, PinnedMeter | undefined>>(new Map());
  const sample = samples.find((s) => s.id === sampleId);
  return {
    control,
    sample,
    meters,
    touched,
    measured,
    pinned: { ...(rig ? metersPinned(meters, rig) : {}), ...Object.fromEntries(touched) } as Readonly<
      Partial<Record<Role, PinnedMeter>>
    >,
    state: (role: Role, a: Accuracy, meter?: PinnedMeter) => {
      setMeters((m) => ({ ...m, [role]: a }));
      setTouched((t) => new Map([...t, [role, meter]]));
    },
    open: p.asks.some((q) => q.required && stated[q.condition] === undefined),
    setup: (roles: readonly Role[]): RunSetup => ({
      conditions: {
        ...stated,
        regulationBand: dossier.rules.regulationBand,
        ...(sample?.output ? { output: sample.output } : {}),
        ...(sample?.configuration ? { configuration: sample.configuration } : {}),
      },
      instruments: accuraciesFor(roles, meters),
    }),
  };
}

/** File → columns → conditions → kept, or nothing at all. */
export function useImport(of: ImportOf) {
  const {
    dossier: { board },
    rig,
    p,
  } = of;
  const router = useRouter();
  const { underWay, work } = useWork();
  const file = useFile(p, work);
  const answers = useAnswers(of);
  /** A run that came from the same bytes, and how odd rows were to be taken; it is asked about. */
  const [twin, setTwin] = useState<{ readonly run: RunRecord; readonly odd: Odd } | null>(null);
  const { opened, mapping, more, began, isLog } = file;
  const has = (r: Role): boolean => mapping[r] !== undefined || more.some((m) => m.mapping[r]);
  const roles = answers.measured.filter(has);

  const keep = (odd: Odd, again = false) =>
    work(async (signal, far) => {
      const { sample, touched, meters } = answers;
      if (!sample) throw new Error("Add a sample to the board first: a run measures one sample.");
      if (!opened) return;
      const runId = newId() as RunId;
      // The result's page is fetched whole while the file is read: going there then asks the server for nothing.
      router.prefetch(`/run/${runId}/review`, { kind: PrefetchKind.FULL });
      const after = rig
        ? [...touched].reduce((r, [role, meter]) => readWith(r, role, meters[role] as Accuracy, meter), rig)
        : null;
      const setup = answers.setup(roles);
      const stored = await storeRun(
        runId,
        {
          board,
          sample,
          procedure: p,
          text: opened.text,
          rows: opened.rows,
          odd,
          again,
          files: [
            { ...opened, mapping, join: "first", starts: 0 },
            ...more.map((m) => ({ ...m, starts: m.starts ?? 0 })),
          ],
          setup: after ? withMeters(setup, after) : setup,
          start: began.moment,
          startAssumed: began.assumed,
          ...(rig && after && touched.size ? { beside: [edit(rig, after)] } : {}),
        },
        signal,
        far,
      );
      if (stored.kind === "odd") return file.setOdd(stored);
      if (stored.kind === "twin") return setTwin({ run: stored.run, odd });
      const { rows, bad, remarks } = stored;
      void notify(
        `${rows} ${isLog ? "rows" : "points"} imported${bad ? `, ${bad} rows skipped` : ""}.${remarks.length ? ` ${remarks.join(" ")}` : ""}`,
      );
      router.push(`/run/${runId}/review`);
    });

  return {
    underWay,
    file,
    answers,
    roles,
    twin,
    keep,
    /** Roles without which there is no result. */
    lacking: p.record.roles
      .filter((r) => r.required && !mapping[r.role] && !more.some((m) => m.join === "beside" && m.mapping[r.role]))
      .map((r) => r.role),
    importAgain: () => {
      if (!twin) return;
      setTwin(null);
      void keep(twin.odd, true);
    },
    /** Reads the file as the one explanation of its odd rows has it. */
    readSo: (e: Explanation) => (e.lastLine ? void keep("whole") : e.dialect ? void file.cutAs(e.dialect) : undefined),
  };
}
export type Importing = ReturnType<typeof useImport>;
