import { population, seedOf } from "@/testing/population";
import { procedure, type Procedure } from "../procedures";
import type { Readings, Role } from "../measurement";
import { seeded, type Random } from "../simulator";
import { readLog, type SetupFile } from ".";
import type { ColumnMapping } from "./mapping";
import { ELEMENTS } from "../quantities";

const { nth, sampleAt } = ELEMENTS;

const SEED = seedOf(20261201);
const FILES = population(500, 20_000);
/** A value that differs from the true one by more than this share is misread. */
const MISREAD = 0.001;

interface Written {
  readonly setup: SetupFile;
  readonly p: Procedure;
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly truth: readonly (readonly number[])[];
  readonly delimiter: string;
  readonly decimal: "." | ",";
  readonly newline: string;
}

/** A log as one of many loggers would write it: columns of a charge or of a sweep, any dialect, some cells empty. */
function write(r: Random): Written {
  const points = r.uniform() < 0.3;
  const p = procedure(points ? "load-sweep" : "charge-cycle") as Procedure;
  const roles: Role[] = points
    ? ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"]
    : ["time", "inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent", "partTemperature"];
  const [delimiter, decimal] =
    r.uniform() < 0.5
      ? [",", "." as const]
      : [[";", "\t", "|"][Math.floor(r.uniform() * 3)] as string, (r.uniform() < 0.5 ? "." : ",") as "." | ","];
  const places = { V: 3, A: 3, T: 1, t: 1 };
  const fixed = r.uniform() < 0.6;
  const spare = r.uniform() < 0.2;
  const spell = (v: number, n: number) => (fixed ? v.toFixed(n) : String(Number(v.toFixed(n)))).replace(".", decimal);
  const truth: number[][] = [];
  const rows = Array.from({ length: 40 }, (_, k) => {
    const values = roles.map((role) =>
      role === "time"
        ? 2.5 * k
        : role.endsWith("Voltage")
          ? r.between(2.8, 5.2)
          : role.endsWith("Current")
            ? r.between(0.02, 1.4)
            : r.between(20, 70),
    );
    const cells = values.map((v, c) =>
      spell(v, roles[c] === "time" ? places.t : roles[c] === "partTemperature" ? places.T : places.V),
    );
    const gone = r.uniform() < 0.1 ? 1 + Math.floor(r.uniform() * (roles.length - 1)) : -1;
    truth.push(cells.map((c, i) => (i === gone && !points ? NaN : Number(c.replace(",", ".")))));
    return [...cells.map((c, i) => (i === gone && !points ? "" : c)), ...(spare ? [""] : [])];
  });
  const names = roles.map(
    (role) =>
      `${role} (${role === "time" ? "s" : role.endsWith("Voltage") ? "V" : role.endsWith("Current") ? "A" : "degC"})`,
  );
  const columns: ColumnMapping = Object.fromEntries(
    roles.map((role, k) => [
      role,
      {
        header: names[k] as string,
        unit: role === "time" ? "s" : role.endsWith("Voltage") ? "V" : role.endsWith("Current") ? "A" : "degC",
      },
    ]),
  );
  return {
    p,
    head: names,
    rows,
    truth,
    delimiter,
    decimal,
    newline: r.uniform() < 0.5 ? "\n" : "\r\n",
    setup: {
      procedure: p.id,
      title: "",
      dialect: { delimiter, decimal },
      columns,
      setup: { conditions: {}, instruments: {} },
      events: [],
    },
  };
}

type Mutated = { readonly text: string; readonly lines: readonly number[] };
const whole = (w: Written, lines: readonly string[]) => lines.map((l) => l + w.newline).join("");
const quote = (w: Written, c: string) => (c.includes(w.delimiter) ? `"${c}"` : c);
const row = (w: Written, cells: readonly string[]) => cells.map((c) => quote(w, c)).join(w.delimiter);

