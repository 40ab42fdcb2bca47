import type { BenchProcedure, Caution } from "../contract";
import type { RunSetup } from "../../measurement";

/** A cell drives tens of amperes through a short; nothing but a fuse at its pole ends that. */
const NO_FUSE: Caution = {
  severity: "care",
  text: "No fuse is drawn: fit one at the cell's positive pole, before anything else. A shorted lead glows within a second.",
};

/** All that is to be heeded before a run is connected: what the procedure says, and what any wiring with a cell asks for. */
export function cautionsOf<P>(
  p: Pick<BenchProcedure<P>, "cautions" | "wiring">,
  setup: RunSetup<P>,
): readonly Caution[] {
  return [...p.cautions(setup), ...(p.wiring(setup).devices.some((d) => d.kind === "cell") ? [NO_FUSE] : [])];
}
