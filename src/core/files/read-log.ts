/** One file with its set-up, read as its procedure wants it: what the command line and scripts do with a log. */
import { err, ok, type Result } from "../quantities";
import { roleLabel, type Readings, type Role } from "../measurement";
import type { Procedure } from "../procedures";
import { decodeText, ENCODING_NAMES } from "./encoding";
import { pointsFromFile } from "./import-points";
import { traceFromFile } from "./import-trace";
import { describeProblem, type FieldProblem, type Explanation } from "./rows";
import type { SetupFile } from "./setup-file";
import { FEW_ROWS } from "./trace-reader";

export interface LogRead {
  readonly readings: Readings;
  /** What was put right on the way, and what the procedure has no use for. */
  readonly notes: readonly { readonly code: string; readonly message: string }[];
}

const named = (role: Role): string => `${roleLabel(role).toLowerCase()} (${role})`;

/** The roles that a procedure can't do without and a file's columns lack, and groups of which it has none; null where none is. */
export function missingRoles(
  p: Procedure,
  mapped: readonly string[],
): { readonly required: readonly Role[]; readonly groups: readonly (readonly Role[])[] } | null {
  const has = (role: Role) => mapped.includes(role);
  const { either = [], roles } = p.record;
  // A table of one column a cell says which cell it is by its columns.
  const required = roles
    .filter((r) => r.required && !has(r.role) && !(r.role in INSTEAD && mapped.some((m) => /^cell\d+Voltage$/.test(m))))
    .map((r) => r.role);
  const [first] = either;
  const groups = first && !either.some((g) => g.every(has)) ? either : [];
  return required.length === 0 && groups.length === 0 ? null : { required, groups };
}

/** What `missingRoles` gives, as a sentence. */
export function lackingRoles(p: Procedure, mapped: readonly string[]): string | null {
  const missing = missingRoles(p, mapped);
  if (!missing) return null;
  const { required, groups } = missing;
  const wants = [
    ...required.map(named),
    ...(groups.length ? [groups.map((g) => g.map(named).join(" and ")).join(", or ")] : []),
  ];
  return `${p.title} (${p.id}) needs ${wants.join("; ")}, and no column is assigned to ${wants.length === 1 && groups.length === 0 ? "it" : "them"}.`;
}
/** Roles that a table of one column a cell has no column for. */
const INSTEAD: Readonly<Partial<Record<Role, true>>> = { cell: true, cellVoltage: true };

/** Rows shown of those that can't be read. */
const SHOWN = 10;

function refusal(problems: readonly FieldProblem[], hint: Explanation | null): string {
  const shown = problems.slice(0, SHOWN).map(describeProblem);
  if (problems.length > SHOWN) shown.push(`… and ${problems.length - SHOWN} more`);
  return [
    ...shown,
    ...(hint
      ? [
          `One cause would explain ${problems.length === 1 ? "it" : "all"}: ${hint.text} ${hint.dialect?.decimal ? `Then set “decimal” to “${hint.dialect.decimal}” in the set-up.` : "Then end it with a line feed."}`,
        ]
      : []),
  ].join("\n");
}

/** Reads a file's bytes as its set-up says. The error is one line a problem; nothing odd is taken without `skipBadRows`. */
export function readLog(
  bytes: Uint8Array,
  setup: SetupFile,
  p: Procedure,
  name: string,
  skipBadRows: boolean,
): Result<LogRead> {
  const mapped = Object.keys(setup.columns);
  if (p.readings === "answers") return err(`${p.title} is answered at the bench, not read from a file.`);
  const lacks = lackingRoles(p, mapped);
  if (lacks) return err(lacks);
  const { text, encoding } = decodeText(bytes);
  const used = new Set<string>(p.record.roles.map((r) => r.role));
  const notes = [
    ...(encoding === "utf-8"
      ? []
      : [{ code: "encoding", message: `The file is written in ${ENCODING_NAMES[encoding]}.` }]),
    ...mapped
      .filter(
        (role) => !used.has(role) && !(role === "setVoltage" || role === "setLoad") && !/^cell\d+Voltage$/.test(role),
      )
      .map((role) => ({ code: "unused-role", message: `${p.title} has no use for ${role}: that column is not read.` })),
  ];
  const read =
    p.readings === "points"
      ? pointsFromFile(text, setup.dialect, setup.columns, name)
      : traceFromFile(text, setup.dialect, setup.columns);
  if (!read.ok) return err(read.error);
  const { problems, remarks, explanation } = read.value;
  if (problems.length && !skipBadRows) return err(refusal(problems, explanation));
  if ("trace" in read.value && (read.value.trace.columns.time?.length ?? 0) < 2) return err(FEW_ROWS);
  const left = new Set(problems.map((x) => x.line)).size;
  const readings: Readings =
    "points" in read.value
      ? { kind: "points", points: read.value.points }
      : { kind: "trace", trace: { ...read.value.trace, events: setup.events } };
  return ok({
    readings,
    notes: [
      ...notes,
      ...remarks.map((message) => ({ code: "file", message })),
      ...(left
        ? [
            {
              code: "skipped-rows",
              message: `${left} ${left === 1 ? "row" : "rows"} that can't be read ${left === 1 ? "was" : "were"} skipped.`,
            },
          ]
        : []),
    ],
  });
}
