import { sameAccuracy, type Accuracy, type PinnedMeter } from "../instruments";
import type { Unit } from "../quantities";

/** What a column or a meter can stand for. Cells of a pack are numbered (`cell1Voltage` …) and checked by `isRole`. */
export const ROLES = {
  time: { unit: "s", label: "Time" },
  inputVoltage: { unit: "V", label: "Input voltage" },
  inputCurrent: { unit: "A", label: "Input current" },
  cellVoltage: { unit: "V", label: "Cell voltage" },
  cellCurrent: { unit: "A", label: "Cell current" },
  batteryVoltage: { unit: "V", label: "Battery voltage" },
  batteryCurrent: { unit: "A", label: "Battery current" },
  outputVoltage: { unit: "V", label: "Output voltage" },
  outputCurrent: { unit: "A", label: "Output current" },
  partTemperature: { unit: "°C", label: "Part temperature" },
  cellTemperature: { unit: "°C", label: "Cell temperature" },
  ambientTemperature: { unit: "°C", label: "Ambient" },
  outputLow: { unit: "V", label: "Lowest output caught" },
  outputHigh: { unit: "V", label: "Highest output caught" },
  outsideTime: { unit: "s", label: "Time out of band" },
  referenceVoltage: { unit: "V", label: "Reference voltage" },
  referenceCurrent: { unit: "A", label: "Reference current" },
  channel: { unit: "", label: "Channel" },
  repeat: { unit: "", label: "Repeat" },
  cell: { unit: "", label: "Cell number" },
} as const satisfies Record<string, { unit: Unit; label: string }>;

export type Role = keyof typeof ROLES | `cell${number}Voltage`;

export const isRole = (name: string): name is Role => Object.hasOwn(ROLES, name) || /^cell\d+Voltage$/.test(name);

export function roleUnit(role: Role): Unit {
  return Object.hasOwn(ROLES, role) ? ROLES[role as keyof typeof ROLES].unit : "V";
}

export function roleLabel(role: Role): string {
  if (Object.hasOwn(ROLES, role)) return ROLES[role as keyof typeof ROLES].label;
  return `Cell ${/\d+/.exec(role)?.[0] ?? ""} voltage`;
}

/** The meter that most likely read a role of which the bench says nothing: the same ones are used all over a bench. */
const LIKE: Readonly<Partial<Record<Role, readonly Role[]>>> = {
  cellVoltage: ["batteryVoltage", "outputVoltage"],
  inputVoltage: ["outputVoltage", "batteryVoltage"],
  cellCurrent: ["batteryCurrent", "outputCurrent"],
  inputCurrent: ["outputCurrent", "batteryCurrent"],
  ambientTemperature: ["partTemperature"],
  outputLow: ["outputVoltage"],
  outputHigh: ["outputVoltage"],
  referenceVoltage: ["outputVoltage", "batteryVoltage"],
  referenceCurrent: ["outputCurrent", "batteryCurrent"],
  cellTemperature: ["partTemperature", "ambientTemperature"],
};

/** What a bench's meters say of these roles, a like meter's word standing in where a role has none of its own. */
export function metersFor<T>(
  roles: readonly Role[],
  instruments: Readonly<Partial<Record<Role, T>>>,
): Partial<Record<Role, T>> {
  const out: Partial<Record<Role, T>> = {};
  for (const role of roles) {
    const match =
      instruments[role] ??
      (LIKE[role] ?? (/^cell\d+Voltage$/.test(role) ? (["cellVoltage", "batteryVoltage"] as const) : []))
        .map((r) => instruments[r])
        .find((a) => a !== undefined);
    if (match !== undefined) out[role] = match;
  }
  return out;
}

type ByRole<T> = Readonly<Partial<Record<Role, T>>>;

/** The accuracies of the meters that read these roles, marked where a like meter's stands in. */
export function accuraciesFor(roles: readonly Role[], instruments: ByRole<Accuracy>): Partial<Record<Role, Accuracy>> {
  const out = metersFor(roles, instruments);
  for (const role of roles) {
    const column = out[role];
    if (!column || instruments[role]) continue;
    const of = (Object.keys(instruments) as Role[]).find((r) => instruments[r] === column);
    out[role] = { ...column, like: column.like ?? of ?? role };
  }
  return out;
}

/** A rig with a role read differently: with a range of a meter, or with an accuracy that was written down by hand. */
export function readWith<R extends { readonly instruments: ByRole<Accuracy>; readonly meters?: ByRole<PinnedMeter> }>(
  rig: R,
  role: Role,
  accuracy: Accuracy,
  meter?: PinnedMeter,
): R {
  const { [role]: _before, ...others } = rig.meters ?? {};
  void _before;
  return {
    ...rig,
    instruments: { ...rig.instruments, [role]: accuracy },
    ...(meter ? { meters: { ...others, [role]: meter } } : rig.meters ? { meters: others } : {}),
  };
}

/** Which of a rig's meters a set-up was read with: those whose accuracy it has. What was typed in for one run alone is nobody's meter. */
export function metersPinned(
  instruments: ByRole<Accuracy>,
  rig: { readonly instruments: ByRole<Accuracy>; readonly meters?: ByRole<PinnedMeter> },
): Partial<Record<Role, PinnedMeter>> {
  const roles = Object.keys(instruments) as Role[];
  const meters = metersFor(roles, rig.meters ?? {});
  const own = metersFor(roles, rig.instruments);
  return Object.fromEntries(
    Object.entries(meters).filter(([role]) => sameAccuracy(instruments[role as Role], own[role as Role])),
  );
}
