"use client";

import type { ReactNode } from "react";

export interface SourceChoiceProps {
  /** Key of the invented specimen on the simulated bench; null where the readings are typed. */
  readonly simulated: string | null;
  readonly offered: Readonly<Record<string, { readonly title: string }>>;
  /** What stands on the bench: `module`, `charger`. */
  readonly what: string;
  readonly byHand: string;
  onSource(simulated: string | null): void;
  /** Further fields of the simulated bench. */
  readonly children?: ReactNode;
}

/** Where a run's readings come from: the tester's own meters, or the simulated bench with an invented specimen on it. */
export function SourceChoice({ simulated, offered, what, byHand, onSource, children }: SourceChoiceProps) {
  return (
    <fieldset className="mb-4">
      <legend className="mb-1 text-sm text-pencil">Source of the readings</legend>
      <label className="mr-6 inline-flex items-center gap-2">
        <input type="radio" name="source" checked={simulated === null} onChange={() => onSource(null)} className="size-4 accent-(--copper)" />
        {byHand}
      </label>
      <label className="inline-flex items-center gap-2">
        <input type="radio" name="source" checked={simulated !== null} onChange={() => onSource(Object.keys(offered)[0] ?? "")} className="size-4 accent-(--copper)" />
        The simulated bench
      </label>
      {simulated !== null ? (
        <div className="mt-2 flex flex-wrap items-end gap-x-5">
          <label className="text-sm text-pencil">
            with this invented {what} on it
            <select value={simulated} onChange={(e) => onSource(e.target.value)} className="mt-0.5 block border border-pencil/60 bg-field px-2 py-1.5 text-base text-ink">
              {Object.entries(offered).map(([key, m]) => (
                <option key={key} value={key}>
                  {m.title}
                </option>
              ))}
            </select>
          </label>
          {children}
        </div>
      ) : null}
    </fieldset>
  );
}
