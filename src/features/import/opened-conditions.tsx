"use client";

import { useState } from "react";
import type { Procedure, Role, RunConditions, RunSetup } from "@/core/procedures";
import type { Look } from "@/workers/protocol";
import { AccuracyTable } from "@/ui/accuracy-table";
import { AskedFields } from "./asked-fields";

/** What somebody said of a log: its conditions, and the meters that read it. */
export interface Said {
  readonly conditions: RunConditions;
  readonly instruments: RunSetup["instruments"];
}

export interface OpenedConditionsProps {
  readonly procedure: Procedure;
  readonly read: Extract<Look, { kind: "read" }>;
  readonly said: Said;
  onSaid(said: Said): void;
}

/** What results need and the file does not hold: each filled in where something fair can be assumed, and what was assumed. */
export function OpenedConditions({ procedure: p, read, said, onSaid }: OpenedConditionsProps) {
  const [meters, setMeters] = useState(false);
  // What was emptied is not known: it stands as nothing, or what was assumed to begin with would come back.
  const put = (condition: string, value: number | string | null) => onSaid({ ...said, conditions: { ...said.conditions, [condition]: value ?? undefined } as RunConditions });
  const roles = Object.keys(read.setup.instruments) as Role[];
  return (
    <>
      <div className="mt-3 flex flex-wrap gap-x-5">
        <AskedFields
          procedure={p}
          value={(c) => read.setup.conditions[c] ?? null}
          word={(c) => read.setup.conditions[c]}
          onValue={put}
          onWord={put}
        />
      </div>
      {[...read.assumed.map((a) => a.text), ...read.remarks].map((text) => (
        <p key={text} className="max-w-4xl text-sm text-pencil">
          {text}
        </p>
      ))}
      {roles.length ? (
        <details className="mt-1 text-sm" open={meters} onToggle={(e) => setMeters(e.currentTarget.open)}>
          <summary className="font-medium">Accuracy of the meters</summary>
          {meters ? (
            <div className="mt-2 overflow-x-auto">
              <AccuracyTable roles={roles} instruments={read.setup.instruments} onAccuracy={(role, a) => onSaid({ ...said, instruments: { ...said.instruments, [role]: a } })} />
            </div>
          ) : null}
        </details>
      ) : null}
    </>
  );
}
