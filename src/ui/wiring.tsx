import type { WiringSketch } from "@/core/procedures";

const DEVICE_W = 150;
const GAP_W = 150;
const TOP = 64;
const BOTTOM = 150;
const BOX_TOP = 40;
const BOX_H = 140;

/** The wiring drawn from set-up data: a chain of devices, two wires between neighbours, meters where they go. */
export function Wiring({ sketch, large = false }: { readonly sketch: WiringSketch; readonly large?: boolean }) {
  const step = DEVICE_W + GAP_W;
  const width = sketch.devices.length * step - GAP_W + 8;
  const words = sketch.devices.map((d) => `${d.title} (${d.lines.join(", ")})`).join(", then ");
  return (
    <figure className={large ? "" : "max-w-180"}>
      <svg
        viewBox={`0 24 ${width} 168`}
        className="figures w-full text-ink"
        role="img"
        aria-label={`Wiring: ${words}. ${sketch.gaps.map((g) => `${g.ammeter ?? "no ammeter"} in the plus wire, ${g.voltmeter ?? "no voltmeter"} across, ${g.note}`).join("; ")}.`}
      >
        {sketch.gaps.map((g, i) => (
          <Gap key={4 + i * step} gap={g} from={4 + i * step + DEVICE_W} />
        ))}
        {sketch.devices.map((d, i) => (
          <Device key={d.id} device={d} x={4 + i * step} />
        ))}
      </svg>
      <figcaption>
        <ul className={`mt-2 list-disc pl-5 text-pencil ${large ? "text-lg" : "text-sm"}`}>
          {sketch.notes.map((n) => (
            <li key={n}>{n}</li>
          ))}
        </ul>
      </figcaption>
    </figure>
  );
}

/** Two wires from one device to the next, with the meters in and across them. */
function Gap({ gap: g, from }: { readonly gap: WiringSketch["gaps"][number]; readonly from: number }) {
  const to = from + GAP_W;
  const meter = from + GAP_W / 2;
  const clip = g.clips === "left" ? from + 14 : to - 14;
  return (
    <g fill="none" stroke="currentColor" strokeWidth="1.6">
      <line x1={from} x2={to} y1={TOP} y2={TOP} stroke="var(--margin-line)" />
      <line x1={from} x2={to} y1={BOTTOM} y2={BOTTOM} />
      {g.ammeter ? (
        <g>
          <circle cx={meter} cy={TOP} r="15" fill="var(--sheet)" />
          <text x={meter} y={TOP + 5} textAnchor="middle" fontSize="14" stroke="none" fill="currentColor">
            A
          </text>
          <text x={meter} y={TOP - 24} textAnchor="middle" fontSize="12.5" stroke="none" fill="var(--pencil)">
            {g.ammeter}
          </text>
        </g>
      ) : null}
      {g.voltmeter ? (
        <g>
          <path
            d={`M${clip} ${TOP} V${(TOP + BOTTOM) / 2 - 15} M${clip} ${BOTTOM} V${(TOP + BOTTOM) / 2 + 15}`}
            strokeDasharray="4 3"
          />
          <circle cx={clip} cy={TOP} r="2.6" fill="currentColor" />
          <circle cx={clip} cy={BOTTOM} r="2.6" fill="currentColor" />
          <circle cx={clip} cy={(TOP + BOTTOM) / 2} r="15" fill="var(--sheet)" />
          <text x={clip} y={(TOP + BOTTOM) / 2 + 5} textAnchor="middle" fontSize="14" stroke="none" fill="currentColor">
            V
          </text>
          <text x={meter} y={BOTTOM + 20} textAnchor="middle" fontSize="12.5" stroke="none" fill="var(--pencil)">
            {g.voltmeter}
          </text>
          <text x={meter} y={BOTTOM + 35} textAnchor="middle" fontSize="11.5" stroke="none" fill="var(--pencil)">
            {g.note}
          </text>
        </g>
      ) : null}
    </g>
  );
}

function Device({ device: d, x }: { readonly device: WiringSketch["devices"][number]; readonly x: number }) {
  return (
    <g>
      <rect
        x={x}
        y={BOX_TOP}
        width={DEVICE_W}
        height={BOX_H}
        fill="var(--field)"
        stroke="currentColor"
        strokeWidth={d.kind === "module" ? 2.4 : 1.2}
      />
      <text
        x={x + DEVICE_W / 2}
        y={BOX_TOP + 60}
        textAnchor="middle"
        fontSize="14"
        fontWeight="600"
        fill="currentColor"
        className="font-sans"
      >
        {d.title}
      </text>
      {d.lines.map((line, k) => (
        <text
          key={line}
          x={x + DEVICE_W / 2}
          y={BOX_TOP + 78 + k * 15}
          textAnchor="middle"
          fontSize="11.5"
          fill="var(--pencil)"
        >
          {line}
        </text>
      ))}
      {(["left", "right"] as const).map((side) =>
        d[side]?.map((name, k) => (
          <text
            key={side + name}
            x={side === "left" ? x + 6 : x + DEVICE_W - 6}
            y={(k === 0 ? TOP : BOTTOM) + 4}
            textAnchor={side === "left" ? "start" : "end"}
            fontSize="12.5"
            fontWeight="600"
            fill="currentColor"
          >
            {name}
          </text>
        )),
      )}
    </g>
  );
}
