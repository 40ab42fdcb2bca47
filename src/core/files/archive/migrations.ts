import { SCHEMA_VERSION } from "../records";

type Raw = Record<string, unknown>;
type Migration = (record: Raw) => Raw;

const schema =
  (to: number): Migration =>
  (r) =>
    r.kind === "notebook" ? { ...r, schema: to } : r;
/** Version 2 only added: cells, and marks and boundaries on logs. */
const cellsAndLogs = schema(2);
/** Version 3 only added: answers, readings of cells, the cell of a run. */
const answersAndCells = schema(3);
/** Version 4 only added: instruments, needs, issued sheets, the meters of a rig and of a run. */
const instrumentsAndNeeds = schema(4);
/** Version 5 brought conditions that are stated afterwards, and imported runs that keep their own time. Earlier imports were dated by their import. */
const ownTimes: Migration = (r) =>
  r.kind === "notebook"
    ? { ...r, schema: 5 }
    : r.kind === "run" && (r.source as { kind?: string } | undefined)?.kind === "file"
      ? { ...r, startAssumed: true }
      : r;
/** Version 6 only added: assumed accuracies, corrected readings, runs chosen to decide. */
const choices = schema(6);
/** Version 7 only added to records: earlier versions, conflicts. In the archive, contents of files are bytes and the manifest lists sizes. */
const versions = schema(7);
/** Version 8 only added: where a table's head stands. In the archive, a README and the schemas of its records. */
const heads = schema(8);
/** Version 9 only added: loads. */
const loads = schema(9);
/** Version 10 only added: packs, stations, charges in their bays, days at the bench, what feeds a charger. */
const many = schema(10);
/** Version 11 only added: boards of the notebook that a need may add or build. */
const ownBoards = schema(11);
/** Version 12 only added: what stands between a sample's cell and everything else, a load's added board of the notebook, tolerances of a feed. */
const between = schema(12);

/** Earlier formats are brought up step by step; entry n − 1 takes version n to n + 1. */
const MIGRATIONS: readonly Migration[] = [
  cellsAndLogs,
  answersAndCells,
  instrumentsAndNeeds,
  ownTimes,
  choices,
  versions,
  heads,
  loads,
  many,
  ownBoards,
  between,
];

/** A record of format `version` in today's form. */
export const migrated = (record: Raw, version: number): Raw =>
  MIGRATIONS.slice(version - 1, SCHEMA_VERSION - 1).reduce((r, migrate) => migrate(r), record);
