import type { BoardColumn, PackedColumn } from "@/core/compare";
import type { BoardRecord } from "@/core/files/records";
import type { ComparedBoard } from "@/notebook";

/** As much of a board as the rows in sight took, until the whole is there. */
export interface PartOfBoard extends ComparedBoard {
  /** The procedures whose runs it was worked out from. */
  readonly of: ReadonlySet<string>;
}

/** What is looked at. */
export interface Sight {
  /** The boards in sight, and those near it. */
  readonly boards: readonly string[];
  readonly near: readonly string[];
  /** The procedures that the rows in sight rest on: of the boards in sight, their runs come first. */
  readonly of: ReadonlySet<string>;
}
export const NO_SIGHT: Sight = { boards: [], near: [], of: new Set() };

/** What is worked out next: these boards, whole or at first from the runs of some procedures. */
export interface Turn {
  readonly boards: readonly BoardRecord[];
  readonly first: ReadonlySet<string> | null;
  /** Its cells are held, as it is looked at. */
  readonly visible: boolean;
}

/** Boards that are worked out at a time until all in sight are there: one by each worker, and one that waits for whichever is done first. */
const LANES = 3;

/** The columns of a comparison as they come in: which are there, which are under way, and which come next. */
export class ComingIn {
  readonly columns: Map<string, PackedColumn>;
  readonly cells: Map<string, BoardColumn["cells"]>;
  readonly parts = new Map<string, PartOfBoard>();
  readonly failed = new Map<string, string>();
  /** All that was in sight first is there: from now on somebody may be scrolling, and the page needs a processor for that. */
  opened: boolean;
  private readonly taking = new Set<string>();
  private readonly byId: ReadonlyMap<string, BoardRecord>;

  constructor(
    private readonly all: readonly BoardRecord[],
    private readonly kept: ReadonlyMap<string, PackedColumn>,
    cells: ReadonlyMap<string, BoardColumn["cells"]>,
  ) {
    this.columns = new Map(kept);
    this.cells = new Map(cells);
    this.opened = all.every((b) => kept.has(b.id));
    this.byId = new Map(all.map((b) => [b.id, b]));
  }

  /** What is there now, for a screen to draw. */
  snapshot() {
    const { columns, cells, parts, failed, opened } = this;
    return {
      columns: new Map(columns),
      cells: new Map(cells),
      parts: new Map(parts),
      failed: new Map(failed),
      opened,
    };
  }
  get idle(): boolean {
    return this.taking.size === 0;
  }
  /** Every board is worked out, or can't be. */
  get done(): boolean {
    return this.columns.size + this.failed.size >= this.all.length;
  }

  /** Those of the boards whose cells are not there. */
  private without(ids: readonly string[]): BoardRecord[] {
    return ids.flatMap((id) => (this.cells.has(id) || this.failed.has(id) ? [] : (this.byId.get(id) ?? [])));
  }
  /** Those whose cells in the rows in sight are not. */
  private lacking({ boards, of }: Sight): BoardRecord[] {
    return this.without(boards).filter((b) => {
      const part = this.parts.get(b.id);
      return !part || [...of].some((p) => !part.of.has(p));
    });
  }
  /** Whether all cells in sight are there. */
  inSight = (sight: Sight): boolean => this.lacking(sight).length === 0;

  /**
   * What comes next: all near that are kept, at once; else the first in sight, its rows in sight first; else any, where nothing else is
   * under way. While somebody is `scrolling` nothing new is worked out: most of it would be gone before it is there.
   */
  next(sight: Sight, scrolling = false): Turn | null {
    const free = (b: BoardRecord) => !this.taking.has(b.id);
    const near = this.without([...sight.boards, ...sight.near]);
    const ready = near.filter((b) => this.kept.has(b.id) && free(b));
    if (ready.length) return { boards: ready, first: null, visible: true };
    if (scrolling || this.taking.size >= (this.opened ? 1 : LANES)) return null;
    const lacking = this.lacking(sight);
    const board = (lacking.length ? lacking : near).find(free);
    if (board) {
      const first = lacking.length && sight.of.size ? [...sight.of, ...(this.parts.get(board.id)?.of ?? [])] : null;
      return { boards: [board], first: first && new Set(first), visible: true };
    }
    const other =
      near.length || this.taking.size
        ? undefined
        : this.all.find((b) => !this.columns.has(b.id) && !this.failed.has(b.id));
    return other ? { boards: [other], first: null, visible: false } : null;
  }

  begins({ boards }: Turn): void {
    for (const b of boards) this.taking.add(b.id);
  }
  takes({ id }: BoardRecord, { first, visible }: Turn, made: ComparedBoard): void {
    this.taking.delete(id);
    if (first) {
      this.parts.set(id, { ...made, of: first });
      return;
    }
    this.parts.delete(id);
    this.columns.set(id, made.column);
    if (visible) this.cells.set(id, made.cells);
  }
  fails({ id }: BoardRecord, why: string): void {
    this.taking.delete(id);
    this.failed.set(id, why);
  }
}
