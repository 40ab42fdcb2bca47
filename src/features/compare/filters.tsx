"use client";

import { BOARD_FUNCTIONS, FUNCTION_LABELS, type BoardFunction } from "@/core/characteristics/functions";
import type { BoardRecord, NeedRecord } from "@/core/files/records";
import { Checkbox } from "@/ui/checkbox";
import { Link } from "@/ui/link";
import { Select } from "@/ui/select";

/** What of the comparison is shown. */
export interface Shown {
  readonly family: BoardFunction | "any";
  readonly need: string;
  readonly measured: boolean;
  /** The board that stands out, and that others are compared with; "none" where no one does. */
  readonly reference: string;
}
export const ALL: Shown = { family: "any", need: "any", measured: false, reference: "none" };

export function Filters({
  shown,
  onShown,
  needs,
  boards,
}: {
  readonly shown: Shown;
  onShown(s: Shown): void;
  readonly needs: readonly NeedRecord[];
  readonly boards: readonly BoardRecord[];
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1 py-1">
      <Select
        label="Function"
        value={shown.family}
        onValue={(family) => onShown({ ...shown, family })}
        choices={[
          { value: "any", label: "any" },
          ...BOARD_FUNCTIONS.map((f) => ({ value: f, label: FUNCTION_LABELS[f] })),
        ]}
      />
      {needs.length ? (
        <Select
          label="Need"
          value={shown.need}
          onValue={(need) => onShown({ ...shown, need })}
          choices={[{ value: "any", label: "any" }, ...needs.map((n) => ({ value: n.id as string, label: n.title }))]}
        />
      ) : null}
      <Select
        label="Reference"
        value={shown.reference}
        onValue={(reference) => onShown({ ...shown, reference })}
        choices={[{ value: "none", label: "none" }, ...boards.map((b) => ({ value: b.id as string, label: b.title }))]}
      />
      <Checkbox checked={shown.measured} onChecked={(measured) => onShown({ ...shown, measured })}>
        measured only
      </Checkbox>
      <Link href="/curves" className="text-sm underline underline-offset-4">
        Overlaid curves
      </Link>
    </div>
  );
}
