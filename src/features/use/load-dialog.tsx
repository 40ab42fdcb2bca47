"use client";

import { useFieldArray, useForm, useWatch, type Control, type UseFormReturn } from "react-hook-form";
import type { LoadRecord } from "@/core/files/records";
import type { Load } from "@/core/use";
import type { ProtectionBoard } from "@/notebook/usable";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Form } from "@/ui/form";
import { FormCheckbox, FormNumber, FormSelect, FormText } from "@/ui/form-fields";
import { notNegative, positive } from "@/ui/refusals";
import { Select } from "@/ui/select";
import { fieldsOf, loadOf, type LoadFields } from "./load-fields";

const share = (v: number) => (v > 0 && v <= 1 ? null : "Between 0 and 100 %.");
const DRAW_CHOICES = [
  { value: "current", label: "a current" },
  { value: "power", label: "a power" },
  { value: "resistance", label: "a resistance" },
  { value: "off", label: "output off" },
] as const;
const UNITS = { current: "A", power: "W", resistance: "Ω" } as const;

interface LoadDialogProps {
  readonly load: LoadRecord | null;
  /** Boards of the notebook that may be put between. */
  readonly protections: readonly ProtectionBoard[];
  onKeep(l: Load): Promise<boolean>;
  readonly onDelete: (() => void) | null;
  onClose(): void;
}

/** What is to be run: its voltage, what it takes in a cycle, how it is joined to the cell. */
export function LoadDialog({ load, protections, onKeep, onDelete, onClose }: LoadDialogProps) {
  const form = useForm<LoadFields>({ defaultValues: fieldsOf(load) });
  const { control, handleSubmit } = form;
  const save = handleSubmit(async (f) => {
    if (await onKeep(loadOf(f, load))) onClose();
  });
  return (
    <Dialog
      wide
      title={load ? `Edit ${load.title}` : "Add load"}
      about="What is to be run from a cell, and how it is joined."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <div className="flex flex-wrap gap-x-5">
          <FormText
            control={control}
            name="title"
            label="Name"
            missing="Enter a name."
            maxLength={80}
            autoFocus
            wide
            className="min-w-56 flex-1"
          />
          <FormNumber
            control={control}
            name="voltage"
            label="Made for"
            quantity="V"
            missing="Enter a voltage."
            refuse={positive}
          />
          <FormNumber
            control={control}
            name="lowest"
            label="Works down to"
            quantity="V"
            missing="Enter a voltage."
            refuse={positive}
          />
          <FormText control={control} name="note" label="Note" wide className="min-w-full flex-1" />
        </div>
        <Steps control={control} />
        <div className="flex flex-wrap gap-x-5">
          <FormNumber control={control} name="surge" label="First moments, at most" quantity="A" refuse={positive} />
          <FormNumber control={control} name="converter" label="Converter in between" quantity="1" refuse={share} />
        </div>
        <Joining form={form} protections={protections} />
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Save load
          </Button>
          {onDelete ? (
            <Button look="danger" className="ml-auto" onClick={onDelete}>
              Delete load
            </Button>
          ) : null}
        </div>
      </Form>
    </Dialog>
  );
}

/** The parts of its cycle, which repeats. */
function Steps({ control }: { readonly control: Control<LoadFields> }) {
  const list = useFieldArray({ control, name: "steps" });
  const steps = useWatch({ control, name: "steps" });
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 font-medium">It takes, over and over</legend>
      {list.fields.map((f, k) => {
        const draw = steps[k]?.draw ?? f.draw;
        return (
          <div
            key={f.id}
            role="group"
            aria-label={`Step ${k + 1}`}
            className="flex flex-wrap items-start gap-x-4 border-l-2 border-rule pl-3"
          >
            <FormSelect control={control} name={`steps.${k}.draw`} label="Takes" place="above" choices={DRAW_CHOICES} />
            {draw === "off" ? null : (
              <FormNumber
                key={draw}
                control={control}
                name={`steps.${k}.value`}
                label="of"
                quantity={UNITS[draw]}
                missing="Enter a value."
                refuse={draw === "resistance" ? positive : notNegative}
              />
            )}
            <FormNumber
              control={control}
              name={`steps.${k}.seconds`}
              label="for"
              quantity="s"
              missing="Enter a time."
              refuse={positive}
            />
            {steps.length > 1 ? (
              <Button look="bare" className="mt-6" aria-label={`Delete step ${k + 1}`} onClick={() => list.remove(k)}>
                Delete
              </Button>
            ) : null}
          </div>
        );
      })}
      <Button onClick={() => list.append({ draw: "current", value: null, seconds: 3000 })}>Add step</Button>
    </fieldset>
  );
}

