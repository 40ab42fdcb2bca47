"use client";

import { useRef, useState } from "react";
import { formatQuantity, parseQuantity } from "@/core/quantities";
import { atBench, impossibleInLog, procedure, roleLabel, roleUnit, type LogRow, type Remark, type Role } from "@/core/procedures";
import { readRole, unusedRoles, type RunDossier } from "@/storage";
import { attempt } from "@/session/notify";
import { Button } from "@/ui/button";
import { NotRead, NotReadButton } from "@/ui/not-read";
import { play } from "@/session/sound";

/** A reading typed now and then: Enter goes on, the last one keeps the row at this moment. */
export function TypedRow({ d, before, onRow, muted }: { d: RunDossier; before: LogRow | null; onRow(values: LogRow): void; muted: boolean }) {
  const { run } = d;
  const unused = unusedRoles(d);
  const p = atBench(procedure(run.procedure));
  const recorded = (p?.record.roles ?? []).filter((r) => r.role !== "time" && r.role !== "ambientTemperature");
  const all = p?.roles?.(run.setup) ?? recorded.map((r) => r.role);
  const roles = all.filter((r) => !unused.has(r));
  const required = recorded.filter((r) => r.required).map((r) => r.role);
  // Where the record asks for none by name, the two that tell most are needed.
  const needed = new Set(required.length ? required : all.slice(0, p?.measures.includes("meter.offset") ? all.length : 2));
  const [texts, setTexts] = useState<Readonly<Partial<Record<Role, string>>>>({});
  const [said, setSaid] = useState("");
  const [asked, setAsked] = useState<readonly Remark[]>([]);
  const fields = useRef<(HTMLInputElement | null)[]>([]);
  const setUsed = (role: Role, used: boolean) => {
    setTexts((t) => ({ ...t, [role]: "" }));
    void attempt(() => readRole(d, role, used));
  };
  const keep = (as: Readonly<Partial<Record<Role, string>>> = texts, asRead = false) => {
    const values: Record<string, number> = {};
    for (const role of roles) {
      const text = (as[role] ?? "").trim();
      if (text === "" && !needed.has(role)) continue;
      const r = parseQuantity(text, roleUnit(role));
      if (!r.ok) {
        setSaid(`${roleLabel(role)}: ${text === "" ? "enter a reading" : r.error}`);
        play("refused", muted);
        fields.current[roles.indexOf(role)]?.focus();
        return;
      }
      values[role] = r.value.value;
    }
    const questions = impossibleInLog(values, before);
    if (questions.length && !(asRead && !questions.some((q) => q.severity === "stop"))) {
      setAsked(questions);
      setSaid("");
      play("refused", muted);
      return;
    }
    setAsked([]);
    onRow(values);
    play("taken", muted);
    setSaid("Saved.");
    setTexts({});
    fields.current[0]?.focus();
  };
  const [first] = asked;
  const meant = (role: Role, text: string) => {
    const next = { ...texts, [role]: text };
    setTexts(next);
    keep(next);
  };
  return (
    <div className="mt-3 border-t border-rule pt-2" role="group" aria-label="Type a reading">
      <div className="grid grid-cols-3 gap-x-3 gap-y-1">
        {roles.map((role, i) => (
          <div key={role} className="text-sm text-pencil">
            <label id={`row-${role}-label`} htmlFor={`row-${role}`}>{roleLabel(role)}</label>
            {needed.has(role) ? null : (texts[role] ?? "") === "" ? (
              <NotReadButton className="ml-2" labelId={`row-${role}-label`} onPress={() => setUsed(role, false)} />
            ) : null}
            <span className="flex items-baseline border-b-2 border-pencil focus-within:border-copper">
              <input
                id={`row-${role}`}
                ref={(el) => {
                  fields.current[i] = el;
                }}
                autoFocus={i === 0}
                data-number=""
                autoComplete="off"
                spellCheck={false}
                value={texts[role] ?? ""}
                onChange={(e) => {
                  setTexts((t) => ({ ...t, [role]: e.target.value }));
                  setAsked([]);
                }}
                onKeyDown={(e) => {
                  if (e.key !== "Enter") return;
                  e.preventDefault();
                  const next = fields.current[i + 1];
                  if (next) next.focus();
                  else keep();
                }}
                className="figures w-full min-w-0 bg-transparent text-2xl text-ink outline-none"
              />
              <span className="text-pencil">{roleUnit(role)}</span>
            </span>
          </div>
        ))}
      </div>
      <NotRead roles={all.filter((r) => unused.has(r))} onRead={(role) => setUsed(role, true)} />
      <p role="status" className="min-h-5 text-sm">
        {said}
      </p>
      {asked.length ? (
        <div role="alert" className="border-l-4 border-misses pl-2">
          <p className="font-medium">Not saved yet.</p>
          {asked.map((q) => (
            <p key={q.code + (q.role ?? "")}>{q.message}</p>
          ))}
          <div className="mt-1 flex flex-wrap gap-2">
            {first?.role && first.meant !== undefined ? (
              <Button look="main" onClick={() => meant(first.role as Role, String(first.meant))}>
                I meant {formatQuantity(first.meant, roleUnit(first.role), { digits: 4 })}
              </Button>
            ) : null}
            {asked.some((q) => q.severity === "stop") ? null : <Button onClick={() => keep(texts, true)}>Save as read</Button>}
          </div>
        </div>
      ) : null}
    </div>
  );
}
