import { BlobReader, ZipReader, type FileEntry } from "@zip.js/zip.js/index-native.js";
import { err, ok, type Result } from "../../quantities";
import { owner } from "../record-links";
import { RECORD_KINDS, SCHEMA_VERSION, type RecordKind, type StoredRecord } from "../records";
import { validateManifest, validateRecord, type Manifest } from "../validate";
import { blobSum, bytesSum } from "../versions";
import { DEEPEST, LARGEST_MANIFEST, MANIFEST, MOST_UNPACKED } from "./limits";
import { migrated } from "./migrations";
import { contentPath } from "./write";

/** Why an archive is refused, in words; nothing of it was taken. */
export class ArchiveRefused extends Error {}
const refuse = (why: string): never => {
  throw new ArchiveRefused(why);
};

/** Records that are given on at a time. */
const BATCH = 2000;
/** Bytes of photos among them. */
const BATCH_BYTES = 16e6;

/** An archive whose list of entries was checked; its contents are read one after the other, each against its checksum. */
export interface OpenArchive {
  readonly manifest: Manifest;
  /** Bytes of all entries unpacked, as its directory states them. An entry that holds more is refused as it is read. */
  readonly unpacked: number;
  /** Runs whose log came from no file. */
  readonly logs: readonly string[];
  /** Every record, checked, in batches, owners before their parts. Throws ArchiveRefused; what was given before that must not stay. */
  records(): AsyncGenerator<readonly StoredRecord[]>;
  /** The bytes of an imported file, checked. */
  content(path: string): Promise<Blob>;
  log(runId: string): Promise<Blob>;
  close(): Promise<void>;
}

const ENTRY =
  /^(?:README\.md|schemas\/[A-Za-z]+\.json|records\/[A-Za-z]+(?:\.\d+)?\.json|photos\/[^/]+|files\/[^/]+\.csv|logs\/[^/]+\.csv|sheets\/(?:issued\/)?[^/]+\.md)$/;
/** What stands in an archive for its readers only. */
const BESIDE = /^(?:README\.md|schemas\/|sheets\/)/;
const named = (path: string): string => `“${path.length > 80 ? `${path.slice(0, 80)}…` : path}”`;

/** Opens an archive and checks its list of entries against its manifest: nothing is unpacked but the manifest. */
export async function openArchive(blob: Blob): Promise<Result<OpenArchive>> {
  try {
    return ok(await open(blob));
  } catch (e) {
    if (e instanceof ArchiveRefused) return err(e.message);
    return err(
      `This is no zip archive, or it is cut short or damaged (${(e as Error).message || (e as Error).name}). Nothing was imported.`,
    );
  }
}

