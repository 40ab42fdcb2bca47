import type { DayRecord } from "@/core/files/records";
import { barsOf, endOfDay, type TaskBar } from "@/core/use";
import { clock, INSTRUMENT_NAMES } from "./words";

const WIDTH = 1000;
const LEFT = 76;
const RIGHT = 24;
const ROW = 40;
const BAR = 26;

/** One stretch for which a task holds an instrument. */
interface Hold {
  readonly bar: TaskBar;
  readonly from: number;
  readonly to: number;
}

/** The stretches by which a task holds an instrument; what runs over holds what it held last. */
function holdsOf(bars: readonly TaskBar[], instrument: string): Hold[] {
  return bars.flatMap((bar) => {
    let at = bar.start;
    return bar.task.steps.flatMap((s, k): Hold[] => {
      const from = at;
      at += s.minutes;
      const to = k === bar.task.steps.length - 1 ? bar.end : Math.min(at, bar.end);
      return (s.needs[instrument] ?? 0) > 0 && to > from ? [{ bar, from, to }] : [];
    });
  });
}

/** Rows so that no two stretches of one row overlap. */
function rowsOf(holds: readonly Hold[]): Hold[][] {
  const rows: Hold[][] = [];
  for (const h of [...holds].sort((a, b) => a.from - b.from)) {
    const row = rows.find((r) => (r.at(-1)?.to ?? 0) <= h.from);
    if (row) row.push(h);
    else rows.push([h]);
  }
  return rows;
}

const LOOK: Readonly<
  Record<TaskBar["state"], { readonly fill: string; readonly edge: string; readonly dash?: string }>
> = {
  over: { fill: "var(--film)", edge: "var(--pencil)" },
  running: { fill: "var(--copper)", edge: "var(--copper)" },
  overdue: { fill: "var(--misses)", edge: "var(--misses)" },
  "to come": { fill: "var(--sheet)", edge: "var(--ink)" },
};

/** The day as bars over time, a row an instrument, hands first; the line is now. */
export function DayFigure({ day, now }: { readonly day: DayRecord; readonly now: number | null }) {
  const bars = barsOf(day, now ?? 0);
  const last = Math.ceil(Math.max(endOfDay(day, now ?? 0), (now ?? 0) + 10, 60) / 30) * 30;
  const x = (minute: number): number => LEFT + ((WIDTH - LEFT - RIGHT) * minute) / last;
  const rows = Object.keys(day.instruments).flatMap((name) => {
    const own = rowsOf(holdsOf(bars, name));
    return own.map((holds, k) => ({ name, holds, label: k === 0 ? (INSTRUMENT_NAMES[name] ?? name) : "" }));
  });
  const hour = last > 600 ? 120 : 60;
  const offset = (hour - (day.begins % hour)) % hour;
  const ticks = Array.from({ length: Math.floor((last - offset) / hour) + 1 }, (_, k) => offset + k * hour);
  const height = rows.length * ROW + 26;
  const description = bars
    .map((b) => `${b.task.title} ${clock(day, b.start)} to ${clock(day, b.end)}, ${b.state}`)
    .join("; ");
  return (
    <div className="overflow-x-auto">
      <svg
        role="img"
        aria-label={`The day: ${description || "nothing planned"}`}
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="figures block w-full min-w-[40rem]"
      >
        {ticks.map((t) => (
          <g key={t}>
            <path d={`M${x(t)} 0V${height - 20}`} stroke="var(--rule)" />
            <text x={x(t)} y={height - 5} textAnchor="middle" fontSize="13" fill="var(--pencil)">
              {clock(day, t)}
            </text>
          </g>
        ))}
        {rows.map((r, k) => (
          <g key={`${r.name}${k}`}>
            <text x={LEFT - 10} y={k * ROW + ROW / 2 + 5} textAnchor="end" fontSize="14" fill="var(--ink)">
              {r.label}
            </text>
            {r.holds.map((h) => {
              const look = LOOK[h.bar.state];
              const wide = x(h.to) - x(h.from);
              const letters = Math.floor((wide - 8) / 7);
              return (
                <g key={`${h.bar.task.id}${h.from}`} data-bar={h.bar.task.title} data-state={h.bar.state}>
                  <title>{`${h.bar.task.title}, ${clock(day, h.from)} to ${clock(day, h.to)}`}</title>
                  <rect
                    x={x(h.from)}
                    y={k * ROW + (ROW - BAR) / 2}
                    width={Math.max(2, wide - 1)}
                    height={BAR}
                    fill={look.fill}
                    stroke={look.edge}
                  />
                  {letters > 3 ? (
                    <text
                      x={x(h.from) + 5}
                      y={k * ROW + ROW / 2 + 4}
                      fontSize="12"
                      fill={
                        h.bar.state === "running"
                          ? "var(--on-copper)"
                          : h.bar.state === "overdue"
                            ? "var(--sheet)"
                            : "var(--ink)"
                      }
                    >
                      {h.bar.task.title.length > letters
                        ? `${h.bar.task.title.slice(0, letters - 1)}…`
                        : h.bar.task.title}
                    </text>
                  ) : null}
                </g>
              );
            })}
          </g>
        ))}
        {now !== null && now >= 0 && now <= last ? (
          <path d={`M${x(now)} 0V${height - 18}`} stroke="var(--margin-line)" strokeWidth="2" data-testid="now-line" />
        ) : null}
      </svg>
    </div>
  );
}
