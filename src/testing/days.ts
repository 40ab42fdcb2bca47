import type { Random } from "@/core/simulator/random";
import type { ScheduleQuestion, ScheduleStep } from "@/core/use";

/** A whole number from low to high. */
export const whole = (r: Random, low: number, high: number): number =>
  Math.min(high, low + Math.floor(r.uniform() * (high - low + 1)));

/** A day of so many tasks: a charge (hands at both ends), a sweep (hands throughout) or a soak (hands to begin with). */
export function randomDay(r: Random, tasks: number, longest: number): ScheduleQuestion {
  const instruments = { hands: 1, supply: whole(r, 1, 2), load: whole(r, 1, 2), meter: whole(r, 2, 3) };
  const minutes = (): number => whole(r, 1, longest);
  const steps = (...list: readonly (readonly [minutes: number, needs: ScheduleStep["needs"]])[]): ScheduleStep[] =>
    list.map(([m, needs]) => ({ minutes: m, needs }));
  const kinds: (() => ScheduleStep[])[] = [
    () => steps([minutes(), { hands: 1, meter: 1 }], [minutes() + longest, { meter: 1 }], [1, { hands: 1, meter: 1 }]),
    () => steps([minutes(), { hands: 1, supply: 1, load: 1, meter: whole(r, 0, 2) }]),
    () => steps([minutes(), { hands: 1, supply: 1, load: 1 }], [minutes() + 2, { supply: 1, load: 1 }]),
  ];
  return {
    instruments,
    tasks: Array.from({ length: tasks }, (_, k) => ({
      id: `t${k}`,
      steps: (kinds[whole(r, 0, kinds.length - 1)] ?? (() => []))(),
      ...(k > 0 && r.uniform() < 0.4 ? { after: [`t${whole(r, 0, k - 1)}`] } : {}),
    })),
  };
}
