import type { Figure } from "./findings";
import type { TraceEvent } from "./readings";
import type { Role } from "./roles";

/** What a log's bench is set to: supply, load, what is switched and what is joined. */
export interface BenchSettings {
  /** V that the supply playing the battery goes to, and V/s that it gets there with; at once where that is not said. */
  readonly supplyVoltage: number;
  readonly slew?: number;
  readonly supplyOn: boolean;
  /** A from the output. */
  readonly load: number;
  readonly shorted: boolean;
  /** Whether the output was switched on, by a button or by itself. */
  readonly output: boolean;
  /** A pushed into the cell's terminals, for a ramp upwards. */
  readonly chargeCurrent: number;
  /** The board's own input (a charger's supply, a panel) is plugged in. */
  readonly input: boolean;
}

/** What to do from here on. */
export interface GuideStep {
  readonly settings: BenchSettings;
  /** What is under way, in a word or two. */
  readonly phase: string;
  /** The one thing to do or to wait for, in words, for whoever sets the bench by hand. */
  readonly text: string;
  /** What was just done that the log has to know: `short-on`, `state:no-load`. */
  readonly mark?: { readonly kind: string; readonly what: string };
  readonly done: boolean;
  /** s that the rest likely takes. */
  readonly left: number;
}

/** Leads a log through its steps: it sees the readings, nothing else. */
export interface Guide {
  push(row: LogRow): GuideStep;
}

/** Something that happened in a log and calls for attention. */
export interface LiveEvent {
  /** What it is, for its tone and its word. */
  readonly kind:
    | "phase"
    | "done"
    | "interrupted"
    | "hot"
    | "step"
    | "cut-back"
    | "input-low"
    | "no-current"
    | "clock"
    | "stalled"
    | "stop-rule";
  /** s from the first row. */
  readonly time: number;
  readonly message: string;
  /** For a stop rule: what to disconnect first. */
  readonly act?: string;
}

/** What is known so far; every figure counts from the first row. */
export interface LiveState {
  /** The phase under way, in words. */
  readonly phase: string;
  readonly figures: readonly Figure[];
  /** s until done, as far as the curve tells so far. */
  readonly remaining: number | null;
  /** All that the log is for has been seen: it may be finished. */
  readonly complete: boolean;
  /** What to do now, for whoever sets the bench by hand. */
  readonly task?: string;
  readonly spans: readonly { readonly from: number; readonly to: number; readonly label: string }[];
}

/** A row of a log, by role; s and SI units. */
export type LogRow = LogValues & { readonly time: number };
/** The same without its time: typed, and stamped when it is taken. */
export type LogValues = Readonly<Partial<Record<Role, number>>>;

/** Follows a log sample by sample; what it says of one cut anywhere is what it says of the whole one up to there. */
export interface LiveWatch {
  push(row: LogRow): readonly LiveEvent[];
  state(): LiveState;
  /** What its guide had done that the log has to know, oldest first. */
  marks?(): readonly TraceEvent[];
}