async function open(blob: Blob): Promise<OpenArchive> {
  const zip = new ZipReader(new BlobReader(blob), {
    useWebWorkers: false,
    checkSignature: false,
    checkOverlappingEntry: true,
  });
  const entries = new Map<string, FileEntry>();
  for (const e of await zip.getEntries()) {
    if (e.directory) {
      if (e.uncompressedSize > 0)
        refuse(`The archive's folder ${named(e.filename)} has content. Nothing was imported.`);
      continue;
    }
    if (entries.has(e.filename)) refuse(`The archive holds ${named(e.filename)} twice. Nothing was imported.`);
    if (e.encrypted)
      refuse(`${named(e.filename)} is encrypted: an archive of Nimbus Bench is not. Nothing was imported.`);
    if (e.uncompressedSize > MOST_UNPACKED * Math.max(1, e.compressedSize))
      refuse(
        `${named(e.filename)} would unpack to ${e.uncompressedSize} bytes from ${e.compressedSize}: more than ${MOST_UNPACKED} times as much. Nothing was imported.`,
      );
    entries.set(e.filename, e);
  }
  const head =
    entries.get(MANIFEST) ??
    refuse("The archive holds no manifest.json: it was not written by Nimbus Bench. Nothing was imported.");
  if (head.uncompressedSize > LARGEST_MANIFEST)
    refuse("manifest.json is larger than a manifest can be. Nothing was imported.");
  const json = parsed(await (await unpacked(head, head.uncompressedSize, null)).text(), MANIFEST);
  if (tooDeep(json)) refuse("manifest.json is nested too deep. Nothing was imported.");
  const version = (json as { version?: unknown } | null)?.version;
  if (typeof version === "number" && version > SCHEMA_VERSION)
    refuse(
      `The archive has format ${version}; this version of Nimbus Bench reads up to ${SCHEMA_VERSION}. Open it with a newer version. Nothing was imported.`,
    );
  const checked = validateManifest(json);
  const manifest = checked.ok ? checked.value : refuse(`${checked.error}. Nothing was imported.`);
  entries.delete(MANIFEST);
  const sums = new Map(Object.entries(manifest.files));
  const sizes = manifest.sizes ? new Map(Object.entries(manifest.sizes)) : null;
  if (manifest.version >= 7 && !sizes) refuse("manifest.json lists no sizes. Nothing was imported.");
  for (const path of sums.keys()) {
    if (!ENTRY.test(path))
      refuse(`The archive lists ${named(path)}, which does not belong in an archive. Nothing was imported.`);
    const entry =
      entries.get(path) ?? refuse(`The archive lacks ${named(path)}, which its manifest lists. Nothing was imported.`);
    if (sizes && sizes.get(path) !== entry.uncompressedSize)
      refuse(
        `${named(path)} has ${entry.uncompressedSize} bytes; its manifest says ${sizes.get(path) ?? "nothing"}. Nothing was imported.`,
      );
  }
  for (const path of entries.keys())
    if (!sums.has(path))
      refuse(`The archive holds ${named(path)}, which its manifest does not list. Nothing was imported.`);
  const get = (path: string): Promise<Unpacked> =>
    unpacked(
      entries.get(path) ?? refuse(`The archive lacks ${named(path)}. Nothing was imported.`),
      (entries.get(path) as FileEntry).uncompressedSize,
      sums.get(path) ?? "",
    );
  const logs = [...entries.keys()].flatMap((p) => /^logs\/(.+)\.csv$/.exec(p)?.[1] ?? []);
  return {
    manifest,
    unpacked: [...entries.values()].reduce((s, e) => s + e.uncompressedSize, 0),
    logs,
    records: () => records(manifest, entries, get),
    content: async (path) => (await get(path)).blob(),
    log: async (runId) => (await get(`logs/${runId}.csv`)).blob(),
    close: () => zip.close().then(() => undefined),
  };
}

/** Bytes up to which an entry is held in memory, which a list of records that is written here always is. Beyond, it is the browser's to keep. */
const IN_MEMORY = 32e6;

/** An entry's content, checked. */
interface Unpacked {
  blob(): Blob;
  bytes(): Promise<Uint8Array<ArrayBuffer>>;
  text(): Promise<string>;
}
const inMemory = (bytes: Uint8Array<ArrayBuffer>): Unpacked => ({
  blob: () => new Blob([bytes]),
  bytes: () => Promise.resolve(bytes),
  text: () => Promise.resolve(UTF8.decode(bytes)),
});
const inBlob = (blob: Blob): Unpacked => ({
  blob: () => blob,
  bytes: async () => new Uint8Array(await blob.arrayBuffer()),
  text: () => blob.text(),
});
const UTF8 = new TextDecoder();

/** Unpacks an entry. Stops as soon as it holds more than `size`, and checks the sum where one is given. */
async function unpacked(entry: FileEntry, size: number, sum: string | null): Promise<Unpacked> {
  const parts: Blob[] = [];
  const bytes = size <= IN_MEMORY ? new Uint8Array(size) : null;
  let held = 0;
  try {
    await entry.getData(
      new WritableStream<Uint8Array>({
        write(chunk) {
          if (held + chunk.length > size)
            refuse(`${named(entry.filename)} unpacks to more than the ${size} bytes it states. Nothing was imported.`);
          // A chunk's memory may be used again.
          if (bytes) bytes.set(chunk, held);
          else parts.push(new Blob([chunk as BlobPart]));
          held += chunk.length;
        },
      }),
      { useWebWorkers: false, checkSignature: false },
    );
  } catch (e) {
    if (e instanceof ArchiveRefused) throw e;
    refuse(
      `${named(entry.filename)} can't be unpacked: the archive is damaged (${(e as Error).message || (e as Error).name}). Nothing was imported.`,
    );
  }
  if (held !== size)
    refuse(`${named(entry.filename)} unpacks to ${held} bytes; ${size} are stated. Nothing was imported.`);
  const whole = new Blob(parts);
  if (sum !== null && (await (bytes ? bytesSum(bytes) : blobSum(whole))) !== sum)
    refuse(`${named(entry.filename)} differs from its checksum: the archive is damaged. Nothing was imported.`);
  return bytes ? inMemory(bytes) : inBlob(whole);
}

