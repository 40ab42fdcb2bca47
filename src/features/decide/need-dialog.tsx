"use client";

import { Controller, useFieldArray, useForm, useWatch, type Control } from "react-hook-form";
import { characteristic, CONDITION_LABELS, CONDITION_UNITS } from "@/core/characteristics";
import { unitSymbol } from "@/core/quantities";
import { LEVELS, type AddedBoard, type Candidate, type Need, type OwnBuild, type Requirement } from "@/core/need";
import { newId } from "@/storage";
import { Button } from "@/ui/button";
import { CheckList, Checkbox } from "@/ui/checkbox";
import { Dialog } from "@/ui/dialog";
import { capacityRefusal } from "@/ui/capacity";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";
import { MILLIMETRES, NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";
import { Select, type Choice } from "@/ui/select";
import { notNegative, positive } from "@/ui/refusals";
import { askedConditions, FACT_CHOICES, freshRow, OTHERS, requirementOf, rowOf, USUAL, type Row } from "./need-fields";

interface NeedDialogProps {
  readonly need: Need | null;
  /** Boards of the notebook, which may be what is added or built. */
  readonly boards: readonly Pick<Candidate, "boardId" | "title" | "functions">[];
  onKeep(n: Need): Promise<boolean>;
  readonly onDelete: (() => void) | null;
  onClose(): void;
}

const SUPPLIES = ["protect.over-discharge-present", "protect.over-current", "protect.short-present"] as const;
const WHAT_CHOICES: readonly Choice<string>[] = [
  ...USUAL.map((u) => ({ value: u.what, label: u.label, group: "Usual" })),
  ...FACT_CHOICES.map((f) => ({ value: f.what, label: f.label, group: "Board details" })),
  ...OTHERS.map((c) => ({ value: c.name, label: c.label, group: "Any other quantity" })),
];

interface Fields {
  title: string;
  note: string;
  currency: string;
  rows: Row[];
  /** What could be added or built where no board has it; null: not allowed. */
  added: AddedBoard | null;
  build: OwnBuild | null;
}

const fieldsOf = (need: Need | null): Fields => ({
  title: need?.title ?? "",
  note: need?.note ?? "",
  currency: need?.currency ?? "€",
  rows: need?.requirements.map(rowOf) ?? [freshRow(newId()), { ...freshRow(newId(), "boost.max-current"), conditions: { battery: "3.1" } }],
  added: need?.addedBoard ?? null,
  build: need?.build ?? null,
});

/** A need: what a use must and should have, and what could be added or built where no board has it. */
export function NeedDialog({ need, boards, onKeep, onDelete, onClose }: NeedDialogProps) {
  const { control, handleSubmit } = useForm<Fields>({ defaultValues: fieldsOf(need) });
  const currency = useWatch({ control, name: "currency" });
  const save = handleSubmit(async ({ title, note, currency: sign, rows, added, build }) => {
    const requirements = rows.map(requirementOf).flatMap((p): Requirement[] => (p.ok ? [p.value] : []));
    await onKeep({ title: title.trim(), note: note.trim(), currency: sign.trim(), requirements, ...(added ? { addedBoard: added } : {}), ...(build ? { build } : {}) });
  });
  return (
    <Dialog title={need ? `Change “${need.title}”` : "Add need"} about="Must-haves and should-haves. Write limits as in claims: at least 250m, 4.75 to 5.25, yes." onClose={onClose} wide>
      <Form onSubmit={save}>
        <div className="flex flex-wrap gap-x-5">
          <FormText control={control} name="title" label="What is it for?" missing="Enter a name." autoFocus />
          <FormText control={control} name="note" label="Note" className="min-w-60 flex-1" wide />
          <FormText control={control} name="currency" label="Currency" className="w-24" />
        </div>
        <Requirements control={control} />
        <Controller control={control} name="added" render={({ field }) => <AddedBoardFields boards={boards} added={field.value} currency={currency} onChange={field.onChange} />} />
        <Controller control={control} name="build" render={({ field }) => <BuildFields boards={boards} build={field.value} currency={currency} onChange={field.onChange} />} />
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Save need
          </Button>
          {onDelete ? (
            <Button look="danger" className="ml-auto" onClick={onDelete}>
              Delete
            </Button>
          ) : null}
        </div>
      </Form>
    </Dialog>
  );
}

/** A row is one value of the form: choosing another quantity changes what it asks. */
function Requirements({ control }: { readonly control: Control<Fields> }) {
  const list = useFieldArray({ control, name: "rows", keyName: "key" });
  const rows = useWatch({ control, name: "rows" });
  const check = (r: Row): true | string => {
    const p = requirementOf(r);
    return p.ok ? true : p.error;
  };
  return (
    <>
      <ol className="mb-3 divide-y divide-rule border-y border-rule">
        {list.fields.map((f, k) => (
          <li key={f.key} className="py-2">
            <Controller
              control={control}
              name={`rows.${k}`}
              rules={{ validate: check }}
              render={({ field, fieldState }) => (
                <>
                  <RequirementFields r={field.value} number={k + 1} onChange={(patch) => field.onChange({ ...field.value, ...patch })} onRemove={rows.length > 1 ? () => list.remove(k) : null} />
                  {fieldState.error?.message ? <p role="alert" className="text-sm text-misses">{fieldState.error.message}</p> : null}
                </>
              )}
            />
          </li>
        ))}
      </ol>
      <p className="mb-4">
        <Button onClick={() => list.append(freshRow(newId(), USUAL.find((u) => !rows.some((r) => r.what === u.what))?.what))}>
          Add requirement
        </Button>
      </p>
    </>
  );
}

type Boards = NeedDialogProps["boards"];

/** A board of the notebook that stands for what is added or built, if it is one. */
function BoardChoice({ label, boards, boardId, onBoard }: { readonly label: string; readonly boards: Boards; readonly boardId: string | undefined; onBoard(id: string | undefined): void }) {
  return <Select label={label} place="above" value={boards.some((b) => b.boardId === boardId) ? (boardId ?? "") : ""} onValue={(id) => onBoard(id || undefined)} choices={[{ value: "", label: "none of the notebook" }, ...boards.map((b) => ({ value: b.boardId, label: b.title }))]} />;
}

const withBoard = <T extends { readonly boardId?: string }>(of: T, id: string | undefined): T => {
  const { boardId: _before, ...rest } = of;
  void _before;
  return (id ? { ...rest, boardId: id } : rest) as T;
};

function AddedBoardFields({ added, boards, currency, onChange }: { readonly added: AddedBoard | null; readonly boards: Boards; readonly currency: string; onChange(b: AddedBoard | null): void }) {
  return (
    <>
      <Checkbox className="mb-2 flex" checked={added !== null} onChecked={(on) => onChange(on ? { price: 1, current: 5e-6, height: 0.003, resistance: 0.05, supplies: [...SUPPLIES] } : null)}>
        Allow an added protection board
      </Checkbox>
      {added ? (
        <fieldset className="mb-3 border-l-2 border-rule pl-3">
          <legend className="sr-only">The protection board</legend>
          <div className="mb-2">
            <BoardChoice label="The added board is" boards={boards.filter((b) => b.functions.includes("protection"))} boardId={added.boardId} onBoard={(id) => onChange(withBoard(added, id))} />
          </div>
          {added.boardId ? <p className="mb-2 max-w-prose text-sm text-pencil">Its measured cut, trip, resistance and standby decide. The values below are used where nothing was measured or entered for it.</p> : null}
          <div className="flex flex-wrap gap-x-5">
            <NumberField label={`Its price, ${currency}`} quantity="" value={added.price} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...added, price: v })} />
            <NumberField label="Its quiescent current" quantity="A" value={added.current} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...added, current: v })} />
            <NumberField label="Its height" quantity="m" printed={MILLIMETRES} value={added.height} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...added, height: v })} />
            <NumberField label="Its resistance" quantity="Ω" value={added.resistance ?? 0} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...added, resistance: v })} />
          </div>
          {added.boardId ? null : <CheckList label="It provides" values={added.supplies} onValues={(supplies) => onChange({ ...added, supplies })} choices={SUPPLIES.map((value) => ({ value, label: characteristic(value)?.label.toLowerCase() ?? value }))} className="text-sm" />}
        </fieldset>
      ) : null}
    </>
  );
}

