import { withLineage, type StoredRecord } from "@/core/files";
import type { RulesRecord } from "@/core/files/records";
import { after, planMerge, type Here, type MergePlan } from "@/core/files/archive";

/** A notebook in memory that is written through the same rules as the door's. */
export class Side {
  readonly records: Map<string, StoredRecord>;
  constructor(from: Iterable<StoredRecord>) {
    this.records = new Map([...from].map((r) => [r.id as string, r]));
  }
  put(r: StoredRecord): void {
    this.records.set(r.id, withLineage(r, this.records.get(r.id)));
  }
  edit<R extends StoredRecord>(r: R, patch: Partial<R>, at = r.updatedAt): void {
    this.put({ ...(this.records.get(r.id) as R), ...patch, updatedAt: at });
  }
  remove(r: StoredRecord, at = "2026-11-26T10:00:00Z"): void {
    this.put({ ...(this.records.get(r.id) as StoredRecord), deletedAt: at, updatedAt: at } as StoredRecord);
  }
  get<R extends StoredRecord>(r: R): R {
    return this.records.get(r.id) as R;
  }
  copy(): Side {
    return new Side(this.records.values());
  }
  here(): Here {
    const list = () => [...this.records.values()];
    return {
      records: (refs) =>
        Promise.resolve(
          new Map(
            refs.flatMap(({ id }) =>
              this.records.has(id) ? [[id, this.records.get(id) as StoredRecord] as const] : [],
            ),
          ),
        ),
      readings: (runId) =>
        Promise.resolve(
          list().flatMap((r) =>
            (r.kind === "point" || r.kind === "answer") && r.runId === runId && !r.deletedAt ? [r.id as string] : [],
          ),
        ),
      rules: () => Promise.resolve(list().find((r): r is RulesRecord => r.kind === "rules" && !r.deletedAt) ?? null),
      rigInUse: () => Promise.resolve(list().find((r) => r.kind === "rig" && r.inUse && !r.deletedAt)?.id ?? null),
      log: () => Promise.resolve("same or shorter" as const),
    };
  }
  /** Merges what another side has, and takes it over; its rules where that is asked. */
  async merge(other: Side, rules: "ours" | "theirs" = "ours"): Promise<MergePlan> {
    const plan = await planMerge(
      (async function* () {
        yield [...other.records.values()];
      })(),
      this.here(),
    );
    for (const { to } of plan.write) this.put(to);
    if (plan.rules)
      this.put(
        rules === "theirs" ? after(plan.rules.theirs, plan.rules.ours) : after(plan.rules.ours, plan.rules.theirs),
      );
    return plan;
  }
}