function parsed(json: string, where: string): unknown {
  try {
    return JSON.parse(json) as unknown;
  } catch (e) {
    return refuse(`${where}: not valid JSON (${(e as Error).message}). Nothing was imported.`);
  }
}

/** Whether a value is nested deeper than any record is, or has a key that only an attack would have. */
function tooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length; depth++) {
    if (depth > DEEPEST) return true;
    const next: unknown[] = [];
    for (const v of level)
      if (typeof v === "object" && v !== null) {
        if (Object.hasOwn(v, "__proto__")) return true;
        for (const x of Object.values(v)) if (typeof x === "object" && x !== null) next.push(x);
      }
    level = next;
  }
  return false;
}

/** Bytes of a list of records: what is written here is parted long before. */
const LONGEST_LIST = 256e6;

async function* items(
  content: Promise<Unpacked>,
  path: string,
): AsyncGenerator<{ readonly value: unknown; readonly where: string }> {
  const list = parsed(await (await content).text(), path);
  if (!Array.isArray(list)) return refuse(`${path}: must be a list. Nothing was imported.`);
  for (let i = 0; i < list.length; i++) {
    yield { value: list[i] as unknown, where: `${path}[${i}]` };
    // What was handed on is not held as well.
    list[i] = null;
  }
}

/** The records that a record can't be without, besides its owner. */
function needs(r: StoredRecord): readonly string[] {
  const own = owner(r);
  return [
    ...(own ? [own] : []),
    ...("boardId" in r ? [r.boardId] : []),
    ...("sampleId" in r ? [r.sampleId] : []),
    ...(r.kind === "run" && r.source.kind === "file"
      ? [r.source.fileId, ...(r.source.more ?? []).map((m) => m.fileId)]
      : []),
  ];
}

/** The lists of records of each kind, by their paths. */
function listsOf(entries: ReadonlyMap<string, FileEntry>): ReadonlyMap<string, readonly string[]> {
  const lists = new Map<string, string[]>();
  for (const [path, { uncompressedSize }] of entries) {
    const kind = /^records\/([A-Za-z]+)(?:\.\d+)?\.json$/.exec(path)?.[1];
    if (!kind) continue;
    if (!(RECORD_KINDS as readonly string[]).includes(kind))
      refuse(`${path}: this version of Nimbus Bench knows no such records. Nothing was imported.`);
    if (uncompressedSize > LONGEST_LIST) refuse(`${path}: longer than a list of records can be. Nothing was imported.`);
    lists.set(kind, [...(lists.get(kind) ?? []), path]);
  }
  return lists;
}

