"use client";

import type { Accuracy } from "@/core/instruments";
import { roleLabel, roleUnit, type Role } from "@/core/procedures";
import { NumberField } from "./number-field";

const notNegative = (v: number) => (v >= 0 ? null : "Not negative.");
const NONE: Accuracy = { gain: 0, counts: 0, resolution: 0.001 };

/** What each meter's data sheet says: ±(share of the reading + counts × resolution). */
export function AccuracyTable({ roles, instruments, onAccuracy }: { roles: readonly Role[]; instruments: Readonly<Partial<Record<Role, Accuracy>>>; onAccuracy(role: Role, a: Accuracy): void }) {
  return (
    <table className="text-left text-sm">
      <thead className="text-pencil">
        <tr>
          <th className="pr-4 font-medium">Meter</th>
          <th className="pr-4 font-medium">± share of the reading</th>
          <th className="pr-4 font-medium">+ counts</th>
          <th className="font-medium">of resolution</th>
        </tr>
      </thead>
      <tbody>
        {roles.map((role) => {
          const a = instruments[role] ?? NONE;
          const label = roleLabel(role);
          return (
            <tr key={role} className="align-top">
              <th scope="row" className="pr-4 pt-1.5 font-normal">
                {label}
              </th>
              <td className="pr-4">
                <NumberField hideLabel label={`${label}: share of the reading`} quantity="1" value={a.gain} refuse={notNegative} onValue={(v) => v !== null && onAccuracy(role, { ...a, gain: v })} />
              </td>
              <td className="pr-4">
                <NumberField hideLabel label={`${label}: counts`} quantity="" value={a.counts} refuse={notNegative} onValue={(v) => v !== null && onAccuracy(role, { ...a, counts: v })} />
              </td>
              <td>
                <NumberField hideLabel label={`${label}: resolution`} quantity={roleUnit(role)} value={a.resolution} refuse={notNegative} onValue={(v) => v !== null && onAccuracy(role, { ...a, resolution: v })} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
