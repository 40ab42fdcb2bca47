import type { Recovery } from "@/core/measurement";
import type { InstrumentPort } from "./port";

const PATIENCE = 3;

/** Reads until the output is back or so many seconds of bench time went by. */
async function comesBack(port: InstrumentPort, above: number, pause: () => Promise<void>): Promise<boolean> {
  const start = (await port.read()).time;
  for (;;) {
    const r = await port.read();
    if ((r.cells.outputVoltage?.value ?? 0) > above) return true;
    if (r.time - start > PATIENCE) return false;
    await pause();
  }
}

/**
 * After a collapse: what it takes to get the output back. A board that had switched off is first given time with the
 * load still on; then the load comes off, then the supply is cycled. The load stays off afterwards.
 */
export async function watchRestart(
  port: InstrumentPort,
  nominal: number,
  switchedOff: boolean,
  pause: () => Promise<void>,
): Promise<Recovery> {
  const above = 0.9 * nominal;
  if (switchedOff && (await comesBack(port, above, pause))) return "automatic";
  await port.apply({ load: { mode: "current", value: 0 } });
  if (await comesBack(port, above, pause)) return switchedOff ? "load-removal" : "automatic";
  await port.powerCycle();
  return (await comesBack(port, above, pause)) ? "power-cycle" : "none";
}
