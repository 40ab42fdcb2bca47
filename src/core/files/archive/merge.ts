import { owner, references, renamed } from "../record-links";
import type { ConflictRecord, RigRecord, RulesRecord, RunRecord, StoredRecord } from "../records";
import { checksum, MOST_VERSIONS, versionOf } from "../versions";
import { utf8ToBytes } from "@noble/hashes/utils.js";

/** How a record of an archive stands to the one that is here. */
export type Standing = "new" | "same" | "older" | "newer" | "both";

/**
 * Tells which of two versions of a record came after the other by the hashes of earlier versions that each carries. Where records were
 * stored before versions were remembered, a deletion goes before whatever was stored earlier than it.
 */
export function standing(ours: StoredRecord | undefined, theirs: StoredRecord): Standing {
  if (!ours) return "new";
  const [o, t] = [versionOf(ours), versionOf(theirs)];
  if (o === t) return "same";
  const [we, they] = [new Set(ours.lineage), new Set(theirs.lineage)];
  const [weKnow, theyKnow] = [we.has(t), they.has(o)];
  if (weKnow && theyKnow) {
    // Changed back and forth: the one that knows all that the other knows came after it.
    const weKnowAll = [...they].every((v) => we.has(v) || v === o);
    const theyKnowAll = [...we].every((v) => they.has(v) || v === t);
    if (weKnowAll !== theyKnowAll) return weKnowAll ? "older" : "newer";
    return theirs.updatedAt > ours.updatedAt ? "newer" : "older";
  }
  if (weKnow) return "older";
  if (theyKnow) return "newer";
  if (ours.deletedAt && !ours.lineage?.length && !theirs.deletedAt)
    return theirs.updatedAt <= ours.deletedAt ? "older" : "both";
  if (theirs.deletedAt && !theirs.lineage?.length && !ours.deletedAt)
    return ours.updatedAt <= theirs.deletedAt ? "newer" : "both";
  return "both";
}

/** `r` as the version that came after both: it remembers the versions of the two. */
export function after<R extends StoredRecord>(r: R, ...others: readonly StoredRecord[]): R {
  const own = versionOf(r);
  const hashes = new Set([...others.flatMap((o) => [...(o.lineage ?? []), versionOf(o)]), ...(r.lineage ?? [])]);
  hashes.delete(own);
  return hashes.size ? { ...r, lineage: [...hashes].slice(-MOST_VERSIONS) } : r;
}

/** A record that both sides changed since they parted. */
export interface Conflict {
  readonly ours: StoredRecord;
  readonly theirs: StoredRecord;
}

export interface Written {
  readonly from: StoredRecord | null;
  readonly to: StoredRecord;
}

export interface MergePlan {
  /** To be written, with what each was here; null where it is new. */
  readonly write: readonly Written[];
  readonly added: number;
  readonly updated: number;
  /** Records that the archive had deleted since, and that are deleted here with this. */
  readonly deleted: readonly StoredRecord[];
  readonly same: number;
  /** Of which a newer version is here. */
  readonly older: number;
  /** In the archive, but deleted here: they stay deleted unless they are restored. */
  readonly leftOut: readonly StoredRecord[];
  readonly conflicts: readonly Conflict[];
  /** House rules of the archive that would change what is here. */
  readonly rules: { readonly ours: RulesRecord; readonly theirs: RulesRecord } | null;
  /** Runs that were carried on here and there since they parted: their id → that of the run that the archive's readings come in as. */
  readonly apart: ReadonlyMap<string, string>;
  /** Runs whose log goes on in the archive where the one that is here ends. */
  readonly longer: readonly string[];
}

/** A record by its id, and by its run where it belongs to one. */
export interface Ref {
  readonly id: string;
  readonly runId?: string;
}

/** What a merge looks up of what is here. */
export interface Here {
  records(refs: readonly Ref[]): Promise<ReadonlyMap<string, StoredRecord>>;
  /** Ids of the points and answers of a run. */
  readings(runId: string): Promise<readonly string[]>;
  /** The notebook's house rules in use, and its rig in use. */
  rules(): Promise<RulesRecord | null>;
  rigInUse(): Promise<string | null>;
  /** How the archive's log of a run stands to the one that is here: it goes on where this one ends, or each went on its own way. */
  log(runId: string): Promise<"longer" | "apart" | "same or shorter">;
}

