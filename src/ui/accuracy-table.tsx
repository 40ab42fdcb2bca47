"use client";

import { useState } from "react";
import { accuracyText, ordinaryAccuracy, pinned, type Accuracy, type Instrument, type MeterRange, type PinnedMeter } from "@/core/instruments";
import { meterName } from "@/core/procedures/accuracies";
import { roleLabel, roleUnit, type Role } from "@/core/procedures/roles";
import { formatQuantity } from "@/core/quantities";
import { Button } from "./button";
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
  const lacking = roles.filter((r) => !instruments[r]);
  const head = "pr-4 font-medium";
  return (
    <>
      <table className="text-left text-sm">
        <thead className="text-pencil">
          <tr>
            <th className={head}>{choices.length ? "Reads" : "Meter"}</th>
            {choices.length ? <th className={head}>with</th> : null}
            <th className={head}>± share of the reading</th>
            <th className={head}>+ counts</th>
            <th className={head}>of resolution</th>
            <th className="font-medium">
              <span className="sr-only">Source</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {roles.map((role) => (
            <AccuracyRow key={`${role}${round}`} role={role} accuracy={instruments[role]} meter={meters[role]} choices={choices} onAccuracy={(a, meter) => onAccuracy(role, a, meter)} />
          ))}
        </tbody>
      </table>
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

/** How a row says that its numbers are nobody's statement. */
function originOf(a: Accuracy | undefined): string {
  if (!a) return "not stated";
  if (a.assumed) return "assumed";
  return a.like ? `not stated: as of the ${meterName(a.like as Role)} meter` : "";
}

function AccuracyRow({ role, accuracy: a, meter, choices, onAccuracy }: { readonly role: Role; readonly accuracy: Accuracy | undefined; readonly meter: PinnedMeter | undefined; readonly choices: readonly RangeChoice[]; onAccuracy(a: Accuracy, meter?: PinnedMeter): void }) {
  const [typed, setTyped] = useState<Partial<Accuracy>>({});
  const label = roleLabel(role);
  const unit = roleUnit(role);
  const own = choices.filter((c) => c.range.unit === unit);
  const chosen = own.find((c) => c.id === meter?.instrumentId && c.range.id === meter.rangeId);
  /** A row counts once all three numbers are there; what was typed is a statement, no assumption any more. */
  const put = (patch: Partial<Accuracy>) => {
    const next = { gain: a?.gain, counts: a?.counts, resolution: a?.resolution, ...typed, ...patch };
    setTyped((t) => ({ ...t, ...patch }));
    const { gain, counts, resolution } = next;
    if (gain !== undefined && counts !== undefined && resolution !== undefined) onAccuracy({ gain, counts, resolution });
  };
  return (
    <tr className="align-top">
      <th scope="row" className="pr-4 pt-1.5 font-normal">
        {label}
      </th>
      {choices.length ? (
        <td className="pb-2 pr-4">
          <Select
            label={`${label}: read with`}
            place="hidden"
            value={chosen ? `${chosen.id} ${chosen.range.id}` : ""}
            onValue={(v) => {
              const c = own.find((x) => `${x.id} ${x.range.id}` === v);
              if (c) onAccuracy(c.range.accuracy, pinned(c.id, c.instrument, c.range));
              else if (a) onAccuracy({ gain: a.gain, counts: a.counts, resolution: a.resolution });
            }}
            choices={[{ value: "", label: "typed" }, ...own.map((c) => ({ value: `${c.id} ${c.range.id}`, label: `${c.instrument.title}, ${c.range.title}` }))]}
          />
        </td>
      ) : null}
      {chosen && a ? (
        <td colSpan={4} className="figures pt-1.5">
          {accuracyText(a, unit)}, up to {formatQuantity(chosen.range.upTo, unit)}
        </td>
      ) : (
        <>
          <td className="pr-4">
            <NumberField hideLabel label={`${label}: share of the reading`} quantity="1" optional value={a?.gain ?? null} refuse={notNegative} onValue={(v) => v !== null && put({ gain: v })} />
          </td>
          <td className="pr-4">
            <NumberField hideLabel label={`${label}: counts`} quantity="" optional value={a?.counts ?? null} refuse={notNegative} onValue={(v) => v !== null && put({ counts: v })} />
          </td>
          <td className="pr-4">
            <NumberField hideLabel label={`${label}: resolution`} quantity={unit} optional value={a?.resolution ?? null} refuse={notNegative} onValue={(v) => v !== null && put({ resolution: v })} />
          </td>
          <td className="pt-1.5 text-pencil">{originOf(a)}</td>
        </>
      )}
    </tr>
  );
}
