"use client";

import { useMemo } from "react";
import type { LoadRecord } from "@/core/files/records";
import { stateOfCharge } from "@/core/cells";
import type { ChartSpec } from "@/core/measurement";
import { formatQuantity } from "@/core/quantities";
import {
  checkAdded,
  checkCut,
  checkTopology,
  chooseFuse,
  orderOfConnecting,
  topologyOf,
  UNKNOWN_BOARD,
  USUAL_CURVE,
  type BoardFit,
  type FitCurvePoint,
  type FuseAnswer,
  type Load,
  type UseBattery,
  type UseCell,
} from "@/core/use";
import type { ProtectionBoard } from "@/notebook/usable";
import { Button } from "@/ui/button";
import { CellToWorld, ConnectingOrder } from "@/ui/cell-to-world";
import { LogPlot } from "@/ui/log-plot";
import { Section } from "@/ui/section";
import { InUse } from "./in-use";
import type { Fitted } from "./fitted";
import { runTimeText } from "./words";

interface FitDetailProps {
  readonly of: Fitted;
  readonly load: LoadRecord;
  readonly cell: UseCell;
  readonly battery: UseBattery;
  /** Boards of the notebook that may be put between. */
  readonly protections: readonly ProtectionBoard[];
  onLoad(l: Load): Promise<boolean>;
}

/** One board with the load and the cell: why, the battery on the way down, what stands between, the fuse, the order to connect. */
export function FitDetail({ of: { usable, fit }, load, cell, battery, protections, onLoad }: FitDetailProps) {
  const { board, modules, protection } = usable;
  const m = modules.find((x) => x.runId === fit.runId) ?? modules[0];
  const { fuse, jumper, taps, added } = load.wiring;
  const guard = protections.find((g) => g.boardId === added?.boardId);
  const joined = { fuse, jumper, taps, added: added ? (guard ?? UNKNOWN_BOARD) : undefined };
  const topology = topologyOf(cell, protection, joined, [load.title]);
  const check = checkTopology(topology);
  return (
    <>
      <Section mark="why" title={`${board.title} with ${cell.title}`}>
        <ul className="mb-3 max-w-prose list-disc pl-5">
          {fit.why.map((w) => (
            <li key={w}>{w}</li>
          ))}
          <CutRemark
            fit={fit}
            claimed={m?.claimed ?? false}
            cut={m?.cut ?? null}
            residual={m?.residual ?? null}
            cell={cell}
          />
          {fit.seconds !== undefined && board.functions.includes("power-path") ? (
            <li>As a buffer behind its input it carries this load for {runTimeText(fit)} after the input fails.</li>
          ) : null}
          {fit.seconds === undefined ? null : (
            <li className="text-pencil">
              The cell&apos;s voltage over its charge is taken from its chemistry, ± {formatQuantity(USUAL_CURVE, "V")};
              its self-discharge as {formatQuantity(cell.selfDischarge, "A")}.
            </li>
          )}
        </ul>
        <DownTheCell fit={fit} />
      </Section>
      <Section mark="connect" title="Between the cell and the world">
        <CellToWorld
          topology={topology}
          check={check}
          remarks={addedRemarks(load, fit, cell).map((r) => `The added board: ${r}`)}
        />
        <FuseChoice fit={fit} load={load} cell={cell} battery={battery} onLoad={onLoad} />
        <ConnectingOrder safety={check.safety} steps={orderOfConnecting(cell, protection, joined, load.title)} />
      </Section>
      <InUse load={load} boardId={board.id} fit={fit} onLoad={onLoad} />
    </>
  );
}

/** What is wrong with an added board for the load at its end; nothing is said where the load does not hold. */
function addedRemarks(load: Load, fit: BoardFit, cell: UseCell): string[] {
  const end = fit.curve?.at(-1);
  return load.wiring.added && end
    ? checkAdded(load.wiring.added, {
        batteryPower: end.current * end.input,
        lowestVoltage: cell.floor,
        floor: cell.floor,
      })
    : [];
}

