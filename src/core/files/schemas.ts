/** JSON Schemas of every stored record, version 12; published with the archive format and compiled ahead of time. */
import { CHEMISTRIES } from "../cells";
import { BOARD_FUNCTIONS } from "../characteristics";
import { SOURCE_KINDS } from "../claims";
import { FACTS, LEVELS } from "../need/need";
import { DRAWS } from "../use/load";
import { CHARGER_NUMBERS, FEED_TOLERANCES } from "../use/feed";
import { STATION_NUMBERS } from "../use/station";
import { GUARDS } from "../measurement";
import { INSTRUMENT_KINDS, RANGE_UNITS } from "../instruments";
import { CELL_SIGNS, RECORD_KINDS, type RecordKind } from "./records";

type Schema = Readonly<Record<string, unknown>>;

const text = { type: "string" } as const;
const line = { type: "string", minLength: 1, maxLength: 400 } as const;
const id = { type: "string", minLength: 1, maxLength: 120 } as const;
const moment = { type: "string", pattern: "^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}(\\.\\d+)?Z$" } as const;
const day = { type: "string", pattern: "^\\d{4}-\\d{2}-\\d{2}$" } as const;
const lineage = { type: "array", items: { type: "string", pattern: "^[0-9a-f]{16}$" }, maxItems: 400 } as const;
const number = { type: "number" } as const;
const positive = { type: "number", exclusiveMinimum: 0 } as const;
const zeroUp = { type: "number", minimum: 0 } as const;
const share = { type: "number", minimum: 0, exclusiveMaximum: 1 } as const;
/** Minutes from a beginning. */
const minute = { type: "integer", minimum: 0 } as const;
const functions = { type: "array", items: { enum: [...BOARD_FUNCTIONS] }, uniqueItems: true } as const;

const object = (properties: Record<string, Schema>, optional: readonly string[] = []): Schema => ({
  type: "object",
  properties,
  required: Object.keys(properties).filter((k) => !optional.includes(k)),
  additionalProperties: false,
});
const list = (items: Schema): Schema => ({ type: "array", items });
const map = (values: Schema): Schema => ({ type: "object", additionalProperties: values });

const record = (kind: RecordKind, properties: Record<string, Schema>, optional: readonly string[] = []): Schema =>
  object(
    {
      kind: { const: kind },
      id,
      notebookId: id,
      createdAt: moment,
      updatedAt: moment,
      deletedAt: moment,
      lineage,
      ...properties,
    },
    ["deletedAt", "lineage", ...optional],
  );

const accuracy = object({ gain: zeroUp, counts: zeroUp, resolution: zeroUp, assumed: { const: true }, like: line }, [
  "assumed",
  "like",
]);
const limit: Schema = {
  type: "object",
  required: ["kind"],
  oneOf: [
    object({
      kind: { const: "nominal" },
      nominal: number,
      tolerance: { anyOf: [{ type: "null" }, object({ kind: { enum: ["relative", "absolute"] }, value: zeroUp })] },
    }),
    object({ kind: { const: "at-least" }, low: number }),
    object({ kind: { const: "at-most" }, high: number }),
    object({ kind: { const: "from-to" }, low: number, high: number }),
    object({ kind: { const: "one-of" }, words: list(line) }),
    object({ kind: { const: "yes-no" }, value: { type: "boolean" } }),
  ],
};
const range = object({ id, title: line, unit: { enum: [...RANGE_UNITS] }, upTo: positive, accuracy, burden: zeroUp }, [
  "burden",
]);
const feedStages = [
  object({ kind: { enum: ["supply", "panel"] }, volts: positive, limit: positive }),
  object({ kind: { const: "cable" }, resistance: zeroUp }),
  object({
    kind: { const: "linear" },
    volts: positive,
    dropout: zeroUp,
    limit: positive,
    hottest: number,
    junctionSink: zeroUp,
  }),
  object({
    kind: { const: "switching" },
    volts: positive,
    efficiency: { type: "number", exclusiveMinimum: 0, maximum: 1 },
    limit: positive,
    least: positive,
  }),
  object({ kind: { const: "port" }, limit: positive, others: zeroUp }),
];
const pinnedMeter = object({ instrumentId: id, rangeId: id, title: line, upTo: positive, burden: zeroUp }, ["burden"]);
const condition: Schema = {
  oneOf: [object({ at: number }), object({ from: number, to: number }), object({ word: line })],
};
const load = object({ mode: { enum: ["current", "power", "resistance"] }, value: zeroUp });
const settings = object(
  {
    supplyVoltage: zeroUp,
    supplyCurrentLimit: zeroUp,
    load,
    fromOff: { type: "boolean" },
    reversed: object({ ohms: zeroUp }),
  },
  ["supplyVoltage", "supplyCurrentLimit", "load", "fromOff", "reversed"],
);
const cell = object({ value: { anyOf: [number, { type: "null" }] }, status: { enum: ["ok", "empty", "overload"] } });
const column = object({ header: text, unit: text, sign: { enum: [1, -1] } }, ["sign"]);
/** A programming resistor with its relative tolerance. */
const programme = object({ ohms: positive, tolerance: zeroUp });
const resistor = object({ ohms: positive, watts: positive });

