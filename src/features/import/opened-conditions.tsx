"use client";

import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Procedure } from "@/core/procedures";
import type { Role, RunConditions, RunSetup } from "@/core/measurement";
import type { Look } from "@/workers/protocol";
import { AccuracyTable } from "@/ui/accuracy-table";
import { useTyped } from "@/ui/use-typed";
import { AskedFields, firstWords, statedConditions, type AskedForm } from "./asked-fields";

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
  const form = useForm<AskedForm>({
    defaultValues: {
      sampleId: "",
      conditions: {
        ...firstWords(p),
        ...Object.fromEntries(p.asks.map((q) => [q.condition, null])),
        ...(read.setup.conditions as AskedForm["conditions"]),
      },
    },
  });
  useTyped(form, (name, { conditions }) => {
    const key = name.replace("conditions.", "");
    // What was emptied is not known: it stands as nothing, or what was assumed to begin with would come back.
    onSaid({ ...said, conditions: { ...said.conditions, [key]: statedConditions(conditions)[key] } as RunConditions });
  });
  const roles = Object.keys(read.setup.instruments) as Role[];
  return (
    <>
      <div className="mt-3 flex flex-wrap gap-x-5">
        <AskedFields procedure={p} control={form.control} />
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
              <AccuracyTable
                roles={roles}
                instruments={read.setup.instruments}
                onAccuracy={(role, a) => onSaid({ ...said, instruments: { ...said.instruments, [role]: a } })}
              />
            </div>
          ) : null}
        </details>
      ) : null}
    </>
  );
}
