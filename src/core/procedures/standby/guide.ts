import { formatDuration, formatQuantity } from "../../quantities";
import { AT_REST, type Seen } from "../kit/guided";
import type { BenchSettings, Figure, Guide, GuideStep, LiveEvent, LogRow, RunSetup } from "../../measurement";
import type { StandbyPlan, StandbyState } from "./plan";

const q = formatQuantity;
/** s for a start with a load, and for the battery to be taken down past the cut. */
const START = 3;

const SAYS: Readonly<Record<StandbyState, string>> = {
  "no-load": "output on, no load",
  "output-off": "output switched off",
  "auto-off": "output has switched itself off",
  "cut-off": "battery cut off",
};

interface Part {
  readonly state: StandbyState;
  readonly phase: string;
  readonly seconds: number;
  readonly text: string;
  readonly settings: BenchSettings;
  /** The stretch that is measured. */
  readonly measured: boolean;
}

/** Puts the module into one idle state after the other, lets it settle, and measures. */
export class StandbyGuide implements Guide {
  private readonly parts: readonly Part[];
  private at = 0;
  private since = NaN;

  constructor(setup: RunSetup<StandbyPlan>) {
    const { plan } = setup;
    if (!plan) throw new Error("internal: a standby measurement is led by its plan");
    this.parts = plan.states.flatMap((state) => partsOf(state, plan));
  }

  push(row: LogRow): GuideStep {
    const time = row.time;
    if (Number.isNaN(this.since)) this.since = time;
    let mark: GuideStep["mark"];
    const part = this.parts[this.at];
    if (part && time - this.since >= part.seconds) {
      this.at++;
      this.since = time;
      const next = this.parts[this.at];
      if (part.measured) mark = { kind: "state:end", what: "end of that state" };
      if (next?.measured) mark = { kind: `state:${next.state}`, what: SAYS[next.state] };
    }
    const now = this.parts[this.at];
    const left = this.parts.slice(this.at).reduce((s, p) => s + p.seconds, 0) - (time - this.since);
    if (!now)
      return {
        settings: { ...AT_REST },
        phase: "done",
        text: "Every state has been measured. Finish the log.",
        done: true,
        left: 0,
        ...(mark ? { mark } : {}),
      };
    return { settings: now.settings, phase: now.phase, text: now.text, done: false, left, ...(mark ? { mark } : {}) };
  }
}

function partsOf(state: StandbyState, plan: StandbyPlan): Part[] {
  const on: BenchSettings = { ...AT_REST, supplyOn: true, supplyVoltage: plan.battery };
  const off: BenchSettings = { ...AT_REST };
  const measure = (settings: BenchSettings): Part[] => [
    { state, phase: "settling", seconds: plan.settle, text: "Leave it alone for a moment.", settings, measured: false },
    {
      state,
      phase: SAYS[state],
      seconds: plan.seconds,
      text: `Measure for ${formatDuration(plan.seconds)}: touch nothing.`,
      settings,
      measured: true,
    },
  ];
  const begin: Part[] = [
    {
      state,
      phase: "starting",
      seconds: START,
      text: `With the ammeter bypassed, start the board at ${q(plan.battery, "V")} with a small load.`,
      settings: { ...on, load: 0.1 },
      measured: false,
    },
  ];
  switch (state) {
    case "no-load":
      return [...begin, ...measure(on)];
    case "output-off":
      return [...begin, ...measure({ ...on, output: false })];
    case "auto-off":
      return [
        ...begin,
        {
          state,
          phase: "waiting for its auto-off",
          seconds: plan.autoOff,
          text: "Remove the load and wait until the output switches itself off.",
          settings: on,
          measured: false,
        },
        ...measure(on),
      ];
    case "cut-off":
      return [
        ...begin,
        {
          state,
          phase: "cutting off",
          seconds: START + 3,
          text: `Lower the battery to ${q(plan.cutTo, "V")} until it is cut off.`,
          settings: { ...on, load: 0.1, supplyVoltage: plan.cutTo },
          measured: false,
        },
        ...measure({ ...on, supplyVoltage: plan.cutAt }),
        { state, phase: "off", seconds: 1, text: "Switch the supply off.", settings: off, measured: false },
      ];
  }
}

/** The mean battery current of the state that is measured, as it grows. */
export class StandbySeen implements Seen {
  private state = "";
  private last: LogRow | null = null;
  private charge = 0;
  private seconds = 0;
  private peak = 0;

  push(row: LogRow, step: GuideStep): readonly LiveEvent[] {
    const out: LiveEvent[] = [];
    if (step.phase !== this.state) {
      this.state = step.phase;
      this.charge = this.seconds = this.peak = 0;
      this.last = null;
    }
    const [a, b] = [this.last?.batteryCurrent, row.batteryCurrent];
    const dt = row.time - (this.last?.time ?? NaN);
    if (a !== undefined && b !== undefined && dt > 0) {
      this.charge += ((a + b) / 2) * dt;
      this.seconds += dt;
      this.peak = Math.max(this.peak, b);
    }
    this.last = row;
    return out;
  }

  figures(): readonly Figure[] {
    if (this.seconds < 1) return [];
    return [
      { label: "Mean in this state", value: this.charge / this.seconds, unit: "A" },
      { label: "Highest reading", value: this.peak, unit: "A" },
      { label: "Measured for", value: this.seconds, unit: "s" },
    ];
  }
}
