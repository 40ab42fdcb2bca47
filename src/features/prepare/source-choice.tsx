"use client";

import type { ReactNode } from "react";
import { RadioGroup } from "@/ui/radio-group";
import { Select } from "@/ui/select";

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
  // Nothing is simulated of what somebody watches with their own eyes.
  if (Object.keys(offered).length === 0) return <p className="mb-4">{byHand}.</p>;
  return (
    <div className="mb-4">
      <RadioGroup
        label="Source of the readings"
        value={simulated === null ? "typed" : "simulated"}
        onValue={(v) => onSource(v === "typed" ? null : (Object.keys(offered)[0] ?? ""))}
        choices={[
          { value: "typed", label: byHand },
          { value: "simulated", label: "The simulated bench" },
        ]}
      />
      {simulated !== null ? (
        <div className="mt-2 flex flex-wrap items-start gap-x-5">
          <Select
            label={`with this invented ${what} on it`}
            place="above"
            value={simulated}
            onValue={onSource}
            choices={Object.entries(offered).map(([value, m]) => ({ value, label: m.title }))}
          />
          {children}
        </div>
      ) : null}
    </div>
  );
}
