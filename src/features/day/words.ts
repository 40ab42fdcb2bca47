import { format } from "date-fns";
import type { DayRecord } from "@/core/files/records";
import type { DayTrouble } from "@/core/use";
import { startOf } from "@/notebook/days";

/** A minute of a day as the clock on the wall shows it. */
export const clock = (day: Pick<DayRecord, "date" | "begins">, minute: number): string =>
  format(new Date(startOf(day) + minute * 60_000), "HH:mm");

/** What a time typed as `9:30`, `09.30` or `930` is in minutes since midnight; null where it is none. */
export function readClock(text: string): number | null {
  const [, h = "", m = ""] = /^(\d{1,2})[:.]?(\d{2})?$/.exec(text.trim()) ?? [];
  const [hours, minutes] = [Number(h), Number(m || 0)];
  return h === "" || hours > 23 || minutes > 59 ? null : 60 * hours + minutes;
}

export const clockText = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;

/** What one run holds at a time, as it is called where it is drawn. */
export const INSTRUMENT_NAMES: Readonly<Record<string, string>> = {
  hands: "Hands",
  supply: "Supply",
  load: "Load",
  logger: "Logger",
};

/** What can't be, with what to do. */
export function troubleText(day: DayRecord, t: DayTrouble): string {
  const title = (id: string): string => `“${day.tasks.find((x) => x.id === id)?.title ?? "a task"}”`;
  if (t.kind === "order")
    return `${title(t.task)} begins before ${title(t.before)} is over. Move it behind, or let it be planned.`;
  const name = (INSTRUMENT_NAMES[t.instrument] ?? t.instrument).toLowerCase();
  const needed = t.instrument === "hands" ? "Hands are needed in two places" : `There is only ${t.there} ${name}`;
  return `${needed} from ${clock(day, t.from)} to ${clock(day, t.to)}: ${t.tasks.map(title).join(" and ")}. Move one of them, or let it be planned.`;
}
