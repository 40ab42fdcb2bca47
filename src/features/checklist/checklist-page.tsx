"use client";

import { compute } from "@/workers/compute";
import clsx from "clsx";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { asSaid, type ChecklistItem } from "@/core/measurement";
import { procedure } from "@/core/procedures";
import type { BoardRecord } from "@/core/files/records";
import { formatQuantity } from "@/core/quantities";
import { useKeys } from "@/browser/keys";
import { attempt } from "@/browser/notify";
import { useFollowedRun, useRunWriter, type RunDossier } from "@/notebook";
import { change, edit } from "@/storage";
import { Button, Key } from "@/ui/button";
import { Form } from "@/ui/form";
import { RunHead } from "@/ui/run-head";
import { OtherTab } from "@/ui/other-tab";
import { FormNumber, FormText } from "@/ui/form-fields";
import { Quiet } from "@/ui/section";
import { useChecklist, type Checklist, type Look } from "./use-checklist";

/** A checklist under way: one thing to do at a time, large; a word for what came of it by one key. */
export function ChecklistPage({ id }: { readonly id: string }) {
  const live = useFollowedRun(compute, id);
  const { writer, takeOver } = useRunWriter(id);
  if (live.state === "loading" || writer === "asking") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The checklist can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such run in this browser.</Quiet>;
  const { d, board } = live.value;
  const p = procedure(d.run.procedure);
  if (p?.readings !== "answers") return <Quiet>This version has no checklist for “{d.run.procedure}”.</Quiet>;
  return <Screen d={d} board={board} items={p.items} writing={writer === "writing"} onTakeOver={takeOver} />;
}

interface ScreenProps {
  readonly d: RunDossier;
  readonly board: BoardRecord;
  readonly items: (setup: RunDossier["run"]["setup"]) => readonly ChecklistItem[];
  readonly writing: boolean;
  onTakeOver(): void;
}

function Screen({ d, board, items: itemsOf, writing, onTakeOver }: ScreenProps) {
  const router = useRouter();
  const items = useMemo(() => itemsOf(d.run.setup), [itemsOf, d.run.setup]);
  const list = useChecklist(d, items);
  const [keysOn, setKeysOn] = useState(true);
  const { current, seen } = list;
  useEffect(() => {
    document.title = `${list.answered} of ${list.looks.length} · ${board.title} · Nimbus Bench`;
  }, [list.answered, list.looks.length, board.title]);
  const finish = () =>
    void attempt(async () => {
      await change(`finish ${d.run.title}`, [edit(d.run, { ...d.run, state: "finished" })]);
      router.push(`/run/${d.run.id}/review`);
    });
  const digits = Object.fromEntries(
    (current?.item.words ?? []).slice(0, 9).map((w, k) => [String(k + 1), () => list.answer(w)]),
  );
  useKeys(
    {
      ...digits,
      z: list.withdraw,
      p: list.pass,
      ...(list.simulated ? { d: list.doIt } : {}),
      ...(seen ? { Enter: () => list.answer(seen.word) } : {}),
      ...(current ? {} : { f: finish }),
    },
    writing && keysOn,
  );
  return (
    <div className="border border-rule bg-sheet">
      <RunHead
        title={d.run.title}
        board={board}
        count={`${list.answered} of ${list.looks.length} answered`}
        countId="answered"
        keys={{ on: keysOn, onKeys: setKeysOn }}
        resultOf={d.run.id}
      />
      {!writing ? (
        <OtherTab says="Another tab is answering this checklist. Its answers appear here." onTakeOver={onTakeOver} />
      ) : null}
      <div className="grid min-[1000px]:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="border-rule px-5 py-4 min-[1000px]:border-r">
          {current ? (
            <Current key={current.key} look={current} list={list} writing={writing} />
          ) : (
            <AllDone list={list} writing={writing} onFinish={finish} />
          )}
          {writing ? (
            <div className="mt-6 flex flex-wrap gap-2 border-t border-rule pt-3">
              <Button keyName="Z" onClick={list.withdraw} disabled={d.answers.length === 0}>
                Undo last answer
              </Button>
              {list.simulated && list.answered < list.looks.length ? (
                <Button onClick={list.doAll}>Simulate remaining items</Button>
              ) : null}
              {current && list.answered > 0 ? (
                <Button onClick={finish}>Finish with {list.looks.length - list.answered} skipped</Button>
              ) : null}
            </div>
          ) : null}
        </div>
        <Overview list={list} />
      </div>
    </div>
  );
}

