"use client";

import { useController, useFieldArray, useForm, useWatch, type UseFormReturn } from "react-hook-form";
import { characteristic, CONDITION_LABELS, CONDITION_UNITS } from "@/core/characteristics";
import { unitSymbol } from "@/core/quantities";
import { LEVELS, type AddedBoard, type Candidate, type Need, type OwnBuild, type Requirement } from "@/core/need";
import { newId } from "@/storage";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Dialog } from "@/ui/dialog";
import { capacityRefusal } from "@/ui/capacity";
import { Form } from "@/ui/form";
import { FormCheckList, FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { MILLIMETRES } from "@/ui/number-field";
import { Select, type Choice } from "@/ui/select";
import { useTyped } from "@/ui/use-typed";
import { notNegative, positive } from "@/ui/refusals";
import {
  askedConditions,
  FACT_CHOICES,
  freshRow,
  UNUSUAL_QUANTITIES,
  requirementOf,
  rowOf,
  USUAL_REQUIREMENTS,
  type Row,
} from "./need-fields";

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
  ...USUAL_REQUIREMENTS.map((u) => ({ value: u.what, label: u.label, group: "Usual" })),
  ...FACT_CHOICES.map((f) => ({ value: f.what, label: f.label, group: "Board details" })),
  ...UNUSUAL_QUANTITIES.map((c) => ({ value: c.name, label: c.label, group: "Any other quantity" })),
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
  rows: need?.requirements.map(rowOf) ?? [
    freshRow(newId()),
    { ...freshRow(newId(), "boost.max-current"), conditions: { battery: "3.1" } },
  ],
  added: need?.addedBoard ? { ...need.addedBoard, resistance: need.addedBoard.resistance ?? 0 } : null,
  build: need?.build ?? null,
});

