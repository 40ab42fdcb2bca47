/**
 * Every stored record, version 12: its JSON Schema, published with the archive format and compiled ahead of time, and by it its type
 * (records.ts). Where a type stands in a room of its own (a need, a load, a day), the compiler holds the schema to it.
 */
import type { TSchema } from "typebox";
import { CHEMISTRIES } from "../cells";
import { BOARD_FUNCTIONS, type ConditionSpecs } from "../characteristics";
import { SOURCE_KINDS, type Claim, type ClaimReading, type Limit } from "../claims";
import { INSTRUMENT_KINDS, RANGE_UNITS, type Accuracy, type Instrument, type PinnedMeter } from "../instruments";
import {
  GUARDS,
  RECOVERIES,
  type HouseRules,
  type PointSettings,
  type RoleReading,
  type Role,
  type RunSetup,
} from "../measurement";
import type { AddedBoard, Facts, Need, OwnBuild, Requirement } from "../need/need";
import { FACTS, LEVELS } from "../need/need";
import type { DrawerEntry } from "../procedures";
import type { FindingsSheet, PaperContent } from "../sheet";
import type { SampleBetween } from "../use/between";
import type { Day } from "../use/day";
import { CHARGER_NUMBERS, FEED_TOLERANCES, type FeedPlan } from "../use/feed";
import { DRAWS, type Load } from "../use/load";
import { STATION_NUMBERS, type StationPlan } from "../use/station";
import type { Dialect } from "./dialect";
import type { ColumnMapping } from "./mapping";
import {
  CELL_SIGNS,
  RECORD_KINDS,
  type BoardId,
  type NotebookId,
  type PointId,
  type RecordKind,
  type RunId,
  type SampleId,
} from "./record-basics";
import {
  byKind,
  exactly,
  list,
  map,
  membersOf,
  nullOr,
  object,
  only,
  optional,
  schemaOf,
  words,
  type Schema,
  type SchemaType,
  type Shape,
} from "./schema-kit";

const text = schemaOf<string>({ type: "string" });
const line = schemaOf<string>({ type: "string", minLength: 1, maxLength: 400 });
const id = schemaOf<string>({ type: "string", minLength: 1, maxLength: 120 });
/** An id of a record of a kind. */
const idOf = <I extends string>(): Schema<I> => id as Schema<I>;
/** ISO UTC. */
const moment = schemaOf<string>({
  type: "string",
  pattern: "^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}(\\.\\d+)?Z$",
});
/** ISO date. */
const day = schemaOf<string>({ type: "string", pattern: "^\\d{4}-\\d{2}-\\d{2}$" });
const flag = schemaOf<boolean>({ type: "boolean" });
const number = schemaOf<number>({ type: "number" });
const positive = schemaOf<number>({ type: "number", exclusiveMinimum: 0 });
const zeroUp = schemaOf<number>({ type: "number", minimum: 0 });
const share = schemaOf<number>({ type: "number", minimum: 0, exclusiveMaximum: 1 });
const efficiency = schemaOf<number>({ type: "number", exclusiveMinimum: 0, maximum: 1 });
/** A whole number, from so many on. */
const whole = (minimum: number): Schema<number> => schemaOf<number>({ type: "integer", minimum });
/** Minutes from a beginning. */
const minute = whole(0);
const functions = schemaOf<readonly (typeof BOARD_FUNCTIONS)[number][]>({
  type: "array",
  items: { enum: [...BOARD_FUNCTIONS] },
  uniqueItems: true,
});
/** By role: of whichever roles there are. */
const byRole = <T>(schema: Schema<T>) => map(schema) as unknown as Schema<Readonly<Partial<Record<Role, T>>>>;
/** A number for each of several names. */
const each = <const K extends string, T>(names: readonly K[], schema: Schema<T>) =>
  Object.fromEntries(names.map((n) => [n, schema])) as { readonly [N in K]: Schema<T> };
const eachOptional = <const K extends string, T>(names: readonly K[], schema: Schema<T>) =>
  Object.fromEntries(names.map((n) => [n, optional(schema)])) as {
    readonly [N in K]: ReturnType<typeof optional<T>>;
  };

