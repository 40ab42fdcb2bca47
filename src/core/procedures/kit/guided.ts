import { ELEMENTS, quantile } from "../../quantities";
import { envelope, interval, withoutSpikes } from "../../traces";
import type {
  Role,
  BenchSettings,
  ChartSpec,
  Figure,
  Guide,
  GuideStep,
  LiveEvent,
  LiveState,
  LiveWatch,
  LogRow,
  RunSetup,
  Trace,
  TraceEvent,
} from "../../measurement";

const { sampleAt } = ELEMENTS;

/** A bench with its supply off and nothing on it; guides change what they need. */
export const AT_REST: BenchSettings = {
  supplyVoltage: 0,
  supplyOn: false,
  load: 0,
  shorted: false,
  output: true,
  chargeCurrent: 0,
  input: false,
};

/**
 * The level that an output stands at while it is on, V: its nominal voltage where that is stated, else what the log itself shows, the
 * voltage that a tenth of its readings exceed. NaN where there is none. Nothing is held against a voltage that nobody stated.
 */
export const outputLevel = (nominal: number | undefined, output: ArrayLike<number> | undefined): number =>
  nominal ??
  quantile(
    Array.from(output ?? []).filter((v) => v - v === 0),
    0.9,
  );

/** The same as a log comes in: the nominal voltage, else the highest output so far. */
export class LiveOutput {
  private most = 0;
  constructor(private readonly nominal: number | undefined) {}
  see(volts: number): number {
    if (volts > this.most) this.most = volts;
    return this.nominal ?? this.most;
  }
}

/** What a procedure adds to a guided log: what it sees happen, and what it has worked out so far. */
export interface Seen {
  push(row: LogRow, step: GuideStep): readonly LiveEvent[];
  figures(): readonly Figure[];
}

/** Follows a log that is led by a guide: its phases, the next thing to do, and what the procedure sees in it. */
export class GuidedWatch implements LiveWatch {
  private step: GuideStep | null = null;
  private readonly made: TraceEvent[] = [];
  private readonly spans: { from: number; to: number; label: string }[] = [];

  constructor(
    private readonly guide: Guide,
    private readonly seen: Seen,
  ) {}

  push(row: LogRow): readonly LiveEvent[] {
    const time = row.time;
    const before = this.step;
    const step = this.guide.push(row);
    this.step = step;
    if (step.mark) this.made.push({ time, ...step.mark });
    const out: LiveEvent[] = [];
    const open = this.spans[this.spans.length - 1];
    if (open) open.to = time;
    if (step.phase !== before?.phase) this.spans.push({ from: time, to: time, label: step.phase });
    out.push(...this.seen.push(row, step));
    if (step.done && !before?.done) out.push({ kind: "done", time, message: step.text });
    else if (before && step.text !== before.text) out.push({ kind: "step", time, message: step.text });
    return out;
  }

  marks(): readonly TraceEvent[] {
    return this.made;
  }

  state(): LiveState {
    const { step } = this;
    return {
      phase: step?.phase ?? "waiting",
      remaining: step && !step.done ? step.left : null,
      complete: step?.done ?? false,
      spans: this.spans,
      figures: this.seen.figures(),
      ...(step ? { task: step.text } : {}),
    };
  }
}

export type CleanColumns = Readonly<Partial<Record<Role, Float64Array>>>;

/** A log's columns without single-sample spikes, with its usual interval in s. Null where it has fewer than three rows. */
export function cleanLog(
  trace: Trace,
  setup: RunSetup,
  roles: readonly Role[],
): { readonly time: Float64Array; readonly columns: CleanColumns; readonly usual: number } | null {
  const { time } = trace.columns;
  if (!time || time.length < 3) return null;
  const columns: Partial<Record<Role, Float64Array>> = {};
  for (const role of roles) {
    const column = trace.columns[role];
    if (column) columns[role] = withoutSpikes(column, setup.instruments[role]?.resolution ?? 0.001).values;
  }
  return { time, columns, usual: interval(time) };
}

/** Marks of one kind, in the order they came. */
export const marksOf = (events: readonly TraceEvent[], kind: string): readonly number[] =>
  events
    .filter((e) => (e.kind ?? e.what) === kind)
    .map((e) => e.time)
    .sort((a, b) => a - b);

/** Curves of a log that are drawn beside each other, thinned without losing a spike: one chart a group, what is absent left out. */
export function logCharts(
  time: Float64Array,
  columns: CleanColumns,
  groups: readonly {
    readonly id: string;
    readonly title: string;
    readonly label: string;
    readonly unit: "A" | "V" | "°C";
    readonly roles: readonly (readonly [role: Role, label: string, tone: number])[];
    readonly claims?: ChartSpec["claims"];
    readonly band?: ChartSpec["band"];
  }[],
  common: { readonly spans: NonNullable<ChartSpec["spans"]>; readonly events: readonly TraceEvent[] },
): ChartSpec[] {
  return groups.flatMap((g) => {
    const series = g.roles.flatMap(([role, label, tone]) => {
      const column = columns[role];
      if (!column) return [];
      const { x, y } = envelope(time, column);
      return x.length > 1
        ? [{ id: role, role, label, tone, points: [], fit: Array.from(x, (v, k) => ({ x: v, y: sampleAt(y, k) })) }]
        : [];
    });
    if (series.length === 0) return [];
    return [
      {
        id: g.id,
        title: g.title,
        x: { label: "Time", unit: "s" as const },
        y: { label: g.label, unit: g.unit },
        claims: g.claims ?? [],
        series,
        spans: common.spans,
        marks: common.events.map((m) => ({ at: m.time, label: m.what })),
        ...(g.band ? { band: g.band } : {}),
      },
    ];
  });
}
