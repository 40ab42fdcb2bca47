"use client";

import { useRef, useState } from "react";
import { atBench, impossibleInLog, procedure, type Remark } from "@/core/procedures";
import { roleLabel, roleUnit, type LogValues, type Role } from "@/core/measurement";
import { parseQuantity } from "@/core/quantities";
import { attempt } from "@/browser/notify";
import { play } from "@/browser/sound";
import { readRole, unusedRoles, type RunDossier } from "@/notebook";

export interface TypedRowState {
  /** Roles that are typed, and those that were put aside. */
  readonly roles: readonly Role[];
  readonly unused: readonly Role[];
  needed(role: Role): boolean;
  text(role: Role): string;
  readonly said: string;
  /** What is asked before the row is taken. */
  readonly asked: readonly Remark[];
  field(i: number): (el: HTMLInputElement | null) => void;
  type(role: Role, text: string): void;
  /** Enter: on to the next field; from the last one the row is recorded. */
  next(i: number): void;
  /** Records the row as it was read. */
  asRead(): void;
  /** Records it with the reading that was meant. */
  meant(role: Role, text: string): void;
  setUsed(role: Role, used: boolean): void;
}

/** A row of a log while it is typed. */
export function useTypedRow(
  d: RunDossier,
  before: LogValues | null,
  muted: boolean,
  onRow: (values: LogValues) => void,
): TypedRowState {
  const { run } = d;
  const put = unusedRoles(d);
  const p = atBench(procedure(run.procedure));
  const recorded = (p?.record.roles ?? []).filter((r) => r.role !== "time" && r.role !== "ambientTemperature");
  const all = p?.roles?.(run.setup) ?? recorded.map((r) => r.role);
  const roles = all.filter((r) => !put.has(r));
  const required = recorded.filter((r) => r.required).map((r) => r.role);
  // Where the record asks for none by name, the two that tell most are needed.
  const needed = new Set(
    required.length ? required : all.slice(0, p?.measures.includes("meter.offset") ? all.length : 2),
  );
  const [texts, setTexts] = useState<Readonly<Partial<Record<Role, string>>>>({});
  const [said, setSaid] = useState("");
  const [asked, setAsked] = useState<readonly Remark[]>([]);
  const fields = useRef<(HTMLInputElement | null)[]>([]);
  const keep = (as: Readonly<Partial<Record<Role, string>>>, asRead = false) => {
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
  return {
    roles,
    unused: all.filter((r) => put.has(r)),
    needed: (role) => needed.has(role),
    text: (role) => texts[role] ?? "",
    said,
    asked,
    field: (i) => (el) => {
      fields.current[i] = el;
    },
    type: (role, text) => {
      setTexts((t) => ({ ...t, [role]: text }));
      setAsked([]);
    },
    next: (i) => {
      const next = fields.current[i + 1];
      if (next) next.focus();
      else keep(texts);
    },
    asRead: () => keep(texts, true),
    meant: (role, text) => {
      const next = { ...texts, [role]: text };
      setTexts(next);
      keep(next);
    },
    setUsed: (role, used) => {
      setTexts((t) => ({ ...t, [role]: "" }));
      void attempt(() => readRole(d, role, used));
    },
  };
}
