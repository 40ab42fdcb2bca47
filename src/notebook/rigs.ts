import { calendarDay } from "@/core/quantities";
import type { InstrumentRecord, RigRecord, RunRecord, StoredRecord } from "@/core/files/records";
import {
  instrumentAfterEdit,
  accuraciesAfterEdit,
  pinned,
  rangesOn,
  type EditMeaning,
  type Instrument,
} from "@/core/instruments";
import { metersPinned, type Role, type RunSetup } from "@/core/measurement";
import { change, edit, now, type Act } from "@/storage/door";
import { ofKind } from "@/storage/queries";

/** The rig that new runs are planned with. */
export async function rigOf(notebookId: string): Promise<RigRecord | undefined> {
  const rigs = await ofKind(notebookId, "rig");
  return rigs.find((r) => r.inUse) ?? rigs[0];
}

/** A set-up with the meters of a rig named in it, where it was read with theirs. */
export function withMeters<P>(setup: RunSetup<P>, rig: Pick<RigRecord, "instruments" | "meters">): RunSetup<P> {
  const { meters: _before, ...rest } = setup;
  void _before;
  const meters = metersPinned(setup.instruments, rig);
  return Object.keys(meters).length ? { ...rest, meters } : rest;
}

/** The set-up with each pinned meter's accuracy as its instrument had it on that day (ISO date): for a log that was taken earlier. */
export async function withMetersOn<P>(setup: RunSetup<P>, notebookId: string, day: string): Promise<RunSetup<P>> {
  const instruments = await ofKind(notebookId, "instrument");
  const then = Object.entries(setup.meters ?? {}).flatMap(([role, meter]) => {
    const own = instruments.find((i) => i.id === meter?.instrumentId);
    const range = own && rangesOn(own, day).find((r) => r.id === meter?.rangeId);
    return range ? [[role, range.accuracy] as const] : [];
  });
  return then.length ? { ...setup, instruments: { ...setup.instruments, ...Object.fromEntries(then) } } : setup;
}

/** What an edit of an instrument, or of a rig's leads, would bring with it. */
export interface EditEffect {
  /** The instrument after the edit; absent where a rig was edited. */
  readonly instrument?: InstrumentRecord;
  /** The records as they were. */
  readonly before: readonly StoredRecord[];
  readonly rigs: readonly RigRecord[];
  /** Runs that follow, as they would be. */
  readonly runs: readonly RunRecord[];
}

/** Works out an edit without storing any of it: the instrument, the rigs that read with it, and the runs that follow. */
export async function editEffect(
  before: InstrumentRecord,
  after: Instrument & { readonly note: string },
  meaning: EditMeaning,
): Promise<EditEffect> {
  const at = now();
  const instrument: InstrumentRecord = {
    ...before,
    ...instrumentAfterEdit(before, after, meaning),
    note: after.note,
    updatedAt: at,
  };
  const [rigs, runs] = await Promise.all([ofKind(before.notebookId, "rig"), ofKind(before.notebookId, "run")]);
  const follows = (r: RigRecord): RigRecord | null => {
    let next = r;
    for (const [role, meter] of Object.entries(r.meters ?? {}) as [Role, NonNullable<RigRecord["meters"]>[Role]][]) {
      if (meter?.instrumentId !== before.id) continue;
      const range = after.ranges.find((x) => x.id === meter.rangeId);
      const { [role]: _gone, ...others } = next.meters ?? {};
      void _gone;
      next = range
        ? {
            ...next,
            meters: { ...next.meters, [role]: pinned(before.id, after, range) },
            instruments: { ...next.instruments, [role]: range.accuracy },
          }
        : { ...next, meters: others };
    }
    return next === r ? null : { ...next, updatedAt: at };
  };
  return {
    instrument,
    before: [before, ...rigs, ...runs],
    rigs: rigs.flatMap((r) => follows(r) ?? []),
    runs: runs.flatMap((r) => {
      const accuracies = accuraciesAfterEdit(r, before.id, before, after, meaning);
      return Object.keys(accuracies).length
        ? [{ ...r, setup: { ...r.setup, instruments: { ...r.setup.instruments, ...accuracies } }, updatedAt: at }]
        : [];
    }),
  };
}

const LEADS = ["inputLeadResistance", "outputLeadResistance"] as const;

/** Whether a run was read on a rig: with one of its meters, or where it names none with any. */
function readOn(run: RunRecord, rig: RigRecord): boolean {
  const own = new Set(Object.values(rig.meters ?? {}).map((m) => m?.instrumentId));
  return own.size === 0 || Object.values(run.setup.meters ?? {}).some((m) => own.has(m?.instrumentId));
}

/** Works out an edit of a rig whose leads changed: runs that were taken over those leads, with that resistance, follow as the edit is meant. */
export async function leadsEffect(before: RigRecord, after: RigRecord, meaning: EditMeaning): Promise<EditEffect> {
  const at = now();
  const runs = await ofKind(before.notebookId, "run");
  return {
    before: [before, ...runs],
    rigs: [{ ...after, updatedAt: at }],
    runs: runs.flatMap((r) => {
      if ((meaning.kind === "from" && calendarDay(r.startUtc, r.zone) < meaning.date) || !readOn(r, before)) return [];
      const changed = LEADS.filter((k) => before[k] !== after[k] && r.setup.conditions[k] === before[k]);
      return changed.length
        ? [
            {
              ...r,
              setup: {
                ...r.setup,
                conditions: { ...r.setup.conditions, ...Object.fromEntries(changed.map((k) => [k, after[k]])) },
              },
              updatedAt: at,
            },
          ]
        : [];
    }),
  };
}

/** Stores an edit with all that follows it, as one change that can be undone. */
export function applyEdit(e: EditEffect, why: string): Promise<Act | null> {
  const before = new Map(e.before.map((r) => [r.id as string, r]));
  return change(
    why,
    [...(e.instrument ? [e.instrument] : []), ...e.rigs, ...e.runs].map((to) => edit(before.get(to.id) ?? to, to)),
  );
}
