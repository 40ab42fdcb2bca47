"use client";

import { useEffect, useState } from "react";
import { completeRules, type HouseRules, type NumberRule, type RuleChoice } from "@/core/procedures/house-rules";
import type { RulesRecord } from "@/core/files/records";
import { useSession } from "@/session/context";
import { attempt, notify } from "@/session/notify";
import { boards, change, edit, flipsIf, newId, now, type Flip } from "@/storage";

export interface EditedRules {
  readonly rules: HouseRules;
  /** How many differ from what is stored. */
  readonly changed: number;
  /** Null where they can be saved. */
  readonly wrong: string | null;
  readonly looking: boolean;
  /** The verdicts that saving would change; null while nothing is asked. */
  readonly flips: readonly Flip[] | null;
  /** Raised where a field has to show what something else set. */
  edition(key: NumberRule): number;
  put(key: NumberRule, value: number | null): void;
  /** A usual value in place of what the field holds. */
  take(key: NumberRule, value: number): void;
  choose(key: RuleChoice["key"], value: RuleChoice["of"][number]["value"]): void;
  reset(): void;
  /** Looks first at what the new rules would change; where nothing does, they are stored at once. */
  save(): void;
  /** Stores them, flips and all. */
  confirm(): void;
  cancel(): void;
}

/** House rules while they are edited. */
export function useRules(stored: RulesRecord | null, onDirty: (dirty: boolean) => void): EditedRules {
  const { notebook } = useSession();
  const before = completeRules(stored?.rules);
  const [rules, setRules] = useState<HouseRules>(before);
  const [bad, setBad] = useState<ReadonlySet<NumberRule>>(new Set());
  const [flips, setFlips] = useState<readonly Flip[] | null>(null);
  const [looking, setLooking] = useState(false);
  const [editions, setEditions] = useState<Readonly<Partial<Record<NumberRule, number>>>>({});
  const [resets, setResets] = useState(0);
  const changed = (Object.keys(rules) as (keyof HouseRules)[]).filter((k) => rules[k] !== before[k] || bad.has(k as NumberRule)).length;
  const dirty = changed > 0;
  useEffect(() => onDirty(dirty), [dirty, onDirty]);
  const ordered = rules.batteryFull > rules.batteryNominal && rules.batteryNominal > rules.batteryEmpty;
  const mark = (key: NumberRule, isBad: boolean) => setBad((b) => new Set(isBad ? [...b, key] : [...b].filter((x) => x !== key)));
  const store = () =>
    void attempt(async () => {
      const at = now();
      await change("house rules", [stored ? edit(stored, { ...stored, rules }) : { kind: "rules", id: newId(), notebookId: notebook.id, createdAt: at, updatedAt: at, rules }]);
      onDirty(false);
      await notify("House rules saved. All verdicts were judged again.");
    });
  return {
    rules,
    changed,
    wrong: bad.size ? "A field above is invalid." : ordered ? null : "Full must be above nominal, and nominal above nearly empty.",
    looking,
    flips,
    edition: (key) => (editions[key] ?? 0) + resets,
    put: (key, value) => {
      mark(key, value === null);
      if (value !== null) setRules((r) => ({ ...r, [key]: value }));
    },
    take: (key, value) => {
      mark(key, false);
      setRules((r) => ({ ...r, [key]: value }));
      setEditions((e) => ({ ...e, [key]: (e[key] ?? 0) + 1 }));
    },
    choose: (key, value) => setRules((r) => ({ ...r, [key]: value })),
    reset: () => {
      setRules(before);
      setBad(new Set());
      setResets((n) => n + 1);
    },
    save: () => {
      setLooking(true);
      void attempt(async () => {
        const found = await flipsIf(await boards(notebook.id), { rules });
        if (found.length) setFlips(found);
        else store();
      }).finally(() => setLooking(false));
    },
    confirm: () => {
      setFlips(null);
      store();
    },
    cancel: () => setFlips(null),
  };
}
