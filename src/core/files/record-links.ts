/** What records point to, and how copies are made to point to copies. */
import type { PinnedMeter } from "../instruments";
import type { Role } from "../measurement";
import type { AnnotationRecord, StoredRecord } from "./records";

const SPEAKS_OF_A_POINT: ReadonlySet<AnnotationRecord["what"]> = new Set(["left-out", "recovery", "note", "reading"]);

const metersOf = (meters: Readonly<Partial<Record<Role, PinnedMeter>>>): string[] =>
  Object.values(meters).flatMap((m) => (m ? [m.instrumentId] : []));

/** The ids a record points to, so that copies can be made to point to copies. */
export function references(r: StoredRecord): readonly string[] {
  const out: string[] = [r.notebookId];
  if ("boardId" in r) out.push(r.boardId);
  if ("sampleId" in r) out.push(r.sampleId);
  if ("runId" in r) out.push(r.runId);
  if ("cellId" in r && r.cellId) out.push(r.cellId);
  if (r.kind === "rig" && r.meters) out.push(...metersOf(r.meters));
  if (r.kind === "run" && r.setup.meters) out.push(...metersOf(r.setup.meters));
  if (r.kind === "run" && r.source.kind === "file")
    out.push(r.source.fileId, ...(r.source.more ?? []).map((m) => m.fileId));
  if (r.kind === "load")
    out.push(...(r.used ?? []).map((u) => u.boardId), ...(r.wiring.added?.boardId ? [r.wiring.added.boardId] : []));
  if (r.kind === "need") out.push(...[r.addedBoard?.boardId, r.build?.boardId].flatMap((id) => id ?? []));
  if (r.kind === "sample" && r.between?.added?.boardId) out.push(r.between.added.boardId);
  if (r.kind === "pack") out.push(...r.groups.flat());
  if (r.kind === "cellCharge" && r.stationId) out.push(r.stationId);
  if (r.kind === "day")
    out.push(
      ...r.tasks.flatMap(({ about }) =>
        [about.boardId, about.sampleId, about.cellId, about.runId].flatMap((x) => x ?? []),
      ),
    );
  if (r.kind === "conflict") out.push(r.of);
  if (r.kind === "annotation" && SPEAKS_OF_A_POINT.has(r.what)) out.push(r.target);
  return out;
}

/** The record that a part belongs to: a point differs, so its run differs. Null for what stands by itself. */
export function owner(r: StoredRecord): string | null {
  if (r.kind === "point" || r.kind === "answer" || r.kind === "annotation") return r.runId;
  if (r.kind === "cellReading" || r.kind === "cellCharge") return r.cellId;
  if (r.kind === "photo") return r.sampleId;
  if (r.kind === "claim" || r.kind === "issued") return r.boardId;
  return null;
}

/** The same record with every id in `names` replaced, its own among them. */
export function renamed<R extends StoredRecord>(r: R, names: ReadonlyMap<string, string>): R {
  const n = (id: string): string => {
    const direct = names.get(id);
    if (direct) return direct;
    // Points of an imported file are named after it: `fileId:line`.
    const colon = id.lastIndexOf(":");
    const file = colon > 0 ? names.get(id.slice(0, colon)) : undefined;
    return file ? file + id.slice(colon) : id;
  };
  const copy: Record<string, unknown> = { ...r, id: n(r.id), notebookId: n(r.notebookId) };
  for (const key of ["boardId", "sampleId", "runId", "cellId", "stationId"] as const)
    if (typeof copy[key] === "string") copy[key] = n(copy[key] as string);
  if (r.kind === "run" && r.source.kind === "file")
    copy.source = {
      ...r.source,
      fileId: n(r.source.fileId),
      ...(r.source.more ? { more: r.source.more.map((m) => ({ ...m, fileId: n(m.fileId) })) } : {}),
    };
  const meters = (m: Readonly<Partial<Record<Role, PinnedMeter>>>) =>
    Object.fromEntries(
      Object.entries(m).flatMap(([role, meter]) =>
        meter ? [[role, { ...meter, instrumentId: n(meter.instrumentId) }]] : [],
      ),
    );
  if (r.kind === "rig" && r.meters) copy.meters = meters(r.meters);
  if (r.kind === "run" && r.setup.meters) copy.setup = { ...r.setup, meters: meters(r.setup.meters) };
  const ofBoard = <T extends { readonly boardId?: string }>(x: T): T =>
    x.boardId ? { ...x, boardId: n(x.boardId) } : x;
  if (r.kind === "load" && r.used) copy.used = r.used.map((u) => ({ ...u, boardId: n(u.boardId) }));
  if (r.kind === "load" && r.wiring.added) copy.wiring = { ...r.wiring, added: ofBoard(r.wiring.added) };
  if (r.kind === "need" && r.addedBoard) copy.addedBoard = ofBoard(r.addedBoard);
  if (r.kind === "need" && r.build) copy.build = ofBoard(r.build);
  if (r.kind === "sample" && r.between?.added) copy.between = { ...r.between, added: ofBoard(r.between.added) };
  if (r.kind === "pack") copy.groups = r.groups.map((g) => g.map(n));
  if (r.kind === "day")
    copy.tasks = r.tasks.map((t) => ({
      ...t,
      about: Object.fromEntries(
        Object.entries(t.about).map(([key, value]) => [key, key.endsWith("Id") && value ? n(value) : value]),
      ),
    }));
  if (r.kind === "annotation") copy.target = n(r.target);
  if (r.kind === "conflict") copy.of = n(r.of);
  return copy as unknown as R;
}
