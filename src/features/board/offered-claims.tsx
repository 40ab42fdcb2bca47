"use client";

import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { usualClaims, type Characteristic } from "@/core/characteristics";
import { formatLimit, parseLimit } from "@/core/claims";
import type { BoardRecord, ClaimRecord } from "@/core/files/records";
import { attempt } from "@/browser/notify";
import { change, edit, newId, now, todaysDate } from "@/storage";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";

const SOME: Readonly<
  Partial<
    Record<
      Characteristic["unit"],
      { readonly nominal: string; readonly "at-least": string; readonly "at-most": string }
    >
  >
> = {
  V: { nominal: "5 V ±2 %", "at-least": "≥ 4.8 V", "at-most": "≤ 50m" },
  A: { nominal: "1 A ±10 %", "at-least": "1A5", "at-most": "≤ 150u" },
  "1": { nominal: "94 %", "at-least": "94 %", "at-most": "≤ 3 %" },
  s: { nominal: "30 s", "at-least": "≥ 10 s", "at-most": "≤ 40 s" },
};

/** What a claim on a characteristic may look like. */
function example(c: Characteristic): string {
  if (c.usualLimit === "yes-no") return "yes or no";
  if (c.usualLimit === "one-of") return `such as ${c.words?.[0] ?? "a word"}`;
  if (c.usualLimit === "from-to") return "such as 4.5–5.5";
  const some = SOME[c.unit]?.[c.usualLimit];
  return some ? `such as ${some}` : "";
}

/** The claims that boards with these functions usually carry, to fill in or strike. */
export function OfferedClaims({ board, claims }: { board: BoardRecord; claims: readonly ClaimRecord[] }) {
  const made = new Set(claims.flatMap((c) => c.readings.map((r) => r.characteristic)));
  const offers = usualClaims(board.functions).filter((c) => !made.has(c.name) && !board.struck?.includes(c.name));
  // Open while there is nothing yet; filling in the first must not close it under the user's hands.
  const [open, setOpen] = useState(claims.length === 0);
  if (offers.length === 0) return null;
  return (
    <details open={open} onToggle={(e) => setOpen(e.currentTarget.open)} className="mt-2">
      <summary className="font-medium">
        Usual claims for this kind of board <span className="text-pencil">({offers.length} to fill in or dismiss)</span>
      </summary>
      <ul className="mt-2 divide-y divide-rule border-y border-rule">
        {offers.map((c) => (
          <Offer key={c.name} board={board} entry={c} />
        ))}
      </ul>
    </details>
  );
}

function Offer({ board, entry }: { board: BoardRecord; entry: Characteristic }) {
  const { control, handleSubmit } = useForm({ mode: "onTouched", defaultValues: { text: "" } });
  const text = useWatch({ control, name: "text" });
  const parsed = text.trim() ? parseLimit(text, entry) : null;
  const check = (t: string): string | null => {
    const p = t.trim() ? parseLimit(t, entry) : null;
    return p && !p.ok ? p.error : null;
  };
  const save = handleSubmit(async (f) => {
    const p = parseLimit(f.text, entry);
    if (!p.ok) return;
    const at = now();
    await attempt(() =>
      change(`claim on ${entry.label.toLowerCase()}`, [
        {
          kind: "claim",
          id: newId(),
          notebookId: board.notebookId,
          createdAt: at,
          updatedAt: at,
          boardId: board.id,
          readings: [{ characteristic: entry.name, limit: p.value, conditions: {} }],
          source: { kind: "listing", wording: f.text.trim(), date: todaysDate() },
        },
      ]),
    );
  });
  return (
    <li className="grid items-start gap-x-4 gap-y-1 py-2 min-[640px]:grid-cols-[14rem_minmax(0,1fr)_auto]">
      <div>
        <span className="font-medium">{entry.label}</span>
        <span className="block text-xs text-pencil">{entry.definition}</span>
      </div>
      <Form onSubmit={save}>
        <FormText
          control={control}
          name="text"
          label={`Claimed ${entry.label.toLowerCase()}`}
          hideLabel
          placeholder={example(entry)}
          echo={parsed?.ok ? formatLimit(parsed.value, entry.unit) : undefined}
          check={check}
          missing="Enter what is claimed."
          wide
        />
        <button type="submit" className="sr-only">
          Add claim on {entry.label}
        </button>
      </Form>
      <span className="flex gap-3">
        <Button onClick={() => void save()} disabled={!text.trim()} aria-label={`Save claim on ${entry.label}`}>
          Save
        </Button>
        <Button
          look="bare"
          aria-label={`Dismiss ${entry.label}`}
          onClick={() =>
            void attempt(() =>
              change(`dismiss ${entry.label.toLowerCase()}`, [
                edit(board, { ...board, struck: [...(board.struck ?? []), entry.name] }),
              ]),
            )
          }
        >
          Dismiss
        </Button>
      </span>
    </li>
  );
}
