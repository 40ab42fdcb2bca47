"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { useForm, useWatch, type UseFormReturn } from "react-hook-form";
import { sameValue } from "@/core/files/three-way";
import type { BoardRecord, RigRecord, RunRecord } from "@/core/files/records";
import type { Accuracy, PinnedMeter } from "@/core/instruments";
import { accuraciesFor, metersPinned, readWith, type PlannedCell, type RunSetup, type Role } from "@/core/measurement";
import type { BenchProcedure, Caution, PlanRemark } from "@/core/procedures";
import { cautionsOf } from "@/core/procedures/kit/cell-cautions";
import { entryShown } from "@/core/procedures/kit/plan-fields";
import type { LoadChoice, SweepPlan } from "@/core/procedures/load-sweep";
import { cellCautions, type RunGuards } from "@/core/use";
import { benchOf } from "@/core/bench";
import { simulatedMeters } from "@/core/rehearsal/meters";
import { attempt } from "@/browser/notify";
import { playAll } from "@/browser/sound";
import { startedNow } from "@/notebook";
import { change, edit } from "@/storage";
import { useTyped } from "@/ui/use-typed";
import type { Loaded } from "./loaded";
import { conditionsOf, lastTaken, rigTaken, statedOf, unreadOf, type PlanForm, type PlanValues } from "./plan-form";
import { useResistors, type Resistors } from "./resistors";
import { numeric } from "@/core/quantities";

const PAGES: Readonly<Record<BenchProcedure["readings"], string>> = {
  trace: "log",
  points: "capture",
  answers: "checklist",
};

export interface Preparation {
  readonly p: BenchProcedure;
  readonly run: RunRecord;
  readonly form: UseFormReturn<PlanForm>;
  /** As it is typed. */
  readonly typed: PlanForm;
  /** The bench, as each of its fields last could be taken. */
  readonly rig: RigRecord;
  /** The set-up as the run would pin it. */
  readonly full: RunSetup;
  readonly roles: readonly Role[];
  readonly remarks: readonly PlanRemark[];
  readonly cautions: readonly Caution[];
  readonly offered: Readonly<Record<string, { readonly title: string }>>;
  readonly resistors: Resistors;
  /** A field in sight can't be taken. */
  readonly unread: boolean;
  readonly refused: boolean;
  readonly busy: boolean;
  readWith(role: Role, a: Accuracy, meter: PinnedMeter | undefined): void;
  takeCell(cell: PlannedCell): void;
  start(): void;
}

/** What a run's form begins with. */
function begin({ run, board, rig }: Loaded, p: BenchProcedure, offered: Preparation["offered"]): PlanForm {
  const plan = { ...(run.setup.plan as PlanValues) };
  return {
    plan,
    conditions: conditionsOf(p, run.setup, rolesOf(p, run.setup)),
    rig,
    own: p.usualMeters ? {} : run.setup.instruments,
    ownMeters: {},
    simulated: board.simulatedAs
      ? board.simulatedAs in offered
        ? board.simulatedAs
        : (Object.keys(offered)[0] ?? null)
      : null,
    cellId: run.cellId ?? (plan.cell as PlannedCell | null | undefined)?.id ?? null,
  };
}

const rolesOf = (p: BenchProcedure, setup: RunSetup): readonly Role[] =>
  p.roles?.(setup) ?? p.record.roles.map((r) => r.role).filter((r) => r !== "time");

/** Plan, conditions and rig as each of their fields last could be taken. */
function useLastTaken({ plan, conditions, rig }: PlanForm): Pick<PlanForm, "plan" | "conditions" | "rig"> {
  const [last, setLast] = useState({ plan, conditions, rig });
  const now = {
    plan: lastTaken(plan, last.plan),
    conditions: lastTaken(conditions, last.conditions),
    rig: rigTaken(rig, last.rig),
  };
  if (!sameValue(now, last)) setLast(now);
  return last;
}

/** What follows when somebody changes a field: other entries of the plan, and what the bench remembers. */
function useFollowing(form: UseFormReturn<PlanForm>, p: BenchProcedure, before: PlanValues): void {
  const { setValue } = form;
  useTyped(form, (name, values) => {
    const [part, key = ""] = name.split(".");
    const value = part === "plan" ? values.plan[key] : values.conditions[key];
    if (value === null || value === undefined || Number.isNaN(value)) return;
    if (part === "conditions" && key === "supplyCurrentLimit") setValue("rig.supplyCurrentLimit", numeric(value));
    if (part !== "plan") return;
    const field = p.fields?.find((f) => f.key === key);
    if (field && "bench" in field && field.bench) setValue(`rig.${field.bench}`, numeric(value));
    for (const [other, v] of Object.entries(p.follows?.(before, { [key]: value }) ?? {}))
      if (other !== key) setValue(`plan.${other}`, v);
    // What is no longer asked holds what it last held: nonsense would come back with its field.
    for (const f of p.fields ?? [])
      if (!entryShown(f, values.plan) && Number.isNaN(values.plan[f.key])) setValue(`plan.${f.key}`, before[f.key]);
  });
}

