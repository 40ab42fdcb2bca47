import type { RunRecord, StoredRecord } from "../files";
import { DEMO_MOMENT, demoIds } from "../demo/package";
import { packedDemo } from "@/testing/demo";
import { HOUSE_RULES, NO_CORRECTIONS, type Finding, type Readings } from "../measurement";
import { procedure } from "../procedures";
import { judgeClaim, type EvidenceSample } from "../verdicts";
import {
  findingsSheet,
  sentencesOf,
  sheetMarkdown,
  standing,
  type FindingsSheet,
  type SheetInput,
  type SheetRun,
} from ".";
import { numeric } from "../quantities";

const demo = packedDemo(demoIds(), DEMO_MOMENT);
const logs = new Map(demo.logs.map((l) => [l.runId, l.columns]));
const of = <K extends StoredRecord["kind"]>(kind: K) =>
  demo.records.filter((r): r is Extract<StoredRecord, { kind: K }> => r.kind === kind);

function readingsOf(run: RunRecord): Readings | null {
  const kind = procedure(run.procedure)?.readings;
  if (run.source.kind === "file" && !logs.has(run.id)) return null;
  if (kind === "answers")
    return {
      kind,
      answers: of("answer")
        .filter((a) => a.runId === run.id)
        .map((a) => ({
          id: a.id,
          item: a.item,
          word: a.word,
          at: a.takenAt,
          ...(a.volts !== undefined ? { volts: a.volts } : {}),
        })),
    };
  if (kind === "points")
    return {
      kind,
      points: of("point")
        .filter((p) => p.runId === run.id)
        .map(({ id, sequence, settings, cells, dwell }) => ({
          id,
          sequence,
          settings,
          cells,
          ...(dwell !== undefined ? { dwell } : {}),
        })),
    };
  return {
    kind: "trace",
    trace: {
      columns: logs.get(run.id) ?? {},
      events: of("annotation")
        .filter((a) => a.runId === run.id && a.what === "mark")
        .map((a) => ({ time: a.time ?? 0, what: a.text, kind: a.target })),
    },
  };
}

function sheetOf(title: string): { sheet: FindingsSheet; input: SheetInput } {
  const board = of("board").find((b) => b.title === title);
  if (!board) throw new Error(`no board ${title}`);
  const samples = of("sample").filter((s) => s.boardId === board.id);
  const runs = of("run").filter((r) => r.boardId === board.id && r.state === "finished");
  const findings = new Map<string, readonly Finding[]>();
  for (const r of runs) {
    const readings = readingsOf(r);
    const p = procedure(r.procedure);
    findings.set(r.id, readings && p ? p.analyse(readings, r.setup, NO_CORRECTIONS).findings : []);
  }
  const evidence: EvidenceSample[] = samples.map((s) => ({
    id: s.id,
    name: s.name,
    runs: runs
      .filter((r) => r.sampleId === s.id)
      .map((r) => ({
        id: r.id,
        title: r.title,
        startUtc: r.startUtc,
        zone: "Pacific/Auckland",
        finished: true,
        setAside: null,
        modifiedFunctions: [],
        ...(r.source.kind === "simulated" ? { simulated: true } : {}),
        findings: findings.get(r.id) ?? [],
      })),
  }));
  const claims = of("claim").filter((c) => c.boardId === board.id);
  const input: SheetInput = {
    touchLimit: 60,
    title,
    note: board.note,
    functions: board.functions,
    claims,
    madeAt: "2026-11-26T08:00:00Z",
    samples: samples.map((s) => ({ name: s.name, configuration: s.configuration, note: s.note, modifications: [] })),
    verdicts: new Map(claims.map((c) => [c.id, judgeClaim(c, evidence, HOUSE_RULES)])),
    runs: runs.map((r): SheetRun => ({
      id: r.id,
      title: r.title,
      procedure: r.procedure,
      procedureTitle: procedure(r.procedure)?.title ?? "",
      version: 1,
      startUtc: r.startUtc,
      zone: "Pacific/Auckland",
      sampleName: "A",
      source: r.source.kind,
      setAside: null,
      modifiedFunctions: [],
      setup: r.setup,
      findings: findings.get(r.id) ?? [],
    })),
  };
  return { sheet: findingsSheet(input), input };
}
const plain = (sentences: readonly (readonly (string | { readonly text: string })[])[]): string =>
  sentences
    .map((s) => s.map((p) => (typeof p === "string" ? p : p.text)).join(""))
    .join("\n")
    .replace(/[\u00a0\u202f]/g, " ");

