/** A run as far as it matters whether its readings were really taken. */
interface Played {
  readonly simulated?: boolean;
  readonly findings: readonly { readonly characteristic: string }[];
}

/** The quantities of a board that a run with real readings states: what the simulated bench played of them says nothing beside it. */
export const reallyMeasured = (runs: readonly Played[]): ReadonlySet<string> =>
  new Set(runs.filter((r) => !r.simulated).flatMap((r) => r.findings.map((f) => f.characteristic)));