function Current({
  look,
  list,
  writing,
}: {
  readonly look: Look;
  readonly list: Checklist;
  readonly writing: boolean;
}) {
  const { item, volts, answer } = look;
  const { control, handleSubmit } = useForm<{ other: string; read: number | null }>({
    defaultValues: { other: "", read: volts ?? null },
  });
  const [other, read] = useWatch({ control, name: ["other", "read"] });
  const { seen } = list;
  return (
    <section aria-label="Current item">
      <p className="text-sm text-pencil">{item.group}</p>
      <p className="max-w-prose text-2xl font-semibold leading-snug" data-testid="act">
        {volts !== undefined
          ? `Battery at ${formatQuantity(volts, "V", { digits: 3 })}: how many lights of the gauge are lit?`
          : item.act}
      </p>
      {volts !== undefined ? <p className="mt-1 text-pencil">{item.act}</p> : null}
      {item.caution ? <p className="mt-2 border-l-4 border-close pl-2 font-medium">{item.caution}</p> : null}
      <p className="mt-2">
        {item.said ? (
          <>
            Claimed: <strong>{item.said}</strong>
          </>
        ) : (
          <span className="text-pencil">No claim about this.</span>
        )}
        {answer ? (
          <span className="ml-4">
            Answered: <strong>{answer.word}</strong>
          </span>
        ) : null}
      </p>
      {list.simulated && writing ? (
        <p className="mt-3 flex min-h-9 flex-wrap items-center gap-4">
          <Button look={seen ? "plain" : "main"} keyName="D" onClick={list.doIt}>
            Simulate item
          </Button>
          <span role="status">{seen ? <>Seen: {seen.more}.</> : null}</span>
        </p>
      ) : null}
      {writing ? (
        <>
          <p className="mt-4 text-sm text-pencil">What happened?</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {item.words.map((w, k) => (
              <Button
                key={w}
                look={seen?.word === w ? "main" : "plain"}
                className="text-lg"
                onClick={() => list.answer(w, Number.isFinite(read) ? (read ?? undefined) : undefined)}
                {...(k < 9 ? { keyName: String(k + 1) } : {})}
              >
                {w}
              </Button>
            ))}
          </div>
          {seen && !item.words.includes(seen.word) ? (
            <Button look="main" className="mt-2" onClick={() => list.answer(seen.word)}>
              {seen.word} <Key on>Enter</Key>
            </Button>
          ) : null}
          <Form
            className="mt-4 flex flex-wrap items-end gap-x-4"
            onSubmit={handleSubmit((f) => list.answer(f.other, f.read ?? undefined))}
          >
            {volts !== undefined ? (
              <FormNumber
                control={control}
                name="read"
                label="Battery voltage"
                quantity="V"
                missing="Enter the battery voltage."
                refuse={(v) => (v > 0 ? null : "Enter a value above zero.")}
              />
            ) : null}
            <FormText control={control} name="other" label="Something else" maxLength={120} />
            <Button type="submit" className="mb-5" disabled={!other.trim()}>
              Save answer
            </Button>
            <Button className="mb-5" keyName="P" onClick={list.pass}>
              Skip
            </Button>
          </Form>
        </>
      ) : null}
    </section>
  );
}

function AllDone({
  list,
  writing,
  onFinish,
}: {
  readonly list: Checklist;
  readonly writing: boolean;
  onFinish(): void;
}) {
  const open = list.looks.length - list.answered;
  return (
    <section aria-label="Current item">
      <p className="text-2xl font-semibold">
        {open
          ? `All but ${open} ${open === 1 ? "is" : "are"} answered; ${open === 1 ? "it was" : "they were"} skipped.`
          : "All items are answered."}
      </p>
      {writing ? (
        <Button look="main" className="mt-4" keyName="F" onClick={onFinish}>
          Finish and open result
        </Button>
      ) : null}
    </section>
  );
}

/** Every look with its answer, to jump to any. */
function Overview({ list }: { readonly list: Checklist }) {
  const groups = [...new Set(list.looks.map((l) => l.item.group))];
  return (
    <nav aria-label="The whole checklist" className="max-h-[80vh] overflow-y-auto px-4 py-3 text-sm">
      {groups.map((g) => (
        <div key={g} className="mb-3">
          <h2 className="font-semibold">{g}</h2>
          <ul>
            {list.looks
              .filter((l) => l.item.group === g)
              .map((l) => {
                const unlike = l.item.said && l.answer && !asSaid(l.item.said, l.answer.word);
                return (
                  <li key={l.key}>
                    <button
                      type="button"
                      aria-current={l.key === list.current?.key ? "step" : undefined}
                      onClick={() => list.go(l.key)}
                      className={clsx(
                        "flex w-full justify-between gap-3 px-1 text-left hover:underline",
                        l.key === list.current?.key && "bg-copper/15 font-semibold",
                      )}
                    >
                      <span className="min-w-0 truncate">
                        {l.volts !== undefined
                          ? `${l.item.id} at ${formatQuantity(l.volts, "V", { digits: 3 })}`
                          : l.item.id}
                      </span>
                      <span
                        className={clsx(
                          "shrink-0",
                          unlike ? "font-semibold text-misses" : l.answer ? "" : "text-pencil",
                        )}
                      >
                        {l.answer ? `${unlike ? "\u2260 " : ""}${l.answer.word}` : "open"}
                      </span>
                    </button>
                  </li>
                );
              })}
          </ul>
        </div>
      ))}
    </nav>
  );
}
