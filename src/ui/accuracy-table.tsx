"use client";

import { useEffect, useRef } from "react";
import { useForm, type Control } from "react-hook-form";
import { sameValue } from "@/core/files/three-way";
import {
  ordinaryAccuracy,
  pinned,
  type Accuracy,
  type Instrument,
  type MeterRange,
  type PinnedMeter,
} from "@/core/instruments";
import { meterName } from "@/core/procedures/kit/accuracies";
import { roleLabel, roleUnit, type Role } from "@/core/measurement";
import { formatQuantity, type Unit } from "@/core/quantities";
import { Button } from "./button";
import { DataTable, type DataColumn } from "./data-table";
import { FormNumber } from "./form-fields";
import { notNegative } from "./refusals";
import { Select } from "./select";
import { useTyped } from "./use-typed";

/** A range of one of the user's instruments. */
export interface RangeChoice {
  readonly id: string;
  readonly instrument: Pick<Instrument, "title">;
  readonly range: MeterRange;
}

export const rangeChoices = (
  instruments: readonly (Pick<Instrument, "title" | "ranges"> & { readonly id: string })[],
): RangeChoice[] => instruments.flatMap((i) => i.ranges.map((range) => ({ id: i.id, instrument: i, range })));

export interface AccuracyTableProps {
  readonly roles: readonly Role[];
  readonly instruments: Readonly<Partial<Record<Role, Accuracy>>>;
  readonly meters?: Readonly<Partial<Record<Role, PinnedMeter>>>;
  /** What may be chosen to read with; without any, accuracies are written down by hand. */
  readonly choices?: readonly RangeChoice[];
  /** With the meter where a range was chosen, without one where the numbers were typed. */
  onAccuracy(role: Role, a: Accuracy, meter?: PinnedMeter): void;
}

/** What a folded table of accuracies says of itself: whether any is missing, and what follows. */
export function AccuraciesStated({ roles, instruments }: Pick<AccuracyTableProps, "roles" | "instruments">) {
  const lacking = roles.filter((r) => !instruments[r]).length;
  return lacking ? (
    <span className="font-normal text-close">
      ({lacking === roles.length ? "none" : `${lacking} of ${roles.length} not`} stated: results have no uncertainty and
      no verdict)
    </span>
  ) : (
    <span className="text-pencil">(every uncertainty comes from these)</span>
  );
}

type Numbers = Record<"gain" | "counts" | "resolution", number | null>;
/** The numbers of each row by its role; null where nobody stated one, not a number (NaN) where it makes no sense. */
type TypedNumbers = Partial<Record<Role, Numbers>>;

const numbersOf = (a: Accuracy | undefined): Numbers => ({
  gain: a?.gain ?? null,
  counts: a?.counts ?? null,
  resolution: a?.resolution ?? null,
});

/** The rows' form: it shows what is stated elsewhere (a range, what was assumed), and tells a row once all three of its numbers are there. */
function useNumbers({ roles, instruments, onAccuracy }: AccuracyTableProps): Control<TypedNumbers> {
  const form = useForm<TypedNumbers>({
    defaultValues: Object.fromEntries(roles.map((r) => [r, numbersOf(instruments[r])])),
  });
  const { getValues, setValue } = form;
  const told = useRef(instruments);
  useEffect(() => {
    for (const role of roles) {
      const stated = instruments[role];
      // What was emptied here stays empty until something else is stated of it.
      const news = stated && (!getValues(role) || !sameValue(numbersOf(stated), numbersOf(told.current[role])));
      if (news && !sameValue(numbersOf(stated), getValues(role))) setValue(role, numbersOf(stated));
    }
    told.current = instruments;
  }, [roles, instruments, getValues, setValue]);
  useTyped(form, (name, values) => {
    const role = name.split(".")[0] as Role;
    const { gain, counts, resolution } = values[role] ?? numbersOf(undefined);
    const isStated = (v: number | null): v is number => v !== null && !Number.isNaN(v);
    // What was typed is a statement, no assumption any more.
    if (isStated(gain) && isStated(counts) && isStated(resolution)) onAccuracy(role, { gain, counts, resolution });
  });
  return form.control;
}

