import { err, ok, type Result } from "../quantities";
import { RECORD_KINDS, type RecordKind, type StoredRecord } from "./records";
import * as validators from "./validators.generated";

const valueAt = (data: unknown, path: string): unknown =>
  path
    .split("/")
    .slice(1)
    .reduce<unknown>(
      (v, key) =>
        typeof v === "object" && v !== null
          ? (v as Record<string, unknown>)[key.replace(/~1/g, "/").replace(/~0/g, "~")]
          : undefined,
      data,
    );

/** What of a value a schema refuses: the field, what is asked, what was found. `whole` names the value itself. */
export function reason(data: unknown, errors: validators.CompiledValidator["errors"], whole = "record"): string {
  const e = errors?.at(-1) ?? errors?.[0];
  if (!e) return "does not fit its schema";
  const where = e.instancePath ? e.instancePath.slice(1).replace(/\//g, ".") : whole;
  const extra =
    e.keyword === "additionalProperties"
      ? ` (“${String((e.params as { additionalProperty?: string }).additionalProperty)}”)`
      : "";
  const value =
    e.keyword === "required" || e.keyword === "additionalProperties"
      ? ""
      : `, found ${JSON.stringify(valueAt(data, e.instancePath))?.slice(0, 80) ?? "nothing"}`;
  return `${where}: ${e.message ?? "does not fit"}${extra}${value}`;
}

/** Checks a value against the schema of its kind; the error names the field, the value and what was expected. */
export function validateRecord(data: unknown): Result<StoredRecord> {
  const kind = (data as { kind?: unknown } | null)?.kind;
  if (typeof kind !== "string" || !(RECORD_KINDS as readonly string[]).includes(kind))
    return err(`kind: ${JSON.stringify(kind)} is none of ${RECORD_KINDS.join(", ")}`);
  const check = validators[kind as RecordKind];
  return check(data)
    ? ok(data as StoredRecord)
    : err(`${kind} ${String((data as { id?: unknown }).id ?? "")}: ${reason(data, check.errors)}`);
}

export interface Manifest {
  readonly format: "nimbus-bench-archive";
  readonly version: number;
  readonly notebookId: string;
  readonly title: string;
  readonly exportedAt: string;
  /** Path → SHA-256 of its bytes. */
  readonly files: Readonly<Record<string, string>>;
  /** Path → bytes unpacked; absent before version 7. */
  readonly sizes?: Readonly<Record<string, number>>;
  /** Paths of files whose bytes an older version did not keep. */
  readonly damaged?: readonly string[];
}

export function validateManifest(data: unknown): Result<Manifest> {
  return validators.manifest(data)
    ? ok(data as Manifest)
    : err(`manifest.json: ${reason(data, validators.manifest.errors)}`);
}
