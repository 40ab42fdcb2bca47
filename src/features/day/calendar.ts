import type { DateArray, EventAttributes } from "ics";
import type { DayRecord } from "@/core/files/records";
import { barsOf } from "@/core/use";
import type { DrawerCell } from "@/notebook";
import { startOf } from "@/notebook/days";

const utc = (at: number): DateArray => {
  const d = new Date(at);
  return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()];
};
const dayArray = (at: number): DateArray => {
  const d = new Date(at);
  return [d.getFullYear(), d.getMonth() + 1, d.getDate()];
};

/** A day's tasks as events, and the readings that cells are due for as whole days, in the calendar format (iCalendar, RFC 5545). */
export async function calendarOf(day: DayRecord | null, cells: readonly DrawerCell[]): Promise<string> {
  const { createEvents } = await import("ics");
  const tasks = (day ? barsOf(day, 0) : []).map((b): EventAttributes => ({
    uid: `${b.task.id}@nimbus-bench`,
    title: b.task.title,
    start: utc(startOf(day as DayRecord) + b.start * 60_000),
    startInputType: "utc",
    startOutputType: "utc",
    duration: { minutes: b.end - b.start },
  }));
  const due = cells.flatMap((c): EventAttributes[] =>
    c.triage.due
      ? [
          {
            uid: `${c.cell.id}@nimbus-bench`,
            title: `Read ${c.cell.title} (${c.code})`,
            description: c.triage.due.why,
            start: dayArray(c.triage.due.at),
            duration: { days: 1 },
          },
        ]
      : [],
  );
  const { error, value } = createEvents([...tasks, ...due], { productId: "nimbus-bench" });
  if (error || !value) throw new Error(`The calendar file can't be written: ${error?.message ?? "no events"}.`);
  return value;
}
