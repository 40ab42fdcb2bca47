/**
 * Twenty days of forty tasks, each planned in two seconds and held against the best that a long search has found. The finishes of that search
 * are stored beside this file; NIMBUS_DAYS_SEARCH=SECONDS searches each day anew for so long and stores what is better.
 */
import { readFileSync, writeFileSync } from "node:fs";
import { seeded } from "@/core/simulator/random";
import { earliestFinish, planDay, within } from "@/core/use";
import { randomDay } from "@/testing/days";
import type { Figure } from "./report";

const STORED = "scripts/bench/days.json";
const DAYS = 20;
const TASKS = 40;
const LONGEST = 30;
const SEED = 20261203;
const PLAN_MS = 2000;

interface Best {
  readonly seed: number;
  /** Minutes. */
  readonly finish: number;
  /** s that were searched for it. */
  readonly searched: number;
}

const dayOf = (k: number) => randomDay(seeded(SEED + k), TASKS, LONGEST);
const stored = (): Best[] => JSON.parse(readFileSync(STORED, "utf8")) as Best[];

/** The best of many searches from other beginnings, for so many seconds. */
function searched(k: number, seconds: number, known: number): number {
  const q = dayOf(k);
  const least = earliestFinish(q);
  const until = Date.now() + 1000 * seconds;
  let best = known;
  for (let n = 1; Date.now() < until && best > least; n++)
    best = Math.min(
      best,
      planDay(q, seeded(1000 + n), { orders: 400_000, branches: 1000, spent: () => (Date.now() > until ? 1 : 0) })
        .finish,
    );
  return best;
}

/** How far each day's plan ends behind the best known, in per cent. */
export function dayFigures(): Figure[] {
  const search = Number(process.env.NIMBUS_DAYS_SEARCH ?? 0);
  let best = search ? ([] as Best[]) : stored();
  if (search) {
    let known: Best[] = [];
    try {
      known = stored();
    } catch {
      console.log("nothing is stored yet");
    }
    for (let k = 0; k < DAYS; k++) {
      const was = known.find((b) => b.seed === SEED + k);
      const finish = searched(k, search, was?.finish ?? Infinity);
      best = [...best, { seed: SEED + k, finish, searched: search + (was?.searched ?? 0) }];
      console.log(
        `day ${k + 1}: ${was?.finish ?? "?"} to ${finish} min, no day can end before ${earliestFinish(dayOf(k))}`,
      );
      writeFileSync(
        STORED,
        `${JSON.stringify([...best, ...known.filter((b) => !best.some((x) => x.seed === b.seed))], null, 1)}\n`,
      );
    }
  }
  const times: number[] = [];
  const behind = Array.from({ length: DAYS }, (_, k) => {
    const began = performance.now();
    const plan = planDay(dayOf(k), seeded(1), { orders: 1e9, branches: 60_000, spent: within(PLAN_MS, Date.now) });
    times.push(performance.now() - began);
    return 100 * (plan.finish / (best.find((b) => b.seed === SEED + k)?.finish ?? NaN) - 1);
  });
  return [
    { name: "A day of 40 tasks: its end behind the best known", unit: "%", values: behind, judged: "most", target: 2 },
    { name: "A day of 40 tasks: planned", unit: "ms", values: times, judged: "most", target: 2100 },
  ];
}
