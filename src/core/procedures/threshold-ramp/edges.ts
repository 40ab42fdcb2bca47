import { ELEMENTS, fitLine, median } from "../../quantities";

const { sampleAt } = ELEMENTS;

/** An instant at which the current went off or came on, between two samples. */
export interface Edge {
  readonly kind: "off" | "on";
  /** Middle of the two samples around it, s. */
  readonly time: number;
  /** First sample after it. */
  readonly index: number;
  /** s between the two samples around it. */
  readonly gap: number;
}

/** Share of the usual current under which it counts as off. */
const OFF = 0.2;
/** Samples that a change must last. */
const LASTING = 2;

/** The current that flows while it does: the level that nine tenths of the log's larger readings reach. */
export function flowLevel(amps: Float64Array): number {
  const stride = Math.max(1, Math.floor(amps.length / 4000));
  const some: number[] = [];
  for (let k = 0; k < amps.length; k += stride) if (Number.isFinite(amps[k])) some.push(sampleAt(amps, k));
  const top = some.reduce((m, v) => Math.max(m, v), 0);
  const flowing = some.filter((v) => v > 0.3 * top);
  return flowing.length ? median(flowing) : 0;
}

/** Where the current goes off and comes on again, a spike of one sample passed over. */
export function currentEdges(time: Float64Array, amps: Float64Array, level: number): Edge[] {
  const edges: Edge[] = [];
  let flows: boolean | null = null;
  let since = 0;
  let first = -1;
  let last = -1;
  let lastBefore = -1;
  for (let k = 0; k < time.length; k++) {
    const a = sampleAt(amps, k);
    if (a - a !== 0) continue;
    const now = a > OFF * level;
    if (flows === null) flows = now;
    if (now === flows) since = 0;
    else {
      if (since++ === 0) {
        first = k;
        lastBefore = last;
      }
      if (since >= LASTING) {
        const [t0, t1] = [sampleAt(time, Math.max(0, lastBefore)), sampleAt(time, first)];
        edges.push({ kind: now ? "on" : "off", time: (t0 + t1) / 2, index: first, gap: t1 - t0 });
        flows = now;
        since = 0;
      }
    }
    last = k;
  }
  return edges;
}

export interface EdgeValue {
  readonly value: number;
  /** Change a second just there; 0 where it was set in steps. */
  readonly slope: number;
  readonly count: number;
  /** Half the step in which it was set by hand; 0 on a ramp. */
  readonly halfStep: number;
}

/**
 * A column in the instant of an edge, carried on along its last samples before it: eight, or three where those eight lie on no
 * line, as after a change of the ramp's speed. Where not even those do, it was set in steps by hand: the edge then lies half a step
 * beyond the last reading, in the direction of the steps. Null where there are no readings.
 */
export function valueAtEdge(time: Float64Array, values: Float64Array, edge: Edge, step: number): EdgeValue | null {
  const t: number[] = [];
  const v: number[] = [];
  for (let k = edge.index - 1; k >= 0 && v.length < 8; k--) {
    if (!Number.isFinite(values[k])) continue;
    t.unshift(sampleAt(time, k) - edge.time);
    v.unshift(sampleAt(values, k));
  }
  const last = v[v.length - 1];
  if (last === undefined) return null;
  for (const n of [8, 3]) {
    if (v.length < n) continue;
    const line = fitLine(t.slice(-n), v.slice(-n));
    if (line && line.scatter < 2 * step) return { value: line.intercept, slope: line.slope, count: n / 4, halfStep: 0 };
  }
  const by = last - (v[v.length - 2] ?? last);
  return { value: last + by / 2, slope: 0, count: 1, halfStep: Math.abs(by) / 2 };
}
