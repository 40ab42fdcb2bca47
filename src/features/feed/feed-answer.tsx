import { useMemo } from "react";
import { formatDuration, formatQuantity, type Unit } from "@/core/quantities";
import {
  bottleneckText,
  feedCurrent,
  feedNeeds,
  feedRefusal,
  feedState,
  panelDay,
  sinkFor,
  stageName,
  type FeedAnswer,
  type FeedBottleneck,
  type FeedPlan,
  type FeedStage,
  type StageState,
} from "@/core/use/feed";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Section } from "@/ui/section";
import { FeedFigure } from "./feed-figure";

const q = (x: number, unit: Unit): string => formatQuantity(x, unit, { digits: 3 });
const DAY = 86_400;
/** W that a linear regulator loses before it warms what stands beside it. */
const WARMS = 1;

const stageOf = (b: FeedBottleneck): number | null => ("stage" in b ? b.stage : null);
const source = (a: FeedAnswer): number => (a.state.stages[0]?.voltsOut ?? 0) * (a.state.stages[0]?.ampsOut ?? 0);

const SHORT: Readonly<Record<"set" | "heat" | "voltage", string>> = {
  set: "the set current",
  heat: "the charger's heat",
  voltage: "the voltage at the board",
};
function limitedBy(plan: FeedPlan, b: FeedBottleneck): string {
  if ("stage" in b) return `the ${stageName(plan.stages[b.stage]?.kind ?? "cable")}`;
  return SHORT[b.what];
}

/** Why a cell of so many V is not charged at all; with the voltage that reaches the board where that is too low. */
function refusalText(plan: FeedPlan, cell: number): string {
  const why = feedRefusal(plan, cell);
  const idle = why.what === "voltage" ? feedState(plan, 0, cell) : null;
  const reaches = idle
    ? `Even without a load, only ${q(idle.boardVolts, "V")} reaches the board; the charger needs ${q(feedNeeds(plan, cell), "V")}. `
    : "";
  return reaches + bottleneckText(plan, why);
}

/** A feed worked out: with the cell at its lowest, and as it reaches the constant-voltage phase; null where it does not charge. */
export interface WorkedFeed {
  readonly plan: FeedPlan;
  readonly low: FeedAnswer | null;
  readonly full: FeedAnswer | null;
}

export const useWorkedFeed = (plan: FeedPlan): WorkedFeed =>
  useMemo(
    () => ({ plan, low: feedCurrent(plan, plan.charger.cellLow), full: feedCurrent(plan, plan.charger.cellFull) }),
    [plan],
  );

/** The current that a feed charges with, and what limits it. */
export function FeedAnswerText({ plan, low, full }: WorkedFeed) {
  if (!low || !full)
    return (
      <div role="status">
        <p className="text-lg font-medium text-misses">It does not charge as it is.</p>
        <p className="max-w-prose">{refusalText(plan, low ? plan.charger.cellFull : plan.charger.cellLow)}</p>
      </div>
    );
  const texts = [...new Set([low, full].map((a) => bottleneckText(plan, a.bottleneck)))];
  const [a, b] = [q(low.state.current, "A"), q(full.state.current, "A")];
  return (
    <>
      <div role="status" className="mb-3">
        <p className="text-lg font-medium">
          {a === b ? `It charges at ${a}.` : `It charges at ${a} into an empty cell, at ${b} into a full one.`}
        </p>
        {texts.map((t) => (
          <p key={t} className="max-w-prose">
            {t}
          </p>
        ))}
      </div>
      <CellTable plan={plan} answers={[low, full]} />
    </>
  );
}

/** The voltage along a feed, and each stage. */
export function FeedLine({ plan, low, full }: WorkedFeed) {
  if (!low || !full) return null;
  return (
    <Section mark="line" title="From source to board">
      <FeedFigure plan={plan} state={full.state} limits={stageOf(full.bottleneck) ?? stageOf(low.bottleneck)} />
      <StageTable plan={plan} answer={low} />
      <Remarks plan={plan} answer={low} />
    </Section>
  );
}

