"use client";

import { simulatedMeters } from "@/core/rehearsal/meters";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { RunRecord } from "@/core/files/records";
import type { BenchProcedure, PlanRemark, RunConditions, RunSetup } from "@/core/procedures";
import { accuraciesFor, metersPinned, PROCEDURES, rangeRemarks, readWith } from "@/core/procedures";
import { simulatedFor } from "@/core/simulator/offered";
import { attempt } from "@/session/notify";
import { playAll } from "@/session/sound";
import { change, edit, startedNow } from "@/storage";
import { AccuraciesStated, AccuracyTable } from "@/ui/accuracy-table";
import { NumberField } from "@/ui/number-field";
import { Quiet, Section } from "@/ui/section";
import { Wiring } from "@/ui/wiring";
import { capacityRefusal } from "@/ui/capacity";
import { CellChoice } from "./cell-choice";
import { CautionList, StopRuleList } from "./cautions";
import { LedFields, type PlanValues } from "./led-fields";
import type { Loaded } from "./loaded";
import { SourceChoice } from "./source-choice";
import { StartPanel } from "./start-panel";
import { RemarkList } from "./remark-list";

/** Conditions that a led log may need beside its plan, with what they are called. */
const CONDITIONS: readonly { readonly key: "nominalOutput" | "usableCapacity" | "cellSelfDischargeCurrent" | "supplyCurrentLimit" | "partLimitTemperature" | "ambientTemperature" | "panelMaximumPower"; readonly label: string; readonly unit: "V" | "Ah" | "A" | "°C" | "W"; readonly low: number; readonly of?: string; readonly optional?: boolean }[] = [
  { key: "nominalOutput", label: "Nominal output", unit: "V", low: 0.5 },
  { key: "supplyCurrentLimit", label: "Supply current limit", unit: "A", low: 0.01 },
  { key: "usableCapacity", label: "Usable capacity of your cell", unit: "Ah", low: 0.001 },
  { key: "partLimitTemperature", label: "Highest part temperature", unit: "°C", low: 30 },
  { key: "ambientTemperature", label: "Ambient, if not measured", unit: "°C", low: -40, of: "heat-soak" },
  { key: "panelMaximumPower", label: "Panel's maximum power in this light, if known", unit: "W", low: 0.001, of: "solar-input", optional: true },
  { key: "cellSelfDischargeCurrent", label: "Its self-discharge, as a current", unit: "A", low: 0 },
];

/** What destroys comes last: what of the sample was not measured yet can't be measured afterwards. */
function undone(p: BenchProcedure, others: Loaded["others"]): PlanRemark[] {
  if (!p.destructive) return [];
  const missing = PROCEDURES.filter((x) => !x.destructive && !x.anyTime && x.plan && x.calledForBy.some((f) => others.functions.includes(f)) && !others.finished.includes(x.id)).map((x) => x.title.toLowerCase());
  return missing.length ? [{ severity: "care", text: `Not measured on this sample yet: ${missing.join(", ")}. After this test it may be too late.` }] : [];
}

const WAYS: Readonly<Record<BenchProcedure["readings"], { readonly page: string; readonly start: string; readonly byHand: string; readonly ready: string }>> = {
  trace: { page: "log", start: "Start the log", byHand: "I set the bench and type the readings", ready: "You are guided step by step. All tones sound once at the start." },
  points: { page: "capture", start: "Start run", byHand: "I set the bench and type the readings", ready: "" },
  answers: { page: "checklist", start: "Start the checklist", byHand: "I try it myself and enter what I see", ready: "" },
};

