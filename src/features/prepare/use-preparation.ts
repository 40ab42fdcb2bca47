"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Accuracy, PinnedMeter } from "@/core/instruments";
import { accuraciesFor, metersPinned, readWith, type BenchProcedure, type Caution, type PlannedCell, type PlanRemark, type RunConditions, type RunSetup } from "@/core/procedures";
import { cautionsOf } from "@/core/procedures/cell-cautions";
import type { LoadChoice, SweepPlan } from "@/core/procedures/load-sweep";
import { entryShown } from "@/core/procedures/plan-fields";
import type { Role } from "@/core/procedures/roles";
import type { RigRecord, RunRecord } from "@/core/files/records";
import { benchMeters, simulatedMeters } from "@/core/rehearsal/meters";
import { keptByBoard, simulatedFor } from "@/core/simulator/offered";
import { attempt } from "@/session/notify";
import { playAll } from "@/session/sound";
import { change, edit, startedNow } from "@/storage";
import type { Loaded } from "./loaded";
import { useResistors, type Resistors } from "./resistors";

export type PlanValues = Readonly<Record<string, unknown>>;

const PAGES: Readonly<Record<BenchProcedure["readings"], string>> = { trace: "log", points: "capture", answers: "checklist" };

export interface Preparation {
  readonly p: BenchProcedure;
  readonly run: RunRecord;
  readonly setup: RunSetup;
  readonly plan: PlanValues;
  readonly rig: RigRecord;
  /** The set-up as the run would pin it. */
  readonly full: RunSetup;
  readonly roles: readonly Role[];
  readonly remarks: readonly PlanRemark[];
  readonly cautions: readonly Caution[];
  readonly offered: Readonly<Record<string, { readonly title: string }>>;
  readonly simulated: string | null;
  readonly cellId: string | null;
  readonly resistors: Resistors;
  readonly bad: boolean;
  readonly refused: boolean;
  readonly busy: boolean;
  /** Raised for each field that something else set, so that it shows what it was set to. */
  edition(name: string): number;
  put(patch: PlanValues): void;
  /** Takes a condition; null where it is cleared. */
  condition(key: keyof RunConditions, value: number | null): void;
  /** Whether a field holds something that can't be taken: then nothing starts. */
  mark(name: string, bad: boolean): void;
  moved(names: readonly string[]): void;
  setSimulated(key: string | null): void;
  setRig(change: (rig: RigRecord) => RigRecord): void;
  readWith(role: Role, a: Accuracy, meter: PinnedMeter | undefined): void;
  takeCell(cell: PlannedCell): void;
  start(): void;
}

