"use client";

import { useMemo, useState } from "react";
import { Controller, useFieldArray, useForm, useWatch, type Control } from "react-hook-form";
import {
  CHARACTERISTICS,
  CONDITION_LABELS,
  CONDITION_UNITS,
  characteristic,
  conditionsOf,
  FUNCTION_LABELS,
  type Characteristic,
  type ConditionName,
  type ConditionSpec,
  type ConditionSpecs,
} from "@/core/characteristics";
import {
  conditionText,
  formatLimit,
  limitText,
  parseConditionSpec,
  parseLimit,
  SOURCE_KINDS,
  type ClaimReading,
} from "@/core/claims";
import type { BoardRecord, ClaimRecord } from "@/core/files/records";
import { ACTIONS } from "@/core/procedures/behaviour";
import { attempt, notifyUndoable } from "@/browser/notify";
import { change, edit, newId, now, remove, undoAct, todaysDate } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { FindSelect } from "@/ui/find-select";
import { Form } from "@/ui/form";
import { FormSelect, FormText } from "@/ui/form-fields";
import { noDate } from "@/ui/refusals";
import { choicesByName, type Choice } from "@/ui/select";

interface ReadingFields {
  characteristic: string;
  limit: string;
  conditions: Partial<Record<ConditionName, string>>;
}
interface Fields {
  readings: ReadingFields[];
  kind: (typeof SOURCE_KINDS)[number];
  wording: string;
  date: string;
}

/** The conditions that a run of the quantity carries, and whatever the claim names already. */
const conditionsFor = (name: string, typed: ReadingFields["conditions"] = {}): ConditionName[] => [
  ...new Set([...conditionsOf(name), ...(Object.keys(typed) as ConditionName[]).filter((c) => typed[c]?.trim())]),
];

function toFields(r: ClaimReading): ReadingFields {
  const conditions: ReadingFields["conditions"] = {};
  for (const [name, spec] of Object.entries(r.conditions))
    if (spec) conditions[name as ConditionName] = conditionText(name as ConditionName, spec);
  const c = characteristic(r.characteristic);
  return { characteristic: r.characteristic, limit: c ? limitText(r.limit, c) : "", conditions };
}

function toReading(f: ReadingFields): ClaimReading | null {
  const c = characteristic(f.characteristic);
  const limit = c ? parseLimit(f.limit, c) : null;
  if (!limit?.ok) return null;
  const conditions: Record<string, ConditionSpec> = {};
  for (const name of conditionsFor(f.characteristic, f.conditions)) {
    const s = parseConditionSpec(f.conditions[name] ?? "", name);
    if (!s.ok) return null;
    if (s.value) conditions[name] = s.value;
  }
  return { characteristic: f.characteristic, limit: limit.value, conditions: conditions as ConditionSpecs };
}

const EMPTY: ReadingFields = { characteristic: "boost.max-current", limit: "", conditions: {} };

/** One claim: the words as they stand there, and every way they can be understood. */
export function ClaimDialog({
  board,
  claim,
  onClose,
}: {
  board: BoardRecord;
  claim: ClaimRecord | null;
  onClose(): void;
}) {
  const { control, handleSubmit, formState } = useForm<Fields>({
    mode: "onTouched",
    defaultValues: {
      readings: claim ? claim.readings.map(toFields) : [EMPTY],
      kind: claim?.source.kind ?? "listing",
      wording: claim?.source.wording ?? "",
      date: claim?.source.date ?? todaysDate(),
    },
  });
  /** As it was when the dialog opened. */
  const [opened] = useState(claim);
  const choices = useMemo(() => characteristicChoices(board), [board]);
  const readings = useFieldArray({ control, name: "readings" });
  const save = handleSubmit(async (f) => {
    const parsed = f.readings.map(toReading);
    if (parsed.some((r) => r === null)) return;
    const at = now();
    const record: ClaimRecord = {
      ...(opened ?? {
        kind: "claim",
        id: newId(),
        notebookId: board.notebookId,
        createdAt: at,
        updatedAt: at,
        boardId: board.id,
      }),
      readings: parsed as ClaimReading[],
      source: { kind: f.kind, wording: f.wording.trim(), date: f.date },
    };
    if (
      await attempt(() =>
        change(`${claim ? "edit" : "add"} claim “${f.wording.trim().slice(0, 60)}”`, [
          opened ? edit(opened, record) : record,
        ]),
      )
    )
      onClose();
  });
  return (
    <Dialog
      wide
      title={claim ? "Edit claim" : "Add claim"}
      about="Copy the wording, then enter what it claims. An ambiguous wording gets two readings; each is judged."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <div className="grid gap-x-4 min-[560px]:grid-cols-[minmax(0,1fr)_11rem_9rem]">
          <FormText
            control={control}
            name="wording"
            label="Wording"
            missing="Copy the wording exactly."
            wide
            autoFocus
          />
          <FormSelect<Fields, Fields["kind"]>
            control={control}
            name="kind"
            label="Source"
            place="above"
            wide
            choices={choicesByName(SOURCE_KINDS)}
          />
          <FormText control={control} name="date" label="Date" check={noDate} wide />
        </div>
        {readings.fields.map((f, i) => (
          <ReadingEditor
            key={f.id}
            control={control}
            index={i}
            many={readings.fields.length > 1}
            choices={choices}
            onRemove={() => readings.remove(i)}
          />
        ))}
        <div className="mt-4 flex flex-wrap items-center gap-3">
          <Button look="main" type="submit" disabled={formState.isSubmitting}>
            Save claim
          </Button>
          <Button onClick={() => readings.append(EMPTY)}>Add another reading</Button>
          {claim ? <DeleteClaim claim={claim} onClose={onClose} /> : null}
        </div>
      </Form>
    </Dialog>
  );
}

