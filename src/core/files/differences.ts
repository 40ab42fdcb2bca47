import { capital } from "../quantities";
import type { StoredRecord } from "./records";
import { sameValue } from "./three-way";

/** What a kind of record is called. */
const KINDS: Readonly<Record<StoredRecord["kind"], string>> = {
  notebook: "Notebook",
  rules: "House rules",
  instrument: "Instrument",
  rig: "Rig",
  need: "Need",
  load: "Load",
  day: "Day at the bench",
  station: "Charging station",
  feed: "Charger feed",
  pack: "Pack",
  cellCharge: "Charge of a cell",
  board: "Board",
  issued: "Issued sheet",
  claim: "Claim",
  sample: "Sample",
  cell: "Cell",
  photo: "Photo",
  file: "File",
  run: "Run",
  point: "Point",
  answer: "Answer",
  cellReading: "Cell reading",
  annotation: "Note on a run",
  conflict: "Conflict",
};

/** A record in a few words: its kind and its name. */
export function nameOf(r: StoredRecord): string {
  const own =
    "title" in r
      ? r.title
      : "name" in r
        ? r.name
        : r.kind === "claim"
          ? r.source.wording
          : r.kind === "point"
            ? String(r.sequence + 1)
            : r.kind === "answer"
              ? `${r.item}: ${r.word}`
              : r.kind === "annotation"
                ? `${r.what.replace("-", " ")}${r.text ? `: ${r.text}` : ""}`
                : r.kind === "cellReading"
                  ? `${r.takenAt.slice(0, 16).replace("T", " ")} UTC`
                  : "";
  return own ? `${KINDS[r.kind]} “${own.slice(0, 80)}”` : KINDS[r.kind];
}

/** `lowerCamel` as words. */
export const fieldWords = (path: readonly string[]): string => {
  const words = path
    .filter((p) => !/^[0-9a-f]{8}-/.test(p))
    .map((p) => p.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`))
    .join(", ");
  return words ? capital(words) : "Record";
};

/** A value as a line of text. */
export function valueText(v: unknown): string {
  if (v === undefined || v === null || v === "") return "–";
  if (typeof v === "string") return v;
  if (typeof v === "number") return String(Number(v.toPrecision(6)));
  if (typeof v === "boolean") return v ? "yes" : "no";
  if (ArrayBuffer.isView(v)) return `${v.byteLength} bytes`;
  if (Array.isArray(v)) return v.length ? v.map(valueText).join("; ") : "none";
  const entries = Object.entries(v as object).filter(([k]) => k !== "id");
  return entries.map(([k, x]) => `${fieldWords([k]).toLowerCase()} ${valueText(x)}`).join(", ");
}

export interface FieldDifference {
  readonly field: string;
  readonly ours: string;
  readonly theirs: string;
}

const SKIPPED: ReadonlySet<string> = new Set(["updatedAt", "createdAt", "lineage", "notebookId", "id", "kind"]);

/** The fields in which two versions of a record differ, in words; a deletion is the only difference where one is deleted. */
export function differences(ours: StoredRecord, theirs: StoredRecord): readonly FieldDifference[] {
  if (Boolean(ours.deletedAt) !== Boolean(theirs.deletedAt))
    return [
      {
        field: "Record",
        ours: ours.deletedAt ? "deleted" : "changed",
        theirs: theirs.deletedAt ? "deleted" : "changed",
      },
    ];
  const out: FieldDifference[] = [];
  const walk = (a: unknown, b: unknown, path: readonly string[]) => {
    if (sameValue(a, b)) return;
    const plain = (v: unknown): v is Record<string, unknown> =>
      typeof v === "object" && v !== null && !Array.isArray(v) && !ArrayBuffer.isView(v);
    if (plain(a) && plain(b))
      for (const k of new Set([...Object.keys(a), ...Object.keys(b)]))
        walk(Object.hasOwn(a, k) ? a[k] : undefined, Object.hasOwn(b, k) ? b[k] : undefined, [...path, k]);
    else out.push({ field: fieldWords(path), ours: valueText(a), theirs: valueText(b) });
  };
  for (const k of new Set([...Object.keys(ours), ...Object.keys(theirs)]))
    if (!SKIPPED.has(k))
      walk((ours as unknown as Record<string, unknown>)[k], (theirs as unknown as Record<string, unknown>)[k], [k]);
  return out;
}