/** Carried by every record. */
const STAMP = {
  notebookId: idOf<NotebookId>(),
  createdAt: moment,
  updatedAt: moment,
  /** Deletion leaves a tombstone, so that undo and merging can tell it from never having been. */
  deletedAt: optional(moment),
  /** Hashes of earlier versions, oldest first: merging tells by them which of two versions came after the other. */
  lineage: optional(
    schemaOf<readonly string[]>({
      type: "array",
      items: { type: "string", pattern: "^[0-9a-f]{16}$" },
      maxItems: 400,
    }),
  ),
};
const record = <const K extends RecordKind, P extends Shape, I extends string = string>(
  kind: K,
  members: P,
  own: Schema<I> = idOf<I>(),
) => object({ kind: only(kind), id: own, ...STAMP, ...members });

const accuracy = exactly<Accuracy>()(
  object({
    gain: zeroUp,
    counts: zeroUp,
    resolution: zeroUp,
    assumed: optional(only(true)),
    like: optional(line),
  }),
);
const limit = exactly<Limit>()(
  byKind([
    object({
      kind: only("nominal"),
      nominal: number,
      tolerance: schemaOf<{ readonly kind: "relative" | "absolute"; readonly value: number } | null>({
        anyOf: [{ type: "null" }, object({ kind: words(["relative", "absolute"]), value: zeroUp })],
      }),
    }),
    object({ kind: only("at-least"), low: number }),
    object({ kind: only("at-most"), high: number }),
    object({ kind: only("from-to"), low: number, high: number }),
    object({ kind: only("one-of"), words: list(line) }),
    object({ kind: only("yes-no"), value: flag }),
  ]),
);
/** Conditions of a claim; the type names them, and any may be stored. */
const conditions = map(
  schemaOf<unknown>({ oneOf: [object({ at: number }), object({ from: number, to: number }), object({ word: line })] }),
) as unknown as Schema<ConditionSpecs>;
const claimReading = exactly<ClaimReading>()(object({ characteristic: line, limit, conditions }));
const range = object({
  id,
  title: line,
  unit: words(RANGE_UNITS),
  upTo: positive,
  accuracy,
  burden: optional(zeroUp),
});
const pinnedMeter = exactly<PinnedMeter>()(
  object({ instrumentId: id, rangeId: id, title: line, upTo: positive, burden: optional(zeroUp) }),
);
const settings = exactly<PointSettings>()(
  object({
    supplyVoltage: optional(zeroUp),
    supplyCurrentLimit: optional(zeroUp),
    load: optional(object({ mode: words(["current", "power", "resistance"]), value: zeroUp })),
    fromOff: optional(flag),
    reversed: optional(object({ ohms: zeroUp })),
  }),
);
const roleReading = exactly<RoleReading>()(
  object({ value: nullOr(number), status: words(["ok", "empty", "overload"]) }),
);
/** The resistor that sets a charger's current: Ω, and its relative tolerance. */
const programme = object({ ohms: positive, tolerance: zeroUp });
const dialect = exactly<Dialect>()(
  object({
    delimiter: schemaOf<string>({ type: "string", minLength: 1, maxLength: 1 }),
    decimal: words([".", ","]),
    skip: optional(whole(1)),
    headless: optional(only(true)),
    units: optional(only(true)),
    ends: optional(only("CR")),
  }),
);
/** Roles and units are checked where a file is read. */
const mapping = map(
  object({ header: text, unit: text, sign: optional(words([1, -1])) }),
) as unknown as Schema<ColumnMapping>;