/** Everything before a run that follows the fields of its plan: plan, what stands against it, bench, wiring, cautions, start. */
export function LedPrepare({ run, board, rig: storedRig, choices, others, p }: Loaded & { readonly p: BenchProcedure }) {
  const router = useRouter();
  const [setup, setSetup] = useState(run.setup);
  const [rig, setRig] = useState(storedRig);
  const offered = simulatedFor(p.id);
  const first = Object.keys(offered)[0] ?? "";
  const [own, setOwn] = useState(run.setup.instruments);
  const [ownMeters, setOwnMeters] = useState<NonNullable<RunSetup["meters"]>>({});
  const [touched, setTouched] = useState(false);
  const [simulated, setSimulated] = useState<string | null>(() => (board.simulatedAs ? (board.simulatedAs in offered ? board.simulatedAs : first) : null));
  const [checked, setChecked] = useState<ReadonlySet<string>>(new Set());
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState(false);
  const [cellId, setCellId] = useState<string | null>(run.cellId ?? null);
  /** Raised when a cell was chosen, so that every field shows what it set. */
  const [round, setRound] = useState(0);
  const plan = setup.plan as PlanValues | undefined;
  if (!plan) return <Quiet>This version can&apos;t prepare this run.</Quiet>;
  const way = WAYS[p.readings];
  const put = (patch: Readonly<Record<string, unknown>>) => setSetup((s) => ({ ...s, plan: { ...(s.plan as PlanValues), ...patch } }));
  /** Takes what a field understood; while one can't be read nothing starts. `clear` is for one that may be empty. */
  const field = (name: string, apply: (v: number) => void, clear?: () => void) => (v: number | null, empty: boolean) => {
    setBad((b) => (v === null && !(empty && clear) ? new Set([...b, name]) : new Set([...b].filter((x) => x !== name))));
    if (v !== null) apply(v);
    else if (empty) clear?.();
  };
  /** An optional condition that was cleared is not stated any more. */
  const clear = (key: keyof RunConditions) =>
    setSetup((s) => {
      const { [key]: _was, ...conditions } = s.conditions;
      void _was;
      return { ...s, conditions };
    });
  const roles = p.roles?.(setup) ?? p.record.roles.map((r) => r.role).filter((r) => r !== "time");
  // What the procedure asks of its own meters (a microamp range) stands before what the bench usually has.
  const instruments = accuraciesFor(roles, { ...rig.instruments, ...own });
  const meters = { ...metersPinned(instruments, rig), ...ownMeters };
  const { meters: _planned, ...planned } = setup;
  void _planned;
  const full: RunSetup = { ...planned, instruments, ...(Object.keys(meters).length ? { meters } : {}) };
  const remarks: readonly PlanRemark[] = p.remarks?.(full) ?? [];
  const cautions = p.cautions(full);
  const refused = remarks.some((r) => r.severity === "refused");
  const conditions = CONDITIONS.filter((c) => (c.of ? c.of === p.id : setup.conditions[c.key] !== undefined) || (c.key === "nominalOutput" && roles.includes("outputVoltage")));
  const start = () => {
    setBusy(true);
    if (p.readings === "trace") {
      playAll(["step", "phase", "done", "stop"], false);
      if (typeof Notification !== "undefined" && Notification.permission === "default") void Notification.requestPermission().catch(() => undefined);
    }
    void attempt(async () => {
      const next: RunRecord = { ...(await startedNow({ ...run, setup: simulated ? { ...full, instruments: simulatedMeters(roles, full.instruments) } : full })), ...(cellId ? { cellId } : {}), source: simulated ? { kind: "simulated", board: simulated, seed: Math.floor(Math.random() * 2 ** 31) } : { kind: "typed" } };
      await change(`start ${run.title}`, [edit(run, next), ...(touched ? [edit(storedRig, rig)] : [])]);
      router.push(`/run/${run.id}/${way.page}`);
    }).finally(() => setBusy(false));
  };
  return (
    <div className="sheet">
      <Section level={1} mark="prepare" title={`${p.title}: ${board.title}`} aside={<Link href={`/board/${board.id}`} className="underline underline-offset-4">Back to board</Link>}>
        <p className="max-w-prose text-pencil">{p.summary} Worked out from the claims and house rules. Change what you know better.</p>
      </Section>
      {p.takes && p.withCell ? (
        <Section mark="cell" title={p.takes === "pack" ? "Pack" : p.takes === "cell" ? "Cell" : "Cell or pack"}>
          <CellChoice
            notebookId={run.notebookId}
            takes={p.takes}
            charges={p.id === "pack-charge"}
            chosen={cellId}
            onCell={(cell) => {
              setCellId(cell.id ?? null);
              setSetup((s) => p.withCell?.(s, cell) ?? s);
              setBad(new Set());
              setRound((n) => n + 1);
            }}
          />
        </Section>
      ) : null}
      <Section mark="plan" title="Plan">
        <LedFields
          key={round}
          p={p}
          plan={plan}
          onChange={put}
          onBad={(name, isBad) => setBad((b) => (isBad ? new Set([...b, name]) : new Set([...b].filter((x) => x !== name))))}
        />
        <div className="flex flex-wrap gap-x-5">
          {conditions.map((c) => (
            <NumberField
              key={`${c.key}${round}`}
              label={c.label}
              quantity={c.unit}
              value={setup.conditions[c.key] ?? null}
              optional={c.key === "nominalOutput" || (c.optional ?? false)}
              refuse={(v) => (v >= c.low ? (c.unit === "Ah" ? capacityRefusal(v) : null) : "The value is too small.")}
              onValue={field(c.key, (v) => {
                setSetup((s) => ({ ...s, conditions: { ...s.conditions, [c.key]: v } as RunConditions }));
                if (c.key === "supplyCurrentLimit") {
                  setRig((r) => ({ ...r, supplyCurrentLimit: v }));
                  setTouched(true);
                }
              }, c.key === "nominalOutput" || c.optional === true ? () => clear(c.key) : undefined)}
            />
          ))}
        </div>
        <RemarkList remarks={[...remarks, ...rangeRemarks(full), ...undone(p, others)]} />
      </Section>
      <Section mark="bench" title="Readings and instruments">
        <SourceChoice simulated={simulated} offered={offered} what="module" byHand={way.byHand} onSource={setSimulated}>
          {typeof plan.every !== "number" ? null : <NumberField label="One sample every" quantity="s" value={plan.every} refuse={(v) => (v >= 0.001 && v <= 60 ? null : "Between 1 ms and a minute.")} onValue={field("every", (v) => put({ every: v }))} />}
        </SourceChoice>
        <details className="mb-3">
          <summary className="font-medium">
            Accuracy of the meters <AccuraciesStated roles={roles} instruments={full.instruments} />
          </summary>
          <div className="mt-2 overflow-x-auto">
            <AccuracyTable
              roles={roles}
              instruments={full.instruments}
              meters={meters}
              choices={choices}
              onAccuracy={(role, a, meter) => {
                // What an ammeter's range drops is part of the plan where the procedure minds it.
                if (role === "batteryCurrent" && meter?.burden !== undefined && typeof plan.shunt === "number") {
                  put({ shunt: meter.burden });
                  setRound((n) => n + 1);
                }
                setOwn((o) => ({ ...o, [role]: a }));
                setOwnMeters((o) => (meter ? { ...o, [role]: meter } : Object.fromEntries(Object.entries(o).filter(([r]) => r !== role))));
                // A range chosen for this procedure alone does not become the bench's usual one.
                if (run.setup.instruments[role] === rig.instruments[role]) {
                  setRig((r) => readWith(r, role, a, meter));
                  setTouched(true);
                }
              }}
            />
          </div>
        </details>
      </Section>
      <Section mark="wire" title="Wiring">
        <Wiring sketch={p.wiring(full)} />
      </Section>
      <Section mark="before you connect" title="Cautions and stop rules">
        <CautionList cautions={cautions} />
        <StopRuleList rules={p.stopRules(full)} />
      </Section>
      <StartPanel label={way.start} onStart={start} cautions={cautions} checked={checked} onChecked={setChecked} busy={busy} unread={bad.size > 0} refused={refused} ready={way.ready} />
    </div>
  );
}
