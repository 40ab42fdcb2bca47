"use client";

import { useEffect } from "react";

/** Keeps the screen awake while `on`, where the browser allows it; taken again whenever the page comes back to sight. */
export function useWakeLock(on: boolean): void {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return;
    let held: WakeLockSentinel | null = null;
    let gone = false;
    const hold = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (lock) => {
          if (gone) void lock.release();
          else held = lock;
        },
        () => undefined,
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", hold);
      void held?.release().catch(() => undefined);
    };
  }, [on]);
}