/** Which meter reads what, and what its data sheet says: ±(share of the reading + counts × resolution). Empty where nobody stated it. */
export function AccuracyTable(props: AccuracyTableProps) {
  const { roles, instruments, meters = {}, choices = [], onAccuracy } = props;
  const control = useNumbers(props);
  const lacking = roles.filter((r) => !instruments[r]);
  const rows = roles.map((role): Row => ({
    role,
    accuracy: instruments[role],
    chosen: choices.find(
      (c) =>
        c.range.unit === roleUnit(role) && c.id === meters[role]?.instrumentId && c.range.id === meters[role]?.rangeId,
    ),
  }));
  return (
    <>
      <div className="w-fit max-w-full">
        <DataTable rows={rows} id={(r) => r.role} columns={columnsOf(choices, onAccuracy, control)} />
      </div>
      {lacking.length ? (
        <p className="mb-2 mt-1 max-w-prose text-sm">
          Without an accuracy, a result has no uncertainty and no verdict.{" "}
          <Button
            onClick={() => {
              for (const role of lacking)
                onAccuracy(
                  role,
                  ordinaryAccuracy(ORDINARY_READING[roleUnit(role)] ?? 1, roleUnit(role) as "V" | "A" | "°C"),
                );
            }}
          >
            Assume ordinary handheld meters, ±(0.5 % + 3 counts)
          </Button>
        </p>
      ) : null}
    </>
  );
}

/** What a meter of this bench commonly reads, which decides the range whose resolution is assumed. */
const ORDINARY_READING: Readonly<Record<string, number>> = { V: 5, A: 1, "°C": 40, Ω: 10 };

interface Row {
  readonly role: Role;
  readonly accuracy: Accuracy | undefined;
  /** The range of an instrument that reads it. */
  readonly chosen: RangeChoice | undefined;
}

/** How a row says that its numbers are nobody's statement. */
function originOf({ accuracy: a, chosen }: Row): string {
  if (chosen) return `up to ${formatQuantity(chosen.range.upTo, chosen.range.unit)}`;
  if (!a) return "not stated";
  if (a.assumed) return "assumed";
  return a.like ? `not stated: as of the ${meterName(a.like as Role)} meter` : "";
}

function columnsOf(
  choices: readonly RangeChoice[],
  onAccuracy: AccuracyTableProps["onAccuracy"],
  control: Control<TypedNumbers>,
): DataColumn<Row>[] {
  const number = (
    id: "gain" | "counts" | "resolution",
    head: string,
    name: string,
    unitOf: (role: Role) => Unit,
  ): DataColumn<Row> => ({
    id,
    head,
    content: ({ role, accuracy: a, chosen }) =>
      chosen && a ? (
        <span className="figures">{formatQuantity(a[id], unitOf(role))}</span>
      ) : (
        <FormNumber
          control={control}
          name={`${role}.${id}`}
          hideLabel
          label={`${roleLabel(role)}: ${name}`}
          quantity={unitOf(role)}
          refuse={notNegative}
        />
      ),
  });
  return [
    { id: "role", head: choices.length ? "Reads" : "Meter", names: true, content: (r) => roleLabel(r.role) },
    ...(choices.length
      ? [
          {
            id: "with",
            head: "with",
            content: (r: Row) => <MeterSelect {...r} choices={choices} onAccuracy={onAccuracy} />,
          },
        ]
      : []),
    number("gain", "± share of the reading", "share of the reading", () => "1"),
    number("counts", "+ counts", "counts", () => ""),
    number("resolution", "of resolution", "resolution", (role) => roleUnit(role)),
    { id: "source", head: "Source", bare: true, className: "text-pencil", content: originOf },
  ];
}

/** The instrument's range that reads a role, or numbers of its own. */
function MeterSelect({
  role,
  accuracy: a,
  chosen,
  choices,
  onAccuracy,
}: Row & Pick<AccuracyTableProps, "onAccuracy"> & { readonly choices: readonly RangeChoice[] }) {
  const own = choices.filter((c) => c.range.unit === roleUnit(role));
  const key = (c: RangeChoice): string => `${c.id} ${c.range.id}`;
  return (
    <Select
      label={`${roleLabel(role)}: read with`}
      place="hidden"
      value={chosen ? key(chosen) : ""}
      onValue={(v) => {
        const c = own.find((x) => key(x) === v);
        if (c) onAccuracy(role, c.range.accuracy, pinned(c.id, c.instrument, c.range));
        else if (a) onAccuracy(role, { gain: a.gain, counts: a.counts, resolution: a.resolution });
      }}
      choices={[
        { value: "", label: "typed" },
        ...own.map((c) => ({ value: key(c), label: `${c.instrument.title}, ${c.range.title}` })),
      ]}
    />
  );
}
