import { BlobReader, BlobWriter, ZipReader, ZipWriter, type FileEntry } from "@zip.js/zip.js/index-native.js";
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

/** Records of one kind that are written already: the lines that stand for them in an archive, a comma and a line feed between two. */
export interface WrittenRecords {
  readonly kind: RecordKind;
  readonly lines: Uint8Array<ArrayBuffer>;
}
export type ArchivedRecords = readonly (StoredRecord | WrittenRecords)[];
type Batches = AsyncIterable<ArchivedRecords> | Iterable<ArchivedRecords>;

/** Where an archive's contents come from, a batch at a time, so that a big notebook is never held whole. */
export interface ArchiveSource {
  readonly notebook: NotebookRecord;
  /** Lists that were packed apart. */
  readonly parts?: readonly ArchivePart[];
  /** Every record of the notebook, tombstones included, but for those in `parts`. */
  records(): Batches;
  /** The bytes of an imported file; null where they are gone. */
  content(file: FileRecord): Promise<Blob | null>;
  /** Runs whose log came from no file, and each one's log as an open battery data table. */
  readonly logs: readonly string[];
  log(runId: string): Promise<Blob | null>;
  /** File name → findings sheet as Markdown. */
  readonly sheets: ReadonlyMap<string, string>;
}

/** Characters that are gathered before they are laid away as bytes. */
const GATHERED = 1 << 19;

/** Bytes of a list after which it is written, and the next records go into another entry: each is parsed, and summed, in one piece. */
const PART = 8e6;

const UTF8 = new TextEncoder();

