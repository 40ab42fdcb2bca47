"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { useForm } from "react-hook-form";
import type { NotebookRecord } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { attempt, notify, notifyUndoable } from "@/browser/notify";
import {
  change,
  compactAll,
  edit,
  horizon,
  notebooks,
  notebookSize,
  removeNotebook,
  setHorizon,
  totalSize,
  undoAct,
  useLive,
  type NotebookSize,
} from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormNumber, FormText } from "@/ui/form-fields";
import { exportArchive } from "./archives";
import { ArchiveButton } from "./archive-button";
import { Why } from "@/ui/why";
import { createNotebook, lastArchive, loadDemo } from "./notebooks";

const size = (bytes: number): string =>
  bytes < 1e5
    ? `${(bytes / 1e3).toFixed(0)} kB`
    : bytes < 1e9
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : `${(bytes / 1e9).toFixed(1)} GB`;
const sizeText = (s: NotebookSize): string =>
  `photos ${size(s.photos)}, files ${size(s.files)}, logs ${size(s.logs)}, history ${size(s.history)}, records ${size(s.records)}`;

async function keeping(): Promise<string> {
  const persistent = await navigator.storage?.persisted?.();
  const room = await navigator.storage?.estimate?.();
  const used = room?.usage
    ? `${size(room.usage)} used${room.quota ? ` of ${size(room.quota)} that the browser gives` : ""}. `
    : "";
  return (
    used +
    (persistent
      ? "The browser keeps it."
      : "The browser may clear it when space runs short: export an archive regularly.")
  );
}

export function NotebooksDialog({
  archive = null,
  onClose,
}: {
  /** One that was dropped on the page. */ readonly archive?: File | null;
  onClose(): void;
}) {
  const { notebook, openNotebook } = useSession();
  const router = useRouter();
  const { list, sizes } = useNotebookList();
  const persistence = useLive("kept", keeping, (n) => n.kinds.includes("notebook"));
  const [busy, setBusy] = useState(false);
  const [renaming, setRenaming] = useState<NotebookRecord | null>(null);
  const [removing, setRemoving] = useState<NotebookRecord | null>(null);
  const run = (act: () => Promise<unknown>) => {
    setBusy(true);
    void attempt(act).finally(() => setBusy(false));
  };
  const go = (id: string) => {
    openNotebook(id);
    router.push("/");
    onClose();
  };
  const [writing, setWriting] = useState<string | null>(null);
  const exported = (n: NotebookRecord) =>
    run(async () => {
      setWriting(n.title);
      const remark = await exportArchive(n).finally(() => setWriting(null));
      if (remark) await notify(remark);
    });
  if (removing)
    return (
      <RemoveDialog
        n={removing}
        bytes={sizes.state === "ready" ? sizes.value.get(removing.id) : undefined}
        busy={busy}
        onExport={() => exported(removing)}
        onClose={() => setRemoving(null)}
        onRemove={() =>
          run(async () => {
            await removeNotebook(removing.id);
            setRemoving(null);
            await notify(`“${removing.title}” is deleted.`);
            if (removing.id === notebook.id) {
              router.push("/");
              onClose();
            }
          })
        }
      />
    );
  if (renaming) return <RenameDialog n={renaming} onClose={() => setRenaming(null)} />;
  return (
    <Dialog
      wide
      title="Notebooks"
      about="Each notebook is separate: boards, cells, instruments and house rules of its own."
      onClose={onClose}
    >
      <ul className="mb-4 divide-y divide-rule border-y border-rule">
        {list.state === "ready"
          ? list.value.map(({ n, archived }) => (
              <Entry
                key={n.id}
                n={n}
                archived={archived}
                bytes={sizes.state === "ready" ? sizes.value.get(n.id) : undefined}
                busy={busy}
                open={n.id === notebook.id}
                onExport={() => exported(n)}
                onOpen={() => go(n.id)}
                onRename={() => setRenaming(n)}
                onDelete={() => setRemoving(n)}
              />
            ))
          : null}
      </ul>
      <AddNotebook busy={busy} onAdd={(title) => run(async () => go((await createNotebook(title)).id))} />
      <div className="flex flex-wrap gap-3">
        <Button disabled={busy} onClick={() => run(async () => go((await loadDemo()).id))}>
          Load demo
        </Button>
        <ArchiveButton busy={busy} onBusy={setBusy} onOpen={go} dropped={archive} />
      </div>
      {writing ? (
        <p role="status" className="mt-3 text-sm text-pencil">
          Writing the archive of {writing} …
        </p>
      ) : null}
      <History />
      <p className="mt-4 text-sm text-pencil">{persistence.state === "ready" ? persistence.value : ""}</p>
    </Dialog>
  );
}

/** Every notebook with its last archive, and how much room each takes. */
function useNotebookList() {
  const list = useLive(
    "all-notebooks",
    async () => Promise.all((await notebooks()).map(async (n) => ({ n, archived: await lastArchive(n.id) }))),
    (n) => n.kinds.includes("notebook") || n.kinds.includes("meta"),
  );
  const sizes = useLive(
    "notebook-sizes",
    async () =>
      new Map(
        await Promise.all((await notebooks()).map(async (n) => [n.id as string, await notebookSize(n.id)] as const)),
      ),
    (n) => n.kinds.includes("notebook"),
  );
  return { list, sizes };
}

