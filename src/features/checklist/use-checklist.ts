"use client";

import { useMemo, useState } from "react";
import type { Answer, ChecklistItem } from "@/core/measurement";
import type { AnswerRecord } from "@/core/files/records";
import { perform, type Seen } from "@/core/rehearsal/checklist";
import { SIMULATED_BUTTONS, type SimulatedButtonsId } from "@/core/simulator/button-boards";
import { attempt } from "@/browser/notify";
import { type RunDossier } from "@/notebook";
import { change, newId, now } from "@/storage";

/** One thing to look at: an item, at battery volts where it is looked at several times. */
export interface Look {
  readonly key: string;
  readonly item: ChecklistItem;
  readonly volts?: number;
  readonly answer: Answer | null;
}

const keyOf = (item: string, volts?: number): string => (volts === undefined ? item : `${item} @ ${volts}`);

export interface Checklist {
  readonly looks: readonly Look[];
  /** What is to be looked at now; null where all is answered or left open. */
  readonly current: Look | null;
  /** What the simulated bench showed for it. */
  readonly seen: Seen | null;
  readonly simulated: boolean;
  readonly answered: number;
  go(key: string): void;
  /** Keeps a word for the current look. */
  answer(word: string, volts?: number): void;
  /** Leaves the current look open for now. */
  pass(): void;
  /** Tries the current look on the simulated bench. */
  doIt(): void;
  /** Tries all that is left on the simulated bench and keeps what is seen. */
  doAll(): void;
  withdraw(): void;
}

/** What is asked of each item, once or at each of its voltages, with its answer. */
function looksOf(items: readonly ChecklistItem[], answers: readonly Answer[]): Look[] {
  const last = new Map(answers.map((a) => [keyOf(a.item, a.volts), a]));
  // A gauge may have been read a little beside the volts that were asked for: less than half a step off, it answers that look.
  const near = ({ id, at }: ChecklistItem, volts: number) => {
    const [first = 0, second = first + 0.1] = at?.volts ?? [];
    return (
      answers.find(
        (a) => a.item === id && a.volts !== undefined && Math.abs(a.volts - volts) < 0.45 * Math.abs(second - first),
      ) ?? null
    );
  };
  return items.flatMap((item): Look[] =>
    item.at
      ? item.at.volts.map((volts) => ({
          key: keyOf(item.id, volts),
          item,
          volts,
          answer: last.get(keyOf(item.id, volts)) ?? near(item, volts),
        }))
      : [{ key: item.id, item, answer: last.get(item.id) ?? null }],
  );
}

function answerOf(run: RunDossier["run"], item: string, word: string, volts: number | undefined): AnswerRecord {
  const at = now();
  return {
    kind: "answer",
    id: newId(),
    notebookId: run.notebookId,
    createdAt: at,
    updatedAt: at,
    runId: run.id,
    item,
    word,
    takenAt: at,
    ...(volts !== undefined ? { volts } : {}),
  };
}

/** An answer is never altered: the earlier one is withdrawn and kept as such. */
function withdrawn(run: RunDossier["run"], a: Answer): AnswerRecord {
  const at = now();
  return {
    kind: "answer",
    id: a.id,
    notebookId: run.notebookId,
    createdAt: a.at,
    updatedAt: at,
    deletedAt: at,
    runId: run.id,
    item: a.item,
    word: a.word,
    takenAt: a.at,
    ...(a.volts !== undefined ? { volts: a.volts } : {}),
  };
}

/** A checklist under way: what is answered, what comes next, and every act that a key can do. */
export function useChecklist(d: RunDossier, items: readonly ChecklistItem[]): Checklist {
  const [chosen, setChosen] = useState<string | null>(null);
  const [passed, setPassed] = useState<ReadonlySet<string>>(new Set());
  const [seen, setSeen] = useState<{ key: string; seen: Seen } | null>(null);
  const { source } = d.run;
  const model =
    source.kind === "simulated"
      ? (SIMULATED_BUTTONS[source.board as SimulatedButtonsId] ?? SIMULATED_BUTTONS["steady-synchronous"]).model
      : null;
  const looks = useMemo(() => looksOf(items, d.answers), [items, d.answers]);
  const current = looks.find((l) => l.key === chosen) ?? looks.find((l) => !l.answer && !passed.has(l.key)) ?? null;
  const record = (look: Look, word: string, volts: number | undefined) => answerOf(d.run, look.item.id, word, volts);
  const gone = (a: Answer) => withdrawn(d.run, a);
  return {
    looks,
    current,
    seen: seen && seen.key === current?.key ? seen.seen : null,
    simulated: model !== null,
    answered: looks.filter((l) => l.answer).length,
    go: (key) => setChosen(key),
    answer: (word, volts) => {
      if (!current || !word.trim()) return;
      const look = current;
      setChosen(null);
      void attempt(() =>
        change(`answer: ${look.key}`, [
          ...(look.answer ? [gone(look.answer)] : []),
          record(look, word.trim(), look.item.at ? (volts ?? look.volts) : undefined),
        ]),
      );
    },
    pass: () => {
      if (!current) return;
      setPassed((p) => new Set([...p, current.key]));
      setChosen(null);
    },
    doIt: () => {
      const outcome = model && current ? perform(model, current.item, current.volts) : null;
      if (outcome && current) setSeen({ key: current.key, seen: outcome });
    },
    doAll: () => {
      if (!model) return;
      const records = looks.flatMap((l) => {
        const outcome = l.answer ? null : perform(model, l.item, l.volts);
        return outcome ? [record(l, outcome.word, l.volts)] : [];
      });
      setPassed(new Set());
      setChosen(null);
      void attempt(() => change(`answer ${records.length} items`, records));
    },
    withdraw: () => {
      const last = d.answers.at(-1);
      if (last) void attempt(() => change(`undo answer: ${keyOf(last.item, last.volts)}`, [gone(last)]));
    },
  };
}