/** What the board's own cut means for this cell. */
function CutRemark({
  fit,
  claimed,
  cut,
  residual,
  cell,
}: {
  readonly fit: BoardFit;
  readonly claimed: boolean;
  readonly cut: number | null;
  readonly residual: number | null;
  readonly cell: UseCell;
}) {
  if (cut === null || fit.seconds === undefined) return null;
  const c = checkCut({
    cut,
    floor: cell.floor,
    capacity: cell.capacity * cell.parallel,
    residual: residual ?? 0,
    selfDischarge: cell.selfDischarge * cell.parallel,
    stateOfCharge: (v) => stateOfCharge(cell.chemistry, v),
  });
  return (
    <li>
      Its {claimed ? "claimed " : ""}cut at {formatQuantity(cut, "V")} is{" "}
      {c.belowFloor
        ? `below the floor of ${formatQuantity(cell.floor, "V")}: recharge before it`
        : "not below the cell's floor"}
      {c.unused >= 0.01 ? ` and leaves ${Math.round(100 * c.unused)}\u00a0% unused` : ""}.
      {residual === null
        ? " What still flows after the cut was not measured."
        : c.days !== null
          ? ` A cell that is forgotten then is ruined after about ${Math.max(1, Math.round(c.days))} days.`
          : ""}
    </li>
  );
}

/** Battery current and voltage under the load's highest power, from full to the end. */
function DownTheCell({ fit }: { readonly fit: BoardFit }) {
  const { curve, seconds } = fit;
  const specs = useMemo((): ChartSpec[] => {
    if (!curve) return [];
    const series = (id: string, label: string, of: (p: FitCurvePoint) => number): ChartSpec["series"] => [
      { id, label, tone: 0, points: [], fit: curve.map((p) => ({ x: p.time, y: of(p) })) },
    ];
    const x = { label: "Time from full", unit: "s" } as const;
    return [
      {
        id: "use-current",
        title: "Battery current while it works",
        x,
        y: { label: "Current", unit: "A" },
        claims: [],
        series: series("current", "battery current", (p) => p.current),
      },
      {
        id: "use-voltage",
        title: "Voltage at the board",
        x,
        y: { label: "Voltage", unit: "V" },
        claims: [],
        series: series("voltage", "at the board", (p) => p.input),
      },
    ];
  }, [curve]);
  if (!seconds || specs.length === 0) return null;
  return (
    <div className="grid gap-4 min-[1000px]:grid-cols-2">
      {specs.map((spec) => (
        <LogPlot key={spec.id} spec={spec} claims={[]} view={{ from: 0, to: seconds }} height={210} />
      ))}
    </div>
  );
}

function FuseChoice({
  fit,
  load,
  cell,
  battery,
  onLoad,
}: {
  readonly fit: BoardFit;
  readonly load: LoadRecord;
  readonly cell: UseCell;
  readonly battery: UseBattery;
  onLoad(l: Load): Promise<boolean>;
}) {
  const highest = fit.curve?.reduce((most, p) => Math.max(most, p.current), 0);
  if (!highest) return <p className="mt-3 text-pencil">A fuse is chosen once the load holds.</p>;
  const resistance = cell.resistance / cell.parallel + battery.between.resistance;
  const answer: FuseAnswer = chooseFuse({ highest, ampacity: load.wiring.ampacity, volts: cell.floor, resistance });
  const { fuse } = load.wiring;
  const { fuse: _was, ...bare } = load.wiring;
  void _was;
  return (
    <div className="mt-3 max-w-prose" data-testid="fuse">
      <h3 className="font-semibold">Fuse</h3>
      <p>
        {answer.rating === null ? (
          <strong className="text-misses">No fuse suits. </strong>
        ) : (
          <strong>{formatQuantity(answer.rating, "A")}. </strong>
        )}
        {answer.why}
      </p>
      {fuse !== undefined && fuse !== answer.rating ? (
        <p className="font-semibold text-close">
          The fuse chosen before, {formatQuantity(fuse, "A")}, does not suit this use.
        </p>
      ) : null}
      <p className="no-print mt-1 flex gap-2">
        {answer.rating !== null && fuse !== answer.rating ? (
          <Button onClick={() => void onLoad({ ...load, wiring: { ...bare, fuse: answer.rating ?? NaN } })}>
            Use this fuse
          </Button>
        ) : null}
        {fuse !== undefined ? (
          <Button look="bare" onClick={() => void onLoad({ ...load, wiring: bare })}>
            Remove fuse
          </Button>
        ) : null}
      </p>
    </div>
  );
}