interface EntryProps {
  readonly n: NotebookRecord;
  readonly archived: string | null;
  readonly bytes: NotebookSize | undefined;
  readonly busy: boolean;
  readonly open: boolean;
  onExport(): void;
  onOpen(): void;
  onRename(): void;
  onDelete(): void;
}

/** A notebook of this browser: when it was archived, what it holds, what can be done with it. */
function Entry({ n, archived, bytes, busy, open, onExport, onOpen, onRename, onDelete }: EntryProps) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-3 py-2">
      <span className="min-w-0">
        <span className="font-medium">{n.title}</span>
        <span className="block text-sm text-pencil">
          {archived ? `archived ${archived}` : "never archived"}
          {bytes ? ` · ${size(totalSize(bytes))}: ${sizeText(bytes)}` : ""}
        </span>
      </span>
      <span className="flex flex-wrap gap-2">
        <Button disabled={busy} onClick={onExport}>
          Export archive
        </Button>
        <Button disabled={open} onClick={onOpen}>
          {open ? "Open now" : "Open"}
        </Button>
        <Button onClick={onRename} aria-label={`Rename ${n.title}`}>
          Rename
        </Button>
        <Button look="danger" disabled={busy} onClick={onDelete} aria-label={`Delete ${n.title}`}>
          Delete
        </Button>
      </span>
    </li>
  );
}

function AddNotebook({ busy, onAdd }: { readonly busy: boolean; onAdd(title: string): void }) {
  const { control, handleSubmit } = useForm({ defaultValues: { title: "" } });
  return (
    <Form
      className="flex flex-wrap items-end gap-3"
      onSubmit={handleSubmit(({ title }) => onAdd(title.trim() || "My notebook"))}
    >
      <FormText control={control} name="title" label="Title of the new notebook" wide className="min-w-56 flex-1" />
      <Button type="submit" disabled={busy} className="mb-5">
        Add notebook
      </Button>
    </Form>
  );
}

function RenameDialog({ n, onClose }: { readonly n: NotebookRecord; onClose(): void }) {
  const { control, handleSubmit } = useForm({ defaultValues: { title: n.title } });
  const save = handleSubmit((f) =>
    attempt(async () => {
      const title = f.title.trim();
      const act = await change(`rename ${n.title}`, [edit(n, { ...n, title })]);
      onClose();
      await notifyUndoable(`The notebook is now “${title}”.`, act && (() => undoAct(act)));
    }),
  );
  return (
    <Dialog title="Rename notebook" about="Shown in the header and in archives." onClose={onClose}>
      <Form onSubmit={save}>
        <FormText control={control} name="title" label="Title" missing="Enter a title." wide autoFocus />
        <Button look="main" type="submit">
          Save title
        </Button>
      </Form>
    </Dialog>
  );
}

function RemoveDialog({
  n,
  bytes,
  busy,
  onExport,
  onRemove,
  onClose,
}: {
  readonly n: NotebookRecord;
  readonly bytes: NotebookSize | undefined;
  readonly busy: boolean;
  onExport(): void;
  onRemove(): void;
  onClose(): void;
}) {
  return (
    <Dialog title={`Delete “${n.title}”?`} about="This can't be undone. Only an archive restores it." onClose={onClose}>
      <p className="mb-4">
        {bytes ? `It frees about ${size(totalSize(bytes))}: ${sizeText(bytes)}.` : "Working out its size …"}
      </p>
      <div className="flex flex-wrap gap-3">
        <Button look="main" disabled={busy} onClick={onExport}>
          Export archive first
        </Button>
        <Button look="danger" disabled={busy} onClick={onRemove}>
          Delete notebook
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}

/** How long changes can be undone. */
function History() {
  const live = useLive("history-horizon", horizon, (n) => n.kinds.includes("meta"));
  return live.state === "ready" ? <HistoryLimits {...live.value} /> : null;
}

const whole = (v: number) => (Number.isInteger(v) && v >= 1 ? null : "A whole number, at least 1.");

function HistoryLimits(first: { readonly days: number; readonly most: number }) {
  const { control, handleSubmit, formState } = useForm<{ days: number | null; most: number | null }>({
    defaultValues: first,
  });
  const save = handleSubmit(({ days, most }) =>
    attempt(async () => {
      if (days === null || most === null) return;
      await setHorizon({ days, most });
      await compactAll(Date.now());
      await notify("History beyond the limit is cleared.");
    }),
  );
  return (
    <details className="mt-4">
      <summary className="cursor-pointer">History for undo</summary>
      <p className="mb-2 mt-1 max-w-prose text-sm text-pencil">
        Older changes can&apos;t be undone.{" "}
        <Why of="what is cleared">
          Contents of photos and files that were deleted before then are cleared with the changes. Records and their
          readings stay.
        </Why>
      </p>
      <Form className="flex flex-wrap items-end gap-x-5" onSubmit={save}>
        <FormNumber
          control={control}
          name="days"
          label="Days kept"
          quantity=""
          missing="Enter a number."
          refuse={whole}
        />
        <FormNumber
          control={control}
          name="most"
          label="Changes kept, at most"
          quantity=""
          missing="Enter a number."
          refuse={whole}
        />
        <Button type="submit" disabled={formState.isSubmitting} className="mb-5">
          Save and clear older
        </Button>
      </Form>
    </details>
  );
}