const DeleteClaim = ({ claim, onClose }: { readonly claim: ClaimRecord; onClose(): void }) => (
  <Button
    look="danger"
    className="ml-auto"
    onClick={() =>
      void attempt(async () => {
        const act = await remove(`delete claim “${claim.source.wording.slice(0, 60)}”`, [claim]);
        onClose();
        await notifyUndoable("Claim deleted.", act && (() => undoAct(act)));
      })
    }
  >
    Delete claim
  </Button>
);

/** All quantities that a claim may be about: those of the board's functions first. */
function characteristicChoices(board: BoardRecord): readonly Choice<string>[] {
  const own = CHARACTERISTICS.filter((c) => c.of === "board" || (c.of !== null && board.functions.includes(c.of)));
  const group = (c: Characteristic) =>
    c.of === null ? "Cell and bench" : c.of === "board" ? "Whole board" : `A board that ${FUNCTION_LABELS[c.of]}`;
  return [...own, ...CHARACTERISTICS.filter((c) => !own.includes(c))].map((c) => ({
    value: c.name,
    label: c.label,
    group: group(c),
    about: c.definition,
  }));
}

function ReadingEditor({
  control,
  index,
  many,
  choices,
  onRemove,
}: {
  readonly control: Control<Fields>;
  readonly index: number;
  readonly many: boolean;
  readonly choices: readonly Choice<string>[];
  onRemove(): void;
}) {
  const name = useWatch({ control, name: `readings.${index}.characteristic` });
  const entry = characteristic(name);
  const typed = useWatch({ control, name: `readings.${index}.conditions` });
  const conditions = conditionsFor(name, typed);
  const carried = conditionsOf(name);
  return (
    <fieldset className="mt-2 border-t border-rule pt-2">
      <legend className="pr-2 text-sm font-medium">{many ? `Reading ${index + 1}` : "Claim"}</legend>
      <div className="grid gap-x-4 min-[560px]:grid-cols-2">
        <Controller
          control={control}
          name={`readings.${index}.characteristic`}
          render={({ field }) => (
            <div>
              <FindSelect
                label="Characteristic"
                hint="such as cut-off, ripple, heat"
                value={field.value}
                onValue={field.onChange}
                choices={choices}
              />
              <p className="text-xs text-pencil">{entry?.definition}</p>
            </div>
          )}
        />
        <FormText
          control={control}
          name={`readings.${index}.limit`}
          label="Limit, such as 5 V ±2 %, ≥ 1A5, ≤ 100u, 4.5–5.5"
          check={(text) => {
            const p = entry ? parseLimit(text, entry) : null;
            return p?.ok ? null : (p?.error ?? "Choose a quantity first.");
          }}
          echoOf={(text) => {
            const p = entry && text.trim() ? parseLimit(text, entry) : null;
            return p?.ok && entry ? formatLimit(p.value, entry.unit) : undefined;
          }}
          wide
        />
      </div>
      <div className="grid gap-x-4 min-[560px]:grid-cols-3">
        {conditions.map((c) => (
          <FormText
            key={c}
            control={control}
            name={`readings.${index}.conditions.${c}`}
            label={`At ${CONDITION_LABELS[c]}${CONDITION_UNITS[c] && CONDITION_UNITS[c] !== "1" ? ` (${CONDITION_UNITS[c]})` : ""}`}
            placeholder="any"
            check={(text) => {
              const p = parseConditionSpec(text, c);
              return p.ok ? null : p.error;
            }}
            remark={
              carried.includes(c)
                ? undefined
                : "No procedure measures this quantity under this condition, so the claim can't be judged."
            }
            wide
            {...(c === "action" ? { list: "known-actions" } : {})}
          />
        ))}
      </div>
      {conditions.includes("action") ? (
        <datalist id="known-actions">
          {ACTIONS.map((a) => (
            <option key={a} value={a} />
          ))}
        </datalist>
      ) : null}
      {many ? (
        <Button look="bare" onClick={onRemove}>
          Delete this reading
        </Button>
      ) : null}
    </fieldset>
  );
}
