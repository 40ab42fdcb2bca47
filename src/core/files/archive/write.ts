import { ZipWriter, BlobWriter } from "@zip.js/zip.js/index-native.js";
import {
  RECORD_KINDS,
  SCHEMA_VERSION,
  type FileRecord,
  type NotebookRecord,
  type RecordKind,
  type StoredRecord,
} from "../records";
import type { Manifest } from "../validate";
import { blobSum, stableJson } from "../versions";
import { ALL_SCHEMAS } from "../schemas";
import { MANIFEST, MOST_UNPACKED } from "./limits";
import { archiveReadme } from "./readme";

/** Where an archive's contents come from, a batch at a time, so that a big notebook is never held whole. */
export interface ArchiveSource {
  readonly notebook: NotebookRecord;
  /** Every record of the notebook, tombstones included. */
  records(): AsyncIterable<readonly StoredRecord[]> | Iterable<readonly StoredRecord[]>;
  /** The bytes of an imported file; null where they are gone. */
  content(file: FileRecord): Promise<Blob | null>;
  /** Runs whose log came from no file, and each one's log as an open battery data table. */
  readonly logs: readonly string[];
  log(runId: string): Promise<Blob | null>;
  /** File name → findings sheet as Markdown. */
  readonly sheets: ReadonlyMap<string, string>;
}

/** Characters that are gathered before they are laid away as bytes. */
const GATHERED = 1 << 21;

/** Characters of a list from which the next records go into another entry: each is parsed, and summed, in one piece. */
const PART = 8e6;

/** A JSON list that grows line by line, one record a line, and is held as bytes outside the heap. */
class Lines {
  private readonly parts: Blob[] = [];
  private waiting: string[] = [];
  private size = 0;
  private count = 0;
  private gathered = 0;
  add(json: string): void {
    this.waiting.push(this.count++ === 0 ? `[\n${json}` : `,\n${json}`);
    this.size += json.length;
    this.gathered += json.length;
    if (this.size > GATHERED) this.layAway();
  }
  /** Whether it is long enough to be an entry of its own. */
  get full(): boolean {
    return this.gathered > PART;
  }
  private layAway(): void {
    // In one piece: a blob of many small ones takes ten times as long.
    this.parts.push(new Blob([this.waiting.join("")]));
    this.waiting = [];
    this.size = 0;
  }
  whole(): Blob {
    this.waiting.push("\n]\n");
    this.layAway();
    return new Blob(this.parts);
  }
}

/** Where the records of a kind stand: `records/point.json`, `records/point.2.json`, … */
export const recordsPath = (kind: RecordKind, part: number): string =>
  `records/${kind}${part ? `.${part + 1}` : ""}.json`;

/** Where the content of a record stands in the archive. */
export const contentPath = (r: StoredRecord): string | null =>
  r.deletedAt ? null : r.kind === "photo" ? `photos/${r.id}` : r.kind === "file" ? `files/${r.id}.csv` : null;

/** A record as its line: contents stand apart, under the path named in their place; deleted ones have none. */
function lineOf(r: StoredRecord): string {
  if (r.kind === "photo") return stableJson({ ...r, bytes: contentPath(r) ?? "" });
  if (r.kind === "file") {
    const { apart: _apart, ...rest } = r;
    void _apart;
    return stableJson({ ...rest, text: contentPath(r) ?? "" });
  }
  return stableJson(r);
}

/** An entry shrank by more than a reader accepts: it has to be written as it is. */
class TooSmall extends Error {
  constructor(readonly path: string) {
    super(path);
  }
}

/**
 * Writes a notebook as a zip: JSON lists of each kind of record, imported files and photos byte for byte, findings sheets as Markdown
 * (those of today, and those that were issued), each log that came from no file as a CSV, a README and the JSON Schemas of the records,
 * and last `manifest.json` with the format version and the SHA-256 and size of every entry. Tombstones go along, so that merging knows what was deleted, their contents don't.
 */
export async function writeArchive(source: ArchiveSource, exportedAt: string): Promise<Blob> {
  const whole: Set<string> = new Set();
  for (;;)
    try {
      return await write(source, exportedAt, whole);
    } catch (e) {
      // Rare: a file of nothing but zeros, say.
      if (!(e instanceof TooSmall) || whole.has(e.path)) throw e;
      whole.add(e.path);
    }
}

