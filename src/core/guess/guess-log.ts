import { guessMapping, readTable, type ColumnMapping, type Dialect, type MappedRole, type TextTable } from "../files";
import { plainQuantity } from "../files/mapping";
import type { Role } from "../measurement";
import { err, ok, type Result } from "../quantities";
import { tableColumns } from "./columns";
import { guessFromColumns, type Guess } from "./guess";

export interface LogGuess extends Guess {
  readonly columns: ColumnMapping;
}

/** Roles that columns named for their quantity alone may have, and what their readings look like then. */
const UNNAMED: readonly (readonly [voltage: Role, current: Role])[] = [
  ["cellVoltage", "cellCurrent"],
  ["batteryVoltage", "batteryCurrent"],
];

/**
 * The mappings that heads allow: what they name, and, where a table has one voltage and one current that are named for nothing else, each
 * place in which the two may have been measured.
 */
export function possibleMappings(table: TextTable): ColumnMapping[] {
  const named = guessMapping(table);
  if (Object.keys(named).some((r) => r.endsWith("Voltage") || (r.endsWith("Current") && r !== "setLoad")))
    return [named];
  const taken = new Set(Object.values(named).map((c) => c?.header));
  const plain = (q: "V" | "A") =>
    table.headers.flatMap((header) => (!taken.has(header) ? (plainQuantity(header, q) ?? []) : []));
  const [volts, amps] = [plain("V"), plain("A")];
  if (volts.length !== 1 || amps.length !== 1) return [named];
  return UNNAMED.map(
    ([v, a]) =>
      ({ ...named, [v]: volts[0], [a]: amps[0] }) as Partial<
        Record<MappedRole, ColumnMapping[MappedRole]>
      > as ColumnMapping,
  );
}

/**
 * What a table most likely is, its columns told apart by their heads. With heads that say nothing (`ch1`) no column is, and nothing is
 * guessed: a wrong guess costs more than a question. With `given` the columns are as somebody said.
 */
export function guessTable(table: TextTable, given?: ColumnMapping): LogGuess {
  const all = (given ? [given] : possibleMappings(table)).map((columns): LogGuess => ({
    columns,
    ...guessFromColumns(tableColumns(table, columns)),
  }));
  const likeliest = (g: Guess) => g.likeness;
  return all.reduce((a, b) => (likeliest(b) > likeliest(a) ? b : a));
}

/** The same of a text, with the table as it was cut. */
export function guessText(
  text: string,
  dialect: Partial<Dialect> = {},
): Result<{ readonly table: TextTable; readonly guess: LogGuess }> {
  const table = readTable(text, dialect);
  return table.ok ? ok({ table: table.value, guess: guessTable(table.value) }) : err(table.error);
}
