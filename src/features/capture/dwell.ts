import type { RunSetup } from "@/core/measurement";

/** s that the settings of a run have to stand before a point counts as held; 0 where its plan says nothing. */
export const dwellWanted = (setup: RunSetup): number =>
  (setup.plan as { readonly dwell?: number } | undefined)?.dwell ?? 0;

/** Whether a point stood shorter than that, to within the clock's tick; false where nobody recorded how long. */
export const stoodTooShort = (dwell: number | undefined, wanted: number): boolean =>
  dwell !== undefined && dwell < wanted - 0.05;