const feedPlan = exactly<FeedPlan>()(
  object({
    stages: schemaOf<FeedPlan["stages"]>({
      type: "array",
      items: {
        oneOf: [
          object({ kind: words(["supply", "panel"]), volts: positive, limit: positive }),
          object({ kind: only("cable"), resistance: zeroUp }),
          object({
            kind: only("linear"),
            volts: positive,
            dropout: zeroUp,
            limit: positive,
            hottest: number,
            junctionSink: zeroUp,
          }),
          object({ kind: only("switching"), volts: positive, efficiency, limit: positive, least: positive }),
          object({ kind: only("port"), limit: positive, others: zeroUp }),
        ],
      },
      minItems: 1,
      maxItems: 40,
    }),
    charger: object({ kind: words(["linear", "switching"]), ...each(CHARGER_NUMBERS, number) }),
    ambient: number,
    day: object({ sun: zeroUp, load: zeroUp, energy: zeroUp }),
    tolerance: optional(object(each(FEED_TOLERANCES, share))),
  }),
);
const addedBoard = exactly<AddedBoard>()(
  object({
    price: zeroUp,
    current: zeroUp,
    height: zeroUp,
    resistance: optional(zeroUp),
    supplies: list(line),
    boardId: optional(id),
  }),
);
const ownBuild = exactly<OwnBuild>()(object({ parts: zeroUp, hours: zeroUp, hourly: zeroUp, boardId: optional(id) }));
const level = words(LEVELS);
const requirement = schemaOf<Requirement>(
  byKind([
    object({ id, level, kind: only("quantity"), reading: claimReading }),
    object({
      id,
      level,
      kind: only("life"),
      seconds: positive,
      capacity: positive,
      selfDischarge: zeroUp,
      state: nullOr(line),
    }),
    object({ id, level, kind: only("fact"), fact: words(FACTS), atMost: positive }),
  ]),
);
const between = exactly<SampleBetween>()(
  object({
    ownProtection: flag,
    jumper: flag,
    fuse: optional(positive),
    added: optional(object({ boardId: optional(id) })),
    taps: list(line),
    loads: list(line),
  }),
);
/** Later versions of the house rules brought more of them: those that are not there are the house's usual ones. */
const houseRules = schemaOf<HouseRules>(
  object({
    ...each(["batteryFull", "batteryNominal", "batteryEmpty", "regulationBand", "houseTolerance"], positive),
    ...each(["coverage", "bisection", "partLimit"], positive),
    dwell: zeroUp,
    ...eachOptional(["chargeRate", "chargeFull", "chargeEmpty", "socHigh", "storageVoltage"], positive),
    ...eachOptional(["rejectFloor", "cellLimit", "restDrop", "restDays", "cellResistance", "cellShare"], positive),
    socLow: optional(zeroUp),
    guard: optional(words(GUARDS)),
    digits: optional(words([1, 2])),
    touchLimit: optional(positive),
  }),
);
const modification = object({ id, date: day, text: line, functions });
const furtherFile = object({
  fileId: id,
  dialect,
  mapping,
  /** `after`: the log goes on in it; `beside`: another logger wrote it meanwhile. */
  join: words(["after", "beside"]),
  /** s on the first file's clock at which its first row stands. */
  starts: number,
});
/** Parts of records that have a name of their own. */
export const PARTS = { modification, programme, furtherFile };

