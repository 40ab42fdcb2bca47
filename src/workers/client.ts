import { writtenDigits } from "@/core/quantities/format";
import type { FromWorker, ManyBoards, TaskName, Tasks, ToWorker } from "./protocol";

interface Waiting {
  readonly message: ToWorker;
  resolve(value: unknown): void;
  reject(reason: Error): void;
  progress?(share: number): void;
  /** It was under way when its worker died: a second time is the last. */
  tried: boolean;
}

export interface WorkerClient {
  ask<K extends TaskName>(
    task: K,
    ask: Tasks[K]["ask"],
    signal?: AbortSignal,
    progress?: (share: number) => void,
  ): Promise<Tasks[K]["give"]>;
  /** How many asks wait for an answer; without end while one of them tells its progress, as that may take long and be cancelled. */
  pending(): number;
  close(): void;
}

/** ms without a word from a worker that has something to do, after which what it works on is given up; longer for what tells its progress. */
export const PATIENCE = { usual: 60_000, long: 600_000 } as const;

/** What can't be asked anew of another worker, since it was half done or rests on what this one held. */
const ONCE: ReadonlySet<TaskName> = new Set<TaskName>([
  "log-import",
  "archive-new",
  "archive-contents",
  "bench-open",
  "bench-exchange",
  "bench-pace",
]);

/**
 * A worker of one's own. An ask fails alone: where it is cancelled, takes too long, or its worker dies under it twice, the worker is
 * ended, since a computation can't be interrupted otherwise, and whatever else waits is asked of a new one. `judges` says that it will
 * judge boards, so that what that takes is fetched with it.
 */
// eslint-disable-next-line max-lines-per-function -- a closure over one worker and what waits for it: taken apart, its parts would hand all of it to each other
export function openWorker(judges = false): WorkerClient {
  let worker: Worker | null = null;
  let next = 1;
  let watchdog: ReturnType<typeof setTimeout> | null = null;
  const waiting = new Map<number, Waiting>();
  /** After a crash asks go one by one, so that the one that kills the worker is known. */
  let careful = false;
  const watch = () => {
    if (watchdog) clearTimeout(watchdog);
    watchdog = null;
    const [first] = waiting.values();
    if (!first) return;
    const long = [...waiting.values()].some((w) => w.progress);
    watchdog = setTimeout(
      () =>
        drop(
          first.message.id,
          `A computation in the background took longer than ${(long ? PATIENCE.long : PATIENCE.usual) / 60_000} min and was stopped. Nothing was changed.`,
        ),
      long ? PATIENCE.long : PATIENCE.usual,
    );
  };
  const end = () => {
    worker?.terminate();
    worker = null;
  };
  /** Asks a new worker for all that still waits; what can't be asked twice fails. */
  const again = () => {
    for (const [id, w] of waiting)
      if (ONCE.has(w.message.task)) {
        waiting.delete(id);
        w.reject(new Error("It was stopped together with another computation. Nothing of it is stored. Try again."));
      }
    post();
  };
  const post = () => {
    const [first] = waiting.values();
    if (first) {
      worker ??= start();
      for (const w of careful ? [first] : waiting.values()) worker.postMessage(w.message);
    }
    watch();
  };
  /** Gives one ask up, and the worker with it; the others go on. */
  const drop = (id: number, why: string) => {
    const w = waiting.get(id);
    if (!w) return;
    waiting.delete(id);
    end();
    w.reject(new Error(why));
    again();
  };
  const crashed = (what: string) => {
    end();
    const under = careful ? [...waiting.values()].slice(0, 1) : [...waiting.values()];
    for (const w of under) {
      if (!w.tried && !ONCE.has(w.message.task)) {
        w.tried = true;
        continue;
      }
      // Known for certain only where it was alone.
      if (careful || ONCE.has(w.message.task)) {
        waiting.delete(w.message.id);
        w.reject(
          new Error(
            `A computation in the background stopped${w.tried ? " twice" : ""} (${what || "its code could not be loaded"}). What is stored is safe; reload the page and try again.`,
          ),
        );
      }
    }
    careful = waiting.size > 0;
    again();
  };
  const start = (): Worker => {
    const w = judges
      ? new Worker(new URL("./judging.worker.ts", import.meta.url), { type: "module" })
      : new Worker(new URL("./entry.worker.ts", import.meta.url), { type: "module" });
    w.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      const entry = waiting.get(data.id);
      if ("progress" in data) {
        watch();
        entry?.progress?.(data.progress);
        return;
      }
      waiting.delete(data.id);
      if (careful) {
        careful = waiting.size > 0;
        post();
      } else watch();
      if (data.ok) entry?.resolve(data.give);
      else entry?.reject(new Error(data.error));
    };
    w.onerror = (e) => {
      e.preventDefault?.();
      crashed(e.message);
    };
    return w;
  };
  return {
    ask<K extends TaskName>(task: K, ask: Tasks[K]["ask"], signal?: AbortSignal, progress?: (share: number) => void) {
      return new Promise<Tasks[K]["give"]>((resolve, reject) => {
        if (signal?.aborted) {
          reject(new Error("Cancelled."));
          return;
        }
        const id = next++;
        const message = { id, task, ask, digits: writtenDigits() } as ToWorker;
        waiting.set(id, {
          message,
          resolve: (v) => resolve(v as Tasks[K]["give"]),
          reject,
          tried: false,
          ...(progress ? { progress } : {}),
        });
        signal?.addEventListener("abort", () => drop(id, "Cancelled."), { once: true });
        worker ??= start();
        if (!careful || waiting.size === 1) worker.postMessage(message);
        if (waiting.size === 1) watch();
      });
    },
    pending: () => ([...waiting.values()].some((w) => w.progress) ? Infinity : waiting.size),
    close: () => {
      end();
      if (watchdog) clearTimeout(watchdog);
      for (const w of waiting.values()) w.reject(new Error("Closed."));
      waiting.clear();
    },
  };
}

