"use client";

import { useSyncExternalStore, type ReactNode } from "react";
import { Shell } from "@/features/shell/shell";
import { Opened } from "./opened";

const never = () => () => undefined;

/** The data lives in the browser, so the interface is drawn there only. */
export function Frame({ nonce, demo, children }: { nonce: string; demo: boolean; children: ReactNode }) {
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  if (!inBrowser) return null;
  return (
    <Shell nonce={nonce} demo={demo} Opened={Opened}>
      {children}
    </Shell>
  );
}