const RECORDS = {
  notebook: record(
    "notebook",
    {
      title: line,
      /** Schema that the notebook's records follow. */
      schema: whole(1),
      demo: optional(flag),
    },
    idOf<NotebookId>(),
  ),
  rules: record("rules", { rules: houseRules }),
  rig: record("rig", {
    title: line,
    instruments: byRole(accuracy),
    /** Which meter and range reads a role; its accuracy stands above as well. Roles without one have an accuracy of their own. */
    meters: optional(byRole(pinnedMeter)),
    /** The one that new runs are planned with, where there are several. */
    inUse: optional(flag),
    supplyCurrentLimit: positive,
    inputLeadResistance: zeroUp,
    outputLeadResistance: zeroUp,
    /** What a meter check found meters to read too much with no current, V; later runs take it out. */
    offsets: optional(byRole(number)),
    /** Load resistors at hand; empty with an electronic load. */
    drawer: list(object({ ohms: positive, watts: positive })),
    useDrawer: flag,
  }),
  /** An instrument of the bench, with its ranges. */
  instrument: record("instrument", {
    ...membersOf<Instrument>()({
      title: line,
      device: words(INSTRUMENT_KINDS),
      ranges: list(range),
      limit: optional(positive),
      checked: optional(object({ date: day, note: text })),
      earlier: optional(list(object({ until: day, ranges: list(range) }))),
    }),
    note: text,
  }),
  /** What a list of needs asks of a board. */
  need: record(
    "need",
    membersOf<Need>()({
      title: line,
      note: text,
      currency: text,
      requirements: list(requirement),
      addedBoard: optional(addedBoard),
      build: optional(ownBuild),
    }),
  ),
  /** What is to be run from a cell through a board. */
  load: record(
    "load",
    membersOf<Load>()({
      title: line,
      note: text,
      voltage: positive,
      lowest: positive,
      steps: list(object({ draw: words(DRAWS), value: zeroUp, seconds: positive, off: optional(flag) }), {
        minItems: 1,
      }),
      surge: optional(positive),
      converters: list(efficiency),
      wiring: object({
        resistance: zeroUp,
        ampacity: positive,
        fuse: optional(positive),
        jumper: flag,
        taps: list(line),
        added: optional(
          object({
            trip: positive,
            tolerance: share,
            cut: zeroUp,
            resistance: zeroUp,
            current: zeroUp,
            boardId: optional(id),
          }),
        ),
      }),
      used: optional(list(object({ boardId: id, date: day, seconds: positive, ended: text }))),
    }),
  ),
  /** Cells of the drawer that were put together: `groups` in series, each of cells in parallel, by their ids. */
  pack: record("pack", {
    title: line,
    groups: list(list(id, { minItems: 1 }), { minItems: 1 }),
    /** The pack as one thing of the drawer, with a code of its own: what runs are made with. */
    cellId: optional(id),
    note: text,
  }),
  /** Many chargers on one supply, as planned. */
  station: record("station", { title: line, plan: exactly<StationPlan>()(object(each(STATION_NUMBERS, number))) }),
  /** What feeds a charger, as planned. */
  feed: record("feed", { title: line, plan: feedPlan }),
  /** A cell on a charger: in a bay of a station, or by itself. */
  cellCharge: record("cellCharge", {
    cellId: id,
    stationId: optional(id),
    /** Counted from 1, from the supply on. */
    bay: optional(whole(1)),
    startedAt: moment,
    /** V before it began. */
    startVolts: optional(number),
    /** A that its charger is set to. */
    current: optional(positive),
    /** s that it was predicted to take. */
    expected: optional(zeroUp),
    /** Absent while it charges. */
    endedAt: optional(moment),
    /** Taken out before it was full, and why. */
    stopped: optional(text),
  }),
  /** A day at the bench: its tasks, how each stands, when each is to begin. */
  day: record(
    "day",
    membersOf<Day>()({
      date: day,
      begins: minute,
      instruments: map(whole(0)),
      plan: map(minute),
      tasks: list(
        object({
          id,
          title: line,
          about: object({ ...eachOptional(["boardId", "sampleId", "cellId", "runId"], id), procedure: optional(line) }),
          steps: list(object({ minutes: whole(1), needs: map(whole(0)) }), { minItems: 1 }),
          after: list(id),
          at: optional(minute),
          started: optional(minute),
          ended: optional(minute),
          note: optional(text),
        }),
      ),
    }),
  ),
  /** A findings sheet as it was given out: a copy that no later reading changes, with the versions that made it. */
  issued: record("issued", {
    boardId: idOf<BoardId>(),
    title: line,
    issuedAt: moment,
    /** Whom or what for. */
    note: text,
    sheet: schemaOf<FindingsSheet>({ type: "object" }),
    charts: schemaOf<PaperContent["charts"]>({ type: "array", items: { type: "object" } }),
    wiring: schemaOf<PaperContent["wiring"]>({ anyOf: [{ type: "object" }, { type: "null" }] }),
    markdown: text,
    versions: object({
      application: line,
      schema: whole(1),
      /** Procedure → version of its analysis. */
      analyses: map(number),
      rules: schemaOf<Partial<HouseRules>>({ type: "object" }),
    }),
  }),
  board: record(
    "board",
    {
      title: line,
      note: text,
      functions,
      /** The simulated board that stands on the simulated bench for it, where there is one. */
      simulatedAs: optional(line),
      /** Price and size. */
      facts: optional(exactly<Facts>()(object(eachOptional(FACTS, positive)))),
      /** Usual claims that this board does not make: they are not offered again. */
      struck: optional(list(line)),
    },
    idOf<BoardId>(),
  ),
  claim: record("claim", {
    boardId: idOf<BoardId>(),
    ...membersOf<Omit<Claim, "id">>()({
      readings: list(claimReading, { minItems: 1 }),
      source: object({ kind: words(SOURCE_KINDS), wording: text, date: day }),
    }),
  }),
  sample: record(
    "sample",
    {
      boardId: idOf<BoardId>(),
      name: line,
      /** Jumpers and programme resistor in words; a claim's configuration is matched against it. */
      configuration: text,
      /** Setting of an adjustable output, V. */
      output: optional(positive),
      programme: optional(programme),
      /** What stands between its cell and everything else; absent: nobody said. */
      between: optional(between),
      modifications: list(modification),
      note: text,
    },
    idOf<SampleId>(),
  ),
  photo: record("photo", {
    sampleId: idOf<SampleId>(),
    name: line,
    mime: schemaOf<string>({ type: "string", pattern: "^image/" }),
    bytes: schemaOf<Uint8Array>({}),
  }),
  /** A cell of the drawer, with what its maker allows and where it departs from the house rules. */
  cell: record("cell", {
    ...membersOf<Omit<DrawerEntry, "id">>()({
      title: line,
      chemistry: words(CHEMISTRIES),
      series: optional(schemaOf<number>({ type: "integer", minimum: 1, maximum: 30 })),
      capacity: positive,
      chargeRateLimit: positive,
      chargeRate: optional(positive),
      fullVoltage: optional(positive),
      emptyVoltage: optional(positive),
      ownProtection: flag,
    }),
    note: text,
    /** Taken out of use, when and why. */
    rejected: optional(object({ date: day, why: line })),
  }),
  /** An import's raw form: the file as it came. */
  file: record("file", {
    name: line,
    sha256: schemaOf<string>({ type: "string", pattern: "^[0-9a-f]{64}$" }),
    /** Empty where the content is stored apart. */
    text,
    /** True for a log: its bytes are stored beside the records. An archive carries them in `text` all the same. */
    apart: optional(flag),
  }),
  run: record(
    "run",
    {
      boardId: idOf<BoardId>(),
      sampleId: idOf<SampleId>(),
      /** The cell of the drawer that was charged, discharged or read. */
      cellId: optional(id),
      procedure: line,
      title: line,
      /** The first reading, as far as it is known. */
      startUtc: moment,
      /** That moment rests on the date of a file, not on the log. */
      startAssumed: optional(flag),
      /** IANA zone in which it was taken. */
      zone: line,
      state: words(["prepared", "open", "finished"]),
      /** Pinned when the run was made: conditions, meters, leads, plan. The last is the procedure's own. */
      setup: schemaOf<RunSetup>(
        object({
          conditions: schemaOf<RunSetup["conditions"]>({ type: "object" }),
          instruments: byRole(accuracy),
          meters: optional(byRole(pinnedMeter)),
          offsets: optional(byRole(number)),
          plan: optional(schemaOf<unknown>({ type: "object" })),
        }),
      ),
      /** The sample as it then was. */
      pinned: object({
        configuration: text,
        output: optional(positive),
        programme: optional(programme),
        modifiedFunctions: functions,
      }),
      source: byKind([
        object({ kind: only("typed") }),
        object({ kind: only("simulated"), board: line, seed: schemaOf<number>({ type: "integer" }) }),
        object({
          kind: only("file"),
          fileId: id,
          dialect,
          mapping,
          skipBadRows: flag,
          more: optional(list(furtherFile)),
        }),
      ]),
      setAside: optional(line),
      /** Quantities for which this run was chosen to decide, whatever newer runs of the sample found. */
      decides: optional(list(line)),
    },
    idOf<RunId>(),
  ),
  /** A point as it was taken; never altered. A draft is one still being typed. */
  point: record(
    "point",
    {
      runId: idOf<RunId>(),
      sequence: whole(0),
      state: words(["draft", "taken", "withdrawn"]),
      settings,
      cells: byRole(roleReading),
      /** What stood in the fields, for a draft. */
      typed: optional(byRole(text)),
      dwell: optional(zeroUp),
      takenAt: optional(moment),
    },
    idOf<PointId>(),
  ),
  /** What was seen as an item of a checklist was done; never altered. */
  answer: record("answer", {
    runId: idOf<RunId>(),
    item: line,
    word: line,
    /** Battery voltage at which it was seen. */
    volts: optional(number),
    takenAt: moment,
  }),
  /** A look at a cell of the drawer: its rested volts, what was noticed. Never altered. */
  cellReading: record("cellReading", {
    cellId: id,
    takenAt: moment,
    /** V at rest; null where only a sign was noted. */
    volts: nullOr(number),
    /** It had come off the charger: its fall at rest counts from here. */
    charged: optional(flag),
    /** It had been used since it was last read: its volts say nothing of its rest. */
    used: optional(flag),
    sign: optional(words(CELL_SIGNS)),
    /** Ah that a tester of cells counted on discharge, Ω that it showed, and the share of its readings by which both may be off. */
    capacity: optional(positive),
    resistance: optional(positive),
    testerShare: optional(zeroUp),
    note: text,
    /** The meter it was read with, pinned. */
    meter: optional(accuracy),
  }),
  /** A layer over readings, with its reason. */
  annotation: record("annotation", {
    runId: idOf<RunId>(),
    what: words([
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
    ]),
    /** The point it speaks of; for `closed` the column, for `boundary` which one, for `mark` its kind, for `condition` its name. A `reading` corrects one cell of a point; `unused` names a role that nobody reads in this run. */
    target: line,
    text,
    /** s from the first row, for what speaks of a log; `until` ends a stretch. */
    time: optional(number),
    until: optional(number),
    recovery: optional(words(RECOVERIES)),
    /** A condition that was stated afterwards, or what a corrected reading was meant to be (absent: it was not read); SI. */
    value: optional(number),
    /** The cell that a corrected reading stands in. */
    role: optional(line as unknown as Schema<Role>),
  }),
};
type Unconflicted = { readonly [K in keyof typeof RECORDS]: SchemaType<(typeof RECORDS)[K]> };

