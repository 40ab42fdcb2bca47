import { memo, useDeferredValue } from "react";
import { format } from "date-fns";
import type { ChartSpec } from "@/core/measurement";
import { formatQuantity, highest } from "@/core/quantities";
import { laneOf, plannedStarts, stackOverTime, type BayCharge } from "@/core/use";
import { LogPlot } from "@/ui/log-plot";
import { bayCell, waitingCells, type AtWork } from "./bay-rows";

/** What each lane draws over time, with the starts that are planned. */
function drawn(charges: readonly BayCharge[], perLane: number, amps: number): ChartSpec {
  const span = highest([3600, ...charges.map((c) => c.forecast.seconds - c.gone)]);
  const lanes = [...new Set(charges.map((c) => laneOf(c.bay, perLane)))].sort((a, b) => a - b);
  return {
    id: "drawn",
    title: "Current of each lane from now on, at most",
    x: { label: "Time", unit: "s" },
    y: { label: "Current", unit: "A" },
    claims: [],
    series: [
      {
        id: "supply",
        label: `a supply gives ${formatQuantity(amps, "A")}`,
        tone: 3,
        points: [],
        fit: [
          { x: 0, y: amps },
          { x: span, y: amps },
        ],
      },
      ...lanes.map((lane, k) => {
        const { time, amps: y } = stackOverTime(
          charges.filter((c) => laneOf(c.bay, perLane) === lane),
          span,
        );
        return {
          id: `lane${lane}`,
          label: `lane ${lane + 1}`,
          tone: k,
          points: [],
          fit: time.map((t, i) => ({ x: t, y: y[i] ?? 0 })),
        };
      }),
    ],
  };
}

/** The lowest cells of the drawer first, each as soon as a bay is free and the supply has room. What was scanned is shown first. */
export function Turns({ running, now }: { readonly running: AtWork; readonly now: number }) {
  return <Planned running={useDeferredValue(running)} now={useDeferredValue(now)} />;
}

const Planned = memo(function Planned({ running, now }: { readonly running: AtWork; readonly now: number }) {
  const { perLane, charges } = running;
  const waiting = waitingCells(running);
  const starts = plannedStarts(
    running.station.plan,
    perLane,
    waiting.map((c) => ({ cellId: c.cell.id, cell: bayCell(c, c.triage.last?.volts ?? null, running.drawer) })),
    charges,
  );
  const titles = new Map(waiting.map((c) => [c.cell.id as string, c]));
  const all = [...charges, ...starts.map((s) => ({ bay: s.bay, cellId: s.cellId, forecast: s.forecast, gone: -s.at }))];
  if (all.length === 0)
    return <p className="text-pencil">Nothing charges, and no cell of the drawer waits for a charge.</p>;
  const end = highest(all.map((c) => c.forecast.seconds - c.gone));
  return (
    <div className="grid gap-6 min-[1000px]:grid-cols-[20rem_minmax(0,1fr)]">
      <div>
        <p className="mb-2">All done by about {format(new Date(now + end * 1000), "HH:mm, d MMM")}.</p>
        <ol aria-label="Next starts" className="divide-y divide-rule border-y border-rule text-sm">
          {starts.map((s) => (
            <li key={s.cellId} className="grid grid-cols-[4.5rem_minmax(0,1fr)_4rem] gap-x-2 py-0.5">
              <span className="figures">{s.at === 0 ? "now" : format(new Date(now + s.at * 1000), "HH:mm")}</span>
              <span className="truncate">
                {titles.get(s.cellId)?.cell.title}{" "}
                <span className="figures text-pencil">{titles.get(s.cellId)?.code}</span>
              </span>
              <span>bay {s.bay}</span>
            </li>
          ))}
        </ol>
      </div>
      <LogPlot
        spec={drawn(all, perLane, running.station.plan.amps)}
        claims={[]}
        view={{ from: 0, to: end }}
        height={240}
      />
    </div>
  );
});
