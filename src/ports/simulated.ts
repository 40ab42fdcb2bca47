import { openWorker } from "@/workers/client";
import type { BenchAddress, SimulatedBoardId } from "@/core/simulator";
import { TextCommandPort } from "./text-port";
import type { PointSettings } from "@/core/measurement";
import type { InstrumentPort } from "./port";

export interface SimulatedBenchOptions {
  readonly board: SimulatedBoardId;
  readonly seed: number;
  readonly inputLeadResistance: number;
  readonly outputLeadResistance: number;
  /** What was done to the board before this. */
  readonly done: readonly PointSettings[];
}

/** The simulated bench in a worker of its own, spoken to in text commands as a real one would be. */
export async function openSimulatedBench(options: SimulatedBenchOptions): Promise<InstrumentPort> {
  const worker = openWorker();
  await worker.ask("bench-open", options);
  return new TextCommandPort(
    {
      exchange: (lines) =>
        worker.ask("bench-exchange", {
          lines: lines.map((l) => ({ address: l.address as BenchAddress, line: l.line })),
        }),
      pace: async (factor) => {
        await worker.ask("bench-pace", { factor });
      },
      close: () => worker.close(),
    },
    {
      title: "Simulated bench",
      supply: "supply",
      load: "load",
      relay: "relay",
      meters: {
        batteryVoltage: "meter:batteryVoltage",
        batteryCurrent: "meter:batteryCurrent",
        outputVoltage: "meter:outputVoltage",
        outputCurrent: "meter:outputCurrent",
        partTemperature: "meter:partTemperature",
      },
      limits: { supplyVoltage: 30, supplyCurrent: 5, loadCurrent: 10 },
    },
  );
}
