import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from "fflate";
import { err, ok, type Result } from "../quantities";
import { RECORD_KINDS, SCHEMA_VERSION, owner, references, renamed, type NotebookRecord, type StoredRecord } from "./records";
import { validateManifest, validateRecord, type Manifest } from "./validate";

export const checksum = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** JSON with keys in order, so that equal records give equal text. */
export function stableJson(value: unknown): string {
  const sort = (v: unknown): unknown => {
    if (Array.isArray(v)) return v.map(sort);
    if (typeof v === "object" && v !== null) return Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)).filter(([, x]) => x !== undefined).map(([k, x]) => [k, sort(x)]));
    return v;
  };
  return JSON.stringify(sort(value));
}

/**
 * Writes a notebook as a zip: `manifest.json` with the format version and a SHA-256 of every file, one JSON list a
 * kind of record, imported files and photos as they are, findings sheets
 * as Markdown (those of today, given in `sheets`, and those that were issued), and each log that came from no file as a CSV (`logs`: run id →
 * open battery data table). Tombstones go along, so that merging knows what was deleted.
 */
export function writeArchive(records: readonly StoredRecord[], exportedAt: string, logs: ReadonlyMap<string, string> = new Map(), sheets: ReadonlyMap<string, string> = new Map()): Uint8Array {
  const notebook = records.find((r): r is NotebookRecord => r.kind === "notebook");
  if (!notebook) throw new Error("internal: an archive holds one notebook");
  const files: Record<string, Uint8Array> = {};
  for (const kind of RECORD_KINDS) {
    const own = records.filter((r) => r.kind === kind).sort((a, b) => (a.id < b.id ? -1 : 1));
    if (own.length === 0) continue;
    const lines = own.map((r) => {
      if (r.kind === "photo") {
        files[`photos/${r.id}`] = r.bytes;
        return stableJson({ ...r, bytes: `photos/${r.id}` });
      }
      if (r.kind === "file") {
        const { apart: _apart, ...rest } = r;
        void _apart;
        files[`files/${r.id}.csv`] = strToU8(r.text);
        return stableJson({ ...rest, text: `files/${r.id}.csv` });
      }
      return stableJson(r);
    });
    files[`records/${kind}.json`] = strToU8(`[\n${lines.join(",\n")}\n]\n`);
  }
  for (const [name, markdown] of sheets) files[`sheets/${name}.md`] = strToU8(markdown);
  for (const r of records) if (r.kind === "issued" && !r.deletedAt) files[`sheets/issued/${r.id}.md`] = strToU8(r.markdown);
  for (const [runId, csv] of logs) files[`logs/${runId}.csv`] = strToU8(csv);
  const manifest: Manifest = {
    format: "nimbus-bench-archive",
    version: SCHEMA_VERSION,
    notebookId: notebook.id,
    title: notebook.title,
    exportedAt,
    files: Object.fromEntries(Object.entries(files).map(([path, bytes]) => [path, checksum(bytes)])),
  };
  const zippable: Zippable = { "manifest.json": strToU8(`${JSON.stringify(manifest, null, 2)}\n`), ...files };
  return zipSync(zippable, { level: 6, mtime: new Date(Date.UTC(2000, 0, 1)) });
}

export interface Archive {
  readonly manifest: Manifest;
  readonly records: readonly StoredRecord[];
  /** Run id → its log as an open battery data table. */
  readonly logs: ReadonlyMap<string, string>;
}

type Migration = (record: Record<string, unknown>) => Record<string, unknown>;
/** Version 2 only added: cells, and marks and boundaries on logs. */
const cellsAndLogs: Migration = (r) => (r.kind === "notebook" ? { ...r, schema: 2 } : r);
/** Version 3 only added: answers, readings of cells, the cell of a run. */
const answersAndCells: Migration = (r) => (r.kind === "notebook" ? { ...r, schema: 3 } : r);
/** Version 4 only added: instruments, needs, issued sheets, the meters of a rig and of a run. */
const instrumentsAndNeeds: Migration = (r) => (r.kind === "notebook" ? { ...r, schema: 4 } : r);
/** Version 5 brought conditions that are stated afterwards, and imported runs that keep their own time. Earlier imports were dated by their import. */
const ownTimes: Migration = (r) => (r.kind === "notebook" ? { ...r, schema: 5 } : r.kind === "run" && (r.source as { kind?: string } | undefined)?.kind === "file" ? { ...r, startAssumed: true } : r);
/** Version 6 only added: assumed accuracies, corrected readings, runs chosen to decide. */
const choices: Migration = (r) => (r.kind === "notebook" ? { ...r, schema: 6 } : r);
/** Earlier formats are brought up step by step; entry n − 1 takes version n to n + 1. */
const MIGRATIONS: readonly Migration[] = [cellsAndLogs, answersAndCells, instrumentsAndNeeds, ownTimes, choices];

