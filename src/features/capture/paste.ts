import Papa from "papaparse";
import { guessDecimal, guessDelimiter } from "@/core/files/table";
import { readField } from "@/core/files/numbers";
import { largestShown } from "@/core/instruments";
import { impossibleReadings } from "@/core/procedures";
import { roleLabel, roleUnit, type PointSettings, type RoleReading, type Role } from "@/core/measurement";

export interface PastedRow {
  readonly line: number;
  readonly cells: Readonly<Partial<Record<Role, RoleReading>>>;
  readonly settings: PointSettings;
}
export interface Pasted {
  readonly rows: readonly PastedRow[];
  readonly problems: readonly string[];
  /** What to ask about rows before they are kept. */
  readonly doubts: readonly string[];
}

/**
 * Rows copied from a spreadsheet, columns in the order of the screen (battery V, A, output V, A, temperature), in SI.
 * A first line of words is passed over. Each row is given the planned battery voltage nearest to its battery volts and
 * its own load current as the setting. Rows that can't be read are named and not taken.
 */
export function parsePasted(
  text: string,
  roles: readonly Role[],
  batteries: readonly number[],
  supplyLimit: number | undefined,
  nominalOutput?: number,
): Pasted {
  const delimiter = text.includes("\t") ? "\t" : guessDelimiter(text);
  const data = Papa.parse<string[]>(text.trim(), { delimiter, skipEmptyLines: "greedy" }).data;
  const decimal = guessDecimal(data);
  const body = data[0]?.some((c) => /[A-Za-z]{2}/.test(c) && !/^ol$/i.test(c.trim())) ? data.slice(1) : data;
  const offset = data.length - body.length + 1;
  const rows: PastedRow[] = [];
  const problems: string[] = [];
  body.forEach((row, i) => {
    const line = i + offset;
    const cells: Partial<Record<Role, RoleReading>> = {};
    let bad = false;
    roles.forEach((role, c) => {
      const value = row[c] ?? "";
      const cell = readField(value, decimal, 1, largestShown(roleUnit(role)));
      if (cell.ok) cells[role] = cell.value;
      else {
        problems.push(
          `Row ${line}, column ${c + 1} (${roleLabel(role).toLowerCase()}): “${value}” is not ${cell.error}.`,
        );
        bad = true;
      }
    });
    if (bad) return;
    const volts = cells.batteryVoltage?.value;
    const amps = cells.outputCurrent?.value;
    const nearest =
      typeof volts === "number" && batteries.length
        ? batteries.reduce((a, b) => (Math.abs(b - volts) < Math.abs(a - volts) ? b : a))
        : undefined;
    rows.push({
      line,
      cells,
      settings: {
        ...(nearest !== undefined ? { supplyVoltage: nearest } : {}),
        ...(supplyLimit !== undefined ? { supplyCurrentLimit: supplyLimit } : {}),
        ...(typeof amps === "number" ? { load: { mode: "current" as const, value: Math.max(0, amps) } } : {}),
      },
    });
  });
  const doubts = rows.flatMap((r) => {
    const { supplyVoltage: battery, load } = r.settings;
    const output = nominalOutput;
    const expected = {
      ...(battery !== undefined ? { batteryVoltage: battery } : {}),
      ...(output !== undefined ? { outputVoltage: output } : {}),
      ...(battery !== undefined && output !== undefined && load && load.value > 0
        ? { batteryCurrent: (output * load.value) / (0.85 * battery) }
        : {}),
    };
    return impossibleReadings(r.cells, expected).map((q) => `Row ${r.line}: ${q.message}`);
  });
  return { rows, problems, doubts };
}
