"use client";

import { useEffect, useState } from "react";
import type { DayRecord } from "@/core/files/records";
import { barsOf, troublesOf, type DayTask } from "@/core/use";
import { attempt } from "@/browser/notify";
import { minuteOf, saveDay } from "@/notebook/days";
import { useNow } from "@/ui/use-now";
import { computing } from "@/workers/client";

/** Which day it is, seen from the day at hand. */
export type When = "past" | "today" | "to come";

const whenOf = (day: Pick<DayRecord, "date">, now: number): When => {
  const today = new Date(now);
  const own = new Date(`${day.date}T00:00:00`);
  return own.toDateString() === today.toDateString() ? "today" : own.getTime() < now ? "past" : "to come";
};

/** Whether a plan is no plan any more: something was to begin already, or is in the way of something else. */
const stale = (day: DayRecord, now: number): boolean =>
  barsOf(day, now).some((b) => b.state === "to come" && b.start < now && b.task.at === undefined) ||
  troublesOf(day, now).some(
    (t) => t.kind === "shared" && t.tasks.some((id) => day.tasks.find((x) => x.id === id)?.at === undefined),
  );

/**
 * A day as it stands now: what should have begun by now is planned anew for what is shown, without storing it; an act stores its task and
 * the new plan together.
 */
export function useDay(stored: DayRecord) {
  const clock = useNow(15_000);
  const when = whenOf(stored, clock);
  const now = when === "today" ? Math.max(0, minuteOf(stored, clock)) : 0;
  const [ahead, setAhead] = useState<{ readonly of: DayRecord; readonly now: number; readonly day: DayRecord } | null>(
    null,
  );
  const day = ahead && ahead.of === stored ? ahead.day : stored;
  useEffect(() => {
    if (when === "past" || !stale(stored, now) || (ahead?.of === stored && ahead.now === now)) return;
    let gone = false;
    void computing()
      .ask("replan", { day: stored, now })
      .then((next) => gone || setAhead({ of: stored, now, day: { ...stored, plan: next.plan } }));
    return () => {
      gone = true;
    };
  }, [stored, now, when, ahead]);
  /** Stores tasks, with the rest planned anew from now on. */
  const store = (label: string, tasks: readonly DayTask[], more: Partial<DayRecord> = {}) =>
    attempt(async () => {
      const next = await computing().ask("replan", { day: { ...stored, ...more, tasks }, now });
      await saveDay(label, stored, { ...stored, ...more, tasks, plan: next.plan });
    });
  const patch = (label: string, id: string, change: (t: DayTask) => DayTask) =>
    store(
      label,
      stored.tasks.map((t) => (t.id === id ? change(t) : t)),
    );
  return { day, now, when, store, patch };
}

export type DayAtHand = ReturnType<typeof useDay>;
