"use client";

import { createContext, useContext } from "react";
import type { NotebookRecord } from "@/core/files/records";

/** What every screen may ask for: the open notebook and how the application was started. */
export interface Session {
  readonly notebook: NotebookRecord;
  /** Started with demo data. */
  readonly demo: boolean;
  openNotebook(id: string): void;
  /** Looks at files that were dropped or chosen; nothing of them is stored. */
  openFiles(files: readonly File[]): void;
}

/** What the view of opened logs is given. */
export interface OpenedView {
  readonly files: readonly File[];
  /** Null where none is open yet: one is made when something is saved. */
  readonly notebook: NotebookRecord | null;
  makeNotebook(): Promise<NotebookRecord>;
  /** Something else was dropped or chosen. */
  onFiles(files: readonly File[]): void;
  onClose(): void;
  /** Where a saved run is looked at. */
  onSaved(notebookId: string, runId: string): void;
}

export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const s = useContext(SessionContext);
  if (!s) throw new Error("internal: no notebook is open");
  return s;
}
