import type { BoardFunction } from "../characteristics";
import type { VerdictWord } from "../verdicts";

/** What a matrix shows of one board's characteristic. */
export interface MatrixCell {
  /** The value that decides: the worst over samples and conditions where one way is better, else the first. */
  readonly value: number | string | null;
  readonly text: string;
  /** Expanded uncertainty of a number, in its unit; absent where it has none. */
  readonly uncertainty?: number;
  /** How many values it stands for, and over how many samples. */
  readonly count: number;
  readonly samples: number;
  /** Lowest and highest of them, as text, where they differ. */
  readonly spread?: string;
  readonly runId?: string;
  /** It was played on the simulated bench; no run with real readings states it. */
  readonly simulated?: boolean;
  readonly claims: readonly {
    readonly id: string;
    readonly text: string;
    readonly word: VerdictWord;
    readonly simulated?: boolean;
    readonly assumed?: boolean;
    readonly disagree?: boolean;
  }[];
}

/** One board's column; small, so that a thousand of them are kept and read at once. */
export interface BoardColumn {
  readonly boardId: string;
  readonly title: string;
  readonly functions: readonly BoardFunction[];
  readonly cells: Readonly<Record<string, MatrixCell>>;
}
