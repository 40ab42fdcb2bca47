import { formatQuantity } from "@/core/quantities";
import { feedNeeds, stageName, type FeedPlan, type FeedState } from "@/core/use/feed";

const WIDTH = 900;
const HEIGHT = 210;
const EDGE = { left: 64, right: 16, top: 24, bottom: 52 };

/** The voltage from the source to the board, stage by stage, with what the charger needs; the stage that limits the charge by word, shape and colour. */
export function FeedFigure({
  plan,
  state,
  limits,
}: {
  readonly plan: FeedPlan;
  readonly state: FeedState;
  readonly limits: number | null;
}) {
  const needs = feedNeeds(plan, state.cell);
  const stages = plan.stages.map((s, k) => ({
    name: stageName(s.kind),
    out: state.stages[k]?.voltsOut ?? 0,
    heat: state.stages[k]?.heat ?? 0,
  }));
  const [most, least] = [
    stages.reduce((m, s) => Math.max(m, s.out), needs),
    stages.reduce((m, s) => Math.min(m, s.out), needs),
  ];
  const spare = 0.12 * (most - least || 1);
  const bottom = HEIGHT - EDGE.bottom;
  const y = (v: number): number => EDGE.top + ((bottom - EDGE.top) * (most - v)) / (most - least + spare);
  const step = (WIDTH - EDGE.left - EDGE.right) / stages.length;
  const x = (k: number): number => EDGE.left + step * k;
  const volts = (v: number): string => formatQuantity(v, "V", { digits: 3 });
  const description = `${stages.map((s) => `${volts(s.out)} after the ${s.name}`).join(", ")}; the charger needs ${volts(needs)}.`;
  return (
    <svg
      role="img"
      aria-label={description}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="figures block w-full max-w-[56rem]"
    >
      <path d={`M${EDGE.left} ${EDGE.top - 8}V${bottom}H${WIDTH - EDGE.right}`} stroke="var(--pencil)" fill="none" />
      <path
        d={`M${EDGE.left} ${y(needs)}H${WIDTH - EDGE.right}`}
        stroke="var(--margin-line)"
        strokeWidth="1.4"
        strokeDasharray="8 4"
      />
      <text x={EDGE.left - 8} y={y(needs) + 4} textAnchor="end" fontSize="12" fill="var(--margin-line)">
        {volts(needs)}
      </text>
      <text x={EDGE.left + 8} y={y(needs) - 5} fontSize="12" fill="var(--margin-line)">
        the charger needs
      </text>
      <path
        d={`M${EDGE.left} ${y(stages[0]?.out ?? 0)}${stages.map((s, k) => `V${y(s.out)}H${x(k + 1)}`).join("")}`}
        stroke="var(--ink)"
        strokeWidth="1.6"
        fill="none"
      />
      {stages.map((s, k) => (
        <g key={k} fontSize="12" textAnchor="middle">
          <text x={x(k) + step / 2} y={y(s.out) - 6} fill="var(--ink)">
            {volts(s.out)}
          </text>
          <text x={x(k) + step / 2} y={bottom + 16} fill="var(--ink)">
            {s.name}
          </text>
          <text x={x(k) + step / 2} y={bottom + 31} fill="var(--pencil)">
            {s.heat > 0.0005 ? `${formatQuantity(s.heat, "W", { digits: 2 })} of heat` : ""}
          </text>
          {k === limits ? (
            <>
              <path d={`M${x(k) + 3} ${bottom}H${x(k + 1) - 3}`} stroke="var(--misses)" strokeWidth="4" />
              <text x={x(k) + step / 2} y={bottom + 46} fill="var(--misses)">
                ▲ limits the charge
              </text>
            </>
          ) : null}
        </g>
      ))}
    </svg>
  );
}
