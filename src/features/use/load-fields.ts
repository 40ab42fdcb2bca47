import { PLAIN_WIRING, type AddedProtection, type Draw, type Load, type LoadStep } from "@/core/use";

export interface StepFields {
  draw: Draw | "off";
  value: number | null;
  seconds: number | null;
}

/** A load as it stands in its form; an added board's numbers count only where it is ticked. */
export interface LoadFields {
  title: string;
  note: string;
  voltage: number | null;
  lowest: number | null;
  steps: StepFields[];
  surge: number | null;
  converter: number | null;
  resistance: number | null;
  ampacity: number | null;
  jumper: boolean;
  tap: string;
  add: boolean;
  /** Id of the board of the notebook that it is; "" for none. */
  addedBoard: string;
  added: { [K in Exclude<keyof AddedProtection, "boardId">]: number | null };
}

const USUAL_ADDED: AddedProtection = { trip: 3, tolerance: 0.2, cut: 2.9, resistance: 0.05, current: 4e-6 };

const numbersOf = ({ trip, tolerance, cut, resistance, current }: AddedProtection): LoadFields["added"] => ({
  trip,
  tolerance,
  cut,
  resistance,
  current,
});

export const fieldsOf = (l: Load | null): LoadFields => ({
  title: l?.title ?? "",
  note: l?.note ?? "",
  voltage: l?.voltage ?? 5,
  lowest: l?.lowest ?? 4.75,
  steps: l?.steps.map((s) => ({
    draw: s.off ? ("off" as const) : s.draw,
    value: s.off ? null : s.value,
    seconds: s.seconds,
  })) ?? [{ draw: "current", value: null, seconds: 3600 }],
  surge: l?.surge ?? null,
  converter: l && l.converters.length ? l.converters.reduce((e, x) => e * x, 1) : null,
  resistance: l?.wiring.resistance ?? PLAIN_WIRING.resistance,
  ampacity: l?.wiring.ampacity ?? PLAIN_WIRING.ampacity,
  jumper: l?.wiring.jumper ?? false,
  tap: l?.wiring.taps.join(", ") ?? "",
  add: l?.wiring.added !== undefined,
  addedBoard: l?.wiring.added?.boardId ?? "",
  added: numbersOf(l?.wiring.added ?? USUAL_ADDED),
});

const stepOf = (s: StepFields): LoadStep =>
  s.draw === "off"
    ? { draw: "current", value: 0, seconds: s.seconds ?? NaN, off: true }
    : { draw: s.draw, value: s.value ?? NaN, seconds: s.seconds ?? NaN };

/** The load of a form that was not refused: all its numbers are there. The fuse that was chosen and what it did in use stay. */
export function loadOf(f: LoadFields, before: Load | null): Load {
  const n = (x: number | null): number => x ?? NaN;
  return {
    title: f.title.trim(),
    note: f.note.trim(),
    voltage: n(f.voltage),
    lowest: n(f.lowest),
    steps: f.steps.map(stepOf),
    ...(f.surge === null ? {} : { surge: f.surge }),
    converters: f.converter === null ? [] : [f.converter],
    wiring: {
      resistance: n(f.resistance),
      ampacity: n(f.ampacity),
      ...(before?.wiring.fuse === undefined ? {} : { fuse: before.wiring.fuse }),
      jumper: f.jumper,
      taps: f.tap
        .split(",")
        .map((t) => t.trim())
        .filter(Boolean),
      ...(f.add
        ? {
            added: {
              ...(f.addedBoard ? { boardId: f.addedBoard } : {}),
              trip: n(f.added.trip),
              tolerance: n(f.added.tolerance),
              cut: n(f.added.cut),
              resistance: n(f.added.resistance),
              current: n(f.added.current),
            },
          }
        : {}),
    },
    ...(before?.used ? { used: before.used } : {}),
  };
}
