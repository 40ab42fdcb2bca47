import type { FromWorker, TaskName, Tasks, ToWorker } from "./protocol";

interface Waiting {
  resolve(value: unknown): void;
  reject(reason: Error): void;
  progress?(share: number): void;
}

export interface WorkerClient {
  ask<K extends TaskName>(task: K, ask: Tasks[K]["ask"], signal?: AbortSignal, progress?: (share: number) => void): Promise<Tasks[K]["give"]>;
  /** How many asks wait for an answer; without end while one of them tells its progress, as that may take long and be cancelled. */
  pending(): number;
  close(): void;
}

/**
 * A worker of one's own. A crash rejects everything that waits; cancelling an ask ends the worker, since a computation
 * can't be interrupted otherwise, and the next ask starts a new one.
 */
export function openWorker(): WorkerClient {
  let worker: Worker | null = null;
  let next = 1;
  const waiting = new Map<number, Waiting>();
  const fail = (message: string) => {
    worker?.terminate();
    worker = null;
    for (const w of waiting.values()) w.reject(new Error(message));
    waiting.clear();
  };
  const start = (): Worker => {
    const w = new Worker(new URL("./entry.worker.ts", import.meta.url), { type: "module" });
    w.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      const entry = waiting.get(data.id);
      if ("progress" in data) {
        entry?.progress?.(data.progress);
        return;
      }
      waiting.delete(data.id);
      if (data.ok) entry?.resolve(data.give);
      else entry?.reject(new Error(data.error));
    };
    w.onerror = (e) => fail(`A background worker stopped: ${e.message || "it could not be loaded"}.`);
    return w;
  };
  return {
    ask<K extends TaskName>(task: K, ask: Tasks[K]["ask"], signal?: AbortSignal, progress?: (share: number) => void) {
      return new Promise<Tasks[K]["give"]>((resolve, reject) => {
        if (signal?.aborted) {
          reject(new Error("Cancelled."));
          return;
        }
        worker ??= start();
        const id = next++;
        waiting.set(id, { resolve: (v) => resolve(v as Tasks[K]["give"]), reject, ...(progress ? { progress } : {}) });
        signal?.addEventListener("abort", () => waiting.has(id) && fail("Cancelled."), { once: true });
        worker.postMessage({ id, task, ask } as ToWorker);
      });
    },
    pending: () => ([...waiting.values()].some((w) => w.progress) ? Infinity : waiting.size),
    close: () => fail("Closed."),
  };
}

let shared: WorkerClient | null = null;
/** One worker for short computations, started when first asked. */
export const computing = (): WorkerClient => (shared ??= openWorker());

let warmed = false;
/** Starts both shared workers once and has them load every procedure: said by a page that is about to work out many runs. */
export function workersAhead(): void {
  if (warmed) return;
  warmed = true;
  for (const w of [computing(), readingLogs()]) void w.ask("ahead", null).catch(() => undefined);
}

let logs: WorkerClient | null = null;
/** The worker that reads logs and holds the one that is looked at; it may be busy for seconds. */
export const readingLogs = (): WorkerClient => (logs ??= openWorker());

/** The one of both that has less to do; the second is started only once the first has something to do, and left alone with what takes long. */
export function lessBusy(): WorkerClient {
  const [first, busy] = [computing(), computing().pending()];
  return busy === 0 || readingLogs().pending() >= busy ? first : readingLogs();
}
