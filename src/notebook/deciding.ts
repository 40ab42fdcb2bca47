import type { RunRecord } from "@/core/files/records";
import { change, edit, type Act } from "@/storage/door";
import { ofBoard } from "@/storage/queries";

const without = (r: RunRecord, name: string): RunRecord => {
  const { decides = [], ...rest } = r;
  const left = decides.filter((d) => d !== name);
  return { ...rest, ...(left.length ? { decides: left } : {}) };
};

/** Lets one run of a sample decide a quantity, whatever its newer runs found; a change that can be undone. */
export async function letDecide(run: RunRecord, characteristic: string): Promise<void> {
  const others = (await ofBoard(run.boardId, "run")).filter(
    (r) => r.id !== run.id && r.sampleId === run.sampleId && r.decides?.includes(characteristic),
  );
  await change(`let ${run.title} decide`, [
    edit(run, { ...run, decides: [...(run.decides ?? []).filter((d) => d !== characteristic), characteristic] }),
    ...others.map((r) => edit(r, without(r, characteristic))),
  ]);
}

/** The newest fair run decides again. */
export const letNewestDecide = (run: RunRecord, characteristic: string): Promise<Act | null> =>
  change("let the newest run decide", [edit(run, without(run, characteristic))]);

/** Sets a run aside with its reason; it judges no claim then. */
export const setRunAside = (run: RunRecord, why: string): Promise<Act | null> =>
  change(`set ${run.title} aside`, [edit(run, { ...run, setAside: why })]);