let shared: WorkerClient | null = null;
/** One worker for short computations, started when first asked. */
export const computing = (): WorkerClient => (shared ??= openWorker(warmed));

let warmed = false;
/** Starts both shared workers once and has them load what judging takes, and what `page` works out first: said by a page that is about to work out many runs. */
export function workersAhead(page: ManyBoards | null = null): void {
  if (warmed) return;
  warmed = true;
  for (const w of [computing(), readingLogs()]) void w.ask("ahead", page).catch(() => undefined);
}

let logs: WorkerClient | null = null;
/** The worker that reads logs and holds the one that is looked at; it may be busy for seconds. */
export const readingLogs = (): WorkerClient => (logs ??= openWorker(warmed));

/** Has what both workers worked out written where either finds it. */
export async function workersSettled(): Promise<void> {
  const there = [shared, logs].flatMap((w) => (w ? [w.ask("settle", null)] : []));
  await Promise.all(there.map((w) => w.catch(() => undefined)));
}

let background = 0;
/**
 * Says that what is worked out from now on is in no hurry: one worker does it, and the other is ended where it has nothing to do, since
 * each holds some eighty megabytes. The answer says that it is over.
 */
export function workingInBackground(): () => void {
  background++;
  if (logs?.pending() === 0) {
    const idle = logs;
    logs = null;
    void idle
      .ask("settle", null)
      .catch(() => undefined)
      .then(() => idle.close());
  }
  let over = false;
  return () => {
    if (!over) background--;
    over = true;
  };
}

/** The one of both that has less to do; the second is started only once the first has something to do, and left alone with what takes long. */
export function lessBusy(): WorkerClient {
  const [first, busy] = [computing(), computing().pending()];
  return background > 0 || busy === 0 || readingLogs().pending() >= busy ? first : readingLogs();
}
