"use client";

import { formatQuantity } from "@/core/quantities";
import { roleLabel, roleUnit, type LogValues, type Role } from "@/core/measurement";
import type { RunDossier } from "@/notebook";
import { Button } from "@/ui/button";
import { NotRead, NotReadButton } from "@/ui/not-read";
import { shownReading } from "./readout";
import { useTypedRow, type TypedRowState } from "./use-typed-row";

interface TypedRowProps {
  readonly d: RunDossier;
  readonly before: LogValues | null;
  onRow(values: LogValues): void;
  readonly muted: boolean;
}

/** A reading typed now and then, in the large figures themselves: Enter goes on, the last one records the row at this moment. */
export function TypedRow({ d, before, onRow, muted }: TypedRowProps) {
  const row = useTypedRow(d, before, muted, onRow);
  return (
    <div role="group" aria-label="Type a reading">
      <div className="grid grid-cols-2 gap-x-5 gap-y-2">
        {row.roles.map((role, i) => (
          <TypedReading key={role} d={d} row={row} role={role} at={i} before={before} />
        ))}
      </div>
      <NotRead roles={row.unused} onRead={(role) => row.setUsed(role, true)} />
      <p role="status" className="min-h-5 text-sm">
        {row.said || "Enter goes to the next field; the last one records the row."}
      </p>
      <Asked row={row} />
    </div>
  );
}

function TypedReading({
  d,
  row,
  role,
  at,
  before,
}: {
  readonly d: RunDossier;
  readonly row: TypedRowState;
  readonly role: Role;
  readonly at: number;
  readonly before: LogValues | null;
}) {
  const last = shownReading(d.run, role, before);
  const text = row.text(role);
  return (
    <div className="min-w-0 text-sm text-pencil">
      <p className="flex flex-wrap items-baseline justify-between gap-x-2">
        <label id={`row-${role}-label`} htmlFor={`row-${role}`}>
          {roleLabel(role)}
        </label>
        {before?.[role] === undefined ? null : (
          <span>
            last{" "}
            <span className="figures whitespace-nowrap" data-readout={roleLabel(role)}>
              {last.number} {last.unit}
            </span>
          </span>
        )}
        {row.needed(role) || text !== "" || before?.[role] !== undefined ? null : (
          <NotReadButton labelId={`row-${role}-label`} onPress={() => row.setUsed(role, false)} />
        )}
      </p>
      <span className="flex items-baseline border-b-2 border-pencil outline-copper focus-within:border-copper has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-offset-2">
        <input
          id={`row-${role}`}
          ref={row.field(at)}
          autoFocus={at === 0}
          data-number=""
          autoComplete="off"
          spellCheck={false}
          value={text}
          onChange={(e) => row.type(role, e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            row.next(at);
          }}
          className="figures w-full min-w-0 bg-transparent text-5xl leading-tight text-ink outline-none"
        />
        <span className="text-xl">{roleUnit(role)}</span>
      </span>
    </div>
  );
}

/** What stands in a row's way, and the ways on. */
function Asked({ row }: { readonly row: TypedRowState }) {
  const [first] = row.asked;
  if (!first) return null;
  return (
    <div role="alert" className="border-l-4 border-misses pl-2">
      <p className="font-medium">Not saved yet.</p>
      {row.asked.map((q) => (
        <p key={q.code + (q.role ?? "")}>{q.message}</p>
      ))}
      <div className="mt-1 flex flex-wrap gap-2">
        {first.role && first.meant !== undefined ? (
          <Button look="main" onClick={() => row.meant(first.role as Role, String(first.meant))}>
            I meant {formatQuantity(first.meant, roleUnit(first.role), { digits: 4 })}
          </Button>
        ) : null}
        {row.asked.some((q) => q.severity === "stop") ? null : <Button onClick={row.asRead}>Save as read</Button>}
      </div>
    </div>
  );
}
