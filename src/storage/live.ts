"use client";

import { useEffect, useEffectEvent, useState } from "react";
import { listen, type ChangeNotice } from "./notices";

export type Live<T> = { readonly state: "loading" } | { readonly state: "ready"; readonly value: T } | { readonly state: "failed"; readonly message: string };

/**
 * Runs a query and again whenever records change, here or in another tab. `key` names the query: another key starts
 * anew. `concerns` says which changes the query looks at: unless told otherwise all records, but not `meta`.
 */
export function useLive<T>(key: string, query: () => Promise<T>, concerns: (n: ChangeNotice) => boolean = (n) => !n.kinds.includes("meta")): Live<T> {
  const [live, setLive] = useState<Live<T> & { key?: string }>({ state: "loading" });
  const ask = useEffectEvent(query);
  const looksAt = useEffectEvent(concerns);
  useEffect(() => {
    let gone = false;
    let running = false;
    let again = false;
    const run = async () => {
      if (running) {
        again = true;
        return;
      }
      running = true;
      do {
        again = false;
        try {
          const value = await ask();
          if (!gone) setLive({ state: "ready", value, key });
        } catch (e) {
          if (!gone) setLive({ state: "failed", message: (e as Error).message, key });
        }
      } while (again && !gone);
      running = false;
    };
    void run();
    const stop = listen((n) => {
      if (looksAt(n)) void run();
    });
    return () => {
      gone = true;
      stop();
    };
  }, [key]);
  return live.key === key ? live : { state: "loading" };
}
