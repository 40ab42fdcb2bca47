"use client";

import { useForm, useWatch } from "react-hook-form";
import { roleLabel, roleUnit, type Point, type Role } from "@/core/measurement";
import { Button } from "./button";
import { Dialog } from "./dialog";
import { Form } from "./form";
import { FormNumber, FormText } from "./form-fields";

const COMMON = ["mistyped", "misread"];

interface CorrectDialogProps {
  readonly point: Point;
  readonly number: number;
  readonly roles: readonly Role[];
  onClose(): void;
  onCorrect(anew: Readonly<Partial<Record<Role, number | null>>>, why: string): Promise<boolean>;
}

type Values = Partial<Record<Role, number | null>>;
interface Fields {
  values: Values;
  why: string;
}

/** The readings that differ from what was read. */
const anew = (point: Point, roles: readonly Role[], values: Values): Values =>
  Object.fromEntries(
    roles.filter((r) => (values[r] ?? null) !== (point.cells[r]?.value ?? null)).map((r) => [r, values[r] ?? null]),
  );

/** A point's readings, corrected in place; what was first read stays beside them. */
export function CorrectDialog({ point, number, roles, onClose, onCorrect }: CorrectDialogProps) {
  const { control, handleSubmit, setValue } = useForm<Fields>({
    defaultValues: {
      values: Object.fromEntries(roles.map((r) => [r, point.cells[r]?.value ?? null])),
      why: "mistyped",
    },
  });
  const changed = Object.keys(anew(point, roles, useWatch({ control, name: "values" }))).length > 0;
  const save = handleSubmit(async ({ values, why }) => {
    if (await onCorrect(anew(point, roles, values), why.trim())) onClose();
  });
  return (
    <Dialog title={`Correct point ${number}`} about="The first reading is kept with the reason." onClose={onClose}>
      <Form onSubmit={save}>
        <div className="grid grid-cols-2 gap-x-4">
          {roles.map((role, i) => (
            <FormNumber
              key={role}
              control={control}
              name={`values.${role}`}
              label={roleLabel(role)}
              quantity={roleUnit(role)}
              autoFocus={i === 0}
            />
          ))}
        </div>
        <FormText control={control} name="why" label="Why" missing="Enter a reason." wide />
        <div className="mb-4 flex flex-wrap gap-2">
          {COMMON.map((c) => (
            <Button key={c} onClick={() => setValue("why", c)}>
              {c}
            </Button>
          ))}
        </div>
        <Button look="main" type="submit" disabled={!changed}>
          Correct point
        </Button>
      </Form>
    </Dialog>
  );
}
