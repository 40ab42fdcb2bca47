"use client";

import { useEffect, useState } from "react";
import { completeRules, HOUSE_RULES, RULE_TEXTS, type HouseRules } from "@/core/procedures";
import { formatQuantity } from "@/core/quantities";
import type { RulesRecord } from "@/core/files/records";
import { useSession } from "@/session/context";
import { attempt, notify } from "@/session/notify";
import { change, newId, now, ofKind, useLive } from "@/storage";
import { Button } from "@/ui/button";
import { NumberField } from "@/ui/number-field";
import { Quiet, Section } from "@/ui/section";

/** What the house has settled once, each with its reason. Runs that were taken keep what was pinned to them. */
export function RulesPage() {
  const { notebook } = useSession();
  const live = useLive(`rules-${notebook.id}`, async () => (await ofKind(notebook.id, "rules"))[0] ?? null, (n) => n.kinds.includes("rules"));
  useEffect(() => {
    document.title = "House rules · Nimbus Bench";
  }, []);
  if (live.state !== "ready") return <Quiet>Fetching the house rules …</Quiet>;
  return <Rules key={live.value?.updatedAt ?? "none"} stored={live.value} />;
}

function Rules({ stored }: { stored: RulesRecord | null }) {
  const { notebook } = useSession();
  const [rules, setRules] = useState<HouseRules>(completeRules(stored?.rules));
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const order = rules.batteryFull > rules.batteryNominal && rules.batteryNominal > rules.batteryEmpty;
  const save = () =>
    void attempt(async () => {
      const at = now();
      await change("house rules", [stored ? { ...stored, rules, updatedAt: at } : { kind: "rules", id: newId(), notebookId: notebook.id, createdAt: at, updatedAt: at, rules }]);
      await notify("The house rules are kept; every verdict was judged anew.");
    });
  return (
    <div className="sheet">
      <Section level={1} mark="house" title="House rules">
        <p className="mb-4 max-w-prose text-pencil">Chosen once for this notebook. New plans follow them, and verdicts are judged by them; what a run was measured with stays pinned to it.</p>
        <ul className="mb-4 divide-y divide-rule border-y border-rule">
          {RULE_TEXTS.map((t) => (
            <li key={t.key} className="grid gap-x-6 pt-2 min-[700px]:grid-cols-[13rem_minmax(0,1fr)]">
              <NumberField
                label={t.label}
                quantity={t.unit}
                value={rules[t.key]}
                refuse={(v) => (v >= t.low && v <= t.high ? null : `Between ${formatQuantity(t.low, t.unit)} and ${formatQuantity(t.high, t.unit)}.`)}
                onValue={(v) => {
                  setBad((b) => new Set(v === null ? [...b, t.key] : [...b].filter((x) => x !== t.key)));
                  if (v !== null) setRules((r) => ({ ...r, [t.key]: v }));
                }}
              />
              <p className="pb-2 text-sm min-[700px]:pt-6">
                {t.reason} <span className="text-pencil">We began with {formatQuantity(HOUSE_RULES[t.key], t.unit)}.</span>
              </p>
            </li>
          ))}
        </ul>
        {!order ? <p role="alert" className="mb-2 text-misses">Full must be above nominal, and nominal above nearly empty.</p> : null}
        <Button look="main" disabled={bad.size > 0 || !order} onClick={save}>
          Keep these rules
        </Button>
      </Section>
    </div>
  );
}
