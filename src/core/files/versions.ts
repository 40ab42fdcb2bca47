import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import type { StoredRecord } from "./records";

/** SHA-256 of bytes, in hexadecimal. */
export const checksum = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** JSON with keys in order, so that equal values give equal text. */
export function stableJson(value: unknown): string {
  const sort = (v: unknown): unknown => {
    if (Array.isArray(v)) return v.map(sort);
    if (typeof v === "object" && v !== null) return Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)).filter(([, x]) => x !== undefined).map(([k, x]) => [k, sort(x)]));
    return v;
  };
  return JSON.stringify(sort(value));
}

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
  const known = new Set([...(before.lineage ?? []), ...own]);
  if (!(before.kind === "point" && before.state === "draft")) {
    const was = versionOf(before);
    if (was !== versionOf(next)) known.add(was);
  }
  return known.size === own.length ? next : { ...next, lineage: [...known].slice(-MOST_VERSIONS) };
}
