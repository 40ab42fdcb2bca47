"use client";

import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { useSession } from "@/session/context";
import { attempt, notify } from "@/session/notify";
import { notebooks, useLive } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/quantity-field";
import { createNotebook, exportArchive, importArchive, lastArchive, loadDemo } from "./notebooks";

async function keeping(): Promise<string> {
  const kept = await navigator.storage?.persisted?.();
  const room = await navigator.storage?.estimate?.();
  const used = room?.usage ? `${(room.usage / 1e6).toFixed(1)} MB used. ` : "";
  return used + (kept ? "The browser has promised to keep it." : "The browser may clear it when space runs short: export an archive now and then.");
}

export function NotebooksDialog({ onClose }: { onClose(): void }) {
  const { notebook, openNotebook } = useSession();
  const router = useRouter();
  const list = useLive("all-notebooks", async () => Promise.all((await notebooks()).map(async (n) => ({ n, archived: await lastArchive(n.id) }))), () => true);
  const kept = useLive("kept", keeping, () => false);
  const [title, setTitle] = useState("");
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const run = (act: () => Promise<void>) => {
    setBusy(true);
    void attempt(act).finally(() => setBusy(false));
  };
  const go = (id: string) => {
    openNotebook(id);
    router.push("/");
    onClose();
  };
  return (
    <Dialog title="Notebooks" about="Each notebook stands by itself; nothing you do here removes another." onClose={onClose}>
      <ul className="mb-4 divide-y divide-rule border-y border-rule">
        {list.state === "ready"
          ? list.value.map(({ n, archived }) => (
              <li key={n.id} className="flex flex-wrap items-center justify-between gap-3 py-2">
                <span>
                  <span className="font-medium">{n.title}</span>
                  <span className="block text-sm text-pencil">{archived ? `archived ${archived}` : "never archived"}</span>
                </span>
                <span className="flex gap-2">
                  <Button disabled={busy} onClick={() => run(() => exportArchive(n))}>
                    Export archive
                  </Button>
                  <Button disabled={n.id === notebook.id} onClick={() => go(n.id)}>
                    {n.id === notebook.id ? "Open now" : "Open"}
                  </Button>
                </span>
              </li>
            ))
          : null}
      </ul>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          run(async () => go((await createNotebook(title.trim() || "My notebook")).id));
        }}
      >
        <TextField label="Title of a new, empty notebook" text={title} onText={setTitle} wide className="min-w-56 flex-1" />
        <Button type="submit" disabled={busy} className="mb-5">
          Start it
        </Button>
      </form>
      <div className="flex flex-wrap gap-3">
        <Button disabled={busy} onClick={() => run(async () => go((await loadDemo()).id))}>
          Load the demo
        </Button>
        <Button disabled={busy} onClick={() => file.current?.click()}>
          Import an archive
        </Button>
        <input
          ref={file}
          type="file"
          accept=".zip,application/zip"
          className="sr-only"
          aria-label="Archive to import"
          tabIndex={-1}
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = "";
            if (!chosen) return;
            run(async () => {
              const r = await importArchive(chosen);
              await notify(`“${r.title}”: ${r.added} records added, ${r.same} were there already${r.copies ? `, ${r.copies} of the added came in as copies because they differ` : ""}.`);
              go(r.notebookId);
            });
          }}
        />
      </div>
      <p className="mt-4 text-sm text-pencil">{kept.state === "ready" ? kept.value : ""}</p>
    </Dialog>
  );
}