const isReading = (r: StoredRecord): boolean => (r.kind === "point" && r.state !== "draft") || r.kind === "answer";

/** A fresh id that is always the same for the same run and readings, so that merging the same archive again adds nothing. */
function idOf(runId: string, parts: readonly StoredRecord[]): string {
  const hex = checksum(utf8ToBytes([runId, ...parts.map((p) => `${p.id}=${versionOf(p)}`).sort()].join("\n")));
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/**
 * Says what merging an archive of this notebook would do, and writes nothing. Records are told apart by `standing`: what was changed on
 * one side only is taken from that side, deletions included; what was changed on both is a conflict. House rules are never added to, and
 * a rig that is new or was changed on both sides comes in as another one, not in use. A run that was carried on on both sides comes in
 * as a run of its own, since two histories make no one sweep.
 */
// eslint-disable-next-line max-lines-per-function -- one pass over an archive: what becomes of a record rests on all that was met before it
export async function planMerge(batches: AsyncIterable<readonly StoredRecord[]>, here: Here): Promise<MergePlan> {
  const write: Written[] = [];
  const put = (to: StoredRecord, from: StoredRecord | null = null) => write.push({ from, to });
  const [deleted, leftOut] = [[] as StoredRecord[], [] as StoredRecord[]];
  const conflicts: Conflict[] = [];
  let [added, updated, same, older] = [0, 0, 0, 0];
  let rules: MergePlan["rules"] = null;
  const ownRules = await here.rules();
  const inUse = await here.rigInUse();
  /** What the archive holds of runs that are here too. */
  const runs = new Map<string, RunRecord>();
  const ids = new Set<string>();
  const parts = new Map<string, StoredRecord[]>();
  const fresh = new Map<string, StoredRecord[]>();
  for await (const batch of batches) {
    const there = await here.records([...batch, ...batch.flatMap((r) => ("runId" in r ? [{ id: r.runId }] : []))]);
    for (const theirs of batch) {
      ids.add(theirs.id);
      const ours = there.get(theirs.id);
      if (theirs.kind === "run" && ours) runs.set(theirs.id, theirs);
      const runHere = "runId" in theirs && there.has(theirs.runId);
      if (runHere) parts.set(theirs.runId, [...(parts.get(theirs.runId) ?? []), theirs]);
      if (theirs.kind === "rules") {
        const mine = ownRules ?? (ours?.kind === "rules" ? ours : null);
        if (!mine) {
          put(theirs);
          added++;
          continue;
        }
        const as: RulesRecord = { ...theirs, id: mine.id, createdAt: mine.createdAt };
        const how = standing(mine, as);
        if (how === "same") same++;
        else if (how === "older" || theirs.deletedAt) older++;
        else rules = { ours: mine, theirs: as };
        continue;
      }
      const how = standing(ours, theirs);
      if (how === "new" && runHere && isReading(theirs) && "runId" in theirs) {
        fresh.set(theirs.runId, [...(fresh.get(theirs.runId) ?? []), theirs]);
        continue;
      }
      if (how === "new") {
        put(theirs.kind === "rig" && inUse ? idle(theirs) : theirs);
        if (!theirs.deletedAt) added++;
      } else if (how === "same" && ours) {
        same++;
        // What the archive knows of earlier versions is worth knowing here.
        if (theirs.lineage?.some((v) => !ours.lineage?.includes(v))) put(after(ours, theirs), ours);
      } else if (how === "older" && ours) {
        if (ours.deletedAt && !theirs.deletedAt) leftOut.push(theirs);
        else older++;
      } else if (how === "newer" && ours) {
        const next = after(theirs, ours);
        put(
          ours.kind === "rig" && next.kind === "rig"
            ? ({ ...idle(next), ...(ours.inUse ? { inUse: true } : {}) } as StoredRecord)
            : next,
          ours,
        );
        if (next.deletedAt && !ours.deletedAt) deleted.push(ours);
        else updated++;
      } else if (ours) conflicts.push({ ours, theirs });
    }
  }
  const apart = new Map<string, string>();
  const longer: string[] = [];
  for (const [runId, run] of runs) {
    const more = fresh.get(runId) ?? [];
    const ownOnly = more.length ? (await here.readings(runId)).filter((id) => !ids.has(id)) : [];
    const log = await here.log(runId);
    if (ownOnly.length === 0 && log !== "apart") {
      if (log === "longer") longer.push(runId);
      for (const r of more) put(r);
      added += more.length;
      continue;
    }
    const all = [...(parts.get(runId) ?? [])];
    const names = new Map<string, string>([[runId, idOf(runId, all)]]);
    const copyId = names.get(runId) as string;
    for (const p of all) names.set(p.id, idOf(copyId, [p]));
    const copies = [run, ...all].filter((r) => !r.deletedAt).map((r) => renamed(r, names));
    const records = await here.records(copies);
    apart.set(runId, copyId);
    for (const c of copies) {
      if (records.has(c.id)) same++;
      else {
        put(c.kind === "run" ? { ...c, title: `${c.title} (continued in the archive)` } : c);
        added++;
      }
    }
    // The run itself and its parts stay as they are here.
    const own = new Set([runId, ...all.map((r) => r.id as string)]);
    write.splice(0, write.length, ...write.filter(({ to }) => !own.has(to.id)));
    for (const list of [deleted, leftOut]) list.splice(0, list.length, ...list.filter((r) => !own.has(r.id)));
    conflicts.splice(0, conflicts.length, ...conflicts.filter((c) => !own.has(c.ours.id)));
  }
  // A rig that both sides changed is two rigs from now on.
  const rigs = conflicts.filter((c) => c.theirs.kind === "rig" && !c.theirs.deletedAt && !c.ours.deletedAt);
  for (const { ours, theirs } of rigs) {
    const id = idOf(theirs.id, [theirs]);
    const second = idle(renamed(theirs, new Map([[theirs.id as string, id]])));
    put(after(ours, theirs), ours);
    if ((await here.records([{ id }])).has(id)) continue;
    put({
      ...second,
      title: `${(theirs as RigRecord).title} (from the archive)`,
      lineage: undefined,
    } as unknown as StoredRecord);
    added++;
  }
  return {
    write: write.map(({ from, to }) => ({ from, to: tidy(to) })),
    added,
    updated,
    deleted,
    same,
    older,
    leftOut,
    conflicts: conflicts.filter((c) => !rigs.includes(c)),
    rules,
    apart,
    longer,
  };
}

const tidy = (r: StoredRecord): StoredRecord =>
  Object.values(r).includes(undefined)
    ? (Object.fromEntries(Object.entries(r).filter(([, v]) => v !== undefined)) as unknown as StoredRecord)
    : r;

/** A rig that is not the one in use. */
function idle(r: StoredRecord): StoredRecord {
  if (r.kind !== "rig") return r;
  const { inUse: _inUse, ...rest } = r;
  void _inUse;
  return rest;
}

/** What is kept of a conflict until the tester has chosen. */
export const conflictRecord = ({ ours, theirs }: Conflict, archive: string, at: string): ConflictRecord => ({
  kind: "conflict",
  id: `conflict-${versionOf(theirs)}-${ours.id}`.slice(0, 120),
  notebookId: ours.notebookId,
  createdAt: at,
  updatedAt: at,
  of: ours.id,
  archive,
  theirs: theirs as ConflictRecord["theirs"],
});

/** The records that a deleted record needs to be of use again: itself, and what it belongs or points to where that is among them. */
export function withOwners(r: StoredRecord, among: ReadonlyMap<string, StoredRecord>): StoredRecord[] {
  const out = new Map<string, StoredRecord>([[r.id, r]]);
  for (const x of out.values())
    for (const id of [owner(x), ...references(x)])
      if (id && among.has(id) && !out.has(id)) out.set(id, among.get(id) as StoredRecord);
  return [...out.values()];
}
