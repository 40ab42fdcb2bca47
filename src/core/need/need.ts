import type { ClaimReading } from "../claims";

export const LEVELS = ["must", "should"] as const;
export type Level = (typeof LEVELS)[number];

/** What is true of a board without measuring it. Price in the currency of the house, lengths in m. */
export const FACTS = ["price", "length", "width", "height"] as const;
export type Fact = (typeof FACTS)[number];
export type Facts = Readonly<Partial<Record<Fact, number>>>;

/** One thing that a use asks of a board. */
export type Requirement = { readonly id: string; readonly level: Level } & (
  | { readonly kind: "quantity"; readonly reading: ClaimReading }
  /** A cell of so many Ah lasts so long (s) in a state, with so much self-discharge (A). */
  | {
      readonly kind: "life";
      readonly seconds: number;
      readonly capacity: number;
      readonly selfDischarge: number;
      readonly state: string | null;
    }
  | { readonly kind: "fact"; readonly fact: Fact; readonly atMost: number }
);

/** A protection board that could be put between cell and board. */
export interface AddedBoard {
  /** A board of the notebook that it is: what was measured of it stands before the numbers here. */
  readonly boardId?: string;
  readonly price: number;
  /** A that it draws from the cell all the time. */
  readonly current: number;
  /** m that it adds to the height. */
  readonly height: number;
  /** Ω that it puts in the battery's way, both switches and the trace; 0 where it is not written down. */
  readonly resistance?: number;
  /** Characteristics of protection that it supplies. */
  readonly supplies: readonly string[];
}

/** What building one's own would take. */
export interface OwnBuild {
  /** The board of the notebook that it became: it is judged like any other. */
  readonly boardId?: string;
  readonly parts: number;
  readonly hours: number;
  /** What an hour at the bench is worth. */
  readonly hourly: number;
}

/** What a use asks for, and what could be done where no board has it. */
export interface Need {
  readonly title: string;
  readonly note: string;
  /** The sign of the house's currency: `€`. */
  readonly currency: string;
  readonly requirements: readonly Requirement[];
  readonly addedBoard?: AddedBoard;
  readonly build?: OwnBuild;
}
