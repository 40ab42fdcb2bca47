import { atBench, ofTrace, type AtBench, type TraceProcedure } from "@/core/procedures/contract";
import { loadProcedure } from "@/core/procedures/catalogue";
import { writeUncertaintiesTo } from "@/core/quantities/format";
import { appendChunk, readTrace, traceExtent } from "@/storage/traces";
import { LiveLog, type LogSource } from "./live-log";
import { liveChannel, writerLock, type FromLiveLog, type ToLiveLog } from "./live-protocol";

const scope = self as unknown as {
  onmessage: ((e: MessageEvent<ToLiveLog>) => void) | null;
  postMessage(m: FromLiveLog): void;
};

/** ms that the writer before has for its last write; one that is frozen is not waited for. */
const PATIENCE = 5000;

let log: LiveLog | null = null;
let timer: ReturnType<typeof setInterval> | null = null;
/** Gives the lock back. */
let release: () => void = () => undefined;
let opening: Promise<void> = Promise.resolve();

const go = (l: LiveLog): void => {
  timer = setInterval(() => l.turn(), 100);
};
function halt(): void {
  if (timer) clearInterval(timer);
  timer = null;
}

/**
 * Opens the log once no other worker writes it: the one before, which a page that was taken over is closing, first writes what it
 * still holds. Where another takes this one's place, it stops at once.
 */
function alone(ask: Extract<ToLiveLog, { say: "open" }>): Promise<void> {
  return new Promise<void>((opened, failed) => {
    const held = async () => {
      await open(ask).then(opened, failed);
      await new Promise<void>((done) => (release = done));
    };
    const lost = () => {
      halt();
      log = null;
      scope.postMessage({ kind: "failed", message: "another tab writes it now" });
    };
    const name = writerLock(ask.runId);
    navigator.locks
      .request(name, { signal: AbortSignal.timeout(PATIENCE) }, held)
      .catch((e: DOMException) =>
        e.name === "TimeoutError" ? navigator.locks.request(name, { steal: true }, held).catch(lost) : lost(),
      );
  });
}

async function simulatedSource(
  ask: Extract<ToLiveLog, { say: "open" }>,
  every: number,
  p: AtBench<TraceProcedure>,
): Promise<LogSource | null> {
  if (!ask.simulated) return null;
  if (p.guide) {
    const [{ LiveModule }, { liveOptions }] = await Promise.all([
      import("@/core/rehearsal/live-module"),
      import("@/core/rehearsal/simulated-bench"),
    ]);
    return new LiveModule(liveOptions(p, ask.simulated.charger, ask.setup, ask.simulated.seed));
  }
  const { liveChargeFor } = await import("@/core/rehearsal/live-bench");
  const charge = liveChargeFor(ask.simulated.charger, ask.simulated.seed, every, ask.setup);
  for (const { what, at } of ask.simulated.disturbances) charge.disturb(what, at);
  return charge;
}

async function open(ask: Extract<ToLiveLog, { say: "open" }>): Promise<void> {
  const p = ofTrace(atBench(await loadProcedure(ask.procedure)));
  if (!p?.watch) throw new Error(`${ask.procedure} can't be logged by this version`);
  const every = (ask.setup.plan as { readonly every?: number } | undefined)?.every ?? 1;
  const channel = new BroadcastChannel(liveChannel(ask.runId));
  const next = new LiveLog({
    runId: ask.runId,
    watch: p.watch(ask.setup),
    rules: p.stopRules(ask.setup),
    source: await simulatedSource(ask, every, p),
    every,
    clock: () => performance.now(),
    wall: () => Date.now(),
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
  next.turn();
  go(next);
}

scope.onmessage = async ({ data }) => {
  try {
    if (data.say === "open") {
      writeUncertaintiesTo(data.digits);
      opening = alone(data);
    }
    // Whatever is said before the log is open waits for it.
    await opening;
    switch (data.say) {
      case "open":
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
      case "disturb":
        log?.disturb(data.what);
        break;
      case "held":
        scope.postMessage({ kind: "held", csv: log?.heldCsv() ?? "" });
        break;
      case "close": {
        halt();
        const durable = log ? await log.write() : true;
        if (durable) release();
        else if (log) go(log);
        scope.postMessage({ kind: "closed", kept: durable });
        break;
      }
    }
  } catch (e) {
    scope.postMessage({ kind: "failed", message: (e as Error).message });
  }
};
