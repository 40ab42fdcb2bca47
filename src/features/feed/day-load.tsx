import { compute } from "@/workers/compute";
import { useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import { meanDraw } from "@/core/use/mean-draw";
import { useSession } from "@/browser/context";
import { ofKind, useLive } from "@/storage";
import { usableBoards } from "@/notebook/usable";
import { Select } from "@/ui/select";
import type { FeedFields } from "./stage-rows";

interface Offered {
  readonly key: string;
  readonly label: string;
  /** W at the battery, in the mean over the load's cycle. */
  readonly watts: number;
}

/** Every saved load on every board that can run it. */
async function offeredLoads(notebookId: string): Promise<readonly Offered[]> {
  const [loads, boards] = await Promise.all([ofKind(notebookId, "load"), usableBoards(compute, notebookId)]);
  return loads.flatMap((load) =>
    boards.flatMap(({ board, modules }) => {
      const watts = modules[0] ? meanDraw(modules[0], load) : null;
      return watts === null ? [] : [{ key: `${load.id} ${board.id}`, label: `${load.title} on ${board.title}`, watts }];
    }),
  );
}

/** Fills in what a saved load takes from the battery in the mean, through a board of the notebook. */
export function DayLoad({ form: { setValue } }: { readonly form: UseFormReturn<FeedFields> }) {
  const { notebook } = useSession();
  const [key, setKey] = useState("");
  const live = useLive(`day-loads-${notebook.id}`, () => offeredLoads(notebook.id));
  const offered = live.state === "ready" ? live.value : [];
  if (offered.length === 0) return null;
  const choose = (next: string) => {
    setKey(next);
    const watts = offered.find((o) => o.key === next)?.watts;
    if (watts !== undefined) setValue("plan.day.load", Number(watts.toPrecision(3)));
  };
  return (
    <div className="mb-3">
      <Select
        label="Load"
        value={key}
        onValue={choose}
        choices={[{ value: "", label: "value typed below" }, ...offered.map((o) => ({ value: o.key, label: o.label }))]}
      />
    </div>
  );
}
