"use client";

import { useState } from "react";
import { ordinaryAccuracy, pinned, type Accuracy, type Instrument, type MeterRange, type PinnedMeter } from "@/core/instruments";
import { meterName } from "@/core/procedures/accuracies";
import { roleLabel, roleUnit, type Role } from "@/core/procedures/roles";
import { formatQuantity, type Unit } from "@/core/quantities";
import { Button } from "./button";
import { DataTable, type DataColumn } from "./data-table";
import { NumberField } from "./number-field";
import { Select } from "./select";

const notNegative = (v: number) => (v >= 0 ? null : "Enter zero or more.");

/** A range of one of the user's instruments. */
export interface RangeChoice {
  readonly id: string;
  readonly instrument: Pick<Instrument, "title">;
  readonly range: MeterRange;
}

export const rangeChoices = (instruments: readonly (Pick<Instrument, "title" | "ranges"> & { readonly id: string })[]): RangeChoice[] => instruments.flatMap((i) => i.ranges.map((range) => ({ id: i.id, instrument: i, range })));

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
  return lacking ? <span className="font-normal text-close">({lacking === roles.length ? "none" : `${lacking} of ${roles.length} not`} stated: results have no uncertainty and no verdict)</span> : <span className="text-pencil">(every uncertainty comes from these)</span>;
}

/** Which meter reads what, and what its data sheet says: ±(share of the reading + counts × resolution). Empty where nobody stated it. */
export function AccuracyTable({ roles, instruments, meters = {}, choices = [], onAccuracy }: AccuracyTableProps) {
  /** Raised when accuracies were assumed, so that every field shows them. */
  const [round, setRound] = useState(0);
  /** Numbers of rows that are not complete yet. */
  const [typed, setTyped] = useState<Readonly<Partial<Record<Role, Partial<Accuracy>>>>>({});
  const lacking = roles.filter((r) => !instruments[r]);
  /** A row counts once all three numbers are there; what was typed is a statement, no assumption any more. */
  const put = (role: Role, patch: Partial<Accuracy>) => {
    const a = instruments[role];
    const { gain, counts, resolution } = { gain: a?.gain, counts: a?.counts, resolution: a?.resolution, ...typed[role], ...patch };
    setTyped((all) => ({ ...all, [role]: { ...all[role], ...patch } }));
    if (gain !== undefined && counts !== undefined && resolution !== undefined) onAccuracy(role, { gain, counts, resolution });
  };
  const rows = roles.map((role): Row => ({ role, accuracy: instruments[role], chosen: choices.find((c) => c.range.unit === roleUnit(role) && c.id === meters[role]?.instrumentId && c.range.id === meters[role]?.rangeId) }));
  return (
    <>
      <div className="w-fit max-w-full">
        <DataTable key={round} rows={rows} id={(r) => r.role} columns={columnsOf(choices, onAccuracy, put)} />
      </div>
      {lacking.length ? (
        <p className="mb-2 mt-1 max-w-prose text-sm">
          Without an accuracy, a result has no uncertainty and no verdict.{" "}
          <Button
            onClick={() => {
              for (const role of lacking) onAccuracy(role, ordinaryAccuracy(ORDINARY_READING[roleUnit(role)] ?? 1, roleUnit(role) as "V" | "A" | "°C"));
              setRound((n) => n + 1);
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

function columnsOf(choices: readonly RangeChoice[], onAccuracy: AccuracyTableProps["onAccuracy"], put: (role: Role, patch: Partial<Accuracy>) => void): DataColumn<Row>[] {
  const number = (id: "gain" | "counts" | "resolution", head: string, name: string, unitOf: (role: Role) => Unit): DataColumn<Row> => ({
    id,
    head,
    cell: ({ role, accuracy: a, chosen }) =>
      chosen && a ? <span className="figures">{formatQuantity(a[id], unitOf(role))}</span> : <NumberField hideLabel label={`${roleLabel(role)}: ${name}`} quantity={unitOf(role)} optional value={a?.[id] ?? null} refuse={notNegative} onValue={(v) => v !== null && put(role, { [id]: v })} />,
  });
  return [
    { id: "role", head: choices.length ? "Reads" : "Meter", names: true, cell: (r) => roleLabel(r.role) },
    ...(choices.length ? [{ id: "with", head: "with", cell: (r: Row) => <MeterSelect {...r} choices={choices} onAccuracy={onAccuracy} /> }] : []),
    number("gain", "± share of the reading", "share of the reading", () => "1"),
    number("counts", "+ counts", "counts", () => ""),
    number("resolution", "of resolution", "resolution", (role) => roleUnit(role)),
    { id: "source", head: "Source", bare: true, className: "text-pencil", cell: originOf },
  ];
}

/** The instrument's range that reads a role, or numbers of its own. */
function MeterSelect({ role, accuracy: a, chosen, choices, onAccuracy }: Row & Pick<AccuracyTableProps, "onAccuracy"> & { readonly choices: readonly RangeChoice[] }) {
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
      choices={[{ value: "", label: "typed" }, ...own.map((c) => ({ value: key(c), label: `${c.instrument.title}, ${c.range.title}` }))]}
    />
  );
}