describe("a sound board's sheet", () => {
  const { sheet, input } = sheetOf("Sedge 51");

  test("counts its verdicts, names every claim once, and says what it is fit for", () => {
    expect(sheet.claims).toHaveLength(input.claims.length);
    const numbers = [...sheet.summary.matchAll(/(\d+) (?:met|missed|too|not|unclear)/g)].map((m) => Number(m[1]));
    expect(numbers.reduce((a, b) => a + b, 0)).toBe(input.claims.length);
    expect(plain(sheet.fitFor)).toMatch(
      /A load of up to 1\.\d A \(\d\.\d W at 5\.0\d V\), held down to a battery of 3\.1 V\./,
    );
    expect(plain(sheet.fitFor)).toMatch(/empties the cell in/);
  });

  test("every number in its sentences leads back to a run that is on it", () => {
    const ids = new Set(sheet.runs.map((r) => r.id));
    const sentences = [
      ...sheet.fitFor,
      ...sheet.strengths,
      ...sheet.weaknesses,
      ...sheet.measured.flatMap((m) => m.sentences),
    ];
    let linked = 0;
    for (const p of sentences.flat()) {
      if (typeof p === "string") continue;
      linked++;
      expect(ids.has(p.runId)).toBe(true);
    }
    expect(linked).toBeGreaterThan(20);
    // A figure outside a link is a battery, a load or a wording, never a result.
    for (const s of sheet.measured.flatMap((m) => m.sentences)) expect(s.some((p) => typeof p !== "string")).toBe(true);
  });

  test("says what it measured in words, with the value the analysis gave", () => {
    const cut = numeric(
      input.runs.flatMap((r) => r.findings).find((f) => f.characteristic === "protect.over-discharge-voltage")?.value,
    );
    const said = plain(sheet.measured.flatMap((m) => m.sentences));
    expect(said).toContain(`It disconnects the battery at ${cut.toFixed(4)}`.slice(0, 36));
    expect(said).toMatch(
      /It holds [\d.]+ A at a 4\.1 V battery, [\d.]+ A at a 3\.6 V battery and [\d.]+ A at a 3\.1 V battery\./,
    );
    expect(plain(sheet.strengths)).toMatch(/It really disconnects an empty battery\./);
    expect(plain(sheet.strengths)).toMatch(/It lives through a reversed battery\./);
  });
});

test("a poor board's sheet says what is missing and what to do about it", () => {
  const { sheet } = sheetOf("Marl 15");
  expect(plain(sheet.weaknesses)).toMatch(/Nothing disconnects an empty battery: a forgotten cell is ruined\./);
  expect(plain(sheet.weaknesses)).toMatch(/“5V 1\.5A OUTPUT!” is missed: measured/);
  expect(plain(sheet.weaknesses)).toMatch(/It stays dead on a C-to-C cable\./);
  expect(sheet.modify.join(" ")).toMatch(/protection board between cell and module.*Solder 5\.1 kΩ/);
});

test("a run that was set aside speaks for nothing, and the newest of two counts", () => {
  const finding = (value: number): Finding => ({
    characteristic: "boost.no-load-voltage",
    conditions: { battery: 3.6 },
    value,
    unit: "V",
    budget: [],
    points: [],
    unfair: [],
  });
  const run = (id: string, startUtc: string, value: number, setAside: string | null = null): SheetRun => ({
    id,
    title: id,
    procedure: "load-sweep",
    procedureTitle: "Load sweep",
    version: 1,
    startUtc,
    zone: "UTC",
    sampleName: "A",
    source: "typed",
    setAside,
    modifiedFunctions: [],
    setup: { conditions: {}, instruments: {} },
    findings: [finding(value)],
  });
  const found = standing([
    run("new", "2026-11-03T00:00:00Z", 5.2),
    run("old", "2026-11-01T00:00:00Z", 5.1),
    run("aside", "2026-11-05T00:00:00Z", 9, "clip slipped"),
  ]);
  expect(found).toEqual([{ finding: finding(5.2), runId: "new" }]);
  // What a modified output gives is not the board's, newest or not.
  expect(
    standing([
      run("old", "2026-11-01T00:00:00Z", 5.1),
      { ...run("modified", "2026-11-06T00:00:00Z", 9), modifiedFunctions: ["boost"] },
    ]),
  ).toEqual([{ finding: finding(5.1), runId: "old" }]);
  expect(plain(sentencesOf(found, 60).map((s) => s.sentence))).toBe("Unloaded it gives 5.2 V at a 3.6 V battery.");
});

