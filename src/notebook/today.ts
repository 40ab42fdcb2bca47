import { localDay } from "@/storage";
import type { Compute } from "./compute";
import type { DayRecord } from "@/core/files/records";
import { drawer, dueOn, type DrawerCell } from "./drawer";
import { ofKind } from "@/storage/queries";

/** What a notebook's first page names of today: cells that are to be read, and the day that was planned. */
export interface Today {
  readonly due: readonly DrawerCell[];
  readonly day: DayRecord | null;
}

/** What is due on the day of a moment (ms since 1970); nothing is worked out where there are no cells. */
export async function today(compute: Compute, notebookId: string, at: number): Promise<Today> {
  const [cells, days] = await Promise.all([ofKind(notebookId, "cell"), ofKind(notebookId, "day")]);
  const date = localDay(at);
  const due = cells.length ? dueOn((await drawer(compute, notebookId)).cells, at) : [];
  return { due, day: days.find((d) => d.date === date) ?? null };
}
