"use client";

import dynamic from "next/dynamic";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { atBench, procedure, rangeRemarks, type RunSetup } from "@/core/procedures";
import type { SweepPlan } from "@/core/procedures/load-sweep";
import type { RunRecord } from "@/core/files/records";
import { simulatedMeters } from "@/core/rehearsal/meters";
import { SIMULATED_BOARDS, type SimulatedBoardId } from "@/core/simulator/boards";
import { attempt } from "@/session/notify";
import { change, edit, ofBoard, ofKind, record, rigOf, startedNow, useLive, withMeters } from "@/storage";
import { Quiet, Section } from "@/ui/section";
import { Wiring } from "@/ui/wiring";
import { CautionList, StopRuleList } from "./cautions";
import { StartPanel } from "./start-panel";
import { PlanFields } from "./plan-fields";
import type { Loaded } from "./loaded";
import { rangeChoices } from "@/ui/accuracy-table";
import { RemarkList } from "./remark-list";
import { RigFields } from "./rig-fields";
import { ResistorTable, useResistors } from "./resistors";

const ChargePrepare = dynamic(() => import("./charge-prepare").then((m) => m.ChargePrepare), { ssr: false });

const LedPrepare = dynamic(() => import("./led-prepare").then((m) => m.LedPrepare), { ssr: false });

export function PreparePage({ id }: { id: string }) {
  const live = useLive<Loaded | null>(`prepare-${id}`, async () => {
    const run = await record("run", id);
    const board = run ? await record("board", run.boardId) : null;
    const rig = run ? await rigOf(run.notebookId) : undefined;
    if (!run || !board || !rig) return null;
    const runs = (await ofBoard(board.id, "run")).filter((r) => r.sampleId === run.sampleId && r.state === "finished" && !r.setAside);
    return { run, board, rig, choices: rangeChoices(await ofKind(run.notebookId, "instrument")), others: { functions: board.functions, finished: runs.map((r) => r.procedure) } };
  }, () => false);
  useEffect(() => {
    document.title = "Prepare · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The plan can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such run in this browser.</Quiet>;
  const p = atBench(procedure(live.value.run.procedure));
  if (p?.fields) return <LedPrepare {...live.value} p={p} />;
  return p?.readings === "trace" ? <ChargePrepare {...live.value} /> : <Prepare {...live.value} />;
}

/** Everything before the first connection, top to bottom: plan, instruments, wiring, cautions, start. */
function Prepare({ run, board, rig: storedRig, choices }: Loaded) {
  const router = useRouter();
  const [setup, setSetup] = useState(run.setup as RunSetup<SweepPlan>);
  const [rig, setRig] = useState(storedRig);
  const [source, setSource] = useState<"typed" | SimulatedBoardId>((board.simulatedAs as SimulatedBoardId | undefined) ?? "typed");
  const [checked, setChecked] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState(false);
  const [fieldsOk, setFieldsOk] = useState(true);
  const p = atBench(procedure(run.procedure));
  const resistors = useResistors(setup, rig);
  if (!p || !setup.plan) return <Quiet>This version can&apos;t prepare this run.</Quiet>;
  const { drawer: _drawer, ...planRest } = setup.plan;
  void _drawer;
  const full: RunSetup<SweepPlan> = {
    conditions: { ...setup.conditions, inputLeadResistance: rig.inputLeadResistance, outputLeadResistance: rig.outputLeadResistance },
    instruments: rig.instruments,
    ...(setup.offsets ? { offsets: setup.offsets } : {}),
    plan: { ...planRest, ...(rig.useDrawer && resistors.state === "ready" && resistors.choices.length ? { drawer: resistors.choices } : {}) },
  };
  const cautions = p.cautions(full);
  const waiting = rig.useDrawer && resistors.state !== "ready";
  const start = () => {
    setBusy(true);
    void attempt(async () => {
      const next: RunRecord = {
        ...(await startedNow({ ...run, setup: withMeters((source === "typed" ? full : { ...full, instruments: simulatedMeters(p.record.roles.map((r) => r.role), full.instruments) }) as RunSetup, rig) })),
        source: source === "typed" ? { kind: "typed" } : { kind: "simulated", board: source, seed: Math.floor(Math.random() * 2 ** 31) },
      };
      await change(`start ${run.title}`, [edit(run, next), ...(rig === storedRig ? [] : [edit(storedRig, rig)]), ...(source !== "typed" && board.simulatedAs !== source ? [edit(board, { ...board, simulatedAs: source })] : [])]);
      router.push(`/run/${run.id}/capture`);
    }).finally(() => setBusy(false));
  };
  return (
    <div className="sheet">
      <Section level={1} mark="prepare" title={`${p.title}: ${board.title}`} aside={<Link href={`/board/${board.id}`} className="underline underline-offset-4">Back to board</Link>}>
        <p className="max-w-prose text-pencil">{p.summary} Worked out from the claims and house rules. Change what you know better.</p>
      </Section>
      <Section mark="plan" title="Battery voltages and loads">
        <PlanFields setup={setup} onSetup={setSetup} onValid={setFieldsOk} onSupplyLimit={(supplyCurrentLimit) => setRig((r) => ({ ...r, supplyCurrentLimit }))} />
      </Section>
      <Section mark="bench" title="Readings and instruments">
        <fieldset className="mb-4">
          <legend className="mb-1 text-sm text-pencil">Source of the readings</legend>
          <label className="mr-6 inline-flex items-center gap-2">
            <input type="radio" name="source" checked={source === "typed"} onChange={() => setSource("typed")} className="size-4 accent-(--copper)" />I type readings from my own meters
          </label>
          <label className="inline-flex items-center gap-2">
            <input type="radio" name="source" checked={source !== "typed"} onChange={() => setSource((board.simulatedAs as SimulatedBoardId | undefined) ?? "steady-synchronous")} className="size-4 accent-(--copper)" />
            The simulated bench
          </label>
          {source !== "typed" ? (
            <label className="mt-2 flex flex-wrap items-center gap-2 text-sm">
              <span className="text-pencil">with this invented module</span>
              <select value={source} onChange={(e) => setSource(e.target.value as SimulatedBoardId)} className="border border-pencil/60 bg-field px-2 py-1.5 text-base">
                {Object.entries(SIMULATED_BOARDS).map(([key, b]) => (
                  <option key={key} value={key}>
                    {b.title}
                  </option>
                ))}
              </select>
            </label>
          ) : null}
        </fieldset>
        <RigFields choices={choices} rig={rig} onRig={setRig} />
        <RemarkList remarks={rangeRemarks(withMeters(full as RunSetup, rig))} />
        {rig.useDrawer && setup.conditions.nominalOutput ? <ResistorTable resistors={resistors} nominal={setup.conditions.nominalOutput} /> : null}
      </Section>
      <Section mark="wire" title="Wiring">
        <Wiring sketch={p.wiring(full)} />
      </Section>
      <Section mark="before you connect" title="Cautions and stop rules">
        <CautionList cautions={cautions} />
        <StopRuleList rules={p.stopRules(full)} />
      </Section>
      <StartPanel label="Start run" onStart={start} cautions={cautions} checked={checked} onChecked={setChecked} busy={busy} unread={!fieldsOk} waiting={waiting ? "Choosing resistors …" : null} />
    </div>
  );
}
