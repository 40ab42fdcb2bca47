import { analyseReadings, procedure, PROCEDURES } from "../procedures";
import { NO_CORRECTIONS, roleUnit, type Point, type Readings, type Role } from "../measurement";
import { guessMapping, importPoints, readTable, traceFromFile, type ColumnMapping } from "../files";
import { seeded } from "../simulator";
import { SAMPLE_LOGS, type SampleLog } from "@/testing/sample-logs";
import { assumedSetup, guessTable, guessText, likelyOutput } from ".";

/** How heads name a role in two languages, as loggers and people write them. */
const HEADS: Readonly<Record<string, readonly [english: string, german: string]>> = {
  time: ["Elapsed (s)", "Zeit [s]"],
  inputVoltage: ["Input voltage (V)", "Eingangsspannung [V]"],
  inputCurrent: ["Input current (A)", "Eingangsstrom [A]"],
  cellVoltage: ["Cell voltage (V)", "Zellspannung [V]"],
  cellCurrent: ["Cell current (A)", "Zellstrom [A]"],
  batteryVoltage: ["Battery voltage (V)", "Akkuspannung [V]"],
  batteryCurrent: ["Battery current (A)", "Akkustrom [A]"],
  outputVoltage: ["Output voltage (V)", "Ausgangsspannung [V]"],
  outputCurrent: ["Load current (A)", "Laststrom [A]"],
  partTemperature: ["Part temp. (°C)", "Bauteiltemperatur [°C]"],
  cellTemperature: ["Cell temp. (°C)", "Zelltemperatur [°C]"],
  ambientTemperature: ["Ambient temp. (°C)", "Umgebungstemperatur [°C]"],
  referenceVoltage: ["Reference voltage (V)", "Referenzspannung [V]"],
  referenceCurrent: ["Reference current (A)", "Referenzstrom [A]"],
  channel: ["Channel", "Kanal"],
  repeat: ["Run", "Durchgang"],
  cell: ["Cell no.", "Zelle Nr."],
};
const head = (role: string, language: 0 | 1): string => {
  const cell = /^cell(\d+)Voltage$/.exec(role)?.[1];
  if (cell) return language ? `Zelle ${cell} [V]` : `Cell ${cell} (V)`;
  const named = HEADS[role];
  if (!named) throw new Error(`no head for ${role}`);
  return named[language];
};

/** Rows that are written of a longer log: every so many-th, as a slower logger would have. */
const ROWS = 1500;

/** A log as text, its columns in an order of chance, in one of the languages. */
function written(log: SampleLog, language: 0 | 1, seed: number, heads = head): string {
  const random = seeded(seed);
  const roles = (Object.keys(log.columns) as Role[])
    .map((role) => ({ role, at: random.uniform() }))
    .sort((a, b) => a.at - b.at)
    .map((r) => r.role);
  const [cut, mark] = language ? [";", ","] : [",", "."];
  const cell = (v: number) => (Number.isFinite(v) ? String(Number(v.toPrecision(9))).replace(".", mark) : "");
  const stride = Math.ceil((log.columns[roles[0] as Role] ?? []).length / ROWS);
  const rows = (log.columns[roles[0] as Role] ?? []).flatMap((_, k) =>
    k % stride ? [] : [roles.map((r) => cell(log.columns[r]?.[k] ?? NaN)).join(cut)],
  );
  return `${[roles.map((r) => heads(r, language)).join(cut), ...rows].join("\n")}\n`;
}
const guessed = (text: string) => {
  const g = guessText(text);
  if (!g.ok) throw new Error(g.error);
  return g.value.guess;
};
const LOGS = 10;
const SEED = 4711;
const all = Object.entries(SAMPLE_LOGS).map(
  ([id, make]) => [id, Array.from({ length: LOGS }, (_, k): SampleLog => ({ procedure: id, ...make(k) }))] as const,
);

test("there are sample logs of every procedure that is read from files", () => {
  expect(Object.keys(SAMPLE_LOGS).sort()).toEqual(
    PROCEDURES.filter((p) => p.readings !== "answers")
      .map((p) => p.id)
      .sort(),
  );
});

describe(`a log of unknown origin, columns shuffled, heads in two languages (seed ${SEED})`, () => {
  test.each(all)("%s: told from its columns and its curves in at least 9 of 10", (id, logs) => {
    for (const language of [0, 1] as const) {
      const guesses = logs.map((log, k) => guessed(written(log, language, SEED + k)));
      const right = guesses.filter((g) => g.procedure === id).length;
      expect(right).toBeGreaterThanOrEqual(9);
      // Every column is the one it was, by its head alone.
      logs.forEach((log, k) =>
        expect(
          Object.fromEntries(Object.entries(guesses[k]?.columns ?? {}).map(([role, c]) => [role, c?.header])),
        ).toEqual(Object.fromEntries(Object.keys(log.columns).map((r) => [r, head(r, language)]))),
      );
      // The likeliest stands first, and the shares of what is listed are shares of one.
      for (const g of guesses) {
        expect(g.alternatives.map((a) => a.share)).toEqual(g.alternatives.map((a) => a.share).sort((a, b) => b - a));
        expect(g.alternatives.reduce((s, a) => s + a.share, 0)).toBeLessThanOrEqual(1 + 1e-9);
      }
    }
  });

  test.each(all)("%s: with heads that say nothing it is right or can't tell", (id, logs) => {
    logs.forEach((log, k) => {
      for (const name of [
        (role: string) => `ch${Object.keys(log.columns).indexOf(role as Role) + 1}`,
        (role: string) => `ch${Object.keys(log.columns).indexOf(role as Role) + 1} (${roleUnit(role as Role) || "1"})`,
      ])
        expect([id, null]).toContain(guessed(written(log, 0, SEED + k, name)).procedure);
    });
  });

  test.each(all)("%s: what is assumed is enough to work it out, and is said", (id, logs) => {
    const p = procedure(id);
    if (!p) throw new Error(id);
    const text = written(logs[0] as SampleLog, 0, SEED);
    const { columns } = guessed(text);
    const readings = readingsOf(text, columns, p.readings);
    const { setup, assumed } = assumedSetup(p, readings);
    const analysis = analyseReadings(p, readings, setup, NO_CORRECTIONS);
    expect(analysis.findings.filter((f) => f.value !== "not stated").length).toBeGreaterThan(0);
    for (const f of analysis.findings) expect(f.unstated ?? []).toEqual([]);
    expect(assumed.map((a) => a.what)).toContain("instruments");
  });
});