/** A JSON list that grows line by line, one record a line, held as bytes. */
class List {
  private readonly parts: Uint8Array<ArrayBuffer>[] = [];
  private waiting = "";
  private count = 0;
  private size = 0;
  add(json: string): void {
    this.begin();
    this.waiting += json;
    if (this.waiting.length > GATHERED) this.layAway();
  }
  addLines(lines: Uint8Array<ArrayBuffer>): void {
    this.begin();
    this.layAway();
    this.parts.push(lines);
    this.size += lines.length;
  }
  private begin(): void {
    this.waiting += this.count++ === 0 ? "[\n" : ",\n";
  }
  /** Whether it is long enough to be an entry of its own. */
  get full(): boolean {
    return this.size > PART;
  }
  private layAway(): void {
    const bytes = UTF8.encode(this.waiting);
    this.parts.push(bytes);
    this.size += bytes.length;
    this.waiting = "";
  }
  whole(): Blob {
    this.waiting += "\n]\n";
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

/** What an entry says of itself in the manifest. */
interface Sum {
  readonly sha256: string;
  readonly size: number;
}

/** A zip that is being written, and the sums of what is in it. */
class Zip {
  private readonly zip = new ZipWriter(new BlobWriter("application/zip"), {
    useWebWorkers: false,
    keepOrder: true,
    lastModDate: new Date(2000, 0, 1),
    extendedTimestamp: false,
  });
  readonly sums = new Map<string, Sum>();
  /** `whole`: what is written as it is. */
  constructor(private readonly whole: ReadonlySet<string>) {}
  /** Adds an entry and gives its SHA-256. */
  async put(path: string, content: Blob): Promise<string> {
    const entry = await this.zip.add(path, content.stream(), {
      level: this.whole.has(path) ? 0 : 6,
      uncompressedSize: content.size,
    });
    if (entry.uncompressedSize > MOST_UNPACKED * entry.compressedSize) throw new TooSmall(path);
    const sha256 = await blobSum(content);
    this.sums.set(path, { sha256, size: content.size });
    return sha256;
  }
  /** Adds an entry of another zip as it is packed there. */
  async copy(path: string, entry: FileEntry, sum: Sum): Promise<void> {
    const packed = await entry.getData(new BlobWriter(), { passThrough: true, useWebWorkers: false });
    await this.zip.add(path, new BlobReader(packed), { entry, passThrough: true });
    this.sums.set(path, sum);
  }
  /** The zip, with its manifest last where it has one. */
  async close(manifest?: Omit<Manifest, "files" | "sizes">): Promise<Blob> {
    const all = [...this.sums];
    if (manifest) {
      const text = JSON.stringify(
        {
          ...manifest,
          files: Object.fromEntries(all.map(([path, { sha256 }]) => [path, sha256])),
          sizes: Object.fromEntries(all.map(([path, { size }]) => [path, size])),
        } satisfies Manifest,
        null,
        2,
      );
      await this.zip.add(MANIFEST, new Blob([`${text}\n`]).stream(), { level: 6 });
    }
    return this.zip.close();
  }
}

/** The lists of a zip, by kind. Each is written as soon as it is long enough, so that no more than one of a kind is held. */
class Lists {
  private readonly growing = new Map<RecordKind, List>();
  private readonly written = new Map<RecordKind, number>();
  private packing: Promise<unknown> = Promise.resolve();
  constructor(private readonly zip: Zip) {}
  async add(r: StoredRecord | WrittenRecords): Promise<void> {
    const list = this.growing.get(r.kind) ?? new List();
    this.growing.set(r.kind, list);
    if ("lines" in r) list.addLines(r.lines);
    else list.add(lineOf(r));
    if (list.full) await this.write(r.kind, list);
  }
  /** Where the next list of a kind goes. */
  next(kind: RecordKind): string {
    const part = this.written.get(kind) ?? 0;
    this.written.set(kind, part + 1);
    return recordsPath(kind, part);
  }
  private async write(kind: RecordKind, list: List): Promise<void> {
    this.growing.delete(kind);
    await this.packing;
    // It is packed and summed while the next one grows.
    this.packing = this.zip.put(this.next(kind), list.whole());
    // Whoever waits for it next is told.
    this.packing.catch(() => undefined);
  }
  /** Until what is under way is written: before anything else is. */
  async idle(): Promise<void> {
    await this.packing;
  }
  async end(): Promise<void> {
    for (const kind of RECORD_KINDS) {
      const list = this.growing.get(kind);
      if (list) await this.write(kind, list);
    }
    await this.packing;
  }
}

/** Writes a zip; an entry that shrinks too much is written as it is. */
async function written<T>(write: (whole: ReadonlySet<string>) => Promise<T>): Promise<T> {
  const whole = new Set<string>();
  for (;;)
    try {
      return await write(whole);
    } catch (e) {
      // Rare: a file of nothing but zeros, say.
      if (!(e instanceof TooSmall) || whole.has(e.path)) throw e;
      whole.add(e.path);
    }
}

/** Lists of records that were packed apart, by another worker say. */
export interface ArchivePart {
  readonly zip: Blob;
  readonly sums: ReadonlyMap<string, Sum>;
}

/** Packs records that have no content of their own. */
export const writePart = (records: () => Batches): Promise<ArchivePart> =>
  written(async (whole) => {
    const zip = new Zip(whole);
    const lists = new Lists(zip);
    for await (const batch of records()) for (const r of batch) await lists.add(r);
    await lists.end();
    return { zip: await zip.close(), sums: zip.sums };
  });

/** Puts the lists of a part into an archive, after those of their kind that are there. */
async function takeIn(part: ArchivePart, zip: Zip, lists: Lists): Promise<void> {
  const reader = new ZipReader(new BlobReader(part.zip), { useWebWorkers: false });
  for (const entry of await reader.getEntries()) {
    const sum = part.sums.get(entry.filename);
    const kind = RECORD_KINDS.find((k) => entry.filename.startsWith(`records/${k}.`));
    if (entry.directory || !sum || !kind) throw new Error(`internal: ${entry.filename} is no list of records`);
    await zip.copy(lists.next(kind), entry, sum);
  }
  await reader.close();
}

/**
 * Writes a notebook as a zip: JSON lists of each kind of record, imported files and photos byte for byte, findings sheets as Markdown
 * (those of today, and those that were issued), each log that came from no file as a CSV, a README and the JSON Schemas of the records,
 * and last `manifest.json` with the format version and the SHA-256 and size of every entry. Tombstones go along, so that merging knows what was deleted, their contents don't.
 */
export const writeArchive = (source: ArchiveSource, exportedAt: string): Promise<Blob> =>
  written((whole) => write(source, exportedAt, new Zip(whole)));

async function write(source: ArchiveSource, exportedAt: string, zip: Zip): Promise<Blob> {
  const { notebook } = source;
  const damaged: string[] = [];
  const lists = new Lists(zip);
  for await (const batch of source.records())
    for (const r of batch) {
      await lists.add(r);
      if ("lines" in r) continue;
      const path = contentPath(r);
      if (path || r.kind === "issued") await lists.idle();
      if (path && r.kind === "photo") await zip.put(path, new Blob([r.bytes as BlobPart]));
      // An older version may have carried a file through text, which lost what was no text.
      else if (
        path &&
        r.kind === "file" &&
        (await zip.put(path, (await source.content(r)) ?? new Blob([]))) !== r.sha256
      )
        damaged.push(path);
      if (r.kind === "issued" && !r.deletedAt) await zip.put(`sheets/issued/${r.id}.md`, new Blob([r.markdown]));
    }
  await lists.end();
  for (const part of source.parts ?? []) await takeIn(part, zip, lists);
  for (const [name, markdown] of source.sheets) await zip.put(`sheets/${name}.md`, new Blob([markdown]));
  for (const runId of source.logs) {
    const log = await source.log(runId);
    if (log) await zip.put(`logs/${runId}.csv`, log);
  }
  // So that a stranger can read it in ten years.
  for (const { name, schema } of ALL_SCHEMAS)
    await zip.put(
      `schemas/${name}.json`,
      new Blob([
        `${JSON.stringify({ $schema: "https://json-schema.org/draft/2020-12/schema", title: name, ...schema }, null, 2)}\n`,
      ]),
    );
  await zip.put("README.md", new Blob([archiveReadme(notebook.title, exportedAt)]));
  return zip.close({
    format: "nimbus-bench-archive",
    version: SCHEMA_VERSION,
    notebookId: notebook.id,
    title: notebook.title,
    exportedAt,
    ...(damaged.length ? { damaged } : {}),
  });
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
