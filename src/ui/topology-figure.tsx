import type { Guard, Part, Topology, TopologyCheck } from "@/core/use";

const WIDTH = 118;
const GAP = 34;
const HEIGHT = 58;
const TOP = 62;
/** px of a picture below which its words can't be read: a narrow page scrolls it. */
const LEGIBLE = 620;

interface Box {
  readonly lines: readonly string[];
  readonly tone: string;
  readonly dash?: string;
  /** A short word under the box. */
  readonly below?: string;
}

const STANDING: Readonly<
  Record<Guard["standing"], { readonly tone: string; readonly dash?: string; readonly word: string }>
> = {
  working: { tone: "var(--meets)", word: "✓ working" },
  claimed: { tone: "var(--close)", dash: "5 3", word: "? claimed" },
  bypassed: { tone: "var(--misses)", dash: "2 3", word: "✗ bypassed" },
};

function boxOf(p: Part): Box {
  if (p.kind === "fuse") return { lines: ["fuse", `${p.rating} A`], tone: "var(--ink)" };
  if (p.kind === "board") return { lines: wrapped(p.name), tone: "var(--ink)" };
  const { tone, dash, word } = STANDING[p.guard.standing];
  return {
    lines: p.guard.name.replace(/^the /, "").split(/ (?=protection|board)/),
    tone,
    ...(dash ? { dash } : {}),
    below: word,
  };
}

/** A name cut to what its box holds. */
const fitted = (text: string, room = 17): string => (text.length > room ? `${text.slice(0, room - 1)}…` : text);

/** A name on two lines where one is too short for it. */
function wrapped(text: string, room = 16): string[] {
  if (text.length <= room) return [text];
  const space = text.lastIndexOf(" ", room);
  return space > 0 ? [text.slice(0, space), text.slice(space + 1)] : [text];
}

function Drawn({ box, x, y }: { readonly box: Box; readonly x: number; readonly y: number }) {
  return (
    <g>
      <rect
        x={x}
        y={y}
        width={WIDTH}
        height={HEIGHT}
        fill="var(--field)"
        stroke={box.tone}
        strokeWidth="2"
        strokeDasharray={box.dash}
      />
      {box.lines.map((line, k) => (
        <text
          key={k}
          x={x + WIDTH / 2}
          y={y + HEIGHT / 2 + 5 + 16 * (k - (box.lines.length - 1) / 2)}
          textAnchor="middle"
          fontSize="13"
          fill="var(--ink)"
        >
          {fitted(line)}
        </text>
      ))}
      {box.below ? (
        <text x={x + WIDTH / 2} y={y + HEIGHT + 16} textAnchor="middle" fontSize="12" fontWeight="600" fill={box.tone}>
          {box.below}
        </text>
      ) : null}
    </g>
  );
}

/** What stands between a cell and the world: the chain from its poles outwards, taps that bypass it in red, what hangs behind it. */
export function TopologyFigure({ topology: t, check }: { readonly topology: Topology; readonly check: TopologyCheck }) {
  const boxes: Box[] = [{ lines: wrapped(t.cell), tone: "var(--ink)" }, ...t.chain.map(boxOf)];
  const x = (k: number): number => 8 + k * (WIDTH + GAP);
  const rows = Math.max(1, t.outside.length);
  const taps = t.taps.length;
  const top = taps ? TOP + 24 : 14;
  const outsideY = (k: number): number => top + k * (HEIGHT + 22);
  const width = x(boxes.length) + WIDTH + 8;
  const height = top + rows * (HEIGHT + 22) + 4;
  const middle = top + HEIGHT / 2;
  const description = `${t.cell}, then ${t.chain.map((p) => (p.kind === "guard" ? `${p.guard.name} (${p.guard.standing})` : p.kind === "fuse" ? `a ${p.rating} A fuse` : p.name)).join(", then ")}, then ${t.outside.join(" and ")}${taps ? `; on the bare cell: ${t.taps.map((x2) => x2.name).join(", ")}` : ""}. ${check.safety}.`;
  return (
    <div className="overflow-x-auto">
      <svg
        role="img"
        aria-label={description}
        viewBox={`0 0 ${width} ${height}`}
        className="block h-auto w-full"
        style={{ maxWidth: width, minWidth: Math.min(width, LEGIBLE) }}
        data-topology={check.safety}
      >
        {boxes.slice(1).map((b, k) => (
          <path
            key={k}
            d={`M${x(k) + WIDTH} ${middle}h${GAP}`}
            stroke={b.tone === STANDING.bypassed.tone ? b.tone : "var(--ink)"}
            strokeWidth="2"
          />
        ))}
        {t.outside.map((o, k) => (
          <path
            key={o}
            d={`M${x(boxes.length - 1) + WIDTH} ${middle}h${GAP / 2}V${outsideY(k) + HEIGHT / 2}h${GAP / 2}`}
            stroke="var(--ink)"
            strokeWidth="2"
            fill="none"
          />
        ))}
        {boxes.map((b, k) => (
          <Drawn key={k} box={b} x={x(k)} y={top} />
        ))}
        {t.outside.map((o, k) => (
          <Drawn key={o} box={{ lines: wrapped(o), tone: "var(--pencil)" }} x={x(boxes.length)} y={outsideY(k)} />
        ))}
        {t.taps.map((tap, k) => (
          <g key={tap.name}>
            <path
              d={`M${x(tap.after) + 24 + 14 * k} ${top}V${22 + 18 * k}h40`}
              stroke="var(--misses)"
              strokeWidth="2"
              fill="none"
            />
            <text x={x(tap.after) + 70 + 14 * k} y={26 + 18 * k} fontSize="13" fontWeight="600" fill="var(--misses)">
              {`✗ ${fitted(tap.name, 40)}`}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
