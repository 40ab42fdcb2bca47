import type { Safety, Topology, TopologyCheck } from "@/core/use";
import { TopologyFigure } from "./topology-figure";

const TONE: Readonly<Record<Safety, string>> = {
  protected: "text-meets",
  "claimed, not tested": "text-misses",
  "nothing protects this cell": "text-misses",
};
const TEXT: Readonly<Record<Safety, string>> = {
  protected: "✓ Every way out of the cell crosses a working protection.",
  "claimed, not tested": "✗ Nothing protects this cell that was tested: its protection is only claimed.",
  "nothing protects this cell": "✗ Nothing protects this cell.",
};

export interface CellToWorldProps {
  readonly topology: Topology;
  readonly check: TopologyCheck;
  /** Said besides what the check says. */
  readonly remarks?: readonly string[];
}

/** What stands between a cell and the world: whether every way out of it is protected, the picture, what is to be minded. */
export function CellToWorld({ topology, check, remarks = [] }: CellToWorldProps) {
  return (
    <>
      <p
        className={`mb-2 text-lg font-semibold ${TONE[check.safety]}`}
        data-testid="safety"
        role={check.safety === "protected" ? undefined : "alert"}
      >
        {TEXT[check.safety]}
      </p>
      <TopologyFigure topology={topology} check={check} />
      <ul className="mt-2 max-w-prose list-disc pl-5">
        {[...check.remarks, ...remarks].map((r) => (
          <li key={r}>{r}</li>
        ))}
      </ul>
    </>
  );
}

/** The order in which it is connected; nothing where nothing protects the cell. */
export function ConnectingOrder({ safety, steps }: { readonly safety: Safety; readonly steps: readonly string[] }) {
  return (
    <>
      <h3 className="mt-4 font-semibold">Order of connecting</h3>
      {safety === "nothing protects this cell" ? (
        <p className="max-w-prose font-semibold text-misses">
          Nothing protects this cell: put a protection board between, or use a cell that has its own, before you connect
          it.
        </p>
      ) : (
        <ol className="max-w-prose list-decimal pl-5">
          {safety === "claimed, not tested" ? (
            <li className="font-semibold text-misses">
              Test the protection first, from a supply: a threshold ramp shows whether it really disconnects.
            </li>
          ) : null}
          {steps.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ol>
      )}
    </>
  );
}
