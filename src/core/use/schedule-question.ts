/** A part of a task that takes whole minutes and holds instruments, hands among them, meanwhile. */
export interface ScheduleStep {
  readonly minutes: number;
  readonly needs: Readonly<Record<string, number>>;
}

/** A task: its steps follow each other without a pause. */
export interface ScheduleTask {
  readonly id: string;
  readonly steps: readonly ScheduleStep[];
  /** Tasks that must be over before it begins. */
  readonly after?: readonly string[];
  /** Minute at which it begins, whatever else does: it runs already, or was put there by hand. */
  readonly at?: number;
}

export interface ScheduleQuestion {
  readonly instruments: Readonly<Record<string, number>>;
  readonly tasks: readonly ScheduleTask[];
}

export interface Schedule {
  /** Task → whole minutes from the beginning. */
  readonly starts: Readonly<Record<string, number>>;
  /** End of the last task, minutes. */
  readonly finish: number;
  /** Whether no plan can end earlier; else it is the best that the search found. */
  readonly proved: boolean;
}

/** Minutes that a task takes. */
export const lengthOf = (t: ScheduleTask): number => t.steps.reduce((m, s) => m + s.minutes, 0);
