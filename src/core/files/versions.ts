import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import type { StoredRecord } from "./records";

/** SHA-256 of bytes, in hexadecimal. */
export const checksum = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** Bytes up to which a blob is summed in one piece by the platform, which is ten times as fast as doing it here a stretch at a time. */
const ONE_SUM = 100e6;
const STRETCH = 1 << 20;

/** SHA-256 of bytes, in hexadecimal, by the platform where it can. A sum is the same whoever works it out. */
export async function bytesSum(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const { subtle } = globalThis.crypto ?? {};
  return subtle ? bytesToHex(new Uint8Array(await subtle.digest("SHA-256", bytes))) : checksum(bytes);
}

/** SHA-256 of a blob, in hexadecimal; a long one costs no memory. */
export async function blobSum(blob: Blob): Promise<string> {
  if (blob.size <= ONE_SUM) return bytesSum(new Uint8Array(await blob.arrayBuffer()));
  const sum = sha256.create();
  for (let at = 0; at < blob.size; at += STRETCH)
    sum.update(new Uint8Array(await blob.slice(at, at + STRETCH).arrayBuffer()));
  return bytesToHex(sum.digest());
}

const quoted = new Map<string, string>();
/** Keys are few and come again and again. */
function key(k: string): string {
  const cached = quoted.get(k);
  if (cached !== undefined) return cached;
  const text = JSON.stringify(k);
  if (quoted.size < 2000) quoted.set(k, text);
  return text;
}

/** The keys of an object in order; those of a record that came out of an archive are. */
function sortedKeys(v: object): string[] {
  const keys = Object.keys(v);
  for (let k = 1; k < keys.length; k++) if ((keys[k - 1] as string) > (keys[k] as string)) return keys.sort();
  return keys;
}

/** Whether every key in it comes after the one before, as in a record that came out of an archive. Keys that begin with a digit are never taken for that. */
function inOrder(v: object): boolean {
  if (Array.isArray(v)) {
    for (const x of v as unknown[]) if (typeof x === "object" && x !== null && !inOrder(x)) return false;
    return true;
  }
  let last = "";
  for (const k in v) {
    const first = k.charCodeAt(0);
    if (k <= last || (first >= DIGIT.least && first <= DIGIT.most)) return false;
    last = k;
    const x = (v as Record<string, unknown>)[k];
    if (typeof x === "object" && x !== null && !inOrder(x)) return false;
  }
  return true;
}
const DIGIT = { least: "0".charCodeAt(0), most: "9".charCodeAt(0) } as const;

function sortedJson(v: unknown): string {
  if (typeof v !== "object" || v === null) return v === undefined ? "null" : JSON.stringify(v);
  if (Array.isArray(v)) return `[${v.map(sortedJson).join(",")}]`;
  let text = "";
  for (const k of sortedKeys(v)) {
    const x = (v as Record<string, unknown>)[k];
    if (x !== undefined) text += `${text ? "," : ""}${key(k)}:${sortedJson(x)}`;
  }
  return `{${text}}`;
}

/** JSON with keys in order, so that equal values give equal text. What is in order already the platform writes, which is faster. */
export const stableJson = (v: unknown): string =>
  typeof v === "object" && v !== null && inOrder(v) ? JSON.stringify(v) : sortedJson(v);

/** Hexadecimal digits of a version's hash: 64 bits tell the versions of one record apart. */
const DIGITS = 16;
/** Earlier versions that a record remembers. */
export const MOST_VERSIONS = 200;

/**
 * What makes two versions of a record the same: all of it but when it was stored and which versions went before. A deleted record is
 * nothing but deleted. Contents that are stored apart count by their checksum.
 */
function contentOf(r: StoredRecord): unknown {
  if (r.deletedAt) return { kind: r.kind, id: r.id, deleted: true };
  const { updatedAt: _at, lineage: _lineage, ...rest } = r;
  void [_at, _lineage];
  if (rest.kind === "photo") return { ...rest, bytes: checksum(rest.bytes) };
  if (rest.kind === "file") return { ...rest, text: "", apart: undefined };
  // Which rig is in use is for each side to say.
  if (rest.kind === "rig") return { ...rest, inUse: undefined };
  if (rest.kind === "notebook") return { ...rest, schema: 0 };
  return rest;
}

/** The hash of a record's content, 16 hexadecimal digits. */
export const versionOf = (r: StoredRecord): string => checksum(utf8ToBytes(stableJson(contentOf(r)))).slice(0, DIGITS);

/**
 * `next` with the hashes of its earlier versions: those of the record it replaces, that record itself, and those it brings along.
 * What is half typed leaves no version.
 */
export function withLineage<R extends StoredRecord>(next: R, before: StoredRecord | null | undefined): R {
  const own = next.lineage ?? [];
  if (!before) return next;
  const hashes = new Set([...(before.lineage ?? []), ...own]);
  if (!(before.kind === "point" && before.state === "draft")) {
    const was = versionOf(before);
    if (was !== versionOf(next)) hashes.add(was);
  }
  return hashes.size === own.length ? next : { ...next, lineage: [...hashes].slice(-MOST_VERSIONS) };
}