/** Reads an archive whole or not at all: every checksum and every record is checked before anything is returned. */
export function readArchive(bytes: Uint8Array): Result<Archive> {
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes);
  } catch (e) {
    return err(`This is no zip archive, or it is cut short (${(e as Error).message}).`);
  }
  const head = files["manifest.json"];
  if (!head) return err("The archive holds no manifest.json: it was not written by Nimbus Bench.");
  const json = parse(head, "manifest.json");
  if (!json.ok) return json;
  const version = (json.value as { version?: unknown }).version;
  if (typeof version === "number" && version > SCHEMA_VERSION)
    return err(`The archive has format ${version}; this version of Nimbus Bench reads up to ${SCHEMA_VERSION}. Open it with a newer version. Nothing was imported.`);
  const manifest = validateManifest(json.value);
  if (!manifest.ok) return manifest;
  for (const [path, sum] of Object.entries(manifest.value.files)) {
    const content = files[path];
    if (!content) return err(`The archive lacks ${path}, which its manifest lists.`);
    if (checksum(content) !== sum) return err(`${path} differs from its checksum: the archive is damaged. Nothing was imported.`);
  }
  const records: StoredRecord[] = [];
  for (const kind of RECORD_KINDS) {
    const path = `records/${kind}.json`;
    const content = manifest.value.files[path] ? files[path] : undefined;
    if (!content) continue;
    const list = parse(content, path);
    if (!list.ok) return list;
    if (!Array.isArray(list.value)) return err(`${path}: must be a list`);
    for (const [i, raw] of list.value.entries()) {
      let data = raw as Record<string, unknown>;
      for (let v = manifest.value.version; v < SCHEMA_VERSION; v++) data = (MIGRATIONS[v - 1] as Migration)(data);
      if (kind === "photo") data = { ...data, bytes: files[String(data.bytes)] ?? new Uint8Array() };
      if (kind === "file") {
        const body = files[String(data.text)];
        if (!body) return err(`${path}[${i}]: its content ${String(data.text)} is missing`);
        data = { ...data, text: strFromU8(body) };
      }
      const checked = validateRecord(data);
      if (!checked.ok) return err(`${path}[${i}]: ${checked.error}`);
      records.push(checked.value);
    }
  }
  const logs = new Map<string, string>();
  for (const path of Object.keys(manifest.value.files)) {
    const runId = /^logs\/(.+)\.csv$/.exec(path)?.[1];
    if (runId) logs.set(runId, strFromU8(files[path] as Uint8Array));
  }
  return ok({ manifest: manifest.value, records, logs });
}

function parse(bytes: Uint8Array, path: string): Result<unknown> {
  try {
    return ok(JSON.parse(strFromU8(bytes)) as unknown);
  } catch (e) {
    return err(`${path}: not valid JSON (${(e as Error).message})`);
  }
}

/** A file is the same where its checksum is, wherever its content stands. */
const comparable = (r: StoredRecord): string => stableJson(r.kind === "photo" ? { ...r, bytes: checksum(r.bytes) } : r.kind === "file" ? { ...r, text: "", apart: undefined } : r);

export interface Merge {
  /** Records to write; everything that is there stays. */
  readonly added: readonly StoredRecord[];
  /** How many were there already, the same to the letter. */
  readonly same: number;
  /** How many differ from what is there and come in as copies beside it. */
  readonly copies: number;
  /** Id in the archive → id of its copy. */
  readonly names: ReadonlyMap<string, string>;
}

/**
 * Merges by id and keeps both on conflict.
 *
 * A record that is there and equal is passed over. One that differs comes in as a copy under a new id, together with
 * what it belongs to (a changed point brings its whole run) and everything that hangs on it, so that neither side
 * loses a point or mixes two histories. `newId` gives a fresh random id.
 */
export function mergeRecords(present: ReadonlyMap<string, StoredRecord>, incoming: readonly StoredRecord[], newId: () => string): Merge {
  const byId = new Map(incoming.map((r) => [r.id as string, r]));
  const differs = new Set<string>();
  const names = new Map<string, string>();
  for (const r of incoming) {
    const there = present.get(r.id);
    if (!there || r.kind === "notebook") continue;
    if (comparable(there) !== comparable(r)) differs.add(r.id);
  }
  // Parts pull in their owner, owners their parts; what refers to a copy and is there itself is copied too.
  let grown = true;
  while (grown) {
    grown = false;
    for (const r of incoming) {
      if (r.kind === "notebook") continue;
      const parent = owner(r);
      if (differs.has(r.id) && parent && byId.has(parent) && !differs.has(parent)) {
        differs.add(parent);
        grown = true;
      }
      if (!differs.has(r.id) && references(r).some((id) => id !== r.notebookId && differs.has(id))) {
        differs.add(r.id);
        grown = true;
      }
    }
  }
  for (const id of differs) names.set(id, newId());
  const added: StoredRecord[] = [];
  let same = 0;
  let copies = 0;
  for (const r of incoming) {
    if (differs.has(r.id)) {
      copies++;
      added.push(titled(renamed(r, names)));
    } else if (present.has(r.id)) same++;
    else added.push(renamed(r, names));
  }
  return { added, same, copies, names };
}

function titled(r: StoredRecord): StoredRecord {
  if (r.kind === "board" || r.kind === "run" || r.kind === "cell") return { ...r, title: `${r.title} (from archive)` };
  if (r.kind === "sample") return { ...r, name: `${r.name} (from archive)` };
  return r;
}
