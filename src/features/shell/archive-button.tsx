"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { FileButton } from "@/ui/file-button";

const ImportArchive = dynamic(() => import("./import-archive").then((m) => m.ImportArchive), { ssr: false });

/** A button that asks for an archive. What imports it is fetched once there is one to import. */
export function ArchiveButton({
  busy,
  onBusy,
  onOpen,
  dropped = null,
}: {
  readonly busy: boolean;
  onBusy(b: boolean): void;
  onOpen(notebookId: string): void;
  /** One that was dropped on the page. */ readonly dropped?: File | null;
}) {
  const [chosen, setChosen] = useState<{ readonly file: File; readonly after: File | null } | null>(null);
  // The last one that came, chosen or dropped.
  const archive = chosen && chosen.after === dropped ? chosen.file : dropped;
  return (
    <>
      <FileButton
        label="Archive to import"
        accept=".zip,application/zip"
        disabled={busy}
        onFile={(file) => setChosen({ file, after: dropped })}
      >
        Import archive
      </FileButton>
      {archive ? <ImportArchive busy={busy} onBusy={onBusy} onOpen={onOpen} archive={archive} /> : null}
    </>
  );
}
