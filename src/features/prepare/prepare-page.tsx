"use client";

import { compute } from "@/workers/compute";
import { useEffect, useState, type ReactNode } from "react";
import { atBench, procedure, PROCEDURES, rangeRemarks, type BenchProcedure, type PlanRemark } from "@/core/procedures";
import { rigOf } from "@/notebook";
import { ofBoard, ofKind, record, useLive } from "@/storage";
import { guardsOf } from "@/notebook/usable";
import { rangeChoices } from "@/ui/accuracy-table";
import { Link } from "@/ui/link";
import { Quiet, Section } from "@/ui/section";
import { BenchPart } from "./bench-part";
import { CautionList, StopRuleList } from "./cautions";
import { CellChoice } from "./cell-choice";
import type { Loaded } from "./loaded";
import { PlanPart } from "./plan-part";
import { Prediction, predicts } from "./prediction";
import { RemarkList } from "./remark-list";
import { StartPanel } from "./start-panel";
import { usePreparation, type Preparation } from "./use-preparation";
import { WiringPart } from "./wiring-part";

const STARTS: Readonly<Record<BenchProcedure["readings"], string>> = {
  trace: "Start the log",
  points: "Start run",
  answers: "Start the checklist",
};
const CELL_TITLES = { pack: "Pack", cell: "Cell", either: "Cell or pack" } as const;

async function load(id: string): Promise<Loaded | null> {
  const run = await record("run", id);
  const board = run ? await record("board", run.boardId) : null;
  const rig = run ? await rigOf(run.notebookId) : undefined;
  if (!run || !board || !rig) return null;
  const guards = await guardsOf(compute, board.id, run.sampleId);
  if (!guards) return null;
  const runs = (await ofBoard(board.id, "run")).filter(
    (r) => r.sampleId === run.sampleId && r.state === "finished" && !r.setAside,
  );
  return {
    run,
    board,
    rig,
    choices: rangeChoices(await ofKind(run.notebookId, "instrument")),
    guards,
    others: { functions: board.functions, finished: runs.map((r) => r.procedure) },
  };
}

export function PreparePage({ id }: { readonly id: string }) {
  const live = useLive<Loaded | null>(
    `prepare-${id}`,
    () => load(id),
    () => false,
  );
  useEffect(() => {
    document.title = "Prepare · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The plan can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such run in this browser.</Quiet>;
  const p = atBench(procedure(live.value.run.procedure));
  return p && live.value.run.setup.plan ? (
    <Prepare loaded={live.value} p={p} />
  ) : (
    <Quiet>This version can&apos;t prepare this run.</Quiet>
  );
}

/** Everything before the first connection: the plan and the bench at the left; what is predicted, the wiring and the cautions beside it; the start in sight. */
function Prepare({ loaded, p }: { readonly loaded: Loaded; readonly p: BenchProcedure }) {
  const { board, choices, others } = loaded;
  const prep = usePreparation(loaded, p);
  const [checked, setChecked] = useState<ReadonlySet<string>>(new Set());
  const waiting = prep.typed.rig.useDrawer && prep.resistors.state === "choosing" ? "Choosing resistors …" : null;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="prepare"
        title={`${p.title}: ${board.title}`}
        aside={
          <Link href={`/board/${board.id}`} className="underline underline-offset-4">
            Back to board
          </Link>
        }
      >
        <p className="max-w-prose text-pencil">
          Filled in from the claims and house rules. Change what you know better.
        </p>
      </Section>
      <div className="border-t border-rule min-[1100px]:grid min-[1100px]:grid-cols-[minmax(0,1fr)_29rem]">
        <div className="min-w-0">
          <CellPart prep={prep} />
          <Section mark="plan" title="Plan">
            <PlanPart prep={prep} />
            <RemarkList remarks={[...prep.remarks, ...rangeRemarks(prep.full), ...undone(p, others)]} />
          </Section>
          <Section mark="bench" title="Readings and instruments">
            <BenchPart prep={prep} choices={choices} />
          </Section>
        </div>
        <div className="min-w-0 border-t border-rule px-4 pb-3 min-[1100px]:border-l min-[1100px]:border-t-0 min-[1100px]:px-5">
          {predicts(p) ? (
            <Beside title="Prediction">
              <Prediction prep={prep} />
            </Beside>
          ) : null}
          <Beside title="Wiring">
            <WiringPart sketch={p.wiring(prep.full)} />
          </Beside>
          <Beside title="Cautions and stop rules">
            <CautionList cautions={prep.cautions} />
            <StopRuleList rules={p.stopRules(prep.full)} />
          </Beside>
        </div>
      </div>
      <StartPanel
        label={STARTS[p.readings]}
        onStart={prep.start}
        cautions={prep.cautions}
        checked={checked}
        onChecked={setChecked}
        busy={prep.busy}
        unread={prep.unread}
        refused={prep.refused}
        waiting={waiting}
        ready={readyText(p)}
      />
    </div>
  );
}

function CellPart({ prep }: { readonly prep: Preparation }) {
  const { p, run } = prep;
  if (!p.takes || !p.withCell) return null;
  return (
    <Section mark="cell" title={CELL_TITLES[p.takes]}>
      <CellChoice
        notebookId={run.notebookId}
        takes={p.takes}
        charges={p.charges ?? false}
        chosen={prep.typed.cellId}
        onCell={prep.takeCell}
      />
    </Section>
  );
}

/** A part of the column beside the plan. */
function Beside({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <section aria-label={title} className="border-t border-rule py-3 first:border-t-0">
      <h2 className="mb-2 text-lg font-semibold">{title}</h2>
      {children}
    </section>
  );
}

function readyText(p: BenchProcedure): string {
  if (p.readings !== "trace") return "";
  return p.guide
    ? "You are guided step by step. All tones sound once at the start."
    : "All tones sound once at the start.";
}

/** What destroys comes last: what of the sample was not measured yet can't be measured afterwards. */
function undone(p: BenchProcedure, others: Loaded["others"]): PlanRemark[] {
  if (!p.destructive) return [];
  const missing = PROCEDURES.filter(
    (x) =>
      !x.destructive &&
      !x.anyTime &&
      !x.rare &&
      x.plan &&
      x.calledForBy.some((f) => others.functions.includes(f)) &&
      !others.finished.includes(x.id),
  ).map((x) => x.title.toLowerCase());
  return missing.length
    ? [
        {
          severity: "care",
          text: `Not measured on this sample yet: ${missing.join(", ")}. After this test it may be too late.`,
        },
      ]
    : [];
}
