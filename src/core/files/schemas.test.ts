import { packedDemo } from "@/testing/demo";
import { RECORD_SCHEMAS } from "./schemas";
import { RECORD_KINDS, type RecordKind, type StoredRecord } from "./records";
import { validateManifest, validateRecord } from "./validate";

const AT = "2026-11-25T08:00:00Z";
let n = 0;
const demo = packedDemo(() => `d-${n++}`, AT).records;
const base = { notebookId: demo[0]?.notebookId, createdAt: AT, updatedAt: AT };
const sample = demo.find((r) => r.kind === "sample")?.id;

/** One good record of each kind. */
const good: Record<RecordKind, Record<string, unknown>> = {
  ...(Object.fromEntries(
    RECORD_KINDS.map((kind) => [kind, demo.find((r) => r.kind === kind) as unknown as Record<string, unknown>]),
  ) as Record<RecordKind, Record<string, unknown>>),
  photo: {
    kind: "photo",
    id: "ph",
    ...base,
    sampleId: sample,
    name: "a.png",
    mime: "image/png",
    bytes: Uint8Array.of(1),
  },
  cell: {
    kind: "cell",
    id: "ce",
    ...base,
    title: "Blue 18",
    chemistry: "lithium-ion",
    capacity: 2.2,
    chargeRateLimit: 1,
    chargeRate: 0.3,
    fullVoltage: 4,
    emptyVoltage: 3.3,
    ownProtection: false,
    note: "",
  },
  issued: {
    kind: "issued",
    id: "is",
    ...base,
    boardId: "b",
    title: "Sedge 51",
    issuedAt: AT,
    note: "",
    sheet: {},
    charts: [],
    wiring: null,
    markdown: "# Sedge 51",
    versions: { application: "0.1.0", schema: 4, analyses: { standby: 1 }, rules: {} },
  },
  conflict: {
    kind: "conflict",
    id: "co",
    ...base,
    of: "b",
    archive: "Reed bed recorders",
    theirs: demo.find((r) => r.kind === "board"),
  },
  file: { kind: "file", id: "fi", ...base, name: "s.csv", sha256: "0".repeat(64), text: "a,b" },
};
const reason = (r: unknown): string => {
  const v = validateRecord(r);
  return v.ok ? "fits" : v.error;
};

describe.each(RECORD_KINDS.map((kind) => [kind] as const))("a %s", (kind) => {
  const record = good[kind];
  const { required } = RECORD_SCHEMAS[kind] as unknown as { readonly required: readonly string[] };

  test("fits as it is", () => {
    expect(reason(record)).toBe("fits");
  });

  test("is refused without any one of its required fields, and the field is named", () => {
    for (const field of required.filter((f) => f !== "kind")) {
      const { [field]: _gone, ...rest } = record;
      void _gone;
      expect(reason(rest)).toContain(`'${field}'`);
    }
  });

  test("is refused with a field that nobody knows, which is named", () => {
    expect(reason({ ...record, colour: "red" })).toContain("colour");
  });

  test("is refused with a field of another type, and the message says where and what was found", () => {
    for (const field of Object.keys(record).filter((f) => f !== "kind" && f !== "bytes")) {
      const wrong = typeof record[field] === "number" ? "five" : 5;
      const said = reason({ ...record, [field]: wrong });
      expect(said).toContain(field);
      expect(said).toContain(String(wrong));
    }
  });
});

describe("what the schemas are there for", () => {
  const run = good.run as unknown as Extract<StoredRecord, { kind: "run" }>;
  const claim = good.claim as unknown as Extract<StoredRecord, { kind: "claim" }>;
  const point = good.point as unknown as Extract<StoredRecord, { kind: "point" }>;

  test.each<[string, unknown]>([
    ["a kind that does not exist", { ...run, kind: "recipe" }],
    ["no kind", { id: "x" }],
    ["no object", "run"],
    ["nothing", null],
    ["a moment without a zone", { ...run, startUtc: "2026-11-25 08:00" }],
    ["a state that does not exist", { ...run, state: "half" }],
    ["a source that does not exist", { ...run, source: { kind: "dreamt" } }],
    ["a claim without a reading", { ...claim, readings: [] }],
    [
      "a limit that is no limit",
      {
        ...claim,
        readings: [{ characteristic: "boost.max-current", limit: { kind: "about", value: 1 }, conditions: {} }],
      },
    ],
    [
      "a tolerance below zero",
      {
        ...claim,
        readings: [
          {
            characteristic: "boost.max-current",
            limit: { kind: "nominal", nominal: 1, tolerance: { kind: "relative", value: -0.1 } },
            conditions: {},
          },
        ],
      },
    ],
    ["a negative load", { ...point, settings: { load: { mode: "current", value: -1 } } }],
    ["a cell with a word in it", { ...point, cells: { outputVoltage: { value: "5", status: "ok" } } }],
    ["a cell of unknown status", { ...point, cells: { outputVoltage: { value: 5, status: "fine" } } }],
    ["a dwell below zero", { ...point, dwell: -1 }],
    ["a file whose checksum is none", { ...good.file, sha256: "abc" }],
    ["a photo that is no picture", { ...good.photo, mime: "text/html" }],
  ])("%s is refused", (_, record) => {
    expect(reason(record)).not.toBe("fits");
  });

  test("a manifest of another format, or without its checksums, is refused", () => {
    const manifest = {
      format: "nimbus-bench-archive",
      version: 1,
      notebookId: "n",
      title: "t",
      exportedAt: AT,
      files: { "a.json": "0".repeat(64) },
    };
    expect(validateManifest(manifest).ok).toBe(true);
    expect(validateManifest({ ...manifest, format: "something-else" }).ok).toBe(false);
    expect(validateManifest({ ...manifest, files: { "a.json": "short" } }).ok).toBe(false);
    expect(validateManifest({ ...manifest, version: 0 }).ok).toBe(false);
  });
});