/** A need: what a use must and should have, and what could be added or built where no board has it. */
export function NeedDialog({ need, boards, onKeep, onDelete, onClose }: NeedDialogProps) {
  const form = useForm<Fields>({ defaultValues: fieldsOf(need) });
  const { control, handleSubmit } = form;
  const currency = useWatch({ control, name: "currency" });
  const save = handleSubmit(async ({ title, note, currency: sign, rows, added, build }) => {
    const requirements = rows.map(requirementOf).flatMap((p): Requirement[] => (p.ok ? [p.value] : []));
    await onKeep({
      title: title.trim(),
      note: note.trim(),
      currency: sign.trim(),
      requirements,
      ...(added ? { addedBoard: added } : {}),
      ...(build ? { build } : {}),
    });
  });
  return (
    <Dialog
      title={need ? `Change “${need.title}”` : "Add need"}
      about="Must-haves and should-haves. Write limits as in claims: at least 250m, 4.75 to 5.25, yes."
      onClose={onClose}
      wide
    >
      <Form onSubmit={save}>
        <div className="flex flex-wrap gap-x-5">
          <FormText control={control} name="title" label="What is it for?" missing="Enter a name." autoFocus />
          <FormText control={control} name="note" label="Note" className="min-w-60 flex-1" wide />
          <FormText control={control} name="currency" label="Currency" className="w-24" />
        </div>
        <Requirements form={form} />
        <AddedBoardFields form={form} boards={boards} currency={currency} />
        <BuildFields form={form} boards={boards} currency={currency} />
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

interface InForm {
  readonly form: UseFormReturn<Fields>;
}

/** What is asked for, a row each. */
function Requirements({ form }: InForm) {
  const list = useFieldArray({ control: form.control, name: "rows", keyName: "key" });
  const rows = useWatch({ control: form.control, name: "rows" });
  const { isSubmitted } = form.formState;
  // What was refused is looked at again as it is mended, whichever of a row's fields that is.
  useTyped(form, (name) => {
    const [part, k] = name.split(".");
    if (isSubmitted && part === "rows") void form.trigger(`rows.${Number(k)}.what`);
  });
  return (
    <>
      <ol className="mb-3 divide-y divide-rule border-y border-rule">
        {list.fields.map((f, k) => (
          <li key={f.key} className="py-2">
            <RequirementFields form={form} k={k} onRemove={rows.length > 1 ? () => list.remove(k) : null} />
          </li>
        ))}
      </ol>
      <p className="mb-4">
        <Button
          onClick={() =>
            list.append(freshRow(newId(), USUAL_REQUIREMENTS.find((u) => !rows.some((r) => r.what === u.what))?.what), {
              shouldFocus: false,
            })
          }
        >
          Add requirement
        </Button>
      </p>
    </>
  );
}

type Boards = NeedDialogProps["boards"];

interface BoardChoiceProps extends InForm {
  readonly name: "added" | "build";
  readonly label: string;
  readonly boards: Boards;
}

/** A board of the notebook that stands for what is added or built, if it is one. */
function BoardChoice({ form: { control, setValue }, name, label, boards }: BoardChoiceProps) {
  const of = useWatch({ control, name });
  if (!of) return null;
  const { boardId, ...rest } = of;
  const isListed = boards.some((b) => b.boardId === boardId);
  return (
    <Select
      label={label}
      place="above"
      value={isListed ? (boardId ?? "") : ""}
      onValue={(id) => setValue(name, (id ? { ...rest, boardId: id } : rest) as AddedBoard & OwnBuild)}
      choices={[
        { value: "", label: "none of the notebook" },
        ...boards.map((b) => ({ value: b.boardId, label: b.title })),
      ]}
    />
  );
}

interface ExtraProps extends InForm {
  readonly boards: Boards;
  readonly currency: string;
}
const MISSING = "Enter a number, 0 for none.";

function AddedBoardFields({ form, boards, currency }: ExtraProps) {
  const { control, setValue } = form;
  const added = useWatch({ control, name: "added" });
  return (
    <>
      <Checkbox
        className="mb-2 flex"
        checked={added !== null}
        onChecked={(on) =>
          setValue(
            "added",
            on ? { price: 1, current: 5e-6, height: 0.003, resistance: 0.05, supplies: [...SUPPLIES] } : null,
          )
        }
      >
        Allow an added protection board
      </Checkbox>
      {added ? (
        <fieldset className="mb-3 border-l-2 border-rule pl-3">
          <legend className="sr-only">The protection board</legend>
          <div className="mb-2">
            <BoardChoice
              form={form}
              name="added"
              label="The added board is"
              boards={boards.filter((b) => b.functions.includes("protection"))}
            />
          </div>
          {added.boardId ? (
            <p className="mb-2 max-w-prose text-sm text-pencil">
              Its measured cut, trip, resistance and standby decide. The values below are used where nothing was
              measured or entered for it.
            </p>
          ) : null}
          <div className="flex flex-wrap gap-x-5">
            <FormNumber
              control={control}
              name="added.price"
              label={`Its price, ${currency}`}
              quantity=""
              refuse={notNegative}
              missing={MISSING}
            />
            <FormNumber
              control={control}
              name="added.current"
              label="Its quiescent current"
              quantity="A"
              refuse={notNegative}
              missing={MISSING}
            />
            <FormNumber
              control={control}
              name="added.height"
              label="Its height"
              quantity="m"
              printed={MILLIMETRES}
              refuse={notNegative}
              missing={MISSING}
            />
            <FormNumber
              control={control}
              name="added.resistance"
              label="Its resistance"
              quantity="Ω"
              refuse={notNegative}
              missing={MISSING}
            />
          </div>
          {added.boardId ? null : (
            <FormCheckList<Fields, string>
              control={control}
              name="added.supplies"
              label="It provides"
              choices={SUPPLIES.map((value) => ({ value, label: characteristic(value)?.label.toLowerCase() ?? value }))}
              className="text-sm"
            />
          )}
        </fieldset>
      ) : null}
    </>
  );
}

function BuildFields({ form, boards, currency }: ExtraProps) {
  const { control, setValue } = form;
  const build = useWatch({ control, name: "build" });
  return (
    <>
      <Checkbox
        className="mb-2 flex"
        checked={build !== null}
        onChecked={(on) => setValue("build", on ? { parts: 6, hours: 3, hourly: 0 } : null)}
      >
        Allow an own build
      </Checkbox>
      {build ? (
        <div className="mb-3 flex flex-wrap gap-x-5 border-l-2 border-rule pl-3">
          <div className="mb-2 basis-full">
            <BoardChoice form={form} name="build" label="The own build is" boards={boards} />
          </div>
          <FormNumber
            control={control}
            name="build.parts"
            label={`Parts, ${currency}`}
            quantity=""
            refuse={notNegative}
            missing={MISSING}
          />
          <FormNumber
            control={control}
            name="build.hours"
            label="Hours at the bench"
            quantity=""
            refuse={notNegative}
            missing={MISSING}
          />
          <FormNumber
            control={control}
            name="build.hourly"
            label={`An hour is worth, ${currency}`}
            quantity=""
            refuse={notNegative}
            missing={MISSING}
          />
        </div>
      ) : null}
    </>
  );
}

function limitLabel(what: string): string {
  const symbol = unitSymbol(characteristic(what)?.unit ?? "");
  return symbol ? `Limit, ${symbol}` : "Limit";
}

interface RequirementProps extends InForm {
  readonly k: number;
  readonly onRemove: (() => void) | null;
}

/** One requirement: choosing another quantity changes what it asks. */
function RequirementFields({ form: { control, setValue, trigger }, k, onRemove }: RequirementProps) {
  const r = useWatch({ control, name: `rows.${k}` });
  const validate = (_: unknown, all: Fields): true | string => {
    const p = requirementOf(all.rows[k] ?? r);
    return p.ok ? true : p.error;
  };
  const { fieldState } = useController({ control, name: `rows.${k}.what`, rules: { validate } });
  const fact = r.what.startsWith("fact:");
  const choose = (what: string) => {
    setValue(`rows.${k}`, { ...freshRow(r.id, what), level: r.level });
    if (fieldState.invalid) void trigger(`rows.${k}.what`);
  };
  return (
    <>
      <div role="group" aria-label={`Requirement ${k + 1}`} className="flex flex-wrap items-start gap-x-4">
        <FormSelect<Fields, Row["level"]>
          control={control}
          name={`rows.${k}.level`}
          label="It"
          place="above"
          choices={LEVELS.map((value) => ({ value, label: `${value} have` }))}
        />
        <Select label="What" place="above" value={r.what} onValue={choose} choices={WHAT_CHOICES} />
        {fact ? (
          <FormNumber
            key={r.what}
            control={control}
            name={`rows.${k}.atMost`}
            label="At most"
            quantity={r.what === "fact:price" ? "" : "m"}
            {...(r.what === "fact:price" ? {} : { printed: MILLIMETRES })}
            refuse={positive}
          />
        ) : null}
        {r.what === "life" ? (
          <>
            <FormNumber
              control={control}
              name={`rows.${k}.seconds`}
              label="Lasts at least"
              quantity="s"
              refuse={positive}
            />
            <FormNumber
              control={control}
              name={`rows.${k}.capacity`}
              label="from a cell of"
              quantity="Ah"
              refuse={capacityRefusal}
            />
            <FormNumber
              control={control}
              name={`rows.${k}.selfDischarge`}
              label="that itself loses"
              quantity="A"
              refuse={notNegative}
            />
          </>
        ) : fact ? null : (
          <FormText control={control} name={`rows.${k}.limit`} label={limitLabel(r.what)} />
        )}
        {fact
          ? null
          : askedConditions(r.what).map((name) => (
              <FormText
                key={name}
                control={control}
                name={`rows.${k}.conditions.${name}`}
                label={`at ${CONDITION_LABELS[name]}${CONDITION_UNITS[name] ? `, ${CONDITION_UNITS[name]}` : ""}`}
                placeholder="any"
                className="w-32"
              />
            ))}
        {onRemove ? (
          <Button look="bare" className="mt-6" onClick={onRemove} aria-label={`Delete requirement ${k + 1}`}>
            Delete
          </Button>
        ) : null}
      </div>
      {fieldState.error?.message ? (
        <p role="alert" className="text-sm text-misses">
          {fieldState.error.message}
        </p>
      ) : null}
    </>
  );
}
