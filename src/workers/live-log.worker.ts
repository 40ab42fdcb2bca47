import { atBench } from "@/core/procedures/shape";
import { loadProcedure } from "@/core/procedures/load";
import type { ChargePlan } from "@/core/procedures/charge-cycle";
import { appendChunk, readTrace, traceExtent } from "@/storage/traces";
import { LiveLog, type LogSource } from "./live-log";
import { liveChannel, type FromLiveLog, type ToLiveLog } from "./live-protocol";

const scope = self as unknown as { onmessage: ((e: MessageEvent<ToLiveLog>) => void) | null; postMessage(m: FromLiveLog): void };

let log: LiveLog | null = null;
let timer: ReturnType<typeof setInterval> | null = null;

async function simulatedSource(ask: Extract<ToLiveLog, { say: "open" }>, every: number): Promise<LogSource | null> {
  if (!ask.simulated) return null;
  const { liveChargeFor } = await import("@/core/rehearsal/live-bench");
  return liveChargeFor(ask.simulated.charger, ask.simulated.seed, every, ask.setup);
}

async function open(ask: Extract<ToLiveLog, { say: "open" }>): Promise<void> {
  const p = atBench(await loadProcedure(ask.procedure));
  if (!p?.watch) throw new Error(`${ask.procedure} can't be logged by this version`);
  const every = (ask.setup.plan as ChargePlan | undefined)?.every ?? 1;
  const channel = new BroadcastChannel(liveChannel(ask.runId));
  const next = new LiveLog({
    runId: ask.runId,
    watch: p.watch(ask.setup),
    rules: p.stopRules(ask.setup),
    source: await simulatedSource(ask, every),
    every,
    clock: () => Date.now(),
    store: appendChunk,
    tell: (news) => {
      scope.postMessage(news);
      channel.postMessage(news);
    },
  });
  const extent = await traceExtent(ask.runId);
  if (extent) next.resume(await readTrace(ask.runId), extent.chunks, extent.at);
  next.setPace(ask.pace);
  log = next;
  timer = setInterval(() => next.turn(), 100);
  next.turn();
}

scope.onmessage = async ({ data }) => {
  try {
    switch (data.say) {
      case "open":
        await open(data);
        break;
      case "pace":
        log?.setPace(data.factor);
        break;
      case "row":
        log?.type(data.values);
        break;
      case "safe-again":
        log?.clearStops();
        break;
      case "close":
        if (timer) clearInterval(timer);
        await log?.write();
        scope.postMessage({ kind: "closed" });
        break;
    }
  } catch (e) {
    scope.postMessage({ kind: "failed", message: (e as Error).message });
  }
};