function BuildFields({ build, boards, currency, onChange }: { readonly build: OwnBuild | null; readonly boards: Boards; readonly currency: string; onChange(b: OwnBuild | null): void }) {
  return (
    <>
      <Checkbox className="mb-2 flex" checked={build !== null} onChecked={(on) => onChange(on ? { parts: 6, hours: 3, hourly: 0 } : null)}>
        Allow an own build
      </Checkbox>
      {build ? (
        <div className="mb-3 flex flex-wrap gap-x-5 border-l-2 border-rule pl-3">
          <div className="mb-2 basis-full">
            <BoardChoice label="The own build is" boards={boards} boardId={build.boardId} onBoard={(id) => onChange(withBoard(build, id))} />
          </div>
          <NumberField label={`Parts, ${currency}`} quantity="" value={build.parts} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...build, parts: v })} />
          <NumberField label="Hours at the bench" quantity="" value={build.hours} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...build, hours: v })} />
          <NumberField label={`An hour is worth, ${currency}`} quantity="" value={build.hourly} refuse={notNegative} onValue={(v) => v !== null && onChange({ ...build, hourly: v })} />
        </div>
      ) : null}
    </>
  );
}

function limitLabel(what: string): string {
  const symbol = unitSymbol(characteristic(what)?.unit ?? "");
  return symbol ? `Limit, ${symbol}` : "Limit";
}

