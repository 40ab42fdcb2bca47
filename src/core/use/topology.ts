/** What is known of a protection: shown in a fair run or the cell's own by its maker, only claimed, or bypassed by a closed jumper. */
export type Standing = "working" | "claimed" | "bypassed";

/** A protection that stands between the cell and what follows. */
export interface Guard {
  readonly name: string;
  readonly standing: Standing;
}

/** A connection to the bare cell, or behind one of the guards. */
export interface Tap {
  readonly name: string;
  /** How many of the chain's parts stand between it and the cell; 0: on the bare cell. */
  readonly after: number;
}

/** A part of the chain from the cell outwards. */
export type Part =
  | { readonly kind: "guard"; readonly guard: Guard }
  | { readonly kind: "fuse"; readonly rating: number }
  | { readonly kind: "board"; readonly name: string };

/** What stands between a cell and the world: a chain of parts, and what hangs on it. */
export interface Topology {
  readonly cell: string;
  /** From the cell's poles outwards. */
  readonly chain: readonly Part[];
  /** What hangs behind the last part: load, charger. */
  readonly outside: readonly string[];
  readonly taps: readonly Tap[];
}

export type Safety = "protected" | "claimed, not tested" | "nothing protects this cell";

/** A way from the cell to something outside. */
export interface Way {
  readonly to: string;
  readonly safety: Safety;
  /** Guards on the way that work, and those only claimed. */
  readonly through: readonly string[];
}

export interface TopologyCheck {
  /** That of the worst way. */
  readonly safety: Safety;
  readonly ways: readonly Way[];
  /** What is to be minded, in sentences. */
  readonly remarks: readonly string[];
  readonly fused: boolean;
}

/** An edge of the graph from the cell to what is outside; `guard` where a protection stands in it. */
interface Edge {
  readonly from: string;
  readonly to: string;
  readonly guard: Guard | null;
}

const CELL = "cell";

function edgesOf(t: Topology): Edge[] {
  const node = (k: number): string => (k === 0 ? CELL : `part ${k}`);
  return [
    ...t.chain.map((p, k): Edge => ({
      from: node(k),
      to: node(k + 1),
      guard: p.kind === "guard" && p.guard.standing !== "bypassed" ? p.guard : null,
    })),
    ...t.outside.map((o): Edge => ({ from: node(t.chain.length), to: `outside ${o}`, guard: null })),
    ...t.taps.map((x): Edge => ({
      from: node(Math.min(x.after, t.chain.length)),
      to: `outside ${x.name}`,
      guard: null,
    })),
  ];
}

/** What can be reached from the cell without crossing a guard that `stops`. */
function reached(edges: readonly Edge[], stops: (g: Guard) => boolean): ReadonlySet<string> {
  const seen = new Set([CELL]);
  for (const at of seen) for (const e of edges) if (e.from === at && !(e.guard && stops(e.guard))) seen.add(e.to);
  return seen;
}

/** The guards on the way to a node; the graph is a chain with what hangs on it. */
function guardsTo(edges: readonly Edge[], to: string): Guard[] {
  const edge = edges.find((e) => e.to === to);
  return edge ? [...guardsTo(edges, edge.from), ...(edge.guard ? [edge.guard] : [])] : [];
}

/**
 * Whether every way from the cell to the outside crosses a working protection, by reachability: whatever is reached without crossing
 * one is unprotected; what is reached only by trusting a claim is *claimed, not tested*, which silences nothing.
 */
export function checkTopology(t: Topology): TopologyCheck {
  const edges = edgesOf(t);
  const bare = reached(edges, () => true);
  const trusting = reached(edges, (g) => g.standing === "working");
  const outside = [...t.outside, ...t.taps.map((x) => x.name)];
  const ways = outside.map((o): Way => {
    const to = `outside ${o}`;
    return {
      to: o,
      safety: bare.has(to) ? "nothing protects this cell" : trusting.has(to) ? "claimed, not tested" : "protected",
      through: guardsTo(edges, to).map((g) => g.name),
    };
  });
  const rank: readonly Safety[] = ["nothing protects this cell", "claimed, not tested", "protected"];
  const safety = rank.find((s) => ways.some((w) => w.safety === s)) ?? "nothing protects this cell";
  const passed = (tap: Tap): string[] =>
    t.chain.slice(tap.after).flatMap((p) => (p.kind === "guard" ? [p.guard.name] : []));
  return {
    safety,
    ways,
    fused: t.chain.some((p) => p.kind === "fuse"),
    remarks: [
      ...t.chain.flatMap((p) =>
        p.kind === "guard" && p.guard.standing === "bypassed"
          ? [`A closed jumper bypasses ${p.guard.name}. Open it, unless the cell has its own protection.`]
          : [],
      ),
      ...t.taps.map(
        (x) =>
          `${x.name} ${passed(x).length ? `bypasses ${passed(x).join(" and ")}: no cut-off, switch-off or gauge there` : "stands behind every protection"}${x.after === 0 ? "; its voltage is the cell's" : ""}.`,
      ),
      ...(t.chain.some((p) => p.kind === "fuse")
        ? []
        : ["No fuse at the cell: put one at its positive pole, before anything else."]),
    ],
  };
}
