import { runDossier } from "@/notebook";
import { NO_RESULTS, type Compute } from "@/notebook/compute";
import { workedOut } from "@/notebook/board-work";
import { HERE } from "@/notebook/here";

/** Everything worked out here, but what `other` does in its own way; runs of points as it does all runs. */
export const computedBy = (other: Partial<Compute>): Compute => {
  const { results } = { ...HERE, ...other };
  const compute: Compute = {
    ...HERE,
    ofBoard: (what, boardId, ask) => workedOut(compute, what, boardId, ask),
    stored: async (run) => {
      const d = await runDossier(HERE, run.id);
      return d ? results(d) : NO_RESULTS;
    },
    ...other,
  };
  return compute;
};