/** The charge at its beginning and at the end of its constant current. */
function CellTable({ plan, answers }: { readonly plan: FeedPlan; readonly answers: readonly FeedAnswer[] }) {
  const figure = (id: string, head: string, content: (a: FeedAnswer) => string): DataColumn<FeedAnswer> => ({
    id,
    head,
    figures: true,
    content,
  });
  const { thermal } = plan.charger;
  const columns: readonly DataColumn<FeedAnswer>[] = [
    { id: "cell", head: "Cell", names: true, content: (a) => q(a.state.cell, "V") },
    figure("current", "Charge current", (a) => q(a.state.current, "A")),
    figure("board", "At the board", (a) => q(a.state.boardVolts, "V")),
    figure("heat", "Charger's heat", (a) => q(a.state.chargerHeat, "W")),
    ...(thermal > 0
      ? [figure("part", "Part temperature", (a) => q(plan.ambient + a.state.chargerHeat * thermal, "°C"))]
      : []),
    figure("source", "From the source", (a) => q(source(a), "W")),
    figure("share", "Into the cell", (a) =>
      formatQuantity((a.state.cell * a.state.current) / source(a), "1", { digits: 2 }),
    ),
    { id: "limit", head: "Limited by", content: (a) => limitedBy(plan, a.bottleneck) },
  ];
  return (
    <DataTable label="The charge" rows={answers} columns={columns} id={(a) => String(answers.indexOf(a))} least={640} />
  );
}

interface StageRow extends StageState {
  readonly stage: FeedStage;
  readonly number: number;
}

/** What a stage gives of what it can, in words. */
function loadOf({ stage, ampsIn, ampsOut }: StageRow): string {
  if (stage.kind === "cable") return "";
  const share = (stage.kind === "port" ? ampsIn : ampsOut) / stage.limit;
  return `${formatQuantity(share, "1", { digits: 2 })} of ${q(stage.limit, "A")}`;
}

function sinkText(row: StageRow, ambient: number): string {
  if (row.stage.kind !== "linear") return "";
  const sink = sinkFor(row.stage, row.heat, ambient);
  return sink === null ? "" : sink <= 0 ? "no sink is enough" : `${q(sink, "K/W")} or less`;
}

function StageTable({ plan, answer }: { readonly plan: FeedPlan; readonly answer: FeedAnswer }) {
  const rows = plan.stages.flatMap((stage, k): StageRow[] =>
    answer.state.stages[k] ? [{ ...answer.state.stages[k], stage, number: k + 1 }] : [],
  );
  const figure = (id: string, head: string, content: (r: StageRow) => string): DataColumn<StageRow> => ({
    id,
    head,
    figures: true,
    content,
  });
  const columns: readonly DataColumn<StageRow>[] = [
    { id: "stage", head: "Stage", names: true, content: (r) => `${r.number} ${stageName(r.stage.kind)}` },
    figure("in", "In", (r) => (r.number === 1 ? "—" : `${q(r.voltsIn, "V")}, ${q(r.ampsIn, "A")}`)),
    figure("out", "Out", (r) => `${q(r.voltsOut, "V")}, ${q(r.ampsOut, "A")}`),
    figure("heat", "Heat", (r) => (r.heat > 0.0005 ? q(r.heat, "W") : "—")),
    figure("load", "Loaded to", loadOf),
    ...(rows.some((r) => r.stage.kind === "linear")
      ? [figure("sink", "Heat sink", (r) => sinkText(r, plan.ambient))]
      : []),
  ];
  return (
    <>
      <p className="mt-4 text-sm text-pencil">At a cell of {q(answer.state.cell, "V")}:</p>
      <DataTable label="Stages of the feed" rows={rows} columns={columns} id={(r) => String(r.number)} least={560} />
    </>
  );
}

function Remarks({ plan, answer }: { readonly plan: FeedPlan; readonly answer: FeedAnswer }) {
  const hot = plan.stages.some((s, k) => s.kind === "linear" && (answer.state.stages[k]?.heat ?? 0) > WARMS);
  return (
    <div className="mt-3 max-w-prose text-sm">
      {hot ? (
        <p className="text-close">
          Caution: the linear regulator heats what is beside it. Mount it away from the cell, or use a switching
          regulator.
        </p>
      ) : null}
      <p className="text-pencil">
        Mains wiring is for a licensed electrician and the local code. Never leave charging cells unattended.
      </p>
    </div>
  );
}

/** What a panel gives a day against what the load takes. */
export function PanelDay({ plan, full }: WorkedFeed) {
  if (!full) return null;
  const d = panelDay(full.state, plan.day);
  const figures: readonly (readonly [string, string])[] = [
    ["The panel gives the cells a day, at most", q(d.gained, "Wh")],
    ["The load takes a day", q(d.taken, "Wh")],
    ["The cells bridge without sun", d.bridged === null ? "any time" : formatDuration(d.bridged * DAY)],
  ];
  return (
    <>
      <p className="mb-2 text-lg font-medium">
        {d.emptyAfter === null
          ? "The panel keeps up with the load."
          : `The panel does not keep up: the cells are empty after ${formatDuration(d.emptyAfter * DAY)}.`}
      </p>
      <dl className="grid gap-x-8 gap-y-2 min-[560px]:grid-cols-3">
        {figures.map(([label, value]) => (
          <div key={label}>
            <dt className="text-sm text-pencil">{label}</dt>
            <dd className="figures text-lg">{value}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
