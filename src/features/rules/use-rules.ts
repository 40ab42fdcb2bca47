"use client";

import { compute } from "@/workers/compute";
import { useEffect, useState } from "react";
import { useForm, useWatch, type Control } from "react-hook-form";
import { completeRules, type HouseRules, type NumberRule } from "@/core/measurement";
import type { RulesRecord } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { attempt, notify } from "@/browser/notify";
import { flipsIf, type Flip } from "@/notebook";
import { boards, change, edit, newId, now } from "@/storage";

/** The rules while they are typed: a number is null while its field is empty, and none while it holds no number that makes sense. */
type TypedRules = { -readonly [K in keyof HouseRules]: K extends NumberRule ? number | null : HouseRules[K] };

export interface EditedRules {
  readonly control: Control<TypedRules>;
  /** How many differ from what is stored. */
  readonly changed: number;
  /** Null where they can be saved. */
  readonly wrong: string | null;
  readonly looking: boolean;
  /** The verdicts that saving would change; null while nothing is asked. */
  readonly flips: readonly Flip[] | null;
  /** A usual value in place of what the field holds. */
  take(key: NumberRule, value: number): void;
  reset(): void;
  /** Looks first at what the new rules would change; where nothing does, they are stored at once. */
  save(): void;
  /** Stores them, flips and all. */
  confirm(): void;
  cancel(): void;
}

/** All rules, where every field holds a number. */
function rulesOf(typed: TypedRules): HouseRules | null {
  const whole = Object.values(typed).every((v) => typeof v === "string" || (v !== null && !Number.isNaN(v)));
  return whole ? (typed as HouseRules) : null;
}

const ordered = (r: HouseRules): boolean => r.batteryFull > r.batteryNominal && r.batteryNominal > r.batteryEmpty;

/** House rules while they are edited. */
export function useRules(stored: RulesRecord | null, onDirty: (dirty: boolean) => void): EditedRules {
  const { notebook } = useSession();
  const before: TypedRules = completeRules(stored?.rules);
  const { control, setValue, reset } = useForm<TypedRules>({ defaultValues: before });
  const typed = { ...before, ...useWatch({ control }) };
  const rules = rulesOf(typed);
  const [flips, setFlips] = useState<readonly Flip[] | null>(null);
  const [looking, setLooking] = useState(false);
  const changed = (Object.keys(before) as (keyof HouseRules)[]).filter((k) => typed[k] !== before[k]).length;
  const dirty = changed > 0;
  useEffect(() => onDirty(dirty), [dirty, onDirty]);
  const store = (of: HouseRules) =>
    void attempt(async () => {
      const at = now();
      await change("house rules", [
        stored
          ? edit(stored, { ...stored, rules: of })
          : { kind: "rules", id: newId(), notebookId: notebook.id, createdAt: at, updatedAt: at, rules: of },
      ]);
      onDirty(false);
      await notify("House rules saved. All verdicts were judged again.");
    });
  return {
    control,
    changed,
    wrong:
      rules === null
        ? "A field above is invalid."
        : ordered(rules)
          ? null
          : "Full must be above nominal, and nominal above nearly empty.",
    looking,
    flips,
    take: (key, value) => setValue(key, value, { shouldDirty: true }),
    reset: () => reset(before),
    save: () => {
      if (!rules) return;
      setLooking(true);
      void attempt(async () => {
        const changes = await flipsIf(compute, await boards(notebook.id), { rules });
        if (changes.length) setFlips(changes);
        else store(rules);
      }).finally(() => setLooking(false));
    },
    confirm: () => {
      setFlips(null);
      if (rules) store(rules);
    },
    cancel: () => setFlips(null),
  };
}
