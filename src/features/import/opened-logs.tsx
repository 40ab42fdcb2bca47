"use client";

import { useEffect, useState, type ComponentType } from "react";
import type { OpenedView } from "@/browser/context";
import { Button } from "@/ui/button";
import { FileButton } from "@/ui/file-button";
import { Section } from "@/ui/section";
import { Tabs } from "@/ui/tabs";
import { OpenedLog, type ResultProps } from "./opened-log";

export interface OpenedLogsProps extends OpenedView {
  /** How a result is shown. */
  readonly Result: ComponentType<ResultProps>;
}

/** Files that were dropped or chosen, looked at before any board exists: nothing of them is stored until it is saved. */
export function OpenedLogs({ files, onFiles, onClose, ...rest }: OpenedLogsProps) {
  const [shown, setShown] = useState("0");
  const index = Math.min(Number(shown), files.length - 1);
  const file = files[index];
  useEffect(() => {
    const before = document.title;
    document.title = `${file?.name ?? "Log"} · Nimbus Bench`;
    return () => {
      document.title = before;
    };
  }, [file]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === "Escape" && !e.defaultPrevented && !document.querySelector('[role="dialog"],[role="listbox"]'))
        onClose();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onClose]);
  if (!file) return null;
  const acts = (
    <span className="flex flex-wrap gap-2">
      <FileButton several label="Logs to open" onFiles={onFiles}>
        Open another log
      </FileButton>
      <Button keyName="Esc" onClick={onClose}>
        Close
      </Button>
    </span>
  );
  const one = (f: File) => (
    <OpenedLog key={`${f.name}${f.size}${f.lastModified}`} file={f} acts={files.length > 1 ? null : acts} {...rest} />
  );
  return (
    <div className="sheet">
      {files.length > 1 ? (
        <>
          <Section level={1} mark="logs" title={`${files.length} logs`} aside={acts} />
          <Tabs
            label="Opened logs"
            value={String(index)}
            onValue={setShown}
            tabs={files.map((f, k) => ({ value: String(k), label: f.name, content: k === index ? one(f) : null }))}
          />
        </>
      ) : (
        one(file)
      )}
    </div>
  );
}
