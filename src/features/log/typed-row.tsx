"use client";

import { useRef, useState } from "react";
import { parseQuantity } from "@/core/quantities";
import { atBench, procedure, roleLabel, roleUnit, type LogRow, type Role } from "@/core/procedures";
import type { RunRecord } from "@/core/files/records";
import { play } from "@/session/sound";

/** A reading typed now and then: Enter goes on, the last one keeps the row at this moment. */
export function TypedRow({ run, onRow, muted }: { run: RunRecord; onRow(values: LogRow): void; muted: boolean }) {
  const p = atBench(procedure(run.procedure));
  const recorded = (p?.record.roles ?? []).filter((r) => r.role !== "time" && r.role !== "ambientTemperature");
  const roles = p?.roles?.(run.setup) ?? recorded.map((r) => r.role);
  const required = recorded.filter((r) => r.required).map((r) => r.role);
  // Where the record asks for none by name, the two that tell most are needed.
  const needed = new Set(required.length ? required : roles.slice(0, p?.measures.includes("meter.offset") ? roles.length : 2));
  const [texts, setTexts] = useState<Readonly<Partial<Record<Role, string>>>>({});
  const [said, setSaid] = useState("");
  const fields = useRef<(HTMLInputElement | null)[]>([]);
  const keep = () => {
    const values: Record<string, number> = {};
    for (const role of roles) {
      const text = (texts[role] ?? "").trim();
      if (text === "" && !needed.has(role)) continue;
      const r = parseQuantity(text, roleUnit(role));
      if (!r.ok) {
        setSaid(`${roleLabel(role)}: ${text === "" ? "a reading is needed" : r.error}`);
        play("refused", muted);
        fields.current[roles.indexOf(role)]?.focus();
        return;
      }
      values[role] = r.value.value;
    }
    onRow(values);
    play("taken", muted);
    setSaid("Kept.");
    setTexts({});
    fields.current[0]?.focus();
  };
  return (
    <div className="mt-3 border-t border-rule pt-2" role="group" aria-label="Type a reading">
      <div className="grid grid-cols-3 gap-x-3 gap-y-1">
        {roles.map((role, i) => (
          <label key={role} className="text-sm text-pencil">
            {roleLabel(role)}
            {needed.has(role) ? "" : " (if read)"}
            <span className="flex items-baseline border-b-2 border-pencil focus-within:border-copper">
              <input
                ref={(el) => {
                  fields.current[i] = el;
                }}
                autoFocus={i === 0}
                data-number=""
                autoComplete="off"
                spellCheck={false}
                value={texts[role] ?? ""}
                onChange={(e) => setTexts((t) => ({ ...t, [role]: e.target.value }))}
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
          </label>
        ))}
      </div>
      <p role="status" className="min-h-5 text-sm">
        {said}
      </p>
    </div>
  );
}
