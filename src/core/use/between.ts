import type { Caution } from "../procedures/contract";
import { checkTopology } from "./topology";
import { BOARDS_OWN, topologyOf, UNKNOWN_BOARD, type AddedGuard, type BoardProtection } from "./battery";
import type { Topology } from "./topology";

/** What stands between a sample's cell and everything else, as its owner says. */
export interface SampleBetween {
  /** The cell has a protection of its own, by its maker. */
  readonly ownProtection: boolean;
  /** A jumper that bypasses the board's own protection is closed. */
  readonly jumper: boolean;
  /** A of the fuse at the cell; absent: none. */
  readonly fuse?: number;
  /** A protection board between cell and board; with its id where it is one of the notebook. */
  readonly added?: { readonly boardId?: string };
  /** What hangs on the bare cell, and what hangs on the output. */
  readonly taps: readonly string[];
  readonly loads: readonly string[];
}

/** Nothing is put between: a bare cell on the board. */
export const BARE: SampleBetween = { ownProtection: false, jumper: false, taps: [], loads: [] };

/** A sample's picture, from its cell outwards. `added`: the board of the notebook that is put between, where it is one. */
export function sampleTopology(
  { ownProtection, jumper, fuse, added, taps, loads }: SampleBetween,
  board: BoardProtection,
  guard: AddedGuard | null,
  output: boolean,
): Topology {
  const outside = loads.length ? loads : output ? ["the load"] : [];
  return topologyOf(
    { title: "the cell", ownProtection },
    board,
    { fuse, added: added ? (guard ?? UNKNOWN_BOARD) : undefined, jumper, taps },
    outside,
  );
}

/** What is known of what would stand between a cell and the outside in a run. */
export interface RunGuards {
  readonly board: BoardProtection;
  /** As its owner says; absent where nobody said. */
  readonly between?: SampleBetween;
  /** The board of the notebook that is put between, where it is one. */
  readonly added: AddedGuard | null;
}

const NOTHING = "Nothing protects this cell";

/** Why nothing that works stands between, and what to do about it. */
function unprotected({ board, between }: RunGuards, claimed: readonly string[]): string {
  if (between?.taps.length)
    return `${NOTHING} on the way to ${between.taps.join(" and ")}, connected to it directly: disconnect that first.`;
  if (claimed.length)
    return `${NOTHING} that was tested: the protection of ${claimed.join(" and ")} is only claimed. Test it first, from a supply, with a threshold ramp, or use a cell that has its own.`;
  if (between?.jumper && board.measured !== false && (board.measured || board.claimed))
    return `${NOTHING}: a closed jumper bypasses the board's protection. Open it, or use a cell that has its own.`;
  if (board.measured === false)
    return `${NOTHING}: ${board.title} was shown not to disconnect it, and the cell has no protection of its own. Put a protection board between, or don't leave it for a moment.`;
  return `${NOTHING}: neither it nor the board has protection. Put a protection board between, or don't leave it for a moment.`;
}

/**
 * What is to be heeded of a cell's protection before a run connects it to the board; `own`: the cell has one by its maker. Nothing is said
 * where every way out of the cell crosses a protection that works; a protection that is only claimed silences nothing.
 */
export function cellCautions(guards: RunGuards, own: boolean): Caution[] {
  const { board, between, added } = guards;
  const picture = sampleTopology(
    { ...(between ?? BARE), ownProtection: own || (between?.ownProtection ?? false) },
    board,
    added,
    true,
  );
  const { safety } = checkTopology(picture);
  const claimed =
    safety === "claimed, not tested"
      ? picture.chain.flatMap((p) =>
          p.kind === "guard" && p.guard.standing === "claimed"
            ? [p.guard.name === BOARDS_OWN ? board.title : p.guard.name]
            : [],
        )
      : [];
  if (safety !== "protected") return [{ severity: "danger", text: unprotected(guards, claimed) }];
  return own || between
    ? []
    : [{ severity: "care", text: "If the board has a jumper that bypasses its protection, it must be open." }];
}
