import { minutesOf, type Procedure } from "@/core/procedures";
import { progressOf } from "@/core/procedures/order-of-work";
import type { BoardDossier } from "@/notebook";
import { stepRuns } from "@/notebook/order";

export type StepState = "done" | "under way" | "next" | "to do";

/** One step of a board's order of work. */
export interface Step {
  /** Its place in the order; null where nothing asks for it. */
  readonly number: number | null;
  readonly id: string;
  readonly title: string;
  readonly minutes: number;
  readonly state: StepState;
  readonly procedure: Procedure | null;
  readonly said: string;
}

/** Marks that don't rest on colour alone. */
export const SIGNS: Readonly<Record<StepState, string>> = {
  done: "\u2713",
  "under way": "\u2026",
  next: "\u2192",
  "to do": "\u00b7",
};

/** Minutes in words that suit a plan: `1 h 20 min`. */
export const roughly = (minutes: number): string =>
  minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${minutes % 60} min` : ""}`;

/** How far the work on a board has come: claims, samples, the procedures that are asked for, then those that nothing asks for. */
export function stepsOf(dossier: BoardDossier, asked: readonly Procedure[], others: readonly Procedure[]): Step[] {
  const { claims, samples } = dossier;
  const runs = stepRuns(dossier);
  const counted = (n: number, one: string, more: string) => (n ? `${n} ${n === 1 ? one : more}` : "");
  const progress = (p: Procedure): { readonly said: string; readonly state: "done" | "under way" | null } => {
    const { state, stopped } = progressOf(p.id, runs);
    return { said: stopped ? "stopped by the tester" : "", state };
  };
  const all: (Omit<Step, "state"> & { state: StepState | null })[] = [
    {
      number: 1,
      id: "claims",
      title: "Claims",
      minutes: 5,
      procedure: null,
      said: counted(claims.length, "claim", "claims"),
      state: claims.length ? "done" : null,
    },
    {
      number: 2,
      id: "samples",
      title: "Samples",
      minutes: 5,
      procedure: null,
      said: counted(samples.length, "sample", "samples"),
      state: samples.length ? "done" : null,
    },
    ...asked.map((p, k) => ({
      number: k + 3,
      id: p.id,
      title: p.title,
      minutes: minutesOf(p.work),
      procedure: p,
      ...progress(p),
    })),
    ...others.map((p) => ({
      number: null,
      id: p.id,
      title: p.title,
      minutes: minutesOf(p.work),
      procedure: p,
      ...progress(p),
    })),
  ];
  const next = all.findIndex((s) => s.number !== null && s.state === null);
  return all.map((s, k) => ({ ...s, state: s.state ?? (k === next ? "next" : "to do") }));
}