async function write(source: ArchiveSource, exportedAt: string, whole: ReadonlySet<string>): Promise<Blob> {
  const { notebook } = source;
  const zip = new ZipWriter(new BlobWriter("application/zip"), {
    useWebWorkers: false,
    keepOrder: true,
    lastModDate: new Date(2000, 0, 1),
    extendedTimestamp: false,
  });
  const [files, sizes] = [new Map<string, string>(), new Map<string, number>()];
  const damaged: string[] = [];
  /** Adds an entry and gives its sum. */
  const put = async (path: string, content: Blob): Promise<string> => {
    const entry = await zip.add(path, content.stream(), {
      level: whole.has(path) ? 0 : 6,
      uncompressedSize: content.size,
    });
    if (entry.uncompressedSize > MOST_UNPACKED * entry.compressedSize) throw new TooSmall(path);
    const hex = await blobSum(content);
    files.set(path, hex);
    sizes.set(path, content.size);
    return hex;
  };
  const lines = new Map<RecordKind, Lines[]>();
  for await (const batch of source.records())
    for (const r of batch) {
      const own = lines.get(r.kind) ?? [];
      lines.set(r.kind, own);
      if (!own.length || own.at(-1)?.full) own.push(new Lines());
      own.at(-1)?.add(lineOf(r));
      const path = contentPath(r);
      if (path && r.kind === "photo") await put(path, new Blob([r.bytes as BlobPart]));
      // An older version may have carried a file through text, which lost what was no text.
      else if (path && r.kind === "file" && (await put(path, (await source.content(r)) ?? new Blob([]))) !== r.sha256)
        damaged.push(path);
      if (r.kind === "issued" && !r.deletedAt) await put(`sheets/issued/${r.id}.md`, new Blob([r.markdown]));
    }
  for (const kind of RECORD_KINDS)
    for (const [k, part] of (lines.get(kind) ?? []).entries()) await put(recordsPath(kind, k), part.whole());
  for (const [name, markdown] of source.sheets) await put(`sheets/${name}.md`, new Blob([markdown]));
  for (const runId of source.logs) {
    const log = await source.log(runId);
    if (log) await put(`logs/${runId}.csv`, log);
  }
  // So that a stranger can read it in ten years.
  for (const { name, schema } of ALL_SCHEMAS)
    await put(
      `schemas/${name}.json`,
      new Blob([
        `${JSON.stringify({ $schema: "https://json-schema.org/draft/2020-12/schema", title: name, ...schema }, null, 2)}\n`,
      ]),
    );
  await put("README.md", new Blob([archiveReadme(notebook.title, exportedAt)]));
  const manifest: Manifest = {
    format: "nimbus-bench-archive",
    version: SCHEMA_VERSION,
    notebookId: notebook.id,
    title: notebook.title,
    exportedAt,
    files: Object.fromEntries(files),
    sizes: Object.fromEntries(sizes),
    ...(damaged.length ? { damaged } : {}),
  };
  await zip.add(MANIFEST, new Blob([`${JSON.stringify(manifest, null, 2)}\n`]).stream(), { level: 6 });
  return zip.close();
}

/** An archive of records that are at hand, with the logs (run id → CSV) and sheets (name → Markdown) given; each record's content is its own. */
export function archiveOf(
  records: readonly StoredRecord[],
  exportedAt: string,
  logs: ReadonlyMap<string, string> = new Map(),
  sheets: ReadonlyMap<string, string> = new Map(),
): Promise<Blob> {
  const notebook = records.find((r): r is NotebookRecord => r.kind === "notebook");
  if (!notebook) throw new Error("internal: an archive holds one notebook");
  const sorted = [...records].sort((a, b) => (a.id < b.id ? -1 : 1));
  return writeArchive(
    {
      notebook,
      sheets,
      logs: [...logs.keys()],
      records: () => [sorted],
      content: (f) => Promise.resolve(new Blob([f.text])),
      log: (id) => Promise.resolve(new Blob([logs.get(id) ?? ""])),
    },
    exportedAt,
  );
}
