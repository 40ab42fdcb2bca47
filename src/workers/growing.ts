import type { TraceColumns } from "@/core/files/trace-columns";
import type { Role } from "@/core/measurement";

/** Columns that grow as chunks are added, in one piece from the start: a log is held once, not twice. */
export class Growing {
  private columns: Partial<Record<Role, Float64Array>> = {};
  private rows = 0;
  constructor(private room: number) {}

  add(chunk: TraceColumns): void {
    const more = chunk.time?.length ?? 0;
    if (this.rows + more > this.room) {
      this.room = Math.ceil(1.3 * (this.rows + more));
      for (const role of Object.keys(this.columns) as Role[]) {
        const wider = new Float64Array(this.room);
        wider.set((this.columns[role] as Float64Array).subarray(0, this.rows));
        this.columns[role] = wider;
      }
    }
    for (const role of new Set([...Object.keys(this.columns), ...Object.keys(chunk)]) as Set<Role>) {
      const column = (this.columns[role] ??= new Float64Array(this.room).fill(NaN, 0, this.rows));
      const own = chunk[role];
      if (own) column.set(own, this.rows);
      else column.fill(NaN, this.rows, this.rows + more);
    }
    this.rows += more;
  }
  whole(): TraceColumns {
    return Object.fromEntries(
      Object.entries(this.columns).map(([role, v]) => [role, (v as Float64Array).subarray(0, this.rows)]),
    );
  }
}