export const RECORD_SCHEMAS = {
  ...RECORDS,
  /** What an archive held of a record that was changed here as well: kept beside it until one of the two is chosen. */
  conflict: record("conflict", {
    /** The record that it is a version of. */
    of: id,
    /** The archive it came from: its title and when it was exported. */
    archive: line,
    theirs: schemaOf<Unconflicted[keyof Unconflicted]>({
      type: "object",
      required: ["kind", "id"],
      properties: { kind: { enum: RECORD_KINDS.filter((k) => k !== "conflict") }, id },
    }),
  }),
} satisfies Readonly<Record<RecordKind, TSchema>>;

/** The manifest that opens an archive. */
export const MANIFEST_SCHEMA = {
  type: "object",
  properties: {
    format: { const: "nimbus-bench-archive" },
    version: whole(1),
    notebookId: id,
    title: line,
    exportedAt: moment,
    files: map(schemaOf<string>({ type: "string", pattern: "^[0-9a-f]{64}$" })),
    /** Path → bytes unpacked; from version 7 on. */
    sizes: map(whole(0)),
    /** Files whose bytes are not those that were imported any more. */
    damaged: list(line),
  },
  required: ["format", "version", "notebookId", "title", "exportedAt", "files"],
  additionalProperties: false,
};

export const ALL_SCHEMAS: readonly { readonly name: string; readonly schema: object }[] = [
  ...RECORD_KINDS.map((kind) => ({ name: kind, schema: RECORD_SCHEMAS[kind] })),
  { name: "manifest", schema: MANIFEST_SCHEMA },
];
