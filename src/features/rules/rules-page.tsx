"use client";

import { useEffect, useState } from "react";
import { completeRules, HOUSE_RULES, RULE_CHOICES, RULE_TEXTS, SCHOOLS, type HouseRules } from "@/core/procedures";
import { formatQuantity } from "@/core/quantities";
import type { RulesRecord } from "@/core/files/records";
import { sameValue } from "@/core/files/three-way";
import { useSession } from "@/session/context";
import { attempt, notify } from "@/session/notify";
import { boards, change, edit, flipsIf, newId, now, rulesRecord, useLive, type Flip } from "@/storage";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { FlipList } from "@/ui/flip-list";
import { NumberField } from "@/ui/number-field";
import { useHeld } from "@/ui/use-held";
import { Quiet, Section } from "@/ui/section";

/** What the house has settled once, each with its reason. Runs that were taken keep what was pinned to them. */
export function RulesPage() {
  const { notebook } = useSession();
  const live = useLive(`rules-${notebook.id}`, () => rulesRecord(notebook.id), (n) => n.kinds.includes("rules"));
  useEffect(() => {
    document.title = "House rules · Nimbus Bench";
  }, []);
  if (live.state !== "ready") return <Quiet>Loading …</Quiet>;
  return <Held stored={live.value} />;
}

function Held({ stored }: { stored: RulesRecord | null }) {
  const { held, onDirty } = useHeld(stored);
  return <Rules key={held?.updatedAt ?? "none"} stored={held} onDirty={onDirty} />;
}

function Rules({ stored, onDirty }: { stored: RulesRecord | null; onDirty(dirty: boolean): void }) {
  const { notebook } = useSession();
  const [rules, setRules] = useState<HouseRules>(completeRules(stored?.rules));
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const dirty = !sameValue(rules, completeRules(stored?.rules)) || bad.size > 0;
  useEffect(() => onDirty(dirty), [dirty, onDirty]);
  const order = rules.batteryFull > rules.batteryNominal && rules.batteryNominal > rules.batteryEmpty;
  const [flips, setFlips] = useState<readonly Flip[] | null>(null);
  const [looking, setLooking] = useState(false);
  /** Raised when a school was chosen, so that its field shows what it set. */
  const [chosen, setChosen] = useState<Readonly<Record<string, number>>>({});
  /** Looks first at what the new rules would change; where nothing does, they are kept at once. */
  const look = () => {
    setLooking(true);
    void attempt(async () => {
      const found = await flipsIf(await boards(notebook.id), { rules });
      if (found.length) setFlips(found);
      else save();
    }).finally(() => setLooking(false));
  };
  const save = () =>
    void attempt(async () => {
      const at = now();
      await change("house rules", [stored ? edit(stored, { ...stored, rules }) : { kind: "rules", id: newId(), notebookId: notebook.id, createdAt: at, updatedAt: at, rules }]);
      onDirty(false);
      await notify("House rules saved. All verdicts were judged again.");
    });
  return (
    <div className="sheet">
      <Section level={1} mark="house" title="House rules">
        <p className="mb-4 max-w-prose text-pencil">Defaults of this notebook: new plans follow them, and verdicts are judged by them.</p>
        <ul className="mb-4 divide-y divide-rule border-y border-rule">
          {RULE_TEXTS.map((t) => (
            <li key={t.key} className="grid gap-x-6 pt-2 min-[700px]:grid-cols-[13rem_minmax(0,1fr)]">
              <NumberField
                key={`${t.key}${chosen[t.key] ?? 0}`}
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
                {t.reason} <span className="text-pencil">Default {formatQuantity(HOUSE_RULES[t.key], t.unit)}.</span>
                {SCHOOLS.some((s) => s.key === t.key) ? (
                  <span className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
                    {SCHOOLS.filter((s) => s.key === t.key).map((s) => (
                      <Button
                        key={s.value}
                        look="bare"
                        title={s.why}
                        aria-label={`${t.label}: ${s.label}, ${Number(s.value.toPrecision(2))}: ${s.why}`}
                        onClick={() => {
                          setRules((r) => ({ ...r, [t.key]: s.value }));
                          setBad((b) => new Set([...b].filter((x) => x !== t.key)));
                          setChosen((c) => ({ ...c, [t.key]: (c[t.key] ?? 0) + 1 }));
                        }}
                      >
                        {s.label} {Number(s.value.toPrecision(2))}
                      </Button>
                    ))}
                  </span>
                ) : null}
              </p>
            </li>
          ))}
        </ul>
        {RULE_CHOICES.map((c) => (
          <fieldset key={c.key} className="mb-4 max-w-prose">
            <legend className="mb-1 font-medium">{c.label}</legend>
            {c.of.map((o) => (
              <label key={String(o.value)} className="flex items-baseline gap-2 py-0.5">
                <input type="radio" name={c.key} checked={rules[c.key] === o.value} onChange={() => setRules((r) => ({ ...r, [c.key]: o.value }))} className="size-4 translate-y-0.5 accent-(--copper)" />
                <span>
                  {o.label}: <span className="text-sm text-pencil">{o.why}</span>
                </span>
              </label>
            ))}
          </fieldset>
        ))}
        {!order ? <p role="alert" className="mb-2 text-misses">Full must be above nominal, and nominal above nearly empty.</p> : null}
        <Button look="main" disabled={bad.size > 0 || !order || looking} onClick={look}>
          {looking ? "Checking the effect …" : "Save house rules"}
        </Button>
        {flips ? (
          <Dialog title={flips.length === 1 ? "One verdict would change" : `${flips.length} verdicts would change`} about="Nothing is saved yet. Results stay the same and are judged by the new rules." onClose={() => setFlips(null)} wide>
            <FlipList flips={flips} />
            <div className="flex flex-wrap gap-3">
              <Button
                look="main"
                onClick={() => {
                  setFlips(null);
                  save();
                }}
              >
                Save house rules
              </Button>
              <Button onClick={() => setFlips(null)}>Cancel</Button>
            </div>
          </Dialog>
        ) : null}
      </Section>
    </div>
  );
}
