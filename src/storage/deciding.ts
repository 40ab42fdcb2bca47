import type { RunRecord } from "@/core/files/records";
import { change, now } from "./door";
import { ofBoard } from "./queries";

const without = (r: RunRecord, name: string): RunRecord => {
  const { decides = [], ...rest } = r;
  const left = decides.filter((d) => d !== name);
  return { ...rest, ...(left.length ? { decides: left } : {}), updatedAt: now() };
};

/** Lets one run of a sample decide a quantity, whatever its newer runs found; a change that can be undone. */
export async function letDecide(run: RunRecord, characteristic: string): Promise<void> {
  const others = (await ofBoard(run.boardId, "run")).filter((r) => r.id !== run.id && r.sampleId === run.sampleId && r.decides?.includes(characteristic));
  await change(`let ${run.title} decide`, [{ ...run, decides: [...(run.decides ?? []).filter((d) => d !== characteristic), characteristic], updatedAt: now() }, ...others.map((r) => without(r, characteristic))]);
}

/** The newest fair run decides again. */
export const letNewestDecide = (run: RunRecord, characteristic: string): Promise<void> => change("let the newest run decide", [without(run, characteristic)]);

/** Sets a run aside with its reason; it judges no claim then. */
export const setRunAside = (run: RunRecord, why: string): Promise<void> => change(`set ${run.title} aside`, [{ ...run, setAside: why, updatedAt: now() }]);
