import { formatQuantity } from "@/core/quantities";

const WIDTH = 900;
const HEIGHT = 190;
const EDGE = { left: 64, right: 16, top: 14, bottom: 34 };
/** So many bays are named at most. */
const NAMED = 12;

/** Every bay of a lane by its voltage, from the supply outwards; those that don't charge in red, with a cross. */
export function LaneFigure({
  volts,
  supply,
  minimum,
}: {
  readonly volts: readonly number[];
  readonly supply: number;
  readonly minimum: number;
}) {
  const least = volts.reduce((m, v) => Math.min(m, v), Math.min(minimum, supply));
  const low = least - 0.05 * (supply - least + 0.1);
  const y = (v: number): number => EDGE.top + ((HEIGHT - EDGE.top - EDGE.bottom) * (supply - v)) / (supply - low || 1);
  const step = (WIDTH - EDGE.left - EDGE.right) / Math.max(1, volts.length);
  const x = (k: number): number => EDGE.left + step * (k + 0.5);
  const every = Math.ceil(volts.length / NAMED);
  const bottom = HEIGHT - EDGE.bottom;
  const starving = volts.filter((v) => v < minimum).length;
  const description = `${volts.length} bays from ${formatQuantity(volts[0] ?? supply, "V", { digits: 4 })} at the first to ${formatQuantity(volts.at(-1) ?? supply, "V", { digits: 4 })} at the last; the chargers need ${formatQuantity(minimum, "V")}. ${starving ? `${starving} don't charge.` : "All charge."}`;
  return (
    <svg
      role="img"
      aria-label={description}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="figures block w-full max-w-[56rem]"
    >
      {[supply, minimum].map((v) => (
        <text key={v} x={EDGE.left - 8} y={y(v) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
          {formatQuantity(v, "V", { digits: 3 })}
        </text>
      ))}
      <path d={`M${EDGE.left} ${EDGE.top}V${bottom}H${WIDTH - EDGE.right}`} stroke="var(--pencil)" fill="none" />
      <path
        d={`M${EDGE.left} ${y(minimum)}H${WIDTH - EDGE.right}`}
        stroke="var(--margin-line)"
        strokeWidth="1.4"
        strokeDasharray="8 4"
      />
      <text x={WIDTH - EDGE.right} y={y(minimum) - 5} textAnchor="end" fontSize="12" fill="var(--margin-line)">
        lowest input voltage
      </text>
      <path
        d={`M${EDGE.left} ${y(supply)}${volts.map((v, k) => `L${x(k)} ${y(v)}`).join("")}`}
        stroke="var(--ink)"
        strokeWidth="1.6"
        fill="none"
      />
      {volts.map((v, k) =>
        v < minimum ? (
          <path
            key={k}
            d={`M${x(k) - 4} ${y(v) - 4}l8 8m0 -8l-8 8`}
            stroke="var(--misses)"
            strokeWidth="2"
            data-bay="starves"
          />
        ) : (
          <circle key={k} cx={x(k)} cy={y(v)} r="3.5" fill="var(--meets)" data-bay="charges" />
        ),
      )}
      {volts.map((_, k) =>
        k % every === 0 || k === volts.length - 1 ? (
          <text key={k} x={x(k)} y={bottom + 18} textAnchor="middle" fontSize="12" fill="var(--ink)">
            {k + 1}
          </text>
        ) : null,
      )}
      <text
        x={EDGE.left + (WIDTH - EDGE.left - EDGE.right) / 2}
        y={HEIGHT - 2}
        textAnchor="middle"
        fontSize="12"
        fill="var(--pencil)"
      >
        bay, from the supply
      </text>
    </svg>
  );
}
