import { stableJson } from "@/core/files/versions";
import type { RunPart } from "./bundles";
import type { Bundle } from "./database";

/** Characters of a bundle. The browser lays a value of 64 kB or more away as a file of its own; few characters take more than a byte. */
const BUNDLE = 48_000;
/** Characters that are held at once while what belongs to many runs is being packed. */
const HELD = 16e6;

const UTF8 = new TextEncoder();

interface Growing {
  readonly first: RunPart;
  readonly lines: string[];
  size: number;
}

/** Packs records of runs as they come, in whatever order; best run by run. */
export class Packer {
  private readonly growing = new Map<string, Growing>();
  private held = 0;
  private seq = 0;
  private full: Bundle[] = [];
  add(r: RunPart): void {
    const key = `${r.kind} ${r.runId}`;
    const own = this.growing.get(key) ?? { first: r, lines: [], size: 0 };
    this.growing.set(key, own);
    const line = stableJson(r);
    if (own.size + line.length > BUNDLE) this.close(key, own);
    own.lines.push(line);
    own.size += line.length;
    this.held += line.length;
    if (this.held > HELD) this.closeAll();
  }
  private close(key: string, own: Growing): void {
    const { kind, runId, notebookId } = own.first;
    if (own.lines.length)
      this.full.push({
        runId,
        kind,
        seq: this.seq++,
        notebookId,
        count: own.lines.length,
        lines: UTF8.encode(own.lines.join(",\n")),
      });
    this.held -= own.size;
    own.lines.length = own.size = 0;
  }
  private closeAll(): void {
    for (const [key, own] of this.growing) this.close(key, own);
    this.growing.clear();
  }
  /** The bundles that are complete so far, each once. */
  taken(): readonly Bundle[] {
    return this.full.splice(0);
  }
  /** The rest. */
  end(): readonly Bundle[] {
    this.closeAll();
    return this.taken();
  }
}