/** A run while it is prepared: its plan, the bench, what stands against it, and its start. */
export function usePreparation(loaded: Loaded, p: BenchProcedure): Preparation {
  const { run, board, rig: storedRig } = loaded;
  const offered = benchOf(p.id)?.specimens ?? {};
  const [begun] = useState(() => begin(loaded, p, offered));
  const form = useForm<PlanForm>({ defaultValues: begun });
  const typed = useWatch({ control: form.control }) as PlanForm;
  const taken = useLastTaken(typed);
  useFollowing(form, p, taken.plan);
  const { setValue } = form;
  const { own, ownMeters, simulated, cellId } = typed;
  const { rig } = taken;
  const setup: RunSetup = { ...run.setup, plan: taken.plan, conditions: statedOf(taken.conditions) };
  const roles = rolesOf(p, setup);
  const resistors = useResistors(p.resistors ? (setup as RunSetup<SweepPlan>) : null, rig);
  const full = fullSetup(
    p,
    setup,
    { rig, own, ownMeters },
    roles,
    resistors.state === "ready" ? resistors.choices : [],
  );
  const remarks = p.remarks?.(full) ?? [];
  const { busy, start } = useStart(p, { run, board, rig: storedRig }, { rig, simulated, cellId, setup: full, roles });
  return {
    p,
    run,
    form,
    typed,
    rig,
    full,
    roles,
    remarks,
    cautions: cautions(p, full, loaded.guards),
    offered,
    resistors,
    unread: unreadOf(p, typed, begun, roles),
    refused: remarks.some((r) => r.severity === "refused"),
    busy,
    readWith: (role, a, meter) => {
      // What an ammeter's range drops is part of the plan where the procedure minds it.
      if (role === "batteryCurrent" && meter?.burden !== undefined && typeof taken.plan.shunt === "number")
        setValue("plan.shunt", meter.burden);
      setValue("own", { ...own, [role]: a });
      setValue(
        "ownMeters",
        meter
          ? { ...ownMeters, [role]: meter }
          : Object.fromEntries(Object.entries(ownMeters).filter(([r]) => r !== role)),
      );
      // A range chosen for this procedure alone does not become the bench's usual one.
      if (p.usualMeters || run.setup.instruments[role] === rig.instruments[role])
        setValue("rig", readWith(rig, role, a, meter));
    },
    takeCell: (cell) => {
      const next = p.withCell?.(setup, cell) ?? setup;
      setValue("cellId", cell.id ?? null);
      setValue("plan", { ...(next.plan as PlanValues) });
      setValue("conditions", conditionsOf(p, next, roles));
    },
    start,
  };
}

/** What is to be heeded before anything is connected; what stands between a cell and the outside comes first. */
function cautions(p: BenchProcedure, full: RunSetup, guards: RunGuards): readonly Caution[] {
  const { devices } = p.wiring(full);
  const joined = devices.some((d) => d.kind === "cell") && devices.some((d) => d.kind === "module");
  const cell = (full.plan as { readonly cell?: PlannedCell | null }).cell;
  return [...(joined ? cellCautions(guards, cell?.ownProtection ?? false) : []), ...cautionsOf(p, full)];
}

interface Starting extends Pick<PlanForm, "rig" | "simulated" | "cellId"> {
  readonly setup: RunSetup;
  readonly roles: readonly Role[];
}

/** The start of a run: stored with its set-up as it stands, then at its own page. */
function useStart(
  p: BenchProcedure,
  stored: { readonly run: RunRecord; readonly board: BoardRecord; readonly rig: RigRecord },
  { rig, simulated, cellId, setup, roles }: Starting,
) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const { run, board } = stored;
  const bench = benchOf(p.id);
  const start = () => {
    setBusy(true);
    if (p.readings === "trace") {
      playAll(
        p.guide ? ["step", "phase", "done", "stop"] : ["phase", "cut-back", "input-low", "no-current", "done", "stop"],
        false,
      );
      if (typeof Notification !== "undefined" && Notification.permission === "default")
        void Notification.requestPermission().catch(() => undefined);
    }
    void attempt(async () => {
      const begun = await startedNow({
        ...run,
        setup: simulated ? { ...setup, instruments: simulatedMeters(roles, setup.instruments, bench?.meters) } : setup,
      });
      const next: RunRecord = {
        ...begun,
        ...(cellId ? { cellId: cellId as NonNullable<RunRecord["cellId"]> } : {}),
        source: simulated
          ? { kind: "simulated", board: simulated, seed: Math.floor(Math.random() * 2 ** 31) }
          : { kind: "typed" },
      };
      await change(`start ${run.title}`, [
        edit(run, next),
        ...(sameValue(rig, stored.rig) ? [] : [edit(stored.rig, rig)]),
        ...(simulated && bench?.keptByBoard && board.simulatedAs !== simulated
          ? [edit(board, { ...board, simulatedAs: simulated })]
          : []),
      ]);
      router.push(`/run/${run.id}/${PAGES[p.readings]}`);
    }).finally(() => setBusy(false));
  };
  return { busy, start };
}

/** The set-up as the run would pin it: the bench's meters and leads, and those that the procedure asks for itself before them. */
function fullSetup(
  p: BenchProcedure,
  setup: RunSetup,
  { rig, own, ownMeters }: Pick<PlanForm, "rig" | "own" | "ownMeters">,
  roles: readonly Role[],
  drawer: readonly LoadChoice[],
): RunSetup {
  const instruments = accuraciesFor(roles, { ...rig.instruments, ...own });
  const meters = { ...metersPinned(instruments, rig), ...ownMeters };
  const { meters: _planned, ...planned } = setup;
  void _planned;
  const { drawer: _drawer, ...plan } = setup.plan as PlanValues;
  void _drawer;
  const leads = { inputLeadResistance: rig.inputLeadResistance, outputLeadResistance: rig.outputLeadResistance };
  return {
    ...planned,
    ...(p.resistors
      ? {
          conditions: { ...setup.conditions, ...leads },
          plan: { ...plan, ...(rig.useDrawer && drawer.length ? { drawer } : {}) },
        }
      : {}),
    instruments,
    ...(Object.keys(meters).length ? { meters } : {}),
  };
}
