"use client";

import { startTransition, useEffect, useEffectEvent, useState } from "react";
import type { StoredRecord } from "@/core/files/records";
import { listen, type ChangeNotice } from "./notices";

export type Live<T> =
  | { readonly state: "loading" }
  | { readonly state: "ready"; readonly value: T }
  | { readonly state: "failed"; readonly message: string };

/**
 * Runs a query and again whenever records change, here or in another tab. `key` names the query: another key starts
 * anew. The query is told the records that changed since it last ran well, or null when it has to look at everything.
 * `concerns` says which changes it looks at: unless told otherwise all records, but not `meta`.
 */
export function useLive<T>(
  key: string,
  query: (changed: readonly StoredRecord[] | null) => Promise<T>,
  concerns: (n: ChangeNotice) => boolean = (n) => !n.kinds.includes("meta"),
): Live<T> {
  const [live, setLive] = useState<Live<T> & { key?: string }>({ state: "loading" });
  const ask = useEffectEvent(query);
  const looksAt = useEffectEvent(concerns);
  useEffect(() => {
    let gone = false;
    let busy = false;
    let all = true;
    let first = true;
    let waiting: StoredRecord[] = [];
    let wanted = true;
    const run = async () => {
      if (busy) return;
      busy = true;
      while (wanted && !gone) {
        wanted = false;
        const changed = all ? null : waiting;
        all = false;
        waiting = [];
        try {
          const value = await ask(changed);
          if (gone) break;
          // The first look at a page is drawn in slices, so that it answers meanwhile; what changes after that is drawn at once.
          if (first) startTransition(() => setLive({ state: "ready", value, key }));
          else setLive({ state: "ready", value, key });
          first = false;
        } catch (e) {
          all = true;
          if (!gone) setLive({ state: "failed", message: (e as Error).message, key });
        }
      }
      busy = false;
    };
    void run();
    const stop = listen((n) => {
      if (!looksAt(n)) return;
      waiting.push(...n.records);
      wanted = true;
      void run();
    });
    return () => {
      gone = true;
      stop();
    };
  }, [key]);
  return live.key === key ? live : { state: "loading" };
}