function RequirementFields({ r, number, onChange, onRemove }: { readonly r: Row; readonly number: number; onChange(patch: Partial<Row>): void; readonly onRemove: (() => void) | null }) {
  const fact = r.what.startsWith("fact:");
  return (
    <div role="group" aria-label={`Requirement ${number}`} className="flex flex-wrap items-start gap-x-4">
      <Select label="It" place="above" value={r.level} onValue={(level) => onChange({ level })} choices={LEVELS.map((value) => ({ value, label: `${value} have` }))} />
      <Select label="What" place="above" value={r.what} onValue={(what) => onChange({ ...freshRow(r.id, what), level: r.level })} choices={WHAT_CHOICES} />
      {fact ? <NumberField key={r.what} label="At most" quantity={r.what === "fact:price" ? "" : "m"} {...(r.what === "fact:price" ? {} : { printed: MILLIMETRES })} value={r.atMost} refuse={positive} onValue={(v) => onChange({ atMost: v })} /> : null}
      {r.what === "life" ? (
        <>
          <NumberField label="Lasts at least" quantity="s" value={r.seconds} refuse={positive} onValue={(v) => onChange({ seconds: v })} />
          <NumberField label="from a cell of" quantity="Ah" value={r.capacity} refuse={capacityRefusal} onValue={(v) => onChange({ capacity: v })} />
          <NumberField label="that itself loses" quantity="A" value={r.selfDischarge} refuse={notNegative} onValue={(v) => onChange({ selfDischarge: v })} />
        </>
      ) : fact ? null : (
        <TextField label={limitLabel(r.what)} text={r.limit} onText={(limit) => onChange({ limit })} />
      )}
      {fact
        ? null
        : askedConditions(r.what).map((name) => (
            <TextField key={name} label={`at ${CONDITION_LABELS[name]}${CONDITION_UNITS[name] ? `, ${CONDITION_UNITS[name]}` : ""}`} placeholder="any" className="w-32" text={r.conditions[name] ?? ""} onText={(t) => onChange({ conditions: { ...r.conditions, [name]: t } })} />
          ))}
      {onRemove ? (
        <Button look="bare" className="mt-6" onClick={onRemove} aria-label={`Delete requirement ${number}`}>
          Delete
        </Button>
      ) : null}
    </div>
  );
}
