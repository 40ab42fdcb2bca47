"use client";

import { useState } from "react";
import { Controller, useForm, useWatch, type Control } from "react-hook-form";
import { BOARD_FUNCTIONS, FUNCTION_CHOICES, type BoardFunction } from "@/core/characteristics";
import type {
  BoardId,
  BoardRecord,
  NotebookRecord,
  RunId,
  RunRecord,
  SampleId,
  SampleRecord,
} from "@/core/files/records";
import { decodeText } from "@/core/files";
import { accuraciesFor, type Role, type RunSetup } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import { useLeaveGuard } from "@/browser/leave";
import { attempt, notify } from "@/browser/notify";
import { freeName, namingIn, rigOf, rulesOf, titlesOf, withMeters } from "@/notebook";
import { boards, change, newId, now, ofBoard, useLive } from "@/storage";
import type { Look, LookedAt } from "@/workers/protocol";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormCheckList, FormText } from "@/ui/form-fields";
import { Select } from "@/ui/select";
import { claimedAnswers } from "./claimed-answers";
import type { Said } from "./opened-conditions";
import { readable } from "./readable";
import { firstMoment } from "./start-field";
import { storeRun, type Odd } from "./store-run";

export interface SaveLogProps {
  readonly file: File;
  readonly looked: LookedAt;
  readonly procedure: Procedure;
  readonly read: Extract<Look, { kind: "read" }>;
  readonly said: Said;
  readonly odd: Odd;
  readonly notebook: NotebookRecord | null;
  makeNotebook(): Promise<NotebookRecord>;
  onSaved(notebookId: string, runId: string): void;
  onClose(): void;
}

const NEW = "new";

interface Fields {
  /** A board's id, `new`, or nothing: the first there is. */
  chosen: string;
  name: string;
  functions: BoardFunction[];
}

/** A new board with its first sample. */
async function addBoard(
  notebook: NotebookRecord,
  name: string,
  functions: readonly BoardFunction[],
): Promise<{ board: BoardRecord; sample: SampleRecord }> {
  const at = now();
  const base = { notebookId: notebook.id, createdAt: at, updatedAt: at };
  const board: BoardRecord = {
    kind: "board",
    id: newId() as BoardId,
    ...base,
    title: name,
    note: "",
    functions: BOARD_FUNCTIONS.filter((f) => functions.includes(f)),
  };
  const sample: SampleRecord = {
    kind: "sample",
    id: newId() as SampleId,
    ...base,
    boardId: board.id,
    name: "A",
    configuration: "",
    modifications: [],
    note: "",
  };
  return namingIn(notebook.id, async () => {
    const named = { ...board, title: freeName(name, await titlesOf(notebook.id, "board")) };
    await change(`add ${named.title}`, [named, sample]);
    return { board: named, sample };
  });
}

/** Stores what was looked at as a run of a board. */
async function storeLooked(
  runId: RunId,
  {
    file,
    looked,
    procedure: p,
    read,
    said,
    odd,
  }: Pick<SaveLogProps, "file" | "looked" | "procedure" | "read" | "said" | "odd">,
  {
    book,
    target,
    again,
  }: { readonly book: NotebookRecord; readonly target: Awaited<ReturnType<typeof addBoard>>; readonly again: boolean },
  signal: AbortSignal,
) {
  const began = firstMoment({ file, table: looked.table }, looked.columns);
  const setup = await setupFor(book, target.board, p, said, read, Object.keys(looked.columns) as Role[]);
  const bytes = p.readings === "trace" ? await readable(file) : file;
  return storeRun(
    runId,
    {
      ...target,
      procedure: p,
      odd,
      again,
      setup,
      rows: looked.rows,
      text: p.readings === "points" ? decodeText(new Uint8Array(await file.arrayBuffer()), true).text : "",
      files: [
        {
          name: file.name,
          file: bytes,
          table: looked.table,
          mapping: looked.columns,
          encoding: looked.encoding,
          join: "first",
          starts: 0,
        },
      ],
      start: began.moment,
      startAssumed: began.assumed,
    },
    signal,
    () => undefined,
  );
}