/** A run while it is prepared: its plan, the bench, what stands against it, and its start. Null where this version can't prepare it. */
// eslint-disable-next-line max-lines-per-function -- the states of one form, each act of which sets several of them
export function usePreparation({ run, board, rig: storedRig }: Loaded, p: BenchProcedure): Preparation | null {
  const router = useRouter();
  const [setup, setSetup] = useState(run.setup);
  const [rig, setRig] = useState(storedRig);
  const [own, setOwn] = useState(p.usualMeters ? {} : run.setup.instruments);
  const [ownMeters, setOwnMeters] = useState<NonNullable<RunSetup["meters"]>>({});
  const offered = simulatedFor(p.id);
  const [simulated, setSimulated] = useState<string | null>(() => (board.simulatedAs ? (board.simulatedAs in offered ? board.simulatedAs : (Object.keys(offered)[0] ?? null)) : null));
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState(false);
  const plan = setup.plan as PlanValues | undefined;
  const [cellId, setCellId] = useState<string | null>(run.cellId ?? (plan?.cell as PlannedCell | null | undefined)?.id ?? null);
  const [editions, setEditions] = useState<Readonly<Record<string, number>>>({});
  const [round, setRound] = useState(0);
  const resistors = useResistors(p.resistors ? (setup as RunSetup<SweepPlan>) : null, rig);
  if (!plan) return null;
  const moved = (names: readonly string[]) => setEditions((e) => ({ ...e, ...Object.fromEntries(names.map((n) => [n, (e[n] ?? 0) + 1])) }));
  const mark = (name: string, isBad: boolean) => setBad((b) => (b.has(name) === isBad ? b : new Set(isBad ? [...b, name] : [...b].filter((x) => x !== name))));
  const put = (patch: PlanValues) => {
    setSetup((s) => ({ ...s, plan: { ...(s.plan as PlanValues), ...patch } }));
    // What is no longer asked can't be wrong: it would block the start out of sight.
    const hidden = (p.fields ?? []).filter((f) => !entryShown(f, { ...plan, ...patch })).map((f) => f.key);
    for (const key of hidden) mark(key, false);
  };
  const roles = p.roles?.(setup) ?? p.record.roles.map((r) => r.role).filter((r) => r !== "time");
  const full = fullSetup(p, setup, rig, roles, own, ownMeters, resistors.state === "ready" ? resistors.choices : []);
  const remarks = p.remarks?.(full) ?? [];
  const start = () => {
    setBusy(true);
    if (p.readings === "trace") {
      playAll(p.guide ? ["step", "phase", "done", "stop"] : ["phase", "cut-back", "input-low", "no-current", "done", "stop"], false);
      if (typeof Notification !== "undefined" && Notification.permission === "default") void Notification.requestPermission().catch(() => undefined);
    }
    void attempt(async () => {
      const begun = await startedNow({ ...run, setup: simulated ? { ...full, instruments: simulatedMeters(roles, full.instruments, benchMeters(p.id)) } : full });
      const next: RunRecord = { ...begun, ...(cellId ? { cellId: cellId as NonNullable<RunRecord["cellId"]> } : {}), source: simulated ? { kind: "simulated", board: simulated, seed: Math.floor(Math.random() * 2 ** 31) } : { kind: "typed" } };
      await change(`start ${run.title}`, [edit(run, next), ...(rig === storedRig ? [] : [edit(storedRig, rig)]), ...(simulated && keptByBoard(p.id) && board.simulatedAs !== simulated ? [edit(board, { ...board, simulatedAs: simulated })] : [])]);
      router.push(`/run/${run.id}/${PAGES[p.readings]}`);
    }).finally(() => setBusy(false));
  };
  return {
    p,
    run,
    setup,
    plan,
    rig,
    full,
    roles,
    remarks,
    cautions: cautionsOf(p, full),
    offered,
    simulated,
    cellId,
    resistors,
    bad: bad.size > 0,
    refused: remarks.some((r) => r.severity === "refused"),
    busy,
    edition: (name) => round + (editions[name] ?? 0),
    put,
    condition: (key, value) => {
      setSetup((s) => {
        const { [key]: _was, ...conditions } = s.conditions;
        void _was;
        return { ...s, conditions: value === null ? conditions : { ...conditions, [key]: value } };
      });
      if (key === "supplyCurrentLimit" && value !== null) setRig((r) => ({ ...r, supplyCurrentLimit: value }));
    },
    mark,
    moved,
    setSimulated,
    setRig,
    readWith: (role, a, meter) => {
      // What an ammeter's range drops is part of the plan where the procedure minds it.
      if (role === "batteryCurrent" && meter?.burden !== undefined && typeof plan.shunt === "number") {
        put({ shunt: meter.burden });
        moved(["shunt"]);
      }
      setOwn((o) => ({ ...o, [role]: a }));
      setOwnMeters((o) => (meter ? { ...o, [role]: meter } : Object.fromEntries(Object.entries(o).filter(([r]) => r !== role))));
      // A range chosen for this procedure alone does not become the bench's usual one.
      if (p.usualMeters || run.setup.instruments[role] === rig.instruments[role]) setRig((r) => readWith(r, role, a, meter));
    },
    takeCell: (cell) => {
      setCellId(cell.id ?? null);
      setSetup((s) => p.withCell?.(s, cell) ?? s);
      setBad(new Set());
      setRound((n) => n + 1);
    },
    start,
  };
}

/** The set-up as the run would pin it: the bench's meters and leads, and those that the procedure asks for itself before them. */
function fullSetup(p: BenchProcedure, setup: RunSetup, rig: RigRecord, roles: readonly Role[], own: RunSetup["instruments"], ownMeters: NonNullable<RunSetup["meters"]>, drawer: readonly LoadChoice[]): RunSetup {
  const instruments = accuraciesFor(roles, { ...rig.instruments, ...own });
  const meters = { ...metersPinned(instruments, rig), ...ownMeters };
  const { meters: _planned, ...planned } = setup;
  void _planned;
  const { drawer: _drawer, ...plan } = setup.plan as PlanValues;
  void _drawer;
  const leads = { inputLeadResistance: rig.inputLeadResistance, outputLeadResistance: rig.outputLeadResistance };
  return {
    ...planned,
    ...(p.resistors ? { conditions: { ...setup.conditions, ...leads }, plan: { ...plan, ...(rig.useDrawer && drawer.length ? { drawer } : {}) } } : {}),
    instruments,
    ...(Object.keys(meters).length ? { meters } : {}),
  };
}
