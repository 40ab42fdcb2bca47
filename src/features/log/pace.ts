/** Speeds of a simulated bench's clock. */
export const PACES = [1, 10, 60, 600, 3600] as const;

const paceKey = (runId: string): string => `nimbus-pace-${runId}`;

/** The speed that the log of a simulated bench was set to: it outlives a reload, and goes with the log to another tab. */
export function storedPace(runId: string): number {
  try {
    const stored = Number(localStorage.getItem(paceKey(runId)));
    return (PACES as readonly number[]).includes(stored) ? stored : 1;
  } catch {
    return 1;
  }
}

/** Keeps the speed; null forgets it. */
export function keepPace(runId: string, factor: number | null): void {
  try {
    if (factor === null) localStorage.removeItem(paceKey(runId));
    else localStorage.setItem(paceKey(runId), String(factor));
  } catch {
    // Not storable: the log then begins at the ordinary speed.
  }
}
