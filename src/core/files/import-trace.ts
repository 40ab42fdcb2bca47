import { err, ok, type Result } from "../quantities";
import type { Trace } from "../measurement";
import type { FieldProblem, Explanation } from "./rows";
import type { ColumnMapping } from "./mapping";
import { readTable, type Dialect } from "./table";
import { joinColumns, type TraceColumns } from "./trace-columns";
import { TraceReader } from "./trace-reader";

export interface ImportedTrace {
  readonly trace: Trace;
  /** Cells that could not be read; their rows are not in the trace. */
  readonly problems: readonly FieldProblem[];
  /** What was put right on the way, in words. */
  readonly remarks: readonly string[];
  /** One way to read it that makes every odd row an ordinary one. */
  readonly explanation: Explanation | null;
}

/** Characters of a file's beginning that show how it is written. */
const HEAD = 65536;

/** How a file is written, as far as its beginning tells. */
export function headDialect(text: string, wanted: Partial<Dialect>): Result<Dialect> {
  const head =
    text.length > HEAD
      ? text.slice(0, Math.max(text.lastIndexOf("\n", HEAD), text.indexOf("\n")) + 1 || text.length)
      : text;
  const table = readTable(head, wanted);
  return table.ok ? ok(table.value.dialect) : table;
}

/** A trace from a whole file in one go. */
export function traceFromFile(
  text: string,
  wanted: Partial<Dialect>,
  mapping: ColumnMapping,
  lastLine: "ask" | "whole" = "ask",
): Result<ImportedTrace> {
  const dialect = headDialect(text, wanted);
  if (!dialect.ok) return dialect;
  const parts: TraceColumns[] = [];
  const reader = new TraceReader({ dialect: dialect.value, mapping, lastLine }, (columns) => parts.push(columns));
  reader.feed(new TextEncoder().encode(text));
  const read = reader.end();
  if (!read.ok) return err(read.error);
  return ok({
    trace: { columns: joinColumns(parts), events: [] },
    problems: read.value.problems,
    remarks: read.value.remarks,
    explanation: read.value.explanation,
  });
}
