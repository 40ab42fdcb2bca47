"use client";

import { pinned, type Accuracy, type Instrument, type MeterRange, type PinnedMeter } from "@/core/instruments";
import { roleLabel, roleUnit, type Role } from "@/core/procedures/roles";
import { formatQuantity } from "@/core/quantities";
import { NumberField } from "./number-field";

const notNegative = (v: number) => (v >= 0 ? null : "Not negative.");
const NONE: Accuracy = { gain: 0, counts: 0, resolution: 0.001 };

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

/** A range's accuracy as a data sheet writes it: `±(0.05 % + 2 × 1 mV)`. */
export const accuracyText = (a: Accuracy, unit: Parameters<typeof formatQuantity>[1]): string => `±(${formatQuantity(a.gain, "1")} + ${a.counts} × ${formatQuantity(a.resolution, unit)})`;

/** Which meter reads what, and what its data sheet says: ±(share of the reading + counts × resolution). */
export function AccuracyTable({ roles, instruments, meters = {}, choices = [], onAccuracy }: AccuracyTableProps) {
  const head = "pr-4 font-medium";
  return (
    <table className="text-left text-sm">
      <thead className="text-pencil">
        <tr>
          <th className={head}>{choices.length ? "Reads" : "Meter"}</th>
          {choices.length ? <th className={head}>with</th> : null}
          <th className={head}>± share of the reading</th>
          <th className={head}>+ counts</th>
          <th className="font-medium">of resolution</th>
        </tr>
      </thead>
      <tbody>
        {roles.map((role) => {
          const a = instruments[role] ?? NONE;
          const label = roleLabel(role);
          const unit = roleUnit(role);
          const own = choices.filter((c) => c.range.unit === unit);
          const meter = meters[role];
          const chosen = own.find((c) => c.id === meter?.instrumentId && c.range.id === meter.rangeId);
          return (
            <tr key={role} className="align-top">
              <th scope="row" className="pr-4 pt-1.5 font-normal">
                {label}
              </th>
              {choices.length ? (
                <td className="pb-2 pr-4">
                  <select
                    aria-label={`${label}: read with`}
                    value={chosen ? `${chosen.id} ${chosen.range.id}` : ""}
                    onChange={(e) => {
                      const c = own.find((x) => `${x.id} ${x.range.id}` === e.target.value);
                      if (c) onAccuracy(role, c.range.accuracy, pinned(c.id, c.instrument, c.range));
                      else onAccuracy(role, a);
                    }}
                    className="max-w-60 border border-pencil/60 bg-field px-2 py-1.5 text-base text-ink"
                  >
                    <option value="">written by hand</option>
                    {own.map((c) => (
                      <option key={`${c.id} ${c.range.id}`} value={`${c.id} ${c.range.id}`}>
                        {c.instrument.title}, {c.range.title}
                      </option>
                    ))}
                  </select>
                </td>
              ) : null}
              {chosen ? (
                <td colSpan={3} className="figures pt-1.5">
                  {accuracyText(a, unit)}, up to {formatQuantity(chosen.range.upTo, unit)}
                </td>
              ) : (
                <>
                  <td className="pr-4">
                    <NumberField hideLabel label={`${label}: share of the reading`} quantity="1" value={a.gain} refuse={notNegative} onValue={(v) => v !== null && onAccuracy(role, { ...a, gain: v })} />
                  </td>
                  <td className="pr-4">
                    <NumberField hideLabel label={`${label}: counts`} quantity="" value={a.counts} refuse={notNegative} onValue={(v) => v !== null && onAccuracy(role, { ...a, counts: v })} />
                  </td>
                  <td>
                    <NumberField hideLabel label={`${label}: resolution`} quantity={unit} value={a.resolution} refuse={notNegative} onValue={(v) => v !== null && onAccuracy(role, { ...a, resolution: v })} />
                  </td>
                </>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
