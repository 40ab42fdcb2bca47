"use client";

import { sameValue } from "@/core/files/three-way";
import { useState, useEffect } from "react";
import { useForm, useWatch } from "react-hook-form";
import type { InstrumentRecord, RigRecord } from "@/core/files/records";
import { ordinaryAccuracy, type Accuracy, type PinnedMeter } from "@/core/instruments";
import { readWith, roleLabel, roleUnit, type Role } from "@/core/measurement";
import { formatQuantity } from "@/core/quantities";
import { attempt, notify } from "@/browser/notify";
import { leadsEffect } from "@/notebook";
import { change, edit } from "@/storage";
import { AccuracyTable, rangeChoices } from "@/ui/accuracy-table";
import { Button } from "@/ui/button";
import { Form } from "@/ui/form";
import { FormNumber, FormText } from "@/ui/form-fields";
import { notNegative, positive } from "@/ui/refusals";
import { Select } from "@/ui/select";
import { EditQuestion } from "./edit-question";

const ROLES: readonly Role[] = [
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
  "cellVoltage",
  "cellCurrent",
  "inputVoltage",
  "inputCurrent",
  "partTemperature",
  "ambientTemperature",
];
/** Those that are shown whether or not anything is stated of them. */
const USUAL: readonly Role[] = [
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
  "partTemperature",
];

interface Fields {
  title: string;
  reads: Pick<RigRecord, "instruments" | "meters">;
  inputLeadResistance: number | null;
  outputLeadResistance: number | null;
  supplyCurrentLimit: number | null;
}
const fieldsOf = ({
  title,
  instruments,
  meters,
  inputLeadResistance,
  outputLeadResistance,
  supplyCurrentLimit,
}: RigRecord): Fields => ({
  title,
  reads: { instruments, ...(meters ? { meters } : {}) },
  inputLeadResistance,
  outputLeadResistance,
  supplyCurrentLimit,
});

/** The rig as the fields say; all numbers of a form that was not refused are there. */
const rigOf = (stored: RigRecord, { reads, title, ...numbers }: Fields): RigRecord => ({
  ...stored,
  ...reads,
  title: title.trim(),
  ...(numbers as Pick<RigRecord, "inputLeadResistance" | "outputLeadResistance" | "supplyCurrentLimit">),
});

interface RigFormProps {
  readonly rig: RigRecord;
  readonly rigs: readonly RigRecord[];
  readonly inUse: boolean;
  readonly instruments: readonly InstrumentRecord[];
  onDirty(dirty: boolean): void;
}

