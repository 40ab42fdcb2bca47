import type { FromWorker, TaskName, ToWorker } from "./protocol";
import { writeUncertaintiesTo } from "@/core/quantities/format";
import { STORAGE_FULL } from "@/storage/full";
import { TASKS } from "./tasks";

const scope = self as unknown as {
  onmessage: ((e: MessageEvent<ToWorker>) => void) | null;
  postMessage(m: FromWorker): void;
};

/** Answers what this worker is asked, each ask for itself; `_ahead` is what it has loaded for that beforehand. */
export function serve(_ahead: readonly unknown[] = []): void {
  void _ahead;
  scope.onmessage = async ({ data }) => {
    try {
      writeUncertaintiesTo(data.digits);
      const run = TASKS[data.task] as (ask: unknown, progress: (share: number) => void) => Promise<unknown>;
      scope.postMessage({
        id: data.id,
        ok: true,
        give: await run(data.ask, (progress) => scope.postMessage({ id: data.id, progress })),
      });
    } catch (e) {
      const { name, message } = e as Error;
      scope.postMessage({
        id: data.id,
        ok: false,
        error: name === "QuotaExceededError" ? STORAGE_FULL : `${data.task satisfies TaskName}: ${message || name}`,
      });
    }
  };
}