const dialect = object(
  {
    delimiter: { type: "string", minLength: 1, maxLength: 1 },
    decimal: { enum: [".", ","] },
    skip: { type: "integer", minimum: 1 },
    headless: { const: true },
    units: { const: true },
    ends: { const: "CR" },
  },
  ["skip", "headless", "units", "ends"],
);

export const RECORD_SCHEMAS: Readonly<Record<RecordKind, Schema>> = {
  notebook: record("notebook", { title: line, schema: { type: "integer", minimum: 1 }, demo: { type: "boolean" } }, [
    "demo",
  ]),
  rules: record("rules", {
    rules: object(
      {
        batteryFull: positive,
        batteryNominal: positive,
        batteryEmpty: positive,
        regulationBand: positive,
        houseTolerance: positive,
        coverage: positive,
        dwell: zeroUp,
        bisection: positive,
        partLimit: positive,
        chargeRate: positive,
        chargeFull: positive,
        chargeEmpty: positive,
        socHigh: positive,
        socLow: zeroUp,
        storageVoltage: positive,
        rejectFloor: positive,
        cellLimit: positive,
        restDrop: positive,
        restDays: positive,
        cellResistance: positive,
        cellShare: positive,
        guard: { enum: [...GUARDS] },
        digits: { enum: [1, 2] },
        touchLimit: positive,
      },
      [
        "guard",
        "digits",
        "touchLimit",
        "chargeRate",
        "chargeFull",
        "chargeEmpty",
        "socHigh",
        "socLow",
        "storageVoltage",
        "rejectFloor",
        "cellLimit",
        "restDrop",
        "restDays",
        "cellResistance",
        "cellShare",
      ],
    ),
  }),
  rig: record(
    "rig",
    {
      title: line,
      instruments: map(accuracy),
      supplyCurrentLimit: positive,
      inputLeadResistance: zeroUp,
      outputLeadResistance: zeroUp,
      drawer: list(resistor),
      useDrawer: { type: "boolean" },
      offsets: map(number),
      meters: map(pinnedMeter),
      inUse: { type: "boolean" },
    },
    ["offsets", "meters", "inUse"],
  ),
  instrument: record(
    "instrument",
    {
      title: line,
      device: { enum: [...INSTRUMENT_KINDS] },
      ranges: list(range),
      limit: positive,
      checked: object({ date: day, note: text }),
      earlier: list(object({ until: day, ranges: list(range) })),
      note: text,
    },
    ["limit", "checked", "earlier"],
  ),
  need: record(
    "need",
    {
      title: line,
      note: text,
      currency: text,
      requirements: list({
        type: "object",
        required: ["kind"],
        oneOf: [
          object({
            id,
            level: { enum: [...LEVELS] },
            kind: { const: "quantity" },
            reading: object({ characteristic: line, limit, conditions: map(condition) }),
          }),
          object({
            id,
            level: { enum: [...LEVELS] },
            kind: { const: "life" },
            seconds: positive,
            capacity: positive,
            selfDischarge: zeroUp,
            state: { anyOf: [line, { type: "null" }] },
          }),
          object({
            id,
            level: { enum: [...LEVELS] },
            kind: { const: "fact" },
            fact: { enum: [...FACTS] },
            atMost: positive,
          }),
        ],
      }),
      addedBoard: object(
        { price: zeroUp, current: zeroUp, height: zeroUp, resistance: zeroUp, supplies: list(line), boardId: id },
        ["resistance", "boardId"],
      ),
      build: object({ parts: zeroUp, hours: zeroUp, hourly: zeroUp, boardId: id }, ["boardId"]),
    },
    ["addedBoard", "build"],
  ),
  load: record(
    "load",
    {
      title: line,
      note: text,
      voltage: positive,
      lowest: positive,
      steps: {
        ...list(
          object({ draw: { enum: [...DRAWS] }, value: zeroUp, seconds: positive, off: { type: "boolean" } }, ["off"]),
        ),
        minItems: 1,
      },
      surge: positive,
      converters: list({ type: "number", exclusiveMinimum: 0, maximum: 1 }),
      wiring: object(
        {
          resistance: zeroUp,
          ampacity: positive,
          fuse: positive,
          jumper: { type: "boolean" },
          taps: list(line),
          added: object(
            { trip: positive, tolerance: share, cut: zeroUp, resistance: zeroUp, current: zeroUp, boardId: id },
            ["boardId"],
          ),
        },
        ["fuse", "added"],
      ),
      used: list(object({ boardId: id, date: day, seconds: positive, ended: text })),
    },
    ["surge", "used"],
  ),
  pack: record(
    "pack",
    { title: line, groups: { ...list({ ...list(id), minItems: 1 }), minItems: 1 }, cellId: id, note: text },
    ["cellId"],
  ),
  feed: record("feed", {
    title: line,
    plan: object(
      {
        stages: { type: "array", items: { oneOf: feedStages }, minItems: 1, maxItems: 40 },
        charger: object({
          kind: { enum: ["linear", "switching"] },
          ...Object.fromEntries(CHARGER_NUMBERS.map((key) => [key, number])),
        }),
        ambient: number,
        day: object({ sun: zeroUp, load: zeroUp, energy: zeroUp }),
        tolerance: object(Object.fromEntries(FEED_TOLERANCES.map((key) => [key, share]))),
      },
      ["tolerance"],
    ),
  }),
  station: record("station", {
    title: line,
    plan: object(Object.fromEntries(STATION_NUMBERS.map((key) => [key, number]))),
  }),
  cellCharge: record(
    "cellCharge",
    {
      cellId: id,
      stationId: id,
      bay: { type: "integer", minimum: 1 },
      startedAt: moment,
      startVolts: number,
      current: positive,
      expected: zeroUp,
      endedAt: moment,
      stopped: text,
    },
    ["stationId", "bay", "startVolts", "current", "expected", "endedAt", "stopped"],
  ),
  day: record("day", {
    date: day,
    begins: minute,
    instruments: map({ type: "integer", minimum: 0 }),
    plan: map(minute),
    tasks: list(
      object(
        {
          id,
          title: line,
          about: object({ boardId: id, sampleId: id, procedure: line, cellId: id, runId: id }, [
            "boardId",
            "sampleId",
            "procedure",
            "cellId",
            "runId",
          ]),
          steps: {
            ...list(object({ minutes: { type: "integer", minimum: 1 }, needs: map({ type: "integer", minimum: 0 }) })),
            minItems: 1,
          },
          after: list(id),
          at: minute,
          started: minute,
          ended: minute,
          note: text,
        },
        ["at", "started", "ended", "note"],
      ),
    ),
  }),
  issued: record("issued", {
    boardId: id,
    title: line,
    issuedAt: moment,
    note: text,
    sheet: { type: "object" },
    charts: list({ type: "object" }),
    wiring: { anyOf: [{ type: "object" }, { type: "null" }] },
    markdown: text,
    versions: object({
      application: line,
      schema: { type: "integer", minimum: 1 },
      analyses: map(number),
      rules: { type: "object" },
    }),
  }),
  board: record(
    "board",
    {
      title: line,
      note: text,
      functions,
      simulatedAs: line,
      facts: object(Object.fromEntries(FACTS.map((f) => [f, positive])), FACTS),
      struck: list(line),
    },
    ["simulatedAs", "facts", "struck"],
  ),
  claim: record("claim", {
    boardId: id,
    readings: { ...list(object({ characteristic: line, limit, conditions: map(condition) })), minItems: 1 },
    source: object({ kind: { enum: [...SOURCE_KINDS] }, wording: text, date: day }),
  }),
  sample: record(
    "sample",
    {
      boardId: id,
      name: line,
      configuration: text,
      output: positive,
      programme,
      modifications: list(object({ id, date: day, text: line, functions })),
      note: text,
      between: object(
        {
          ownProtection: { type: "boolean" },
          jumper: { type: "boolean" },
          fuse: positive,
          added: object({ boardId: id }, ["boardId"]),
          taps: list(line),
          loads: list(line),
        },
        ["fuse", "added"],
      ),
    },
    ["output", "programme", "between"],
  ),
  photo: record("photo", { sampleId: id, name: line, mime: { type: "string", pattern: "^image/" }, bytes: {} }),
  cell: record(
    "cell",
    {
      title: line,
      chemistry: { enum: [...CHEMISTRIES] },
      series: { type: "integer", minimum: 1, maximum: 30 },
      capacity: positive,
      chargeRateLimit: positive,
      chargeRate: positive,
      fullVoltage: positive,
      emptyVoltage: positive,
      ownProtection: { type: "boolean" },
      note: text,
      rejected: object({ date: day, why: line }),
    },
    ["series", "chargeRate", "fullVoltage", "emptyVoltage", "rejected"],
  ),
  file: record(
    "file",
    { name: line, sha256: { type: "string", pattern: "^[0-9a-f]{64}$" }, text, apart: { type: "boolean" } },
    ["apart"],
  ),
  run: record(
    "run",
    {
      boardId: id,
      sampleId: id,
      cellId: id,
      procedure: line,
      title: line,
      startUtc: moment,
      zone: line,
      state: { enum: ["prepared", "open", "finished"] },
      setup: object(
        {
          conditions: { type: "object" },
          instruments: map(accuracy),
          meters: map(pinnedMeter),
          offsets: map(number),
          plan: { type: "object" },
        },
        ["meters", "offsets", "plan"],
      ),
      pinned: object({ configuration: text, output: positive, programme, modifiedFunctions: functions }, [
        "output",
        "programme",
      ]),
      source: {
        type: "object",
        required: ["kind"],
        oneOf: [
          object({ kind: { const: "typed" } }),
          object({ kind: { const: "simulated" }, board: line, seed: { type: "integer" } }),
          object(
            {
              kind: { const: "file" },
              fileId: id,
              dialect,
              mapping: map(column),
              skipBadRows: { type: "boolean" },
              more: list(
                object({
                  fileId: id,
                  dialect,
                  mapping: map(column),
                  join: { enum: ["after", "beside"] },
                  starts: number,
                }),
              ),
            },
            ["more"],
          ),
        ],
      },
      setAside: line,
      startAssumed: { type: "boolean" },
      decides: list(line),
    },
    ["setAside", "cellId", "startAssumed", "decides"],
  ),
  point: record(
    "point",
    {
      runId: id,
      sequence: { type: "integer", minimum: 0 },
      state: { enum: ["draft", "taken", "withdrawn"] },
      settings,
      cells: map(cell),
      typed: map(text),
      dwell: zeroUp,
      takenAt: moment,
    },
    ["typed", "dwell", "takenAt"],
  ),
  answer: record("answer", { runId: id, item: line, word: line, volts: number, takenAt: moment }, ["volts"]),
  cellReading: record(
    "cellReading",
    {
      cellId: id,
      takenAt: moment,
      volts: { anyOf: [number, { type: "null" }] },
      charged: { type: "boolean" },
      used: { type: "boolean" },
      sign: { enum: [...CELL_SIGNS] },
      capacity: positive,
      resistance: positive,
      testerShare: zeroUp,
      note: text,
      meter: accuracy,
    },
    ["charged", "used", "sign", "capacity", "resistance", "testerShare", "meter"],
  ),
  annotation: record(
    "annotation",
    {
      runId: id,
      what: {
        enum: [
          "left-out",
          "recovery",
          "closed",
          "note",
          "mark",
          "unwatched",
          "boundary",
          "condition",
          "reading",
          "unused",
        ],
      },
      target: line,
      text,
      time: number,
      until: number,
      recovery: { enum: ["automatic", "load-removal", "power-cycle", "none"] },
      value: number,
      role: line,
    },
    ["recovery", "time", "until", "value", "role"],
  ),
  conflict: record("conflict", {
    of: id,
    archive: line,
    theirs: {
      type: "object",
      required: ["kind", "id"],
      properties: { kind: { enum: RECORD_KINDS.filter((k) => k !== "conflict") }, id },
    },
  }),
};

/** The manifest that opens an archive. */
export const MANIFEST_SCHEMA: Schema = {
  type: "object",
  properties: {
    format: { const: "nimbus-bench-archive" },
    version: { type: "integer", minimum: 1 },
    notebookId: id,
    title: line,
    exportedAt: moment,
    files: map({ type: "string", pattern: "^[0-9a-f]{64}$" }),
    /** Path → bytes unpacked; from version 7 on. */
    sizes: map({ type: "integer", minimum: 0 }),
    /** Files whose bytes are not those that were imported any more. */
    damaged: list(line),
  },
  required: ["format", "version", "notebookId", "title", "exportedAt", "files"],
  additionalProperties: false,
};

export const ALL_SCHEMAS: readonly { readonly name: string; readonly schema: Schema }[] = [
  ...RECORD_KINDS.map((kind) => ({ name: kind, schema: RECORD_SCHEMAS[kind] })),
  { name: "manifest", schema: MANIFEST_SCHEMA },
];
