import type { InstrumentRecord, RigRecord, RunRecord } from "@/core/files/records";
import { edited, followed, pinned, type EditMeaning, type Instrument } from "@/core/instruments";
import { metersPinned, type Role } from "@/core/procedures/roles";
import type { RunSetup } from "@/core/procedures";
import { change, now } from "./door";
import { ofKind } from "./queries";

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

/** What an edit of an instrument would bring with it. */
export interface EditEffect {
  readonly instrument: InstrumentRecord;
  readonly rigs: readonly RigRecord[];
  /** Runs that follow, as they would be. */
  readonly runs: readonly RunRecord[];
}

/** Works out an edit without storing any of it: the instrument, the rigs that read with it, and the runs that follow. */
export async function editEffect(before: InstrumentRecord, after: Instrument & { readonly note: string }, meaning: EditMeaning): Promise<EditEffect> {
  const at = now();
  const instrument: InstrumentRecord = { ...before, ...edited(before, after, meaning), note: after.note, updatedAt: at };
  const [rigs, runs] = await Promise.all([ofKind(before.notebookId, "rig"), ofKind(before.notebookId, "run")]);
  const follows = (r: RigRecord): RigRecord | null => {
    let next = r;
    for (const [role, meter] of Object.entries(r.meters ?? {}) as [Role, NonNullable<RigRecord["meters"]>[Role]][]) {
      if (meter?.instrumentId !== before.id) continue;
      const range = after.ranges.find((x) => x.id === meter.rangeId);
      const { [role]: _gone, ...others } = next.meters ?? {};
      void _gone;
      next = range ? { ...next, meters: { ...next.meters, [role]: pinned(before.id, after, range) }, instruments: { ...next.instruments, [role]: range.accuracy } } : { ...next, meters: others };
    }
    return next === r ? null : { ...next, updatedAt: at };
  };
  return {
    instrument,
    rigs: rigs.flatMap((r) => follows(r) ?? []),
    runs: runs.flatMap((r) => {
      const accuracies = followed(r, before.id, before, after, meaning);
      return Object.keys(accuracies).length ? [{ ...r, setup: { ...r.setup, instruments: { ...r.setup.instruments, ...accuracies } }, updatedAt: at }] : [];
    }),
  };
}

/** Stores an edit with all that follows it, as one change that can be undone. */
export const applyEdit = (e: EditEffect, why: string): Promise<void> => change(why, [e.instrument, ...e.rigs, ...e.runs]);