const MUTATIONS: Readonly<Record<string, (w: Written, r: Random) => Mutated>> = {
  none: (w) => ({ text: whole(w, [row(w, w.head), ...w.rows.map((x) => row(w, x))]), lines: [] }),
  "last row cut": (w, r) => {
    const text = whole(w, [row(w, w.head), ...w.rows.map((x) => row(w, x))]);
    const last = row(w, w.rows[w.rows.length - 1] as string[]);
    return {
      text: text.slice(0, text.length - w.newline.length - Math.floor(r.uniform() * (last.length - 1))),
      lines: [w.rows.length + 1],
    };
  },
  "a cell missing or too many": (w, r) => {
    const lines = new Set(
      Array.from({ length: 1 + Math.floor(r.uniform() * 3) }, () => Math.floor(r.uniform() * w.rows.length)),
    );
    const rows = w.rows.map((cells, k) => {
      if (!lines.has(k)) return cells;
      const at = Math.floor(r.uniform() * w.head.length);
      return r.uniform() < 0.5
        ? cells.filter((_, c) => c !== at)
        : [...cells.slice(0, at), r.uniform() < 0.3 ? "" : `1${w.decimal}234`, ...cells.slice(at)];
    });
    return { text: whole(w, [row(w, w.head), ...rows.map((x) => row(w, x))]), lines: [...lines].map((k) => k + 2) };
  },
  "a body column missing or doubled": (w, r) => {
    const at = Math.floor(r.uniform() * w.head.length);
    const twice = r.uniform() < 0.5;
    return {
      text: whole(w, [
        row(w, w.head),
        ...w.rows.map((x) =>
          row(w, twice ? [...x.slice(0, at), x[at] as string, ...x.slice(at)] : x.filter((_, c) => c !== at)),
        ),
      ]),
      lines: w.rows.map((_, k) => k + 2),
    };
  },
  "a row with another delimiter": (w, r) => {
    const k = Math.floor(r.uniform() * w.rows.length);
    const other = [",", ";", "\t", "|"].filter((d) => d !== w.delimiter && d !== w.decimal)[
      Math.floor(r.uniform() * 2)
    ] as string;
    return {
      text: whole(w, [row(w, w.head), ...w.rows.map((x, i) => (i === k ? x.join(other) : row(w, x)))]),
      lines: [k + 2],
    };
  },
  "the other decimal mark in a cell": (w, r) => {
    const k = Math.floor(r.uniform() * w.rows.length);
    const at = Math.floor(r.uniform() * w.head.length);
    const other = w.decimal === "." ? "," : ".";
    const bare = r.uniform() < 0.5;
    const cell = (w.rows[k]?.[at] ?? "").replace(w.decimal, other);
    return {
      text: whole(w, [
        row(w, w.head),
        ...w.rows.map((x, i) =>
          i === k
            ? x.map((c, j) => (j === at ? (bare ? cell : `"${cell}"`) : quote(w, c))).join(w.delimiter)
            : row(w, x),
        ),
      ]),
      lines: [k + 2],
    };
  },
  "the other decimal mark in the whole file": (w) => {
    const other = w.decimal === "." ? "," : ".";
    return {
      text: whole(w, [
        row(w, w.head),
        ...w.rows.map((x) =>
          x
            .map((c) => c.replace(w.decimal, other))
            .map((c) => (c.includes(w.delimiter) ? `"${c}"` : c))
            .join(w.delimiter),
        ),
      ]),
      lines: w.rows.map((_, k) => k + 2),
    };
  },
};

/** Lines whose row was read as something else than what was meant. */
function misread(w: Written, readings: Readings, skipped: readonly number[]): number[] {
  const out: number[] = [];
  const roles = Object.keys(w.setup.columns) as Role[];
  const rows: { line: number; values: (number | undefined)[] }[] = [];
  if (readings.kind === "points")
    for (const p of readings.points)
      rows.push({ line: Number(p.id.split(":").pop()), values: roles.map((role) => p.cells[role]?.value ?? NaN) });
  else if (readings.kind === "trace") {
    const time = readings.trace.columns.time as Float64Array;
    // Rows of a log are told by their time: those that were taken carry a time that the file has.
    for (let k = 0; k < time.length; k++) {
      const start = w.truth.findIndex((_, i) => !skipped.includes(i + 2));
      const at = w.truth.findIndex((t) => Math.abs(nth(t, 0) - (w.truth[start]?.[0] ?? 0) - sampleAt(time, k)) < 0.01);
      rows.push({
        line: at < 0 ? -1 : at + 2,
        values: roles.map((role) =>
          role === "time" ? (w.truth[at]?.[0] ?? NaN) : (readings.trace.columns[role]?.[k] ?? NaN),
        ),
      });
    }
  }
  for (const { line, values } of rows) {
    const truth = w.truth[line - 2];
    if (!truth) {
      out.push(line);
      continue;
    }
    values.forEach((v, c) => {
      const t = nth(truth, c);
      if (
        Number.isNaN(t)
          ? !Number.isNaN(v)
          : v !== undefined && !Number.isNaN(v) && Math.abs(v - t) > MISREAD * Math.abs(t)
      )
        out.push(line);
    });
  }
  return out;
}

test(`of ${FILES} mutated files none is read in silence as something else, or throws (seed ${SEED})`, () => {
  const r = seeded(SEED);
  const names = Object.keys(MUTATIONS);
  const wrong: string[] = [];
  const tally: Record<string, { refused: number; read: number }> = {};
  for (let k = 0; k < FILES; k++) {
    const w = write(r);
    const name = names[k % names.length] as string;
    const m = (MUTATIONS[name] as (w: Written, r: Random) => Mutated)(w, r);
    const told = `#${k} ${name}, “${w.delimiter}” “${w.decimal}”`;
    const t = (tally[name] ??= { refused: 0, read: 0 });
    const read = readLog(new TextEncoder().encode(m.text), w.setup, w.p, "f.csv", false);
    if (read.ok) {
      t.read++;
      const lines = misread(w, read.value.readings, []);
      if (lines.length) wrong.push(`${told}: line ${lines[0]} read as something else in silence`);
    } else {
      t.refused++;
      if (name === "none") wrong.push(`${told}: refused: ${read.error}`);
      // The first ten rows are named each.
      const named = [...read.error.matchAll(/Line (\d+)/g)].map((x) => Number(x[1]));
      if (!m.lines.some((l) => named.includes(l)) && !/time runs back|names the column|fewer than two/.test(read.error))
        wrong.push(`${told}: the line is not named: ${read.error.slice(0, 200)}`);
      // Skipping what is odd leaves only what is right.
      const skipped = readLog(new TextEncoder().encode(m.text), w.setup, w.p, "f.csv", true);
      if (skipped.ok) {
        const lines = misread(w, skipped.value.readings, m.lines);
        if (lines.length)
          wrong.push(
            `${told}: line ${lines[0]} read as something else though odd rows were skipped; ${read.error.slice(0, 300)} ||| ${m.text.slice(0, 400)}`,
          );
      }
    }
  }
  expect([JSON.stringify(tally), wrong.slice(0, 12)]).toEqual([JSON.stringify(tally), []]);
  expect(tally["the other decimal mark in a cell"]?.refused).toBeGreaterThan(0);
});