function readingsOf(text: string, columns: ColumnMapping, kind: Readings["kind"]): Readings {
  if (kind === "trace") {
    const r = traceFromFile(text, {}, columns);
    if (!r.ok) throw new Error(r.error);
    return { kind: "trace", trace: r.value.trace };
  }
  const t = readTable(text);
  const r = t.ok ? importPoints(t.value, columns, "f") : t;
  if (!r.ok) throw new Error(r.error);
  return { kind: "points", points: r.value.points };
}

describe("columns named for their quantity alone", () => {
  const logOf = (id: string, k: number): SampleLog => ({
    procedure: id,
    ...(SAMPLE_LOGS[id] as (k: number) => Omit<SampleLog, "procedure">)(k),
  });
  const bare = (log: SampleLog, voltage: Role, current: Role): SampleLog => ({
    ...log,
    columns: Object.fromEntries(
      Object.entries(log.columns).filter(([r]) => r === "time" || r === voltage || r === current),
    ),
  });
  const names = (role: string): string =>
    role === "time" ? "Time (s)" : role.endsWith("Voltage") ? "Voltage (V)" : "Current (A)";

  test.each<[string, number, Role, Role]>([
    ["charge-cycle", 0, "cellVoltage", "cellCurrent"],
    ["charge-cycle", 2, "cellVoltage", "cellCurrent"],
    ["discharge", 0, "batteryVoltage", "batteryCurrent"],
    ["standby", 1, "batteryVoltage", "batteryCurrent"],
  ])("%s %i: one voltage and one current are placed by their curves", (id, k, voltage, current) => {
    const g = guessed(written(bare(logOf(id, k), voltage, current), 0, SEED, names));
    expect(g.procedure).toBe(id);
    expect(g.columns[voltage]).toMatchObject({ header: "Voltage (V)", unit: "V" });
    expect(g.columns[current]).toMatchObject({ header: "Current (A)", unit: "A" });
  });

  test("two voltages of which neither is named are not placed", () => {
    const t = readTable("Time (s),Voltage 1 (V),Voltage 2 (V),Current (A)\n0,3.6,5,0.1\n1,3.6,5,0.1\n2,3.6,5,0.1\n");
    if (!t.ok) throw new Error(t.error);
    expect(guessTable(t.value)).toMatchObject({ procedure: null, alternatives: [] });
    expect(Object.keys(guessMapping(t.value))).toEqual(["time"]);
  });
});

describe("what a log leaves to be assumed", () => {
  const points = (volts: readonly number[]): Readings => ({
    kind: "points",
    points: volts.map((value, k): Point => ({
      id: `p${k}`,
      sequence: k,
      settings: {},
      cells: { outputVoltage: { value, status: "ok" } },
    })),
  });
  test.each<[string, readonly number[], number | null]>([
    ["a little above the usual", [5.08, 5.05, 4.2], 5],
    ["nothing usual", [5.31, 5.28, 5.1], 5.3],
    ["a usual higher one", [12.1, 12, 11.8], 12],
    ["hardly anything", [0.01, 0], null],
    ["no output at all", [], null],
  ])("the nominal output of %s", (_, volts, expected) => {
    expect(likelyOutput(points(volts))).toBe(expected);
  });

  test("what was stated stays, and is not said to be assumed", () => {
    const p = procedure("load-sweep");
    if (!p) throw new Error("no load sweep");
    const { setup, assumed } = assumedSetup(p, points([5.08, 5.05]), { nominalOutput: 5.1, inputLeadResistance: 0.03 });
    expect(setup.conditions).toMatchObject({ nominalOutput: 5.1, inputLeadResistance: 0.03, outputLeadResistance: 0 });
    expect(assumed.map((a) => a.what)).toEqual(["instruments"]);
  });
});

test("what somebody emptied is not assumed again; what nobody spoke of is", () => {
  const p = procedure("ripple");
  if (!p) throw new Error("no ripple");
  const readings: Readings = {
    kind: "trace",
    trace: { columns: { time: Float64Array.of(0, 1e-6), outputVoltage: Float64Array.of(0, 0.01) }, events: [] },
  };
  expect(assumedSetup(p, readings).setup.conditions.bandwidth).toBe(20e6);
  expect(assumedSetup(p, readings, { bandwidth: undefined } as never).setup.conditions).not.toHaveProperty("bandwidth");
});