test("a board with nothing claimed and nothing measured has a sheet that says so", () => {
  const s = findingsSheet({
    title: "Bare",
    note: "",
    functions: [],
    samples: [],
    claims: [],
    verdicts: new Map(),
    runs: [],
    touchLimit: 60,
    madeAt: "2026-11-26T08:00:00Z",
  });
  expect(s.summary).toBe("No claims, so nothing was judged.");
  expect([s.fitFor, s.strengths, s.weaknesses, s.measured, s.runs].every((x) => x.length === 0)).toBe(true);
});

test("as Markdown: a heading, the table of claims, numbers with the run that they come from, nothing that breaks the table", () => {
  const { sheet, input } = sheetOf("Marl 15");
  const odd = {
    ...sheet,
    claims: [
      { ...(sheet.claims[0] as (typeof sheet.claims)[number]), wording: "5|6 *V* [a]" },
      ...sheet.claims.slice(1),
    ],
  };
  const text = sheetMarkdown(odd, "UTC");
  expect(text).toMatch(/^# Marl 15\n/);
  expect(text).toContain("“5\\|6 \\*V\\* \\[a\\]”");
  const rows = text.split("\n").filter((l) => l.startsWith("| “"));
  expect(rows).toHaveLength(input.claims.length);
  for (const r of rows) expect(r.replace(/\\\|/g, "").split("|")).toHaveLength(6);
  // Every reference is the number of a run of the list, which has its name, sample, date and a short code; no address of this browser is in it.
  const listed = text
    .slice(text.indexOf("## Runs"), text.indexOf("## Meters"))
    .split("\n")
    .filter((l) => /^\d+\. /.test(l));
  expect(listed).toHaveLength(sheet.runs.length);
  for (const l of listed) expect(l).toMatch(/, sample [A-Z]\d*, \d{4}-\d\d-\d\d, .* \([2-9A-Z]{5}\)$/);
  expect(text).toContain("Made 2026-11-26 with the analyses");
  expect(sheetMarkdown({ ...odd, madeAt: "2026-11-26T19:30:00Z" }, "Pacific/Auckland")).toContain(
    "Made 2026-11-27 with",
  );
  const references = [...text.matchAll(/\\\[(\d+)\\\]/g)].map((m) => Number(m[1]));
  expect(references.length).toBeGreaterThan(5);
  for (const n of references) expect(n).toBeLessThanOrEqual(listed.length);
  expect(text).not.toMatch(/localhost|\/run\//);
});

test("as Markdown: what people wrote stays one line of text, whatever is in it", () => {
  const { sheet } = sheetOf("Marl 15");
  const evil = "- first\n\n# Heading\n> quote <b>x</b>\u2028| a | b |";
  const odd: FindingsSheet = {
    ...sheet,
    title: evil,
    note: evil,
    samples: [evil, "1. one\r\n2. two"],
    claims: [{ ...(sheet.claims[0] as (typeof sheet.claims)[number]), wording: evil }],
  };
  const lines = sheetMarkdown(odd, "UTC").split(/[\n\r\u2028]/);
  const usual = sheetMarkdown(
    {
      ...odd,
      title: "x",
      note: "x",
      samples: ["x", "x"],
      claims: [{ ...(odd.claims[0] as (typeof odd.claims)[number]), wording: "x" }],
    },
    "UTC",
  ).split(/[\n\r\u2028]/);
  expect(lines).toHaveLength(usual.length);
  expect(lines.filter((l) => l.startsWith("#"))).toHaveLength(usual.filter((l) => l.startsWith("#")).length);
  expect(lines[0]).toBe("# \\- first \\# Heading \\> quote \\<b\\>x\\</b\\> \\| a \\| b \\|");
  expect(lines).toContain("- 1\\. one 2. two");
});

test("a part that settles above what the house calls too hot to touch is a weakness, with what to do about it", () => {
  const warm = (value: number) => [
    {
      finding: {
        characteristic: "heat.steady-temperature",
        conditions: {},
        value,
        unit: "°C" as const,
        expandedUncertainty: 1,
        budget: [],
        points: [],
        unfair: [],
      },
      runId: "r",
    },
  ];
  const against = (value: number, limit: number) =>
    sentencesOf(warm(value), limit).filter((x) => x.side === "weakness");
  expect(against(59, 60)).toEqual([]);
  expect(against(61, 60)).toMatchObject([{ about: "heat", modify: expect.stringContaining("hot part") }]);
  expect(against(59, 55)).toHaveLength(1);
});
