"use client";

import { useRouter, useSearchParams } from "next/navigation";
import { useCallback, useEffect, useMemo, useState } from "react";
import { characteristic } from "@/core/characteristics";
import { FIRST_PROCEDURES } from "@/core/compare";
import type { NeedRecord, NotebookId } from "@/core/files/records";
import { useSession } from "@/browser/context";
import { ofKind, useLive } from "@/storage";
import { Quiet } from "@/ui/section";
import { Tabs } from "@/ui/tabs";
import { workersIfLikely } from "@/workers/likely";
import { ClaimsView } from "./claims-view";
import { FiguresView } from "./figures-view";
import { ALL, Filters, type Shown } from "./filters";
import { QuantitiesView } from "./quantities-view";
import { useColumns, type Columns } from "./use-columns";

workersIfLikely("comparison", "not kept");

const VIEWS = ["claims", "quantities", "figures"] as const;
type View = (typeof VIEWS)[number];

/** Boards compared, in three views of the same numbers: claims against what was measured, each quantity on its axis, and the figures. */
export function ComparePage() {
  const { notebook } = useSession();
  // In the figures the first rows come first; the other views show whole boards.
  const [view] = useView();
  const columnState = useColumns(notebook.id, view === "figures" ? FIRST_PROCEDURES : null);
  useEffect(() => {
    document.title = "Comparison · Nimbus Bench";
  }, []);
  if (columnState === null) return <Quiet>Loading …</Quiet>;
  if (!("boards" in columnState)) return <Quiet>The boards can&apos;t be compared: {columnState.failed}</Quiet>;
  return <Comparison {...columnState} notebookId={notebook.id} />;
}

/** Quantities that a need asks for. */
const askedBy = (n: NeedRecord): ReadonlySet<string> =>
  new Set(
    n.requirements.flatMap((r) =>
      r.kind === "quantity" ? [r.reading.characteristic] : r.kind === "life" ? ["standby.current", "standby.life"] : [],
    ),
  );

/** The view is in the address, so that it can be kept and sent on. */
function useView(): readonly [View, (v: View) => void] {
  const router = useRouter();
  const asked = useSearchParams().get("view");
  return [VIEWS.find((v) => v === asked) ?? "claims", (v) => router.replace(`/compare?view=${v}`, { scroll: false })];
}

function Comparison({ boards: all, columns, notebookId, ...coming }: Columns & { readonly notebookId: NotebookId }) {
  const [view, setView] = useView();
  const [shown, setShown] = useState<Shown>(ALL);
  const needs = useLive(
    `compare-needs-${notebookId}`,
    () => ofKind(notebookId, "need"),
    (n) => n.kinds.includes("need"),
  );
  const boards = useMemo(
    () => all.filter((b) => shown.family === "any" || b.functions.includes(shown.family)),
    [all, shown.family],
  );
  const list = useMemo(() => (needs.state === "ready" ? needs.value : []), [needs]);
  const need = list.find((n) => n.id === shown.need);
  const asked = useMemo(() => (need ? askedBy(need) : null), [need]);
  const keep = useCallback(
    (name: string) =>
      (shown.family === "any" || characteristic(name)?.of === shown.family) && (!asked || asked.has(name)),
    [shown.family, asked],
  );
  const claimed = useMemo(
    () => boards.filter((b) => !shown.measured || (columns.get(b.id)?.measured.some((m) => m > 0) ?? false)),
    [boards, columns, shown.measured],
  );
  const waiting = boards.filter((b) => !columns.has(b.id) && !coming.failed.has(b.id)).length;
  const props = { boards: claimed, columns, keep, picked: shown.reference === "none" ? null : shown.reference };
  return (
    <div className="border border-rule bg-sheet">
      <div className="flex flex-wrap items-baseline gap-x-4 px-4 pt-2">
        <h1 className="text-xl font-semibold">Comparison</h1>
        <span className="text-sm text-pencil" role="status">
          {claimed.length} {claimed.length === 1 ? "board" : "boards"}
          {waiting > 0 ? `, ${waiting} being worked out` : ""}
        </span>
      </div>
      {all.length === 0 ? (
        <p className="p-6 text-pencil">Nothing to compare yet. Add boards with claims or measurements.</p>
      ) : (
        <Tabs
          label="Views"
          value={view}
          onValue={setView}
          aside={<Filters shown={shown} onShown={setShown} needs={list} boards={boards} />}
          tabs={[
            { value: "claims", label: "Claims", content: <ClaimsView {...props} measuredOnly={shown.measured} /> },
            { value: "quantities", label: "Quantities", content: <QuantitiesView {...props} /> },
            {
              value: "figures",
              label: "Figures",
              content: <FiguresView {...props} {...coming} measuredOnly={shown.measured} />,
            },
          ]}
        />
      )}
    </div>
  );
}
