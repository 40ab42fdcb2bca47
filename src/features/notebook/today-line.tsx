"use client";

import { compute } from "@/workers/compute";
import { format } from "date-fns";
import { nextAct } from "@/core/use/day";
import { useLive } from "@/storage";
import { today } from "@/notebook/today";
import { Link } from "@/ui/link";
import { useNow } from "@/ui/use-now";

const NAMED = 4;
const LINK = "underline decoration-pencil/60 underline-offset-4";
const MINUTE = 60_000;

/** What is due today: cells to be read, and the next act of the day that was planned. */
export function TodayLine({ notebookId }: { readonly notebookId: string }) {
  const now = useNow(MINUTE);
  const live = useLive(
    `today-${notebookId}`,
    () => today(compute, notebookId, Date.now()),
    (n) => n.kinds.some((k) => k === "cell" || k === "cellReading" || k === "cellCharge" || k === "day" || k === "run"),
  );
  if (live.state !== "ready") return null;
  const { due, day } = live.value;
  const begins = day ? new Date(`${day.date}T00:00:00`).getTime() + day.begins * MINUTE : 0;
  const next = day ? nextAct(day, Math.max(0, Math.round((now - begins) / MINUTE))) : null;
  if (due.length === 0 && !next) return null;
  return (
    <p className="mb-2 flex flex-wrap gap-x-4" data-testid="today">
      <span className="font-medium">Today</span>
      {next ? (
        <span>
          <span className="figures">{format(new Date(Math.max(now, begins + next.at * MINUTE)), "HH:mm")}</span>{" "}
          {next.act} {next.task.title}{" "}
          <Link href="/day" className={LINK}>
            Open day
          </Link>
        </span>
      ) : null}
      {due.length ? (
        <span>
          {due
            .slice(0, NAMED)
            .map((c) => c.cell.title)
            .join(", ")}
          {due.length > NAMED ? ` and ${due.length - NAMED} more` : ""} to be read{" "}
          <Link href="/cells#read" className={LINK}>
            Read cells
          </Link>
        </span>
      ) : null}
    </p>
  );
}