/** One rig: which range reads what, the leads, what the supply gives. */
export function RigForm({ rig: stored, rigs, inUse, instruments, onDirty }: RigFormProps) {
  const { control, handleSubmit, setValue, getValues } = useForm<Fields>({ defaultValues: fieldsOf(stored) });
  const typed = { ...fieldsOf(stored), ...useWatch({ control }) } as Fields;
  const [asking, setAsking] = useState<RigRecord | null>(null);
  const dirty = !sameValue(typed, fieldsOf(stored));
  useEffect(() => onDirty(dirty), [dirty, onDirty]);
  const supplies = instruments.filter((i) => i.device === "supply" && i.limit);
  const save = (use: boolean) =>
    handleSubmit((f) =>
      attempt(async () => {
        const rig = rigOf(stored, f);
        // Other leads may have been there all along: then the runs that were taken over them follow.
        if ((await leadsEffect(stored, rig, { kind: "mistake" })).runs.length) return setAsking(rig);
        const others = use
          ? rigs.filter((r) => r.inUse && r.id !== rig.id).map((r) => edit(r, { ...r, inUse: false }))
          : [];
        await change(`save ${rig.title}`, [edit(stored, { ...rig, ...(use ? { inUse: true } : {}) }), ...others]);
        onDirty(false);
        await notify(use ? `${rig.title} is saved. New runs use it.` : `${rig.title} is saved.`);
      }),
    );
  return (
    <>
      {asking ? (
        <EditQuestion
          title={asking.title}
          about="The resistance of its leads changes."
          effectOf={(meaning) => leadsEffect(stored, asking, meaning)}
          back="Back to the rig"
          onBack={() => setAsking(null)}
          onDone={() => setAsking(null)}
        />
      ) : null}
      <Form onSubmit={save(inUse)}>
        <FormText control={control} name="title" label="Name" missing="Enter a name." maxLength={80} />
        <Reads
          reads={typed.reads}
          instruments={instruments}
          onRead={(role, a, meter) =>
            setValue("reads", readWith(getValues("reads"), role, a, meter), { shouldDirty: true })
          }
        />
        <div className="flex flex-wrap gap-x-5">
          <FormNumber
            control={control}
            name="inputLeadResistance"
            label="Battery leads, both wires"
            quantity="Ω"
            missing="Enter a resistance, 0 with four wires."
            refuse={notNegative}
          />
          <FormNumber
            control={control}
            name="outputLeadResistance"
            label="Load leads, both wires"
            quantity="Ω"
            missing="Enter a resistance, 0 with four wires."
            refuse={notNegative}
          />
          <FormNumber
            control={control}
            name="supplyCurrentLimit"
            label="Supply current limit"
            quantity="A"
            missing="Enter a current."
            refuse={positive}
          />
        </div>
        <p className="mb-3 max-w-prose text-sm text-pencil">
          Zero means that the voltage is measured at the module&apos;s own terminals (four-wire).
          {supplies.map((s) => ` ${s.title} gives ${formatQuantity(s.limit ?? 0, "A")}.`).join("")}
        </p>
        <div className="flex flex-wrap gap-3">
          <Button look="main" type="submit">
            Save rig
          </Button>
          {inUse ? null : <Button onClick={() => void save(true)()}>Save and use rig</Button>}
        </div>
      </Form>
    </>
  );
}

/** Which range reads what. */
function Reads({
  reads,
  instruments,
  onRead,
}: {
  readonly reads: Fields["reads"];
  readonly instruments: readonly InstrumentRecord[];
  onRead(role: Role, a: Accuracy, meter?: PinnedMeter): void;
}) {
  // Those that the bench reads with a like meter are asked for only where one of their own is wanted.
  const shown = ROLES.filter((r) => USUAL.includes(r) || reads.instruments[r] || reads.meters?.[r]);
  const more = ROLES.filter((r) => !shown.includes(r));
  const doubled = instruments.flatMap((i) => {
    const by = Object.entries(reads.meters ?? {}).flatMap(([role, m]) => (m?.instrumentId === i.id ? [role] : []));
    return by.length > 1 ? [{ i, by }] : [];
  });
  return (
    <>
      <div className="mb-2 overflow-x-auto">
        <AccuracyTable
          roles={shown}
          instruments={reads.instruments}
          {...(reads.meters ? { meters: reads.meters } : {})}
          choices={rangeChoices(instruments)}
          onAccuracy={onRead}
        />
      </div>
      {more.length ? (
        <p className="mb-3">
          <Select<Role | "">
            label="Add a reading"
            value=""
            onValue={(r) => r && onRead(r, ordinaryAccuracy(1, roleUnit(r) as "V" | "A" | "°C"))}
            choices={[{ value: "", label: "choose …" }, ...more.map((value) => ({ value, label: roleLabel(value) }))]}
          />
        </p>
      ) : null}
      {doubled.map(({ i, by }) => (
        <p key={i.id} className="mb-2 max-w-prose border-l-4 border-close pl-3 text-sm">
          {i.title} would read {by.map((r) => roleLabel(r as Role).toLowerCase()).join(" and ")}: one meter reads one
          quantity at a time, so take these readings in turn.
        </p>
      ))}
    </>
  );
}