/** What stands between cell and board. */
function Joining({
  form: { control, setValue },
  protections,
}: {
  readonly form: UseFormReturn<LoadFields>;
  readonly protections: readonly ProtectionBoard[];
}) {
  const [add, board] = useWatch({ control, name: ["add", "addedBoard"] });
  const choose = (id: string) => {
    setValue("addedBoard", id);
    const cut = protections.find((p) => p.boardId === id)?.cut;
    if (cut) setValue("added.cut", Number(cut.toPrecision(4)));
  };
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 font-medium">Between cell and board</legend>
      <div className="flex flex-wrap gap-x-5">
        <FormNumber
          control={control}
          name="resistance"
          label="Leads and contacts"
          quantity="Ω"
          missing="Enter a value, or 0."
          refuse={notNegative}
        />
        <FormNumber
          control={control}
          name="ampacity"
          label="Thinnest wire carries"
          quantity="A"
          missing="Enter a value."
          refuse={positive}
        />
        <FormText control={control} name="tap" label="Connected to the bare cell" placeholder="nothing" />
      </div>
      <div className="mb-2 flex flex-wrap gap-x-6 gap-y-1">
        <FormCheckbox control={control} name="jumper">
          A closed jumper bypasses the board&apos;s protection
        </FormCheckbox>
        <FormCheckbox control={control} name="add">
          An added protection board
        </FormCheckbox>
      </div>
      {add ? (
        <div className="flex flex-wrap gap-x-5 border-l-2 border-rule pl-3">
          {protections.length ? (
            <div className="mb-2 basis-full">
              <Select
                label="It is"
                place="above"
                value={protections.some((p) => p.boardId === board) ? board : ""}
                onValue={choose}
                choices={[
                  { value: "", label: "none of the notebook" },
                  ...protections.map((p) => ({
                    value: p.boardId,
                    label: `${p.title}${p.measured === null ? ", not tested" : p.measured ? ", disconnects" : ", does not disconnect"}`,
                  })),
                ]}
              />
            </div>
          ) : null}
          <AddedBoardFields control={control} />
        </div>
      ) : null}
    </fieldset>
  );
}

/** What is known of an added protection board. */
const AddedBoardFields = ({ control }: { readonly control: Control<LoadFields> }) => (
  <>
    <FormNumber
      control={control}
      name="added.trip"
      label="Trips at"
      quantity="A"
      missing="Enter a value."
      refuse={positive}
    />
    <FormNumber
      control={control}
      name="added.tolerance"
      label="give or take"
      quantity="1"
      missing="Enter a value, or 0."
      refuse={(v) => (v >= 0 && v < 1 ? null : "Between 0 and 100 %.")}
    />
    <FormNumber
      control={control}
      name="added.cut"
      label="Cuts off at"
      quantity="V"
      missing="Enter a value."
      refuse={notNegative}
    />
    <FormNumber
      control={control}
      name="added.resistance"
      label="Its resistance"
      quantity="Ω"
      missing="Enter a value, or 0."
      refuse={notNegative}
    />
    <FormNumber
      control={control}
      name="added.current"
      label="Its quiescent current"
      quantity="A"
      missing="Enter a value, or 0."
      refuse={notNegative}
    />
  </>
);
