import type { Conditions } from "../../characteristics";
import { budget, expandedUncertainty, formatQuantity, highest, lowest } from "../../quantities";
import type { Finding, LoadSetting, Unfairness } from "../../measurement";
import { startKinds, type SweepPlan } from "./plan";
import type { SweepColumn, SweepPoint } from "./points";

/** V within which the lowest battery that it starts from is to be known; V steps that a supply is set in. */
const VOLTS_RESOLUTION = 0.02;
const SETTABLE_VOLTS = 0.01;
/** V below the lowest battery of the plan that a start is tried at, and V below which none is. */
const BELOW = 1.2;
const LEAST_VOLTS = 0.8;
/** Digits that a load's resistance or power is set to. */
const SETTABLE_DIGITS = 4;
/** Share by which two loads may differ and still be one. */
const SAME_LOAD = 0.02;

/** A battery voltage at which a load was started into from off, and whether the output rose to its band. */
interface Try {
  readonly battery: number;
  readonly point: SweepPoint;
}

/** A column that holds nothing but starts belongs to the search over battery voltages: it says nothing of what is held. */
export const onlyStarts = (c: SweepColumn): boolean => c.points.length > 0 && c.points.every((p) => p.fromOff);

const isLoad = (p: SweepPoint, amps: number): boolean => Math.abs(p.loadSet - amps) <= SAME_LOAD * amps;
const triesAt = (columns: readonly SweepColumn[], amps: number): Try[] =>
  columns.flatMap((c) =>
    c.points.filter((p) => p.fromOff && p.dwelt && isLoad(p, amps)).map((point) => ({ battery: c.battery, point })),
  );

interface Edge {
  /** Lowest battery that it started from, above every one that it refused. */
  readonly started: Try | null;
  readonly refused: Try | null;
}

function edgeOf(tries: readonly Try[]): Edge {
  const refused = tries
    .filter((t) => !t.point.inBand)
    .reduce<Try | null>((a, b) => (a && a.battery >= b.battery ? a : b), null);
  const started = tries
    .filter((t) => t.point.inBand && t.battery > (refused?.battery ?? -Infinity))
    .reduce<Try | null>((a, b) => (a && a.battery <= b.battery ? a : b), null);
  return { started, refused };
}

export interface VoltageTry {
  readonly battery: number;
  /** About how many tries the search still asks for, this one among them. */
  readonly left: number;
}

/**
 * The next battery voltage to start from, into the plan's load; null where the lowest is known or none is searched. First the fullest
 * battery, then far below the emptiest; what lies between is halved.
 */
export function nextStartVoltage(plan: SweepPlan, columns: readonly SweepColumn[]): VoltageTry | null {
  const { startLoad } = plan;
  if (!startLoad) return null;
  const [top, bottom] = [
    highest(plan.batteries),
    Math.max(LEAST_VOLTS, Number((lowest(plan.batteries) - BELOW).toFixed(2))),
  ];
  const halvings = (span: number): number => Math.max(0, Math.ceil(Math.log2(span / VOLTS_RESOLUTION)));
  const { started, refused } = edgeOf(triesAt(columns, startLoad));
  if (!started) return refused ? null : { battery: top, left: 2 + halvings(top - bottom) };
  if (!refused)
    return started.battery <= bottom + 1e-9 ? null : { battery: bottom, left: 1 + halvings(started.battery - bottom) };
  if (started.battery - refused.battery <= VOLTS_RESOLUTION * 1.001) return null;
  const battery = Number(
    (Math.round((started.battery + refused.battery) / 2 / SETTABLE_VOLTS) * SETTABLE_VOLTS).toFixed(3),
  );
  return battery <= refused.battery || battery >= started.battery
    ? null
    : { battery, left: halvings(started.battery - refused.battery) };
}

/** A load that takes so many A at the nominal output (V), set as a current, a resistance or a power; a current where no output is known. */
export function drawnAs(
  kind: LoadSetting["mode"],
  amps: number,
  nominal: number | undefined,
): { readonly load: LoadSetting; readonly text: string } {
  const set = (value: number): number => Number(value.toPrecision(SETTABLE_DIGITS));
  const about = `(${formatQuantity(amps, "A", { digits: 3 })})`;
  if (kind === "resistance" && nominal && amps > 0)
    return {
      load: { mode: "resistance", value: set(nominal / amps) },
      text: `a resistance of ${formatQuantity(set(nominal / amps), "Ω")} ${about}`,
    };
  if (kind === "power" && nominal)
    return {
      load: { mode: "power", value: set(nominal * amps) },
      text: `a constant power of ${formatQuantity(set(nominal * amps), "W")} ${about}`,
    };
  return { load: { mode: "current", value: amps }, text: formatQuantity(amps, "A") };
}

/** How the plan's load is put on: as the first of its kinds, or the resistor of the drawer that comes nearest. */
export function startLoadOf(
  plan: SweepPlan,
  nominal: number | undefined,
): { readonly load: LoadSetting; readonly text: string } {
  const amps = plan.startLoad ?? 0;
  const nearest = plan.drawer
    ?.filter((c) => c.strain <= 1)
    .reduce<NonNullable<SweepPlan["drawer"]>[number] | null>(
      (a, b) => (a && Math.abs(a.amps - amps) <= Math.abs(b.amps - amps) ? a : b),
      null,
    );
  return nearest
    ? { load: { mode: "resistance", value: nearest.ohms }, text: nearest.text }
    : drawnAs(startKinds(plan)[0] ?? "current", amps, nominal);
}

/**
 * The lowest battery voltage that the output starts from into each load that was tried at more than one. What is held at the supply's limit
 * or below a voltage that sagged is the supply's, not the board's.
 */
export function startVoltages(
  columns: readonly SweepColumn[],
  at: Conditions,
  supplyAtFault: (p: SweepPoint, held: SweepPoint | null) => boolean,
): Finding[] {
  const searched = columns.filter(onlyStarts).flatMap((c) => c.points.filter((p) => p.dwelt && p.loadSet > 0));
  const loads = searched.reduce<number[]>(
    (seen, p) => (seen.some((l) => isLoad(p, l)) ? seen : [...seen, p.loadSet]),
    [],
  );
  return loads.flatMap((load): Finding[] => {
    const tries = triesAt(columns, load);
    if (new Set(tries.map((t) => t.battery)).size < 2) return [];
    const { started, refused } = edgeOf(tries);
    const edge = started ?? refused;
    if (!edge) return [];
    const volts = edge.point.batteryV;
    const unfair: Unfairness[] =
      refused && supplyAtFault(refused.point, started?.point ?? null)
        ? [
            {
              code: "supply-gave-up",
              message: `When the output did not start at ${formatQuantity(refused.battery, "V")}, the supply was at its own limit or its voltage had sagged: the supply stopped the start, not the module.`,
              remedy: "Raise the supply's current limit (or shorten the battery leads) and repeat the starts.",
              pushes: "high",
            },
          ]
        : [];
    return [
      {
        characteristic: "boost.start-voltage",
        conditions: { load, ...at },
        value: volts.value,
        unit: "V",
        expandedUncertainty: expandedUncertainty(volts),
        budget: budget(volts),
        points: [...(started ? [started.point.id] : []), ...(refused ? [refused.point.id] : [])],
        unfair,
        ...(started && refused
          ? { bracket: { low: refused.battery, high: volts.value } }
          : { bound: started ? ("at-most" as const) : ("at-least" as const) }),
      },
    ];
  });
}
