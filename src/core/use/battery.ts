import { openCircuit, type Chemistry } from "../cells";
import type { UseBattery } from "./board-fit";
import type { LoadWiring } from "./load";
import type { SocWindow } from "./run-time";
import type { Part, Topology } from "./topology";

/** What is taken of a cell for a use, and where each number comes from. */
export interface UseCell {
  readonly title: string;
  readonly chemistry: Chemistry;
  readonly ownProtection: boolean;
  readonly parallel: number;
  /** Ah and Ω of one cell, with their expanded uncertainties (0 where none is stated). */
  readonly capacity: number;
  readonly capacityU: number;
  readonly resistance: number;
  readonly resistanceU: number;
  /** V below which it is not discharged. */
  readonly floor: number;
  /** A that it loses by itself. */
  readonly selfDischarge: number;
  /** States of charge between which it is used. */
  readonly window: SocWindow;
}

/** Self-discharge of a sound lithium cell, A, where none was measured: a year empties a fifteenth of 2.5 Ah. */
export const USUAL_SELF_DISCHARGE = 2e-5;
/** V (k = 2) by which sound cells of one chemistry differ at the same state of charge: makers' curves lie within about 30 mV. */
export const USUAL_CURVE = 0.03;
/** Ω of a sound 18 mm cell, where none was measured. */
export const USUAL_RESISTANCE = 0.06;

const STEPS = 20;

/** The battery that a module sees: the cell's curve by its chemistry, what lies between, an added board with its cut, trip and current. */
export function batteryOf(c: UseCell, w: LoadWiring): UseBattery {
  const curve = Array.from({ length: STEPS + 1 }, (_, k) => [k / STEPS, openCircuit(c.chemistry, k / STEPS)] as const);
  return {
    cells: {
      capacity: c.capacity,
      resistance: c.resistance,
      openCircuit: curve,
      parallel: c.parallel,
      floor: c.floor,
      selfDischargeCurrent: c.selfDischarge + (w.added ? w.added.current / c.parallel : 0),
    },
    between: {
      resistance: w.resistance + (w.added?.resistance ?? 0),
      ...(w.added ? { cut: w.added.cut, trip: w.added.trip * (1 - w.added.tolerance) } : {}),
    },
    window: c.window,
    capacityU: c.capacityU,
    resistanceU: c.resistanceU,
    curveU: USUAL_CURVE,
  };
}

/** What is known of a board's own protection. */
export interface BoardProtection {
  readonly title: string;
  /** Whether it was shown to disconnect, not to, or nothing was shown. */
  readonly measured: boolean | null;
  readonly claimed: boolean;
  readonly charges: boolean;
}

/** A protection board that is put between cell and board: whether it was shown to disconnect, not to, or nothing was shown. */
export interface AddedGuard {
  readonly title: string;
  readonly measured: boolean | null;
}

/** An added board that is none of the notebook's: its maker's word is all there is. */
export const UNKNOWN_BOARD: AddedGuard = { title: "the added board", measured: null };

/** What a picture calls the protection that is part of the board itself. */
export const BOARDS_OWN = "the board's protection";

/** What is put between a cell and a board. */
export interface Joined {
  readonly fuse?: number | undefined;
  readonly added?: AddedGuard | undefined;
  /** A jumper that bypasses the board's own protection is closed. */
  readonly jumper: boolean;
  /** What hangs on the bare cell. */
  readonly taps: readonly string[];
}

/** Cell, fuse, protections, board and what hangs behind it as one picture. An added board is claimed by its maker until it is measured. */
export function topologyOf(
  c: Pick<UseCell, "title" | "ownProtection">,
  b: BoardProtection,
  w: Joined,
  outside: readonly string[],
): Topology {
  const chain: Part[] = [];
  if (c.ownProtection) chain.push({ kind: "guard", guard: { name: "the cell's own protection", standing: "working" } });
  if (w.fuse !== undefined) chain.push({ kind: "fuse", rating: w.fuse });
  // One that was shown to disconnect nothing is a board in the way, and guards nothing.
  if (w.added)
    chain.push(
      w.added.measured === false
        ? { kind: "board", name: w.added.title }
        : { kind: "guard", guard: { name: w.added.title, standing: w.added.measured ? "working" : "claimed" } },
    );
  const standing =
    b.measured === false
      ? null
      : b.measured || b.claimed
        ? w.jumper
          ? "bypassed"
          : b.measured
            ? "working"
            : "claimed"
        : null;
  if (standing) chain.push({ kind: "guard", guard: { name: BOARDS_OWN, standing } });
  chain.push({ kind: "board", name: b.title });
  return {
    cell: c.title,
    chain,
    outside: [...outside, ...(b.charges ? ["the charger"] : [])],
    taps: w.taps.map((name) => ({ name, after: 0 })),
  };
}

/** The order in which a use is connected: what can do harm comes last, the cell with nothing connected behind it first through its fuse. */
export function orderOfConnecting(
  c: Pick<UseCell, "title" | "parallel">,
  b: Pick<BoardProtection, "title">,
  w: Joined,
  load: string,
): string[] {
  return [
    "Insulate your tools, and never solder on a cell: use tabs or a holder.",
    `Check the polarity of ${c.title} with a meter before anything touches the board.`,
    ...(c.parallel > 1 ? ["Bring the cells to the same voltage before you join them in parallel."] : []),
    `Fit the fuse${w.fuse === undefined ? " (none is chosen yet)" : ""} at the cell's positive pole, with the cell out.`,
    ...(w.added
      ? ["Connect the added board: its battery side to the cell's leads, its output side to the board."]
      : []),
    `Connect ${b.title}, with ${load} and charger disconnected; minus first, then plus.`,
    "Insert the cell. Measure the output without load.",
    `Connect ${load} last.`,
  ];
}
