"use client";

import { useState } from "react";
import { roleLabel, roleUnit, type Point, type Role } from "@/core/procedures";
import { Button } from "./button";
import { Dialog } from "./dialog";
import { Form } from "./form";
import { NumberField } from "./number-field";
import { TextField } from "./quantity-field";

const COMMON = ["mistyped", "misread"];

interface CorrectDialogProps {
  readonly point: Point;
  readonly number: number;
  readonly roles: readonly Role[];
  onClose(): void;
  onCorrect(anew: Readonly<Partial<Record<Role, number | null>>>, why: string): Promise<boolean>;
}

/** A point's readings, corrected in place; what was first read stays beside them. */
export function CorrectDialog({ point, number, roles, onClose, onCorrect }: CorrectDialogProps) {
  const [values, setValues] = useState<Partial<Record<Role, number | null>>>(() => Object.fromEntries(roles.map((r) => [r, point.cells[r]?.value ?? null])));
  const [bad, setBad] = useState<ReadonlySet<Role>>(new Set());
  const [why, setWhy] = useState("mistyped");
  const anew = Object.fromEntries(roles.filter((r) => (values[r] ?? null) !== (point.cells[r]?.value ?? null)).map((r) => [r, values[r] ?? null])) as Partial<Record<Role, number | null>>;
  const changed = Object.keys(anew).length > 0;
  return (
    <Dialog title={`Correct point ${number}`} about="The first reading is kept with the reason." onClose={onClose}>
      <Form
        onSubmit={() => {
          if (changed && bad.size === 0 && why.trim()) void onCorrect(anew, why.trim()).then((good) => good && onClose());
        }}
      >
        <div className="grid grid-cols-2 gap-x-4">
          {roles.map((role, i) => (
            <NumberField
              key={role}
              label={roleLabel(role)}
              quantity={roleUnit(role)}
              value={values[role] ?? null}
              optional
              autoFocus={i === 0}
              onValue={(v, empty) => {
                setValues((all) => ({ ...all, [role]: v }));
                setBad((all) => new Set([...[...all].filter((r) => r !== role), ...(v === null && !empty ? [role] : [])]));
              }}
            />
          ))}
        </div>
        <TextField label="Why" text={why} onText={setWhy} wide error={why.trim() ? null : "Enter a reason."} />
        <div className="mb-4 flex flex-wrap gap-2">
          {COMMON.map((c) => (
            <Button key={c} onClick={() => setWhy(c)}>
              {c}
            </Button>
          ))}
        </div>
        <Button look="main" type="submit" disabled={!changed || bad.size > 0 || !why.trim()}>
          Correct point
        </Button>
      </Form>
    </Dialog>
  );
}
