import { notebooks } from "@/storage";
import { manyApart } from "@/storage/pack-settled";
import { openWorker } from "@/workers/client";

/** Packs the settled runs of big notebooks, in a worker that is started only where there is something to do. Asked once a while, when nothing else is to be done. */
export async function packNotebooks(at: number): Promise<void> {
  for (const { id: notebookId } of await notebooks()) {
    if (!(await manyApart(notebookId))) continue;
    const worker = openWorker();
    try {
      let after: string | null = null;
      do after = await worker.ask("pack-settled", { notebookId, at, after });
      while (after !== null);
    } finally {
      worker.close();
    }
  }
}