async function* records(
  manifest: Manifest,
  entries: ReadonlyMap<string, FileEntry>,
  get: (path: string) => Promise<Unpacked>,
): AsyncGenerator<readonly StoredRecord[]> {
  const ids = new Set<string>();
  const used = new Set<string>();
  let [batch, bytes] = [[] as StoredRecord[], 0];
  const lists = listsOf(entries);
  for (const kind of RECORD_KINDS)
    for (const path of lists.get(kind) ?? []) {
      for await (const { value, where } of items(get(path), path)) {
        const r = await one(value, where, kind);
        if (ids.has(r.id)) refuse(`${where}: the id ${named(r.id)} occurs twice. Nothing was imported.`);
        ids.add(r.id);
        const lacking = needs(r).find((id) => !ids.has(id));
        if (lacking !== undefined)
          refuse(`${where}: it belongs to ${named(lacking)}, which the archive lacks. Nothing was imported.`);
        batch.push(r);
        if (r.kind === "photo") bytes += r.bytes.length;
        if (batch.length < BATCH && bytes < BATCH_BYTES) continue;
        yield batch;
        [batch, bytes] = [[], 0];
      }
    }
  if (!ids.has(manifest.notebookId)) refuse("The archive holds no notebook. Nothing was imported.");
  for (const path of entries.keys()) {
    if (/^(?:photos|files)\//.test(path) && !used.has(path))
      refuse(`${named(path)} belongs to no record of the archive. Nothing was imported.`);
    const run = /^logs\/(.+)\.csv$/.exec(path)?.[1];
    if (run && !ids.has(run)) refuse(`${named(path)} is the log of no run in the archive. Nothing was imported.`);
    // Nothing is taken from these, but an archive that is damaged there is damaged.
    if (BESIDE.test(path)) await get(path);
  }
  yield batch;

  async function one(value: unknown, where: string, kind: RecordKind): Promise<StoredRecord> {
    if (typeof value !== "object" || value === null || Array.isArray(value))
      return refuse(`${where}: must be a record, found ${JSON.stringify(value)?.slice(0, 60)}. Nothing was imported.`);
    if (tooDeep(value)) return refuse(`${where}: nested deeper than a record can be. Nothing was imported.`);
    let data = migrated(value as Record<string, unknown>, manifest.version);
    if (data.kind !== kind)
      return refuse(
        `${where}: must be a ${kind}, found ${JSON.stringify(data.kind)?.slice(0, 60)}. Nothing was imported.`,
      );
    if (kind === "photo" || kind === "file") {
      const field = kind === "photo" ? "bytes" : "text";
      const at = data[field];
      if (typeof at !== "string" || (at === "" && !data.deletedAt))
        return refuse(`${where}: it names no content. Nothing was imported.`);
      if (
        at !== "" &&
        (at !== contentPath({ ...data, deletedAt: undefined } as unknown as StoredRecord) || !entries.has(at))
      )
        return refuse(`${where}: its content ${named(at)} is missing. Nothing was imported.`);
      if (at !== "") used.add(at);
      if (kind === "photo")
        data = {
          ...data,
          bytes: at === "" || data.deletedAt ? new Uint8Array() : await (await get(at)).bytes(),
        };
      // A file's bytes are fetched when it is stored.
      else data = { ...data, text: "", apart: true };
    }
    const checked = validateRecord(data);
    if (!checked.ok) return refuse(`${where}: ${checked.error}. Nothing was imported.`);
    const r = checked.value;
    if (r.notebookId !== manifest.notebookId || (kind === "notebook" && r.id !== manifest.notebookId))
      return refuse(`${where}: it belongs to another notebook. Nothing was imported.`);
    if (kind === "conflict") {
      const theirs = validateRecord((r as Extract<StoredRecord, { kind: "conflict" }>).theirs);
      if (!theirs.ok) return refuse(`${where}: theirs: ${theirs.error}. Nothing was imported.`);
    }
    return r;
  }
}

export interface ArchiveContents {
  readonly manifest: Manifest;
  readonly records: readonly StoredRecord[];
  readonly logs: ReadonlyMap<string, string>;
  /** File id → bytes. */
  readonly contents: ReadonlyMap<string, Blob>;
}

/** A small archive read whole, checksums of files included. */
export async function readArchive(blob: Blob): Promise<Result<ArchiveContents>> {
  const opened = await openArchive(blob);
  if (!opened.ok) return opened;
  const a = opened.value;
  try {
    const [all, contents] = [[] as StoredRecord[], new Map<string, Blob>()];
    for await (const batch of a.records()) all.push(...batch);
    for (const r of all) if (r.kind === "file" && contentPath(r)) contents.set(r.id, await fileContent(a, r));
    const logs = new Map<string, string>();
    for (const id of a.logs) logs.set(id, await (await a.log(id)).text());
    return ok({ manifest: a.manifest, records: all, logs, contents });
  } catch (e) {
    if (e instanceof ArchiveRefused) return err(e.message);
    throw e;
  }
}

/**
 * The bytes of an imported file, held against the checksum of its record. Before version 7 a file went through text on its way, which
 * may have changed it: such content is taken as it is.
 */
export async function fileContent(a: OpenArchive, r: Extract<StoredRecord, { kind: "file" }>): Promise<Blob> {
  const content = await a.content(`files/${r.id}.csv`);
  if (a.manifest.version < 7 || a.manifest.damaged?.includes(`files/${r.id}.csv`)) return content;
  if ((await blobSum(content)) !== r.sha256)
    refuse(
      `${named(`files/${r.id}.csv`)}: the content of ${named(r.name)} differs from the checksum it was imported with. Nothing was imported.`,
    );
  return content;
}