/** Saves a log that was only looked at as a run of a board, an existing one or one that is added with it. */
export function SaveLog({
  file,
  looked,
  procedure: p,
  read,
  said,
  odd,
  notebook,
  makeNotebook,
  onSaved,
  onClose,
}: SaveLogProps) {
  const list = useLive(`save-log-${notebook?.id ?? ""}`, async () => (notebook ? boards(notebook.id) : []));
  const { control, handleSubmit } = useForm<Fields>({
    defaultValues: { chosen: "", name: "", functions: p.calledForBy.slice(0, 1) },
  });
  const chosen = useWatch({ control, name: "chosen" });
  const [busy, setBusy] = useState<AbortController | null>(null);
  const [twin, setTwin] = useState<RunRecord | null>(null);
  useLeaveGuard(busy !== null);
  if (list.state !== "ready") return null;
  const first = list.value[0]?.id ?? NEW;
  const where = chosen || first;
  const save = (again: boolean) =>
    handleSubmit(({ name, functions }) => {
      const stop = new AbortController();
      setBusy(stop);
      void attempt(async () => {
        const book = notebook ?? (await makeNotebook());
        const there = list.value.find((b) => b.id === where);
        const target = there
          ? { board: there, sample: await firstSample(there) }
          : await addBoard(book, name.trim(), functions);
        const runId = newId() as RunId;
        const stored = await storeLooked(
          runId,
          { file, looked, procedure: p, read, said, odd },
          { book, target, again },
          stop.signal,
        );
        if (stored.kind === "twin") return setTwin(stored.run);
        if (stored.kind === "odd") throw new Error(stored.problems[0] ?? "The file has changed since it was opened.");
        void notify(`${file.name} saved to ${target.board.title}.`);
        onSaved(book.id, runId);
      }).finally(() => setBusy(null));
    })();
  return (
    <Dialog
      title="Save to a board"
      about={`${p.title} from ${file.name}. The file is kept unchanged.`}
      onClose={onClose}
    >
      <Form onSubmit={() => save(false)}>
        {list.value.length ? (
          <div className="mb-3">
            <Controller
              control={control}
              name="chosen"
              render={({ field }) => (
                <Select
                  label="Board"
                  value={field.value || first}
                  onValue={field.onChange}
                  choices={[
                    ...list.value.map((b) => ({ value: b.id as string, label: b.title })),
                    { value: NEW, label: "a new board" },
                  ]}
                />
              )}
            />
          </div>
        ) : null}
        {where === NEW ? <NewBoardFields control={control} /> : null}
        {twin ? (
          <div role="alert" className="mb-3 border-l-4 border-close pl-3">
            <p>This file was imported before, as “{twin.title}”. A second copy would count twice.</p>
            <Button onClick={() => void save(true)}>Save a second copy</Button>
          </div>
        ) : null}
        <div className="flex flex-wrap items-center gap-3">
          <Button look="main" type="submit" disabled={busy !== null}>
            Save run
          </Button>
          {busy ? <Button onClick={() => busy.abort()}>Cancel</Button> : <Button onClick={onClose}>Cancel</Button>}
          {busy ? (
            <span role="status" className="text-sm text-pencil">
              Saving …
            </span>
          ) : null}
        </div>
      </Form>
    </Dialog>
  );
}

const NewBoardFields = ({ control }: { readonly control: Control<Fields> }) => (
  <>
    <FormText
      control={control}
      name="name"
      label="Name of the board"
      missing="Enter a name."
      wide
      autoFocus
      maxLength={80}
    />
    <FormCheckList control={control} name="functions" className="mb-4" label="Functions" choices={FUNCTION_CHOICES} />
  </>
);

/** The first sample of a board; one is added where it has none. */
async function firstSample(board: BoardRecord): Promise<SampleRecord> {
  const [there] = await ofBoard(board.id, "sample");
  if (there) return there;
  const at = now();
  const sample: SampleRecord = {
    kind: "sample",
    id: newId() as SampleId,
    notebookId: board.notebookId,
    createdAt: at,
    updatedAt: at,
    boardId: board.id,
    name: "A",
    configuration: "",
    modifications: [],
    note: "",
  };
  await change("add sample A", [sample]);
  return sample;
}

/** The run's set-up: as it was looked at, but for what the board's claims and the notebook's rig and rules know better than an assumption. */
async function setupFor(
  notebook: NotebookRecord,
  board: BoardRecord,
  p: Procedure,
  said: Said,
  read: SaveLogProps["read"],
  roles: readonly Role[],
): Promise<RunSetup> {
  const [rig, rules, claims] = [await rigOf(notebook.id), await rulesOf(notebook.id), await ofBoard(board.id, "claim")];
  const claimed = Object.fromEntries(Object.entries(claimedAnswers(p, claims)).filter(([, v]) => v !== null));
  const setup: RunSetup = {
    ...read.setup,
    instruments: { ...read.setup.instruments, ...accuraciesFor(roles, rig?.instruments ?? {}), ...said.instruments },
    conditions: { ...read.setup.conditions, ...claimed, ...said.conditions, regulationBand: rules.regulationBand },
  };
  return rig ? withMeters(setup, rig) : setup;
}
