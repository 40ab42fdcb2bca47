import { CHARACTERISTICS, characteristic } from "../characteristics";
import { PROCEDURE_FACTS } from "../procedures/catalogue";
import type { BoardColumn } from "./column";

const behind = new Map<string, readonly string[]>();

/** The procedures whose runs say all that is known of a characteristic: the one that it is run for, and any other that measures it too. */
export function proceduresBehind(name: string): readonly string[] {
  const known = behind.get(name);
  if (known) return known;
  const run = characteristic(name)?.run;
  const found = [
    ...new Set([...(run ? [run] : []), ...PROCEDURE_FACTS.flatMap((f) => (f.measures.includes(name) ? [f.id] : []))]),
  ];
  behind.set(name, found);
  return found;
}

/** Whether runs of these procedures say all that is known of a characteristic. */
export const toldBy = (name: string, procedures: ReadonlySet<string>): boolean =>
  proceduresBehind(name).every((p) => procedures.has(p));

/** As much of a board's cells as runs of these procedures tell whole. */
export const cellsToldBy = (cells: BoardColumn["cells"], procedures: ReadonlySet<string>): BoardColumn["cells"] =>
  Object.fromEntries(Object.entries(cells).filter(([name]) => toldBy(name, procedures)));

/** Rows that a window has room for, before it is measured. */
export const ROOM = 22;
/** Quantities that are looked at for each row that is still empty: no board has all that the dictionary names. */
const A_ROW = 1.4;

/**
 * The procedures behind the rows in sight: of those that are known, from row `from` on, and, where they leave room, of the quantities that
 * may come below them: the next in the dictionary that `may` stand there and are not `told` yet.
 */
export function proceduresInSight(
  rows: readonly { readonly name: string }[],
  { from, room }: { readonly from: number; readonly room: number },
  may: (name: string) => boolean = () => true,
  told: (name: string) => boolean = () => false,
): Set<string> {
  const names = rows.slice(from, from + room).map((r) => r.name);
  const lowest = rows.at(-1)?.name;
  const below = CHARACTERISTICS.slice(1 + CHARACTERISTICS.findIndex((c) => c.name === lowest));
  const next = below.filter((c) => may(c.name) && !told(c.name)).slice(0, Math.ceil(A_ROW * (room - names.length)));
  return new Set([...names, ...next.map((c) => c.name)].flatMap(proceduresBehind));
}

/** The procedures behind the rows that stand first, while nothing says which are in sight. */
export const FIRST_PROCEDURES: ReadonlySet<string> = proceduresInSight([], { from: 0, room: ROOM });
