"use client";

import { format, parseISO } from "date-fns";
import type { ColumnMapping, TextTable } from "@/core/files";
import { readClock, readIso, statesZone } from "@/core/files/numbers";

/** When a file's first reading was taken: ISO UTC; empty where nothing is known. */
export interface Began {
  readonly moment: string;
  /** It rests on the date of the file. */
  readonly assumed: boolean;
  /** It stands in the log itself. */
  readonly read: boolean;
}

/** The moment of the first reading: from its time stamp, from its time of day on the file's date, or, assumed, the file's date. */
export function firstMoment(
  { file, table }: { readonly file: File; readonly table: TextTable },
  mapping: ColumnMapping,
): Began {
  const column = mapping.time;
  const cell = column ? (table.rows[0]?.[table.headers.indexOf(column.header)] ?? "") : "";
  const stamp = column?.unit === "iso" ? readIso(cell) : null;
  // A stamp without a zone is the time of day where the log was taken.
  if (stamp !== null)
    return {
      moment: (statesZone(cell) ? new Date(stamp * 1000) : parseISO(cell.trim().replace(" ", "T"))).toISOString(),
      assumed: false,
      read: true,
    };
  const day = new Date(file.lastModified || Date.now());
  const clock = column?.unit === "hh:mm:ss" ? readClock(cell) : null;
  if (clock) day.setHours(Math.floor(clock / 3600), Math.floor(clock / 60) % 60, Math.floor(clock % 60), 0);
  return { moment: day.toISOString(), assumed: true, read: false };
}

/** A moment as the browser's own field for date and time writes it, in local time. */
const local = (moment: string): string => format(new Date(moment), "yyyy-MM-dd'T'HH:mm");

/** When the first reading was taken, as far as the file tells; to be put right where it doesn't. */
export function StartField({ began, onBegan }: { readonly began: Began; onBegan(b: Began): void }) {
  return (
    <label className="mb-3 text-sm text-pencil">
      First reading on
      <input
        type="datetime-local"
        className="mt-0.5 block border border-pencil/60 bg-field px-2 py-1.5 text-base text-ink"
        value={began.moment ? local(began.moment) : ""}
        disabled={began.read}
        onChange={(e) => {
          const d = new Date(e.target.value);
          if (!Number.isNaN(d.getTime())) onBegan({ moment: d.toISOString(), assumed: false, read: false });
        }}
      />
      <span className="block">
        {began.read
          ? "from the log’s own time stamps"
          : began.assumed
            ? "assumed from the file’s date; correct it if you know better"
            : "as entered"}
      </span>
    </label>
  );
}
