"use client";

import { useEffect } from "react";
import { differences, nameOf } from "@/core/files/differences";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { openConflicts, settleConflict, undoAct, useLive, type OpenConflict } from "@/storage";
import { Button } from "@/ui/button";
import { Link } from "@/ui/link";
import { Quiet, Section } from "@/ui/section";
import { TwoVersions } from "@/ui/two-versions";

/** Records that were changed here and in an archive: both versions side by side, to choose from. */
export function ConflictsPage() {
  const { notebook } = useSession();
  const live = useLive(`conflicts-${notebook.id}`, () => openConflicts(notebook.id));
  useEffect(() => {
    document.title = "Changed on both sides · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The conflicts can&apos;t be loaded: {live.message}</Quiet>;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="merge"
        title="Changed on both sides"
        aside={
          <Link href="/" className="underline underline-offset-4">
            Notebook
          </Link>
        }
      >
        <p className="max-w-prose text-pencil">
          {live.value.length
            ? "These records were changed in this notebook and in an imported archive. This notebook's version is in use until you choose."
            : "No conflicts."}
        </p>
      </Section>
      {live.value.map((c) => (
        <Conflict key={c.conflict.id} c={c} />
      ))}
    </div>
  );
}

function Conflict({ c }: { readonly c: OpenConflict }) {
  const { conflict, ours } = c;
  const shown = ours ?? conflict.theirs;
  const rows = ours ? differences(ours, conflict.theirs) : [{ field: "Record", ours: "deleted", theirs: "there" }];
  const settle = (choice: "ours" | "theirs") =>
    void attempt(async () => {
      const act = await settleConflict(c, choice);
      await notifyUndoable(
        `${nameOf(shown)}: ${choice === "ours" ? "this notebook's version is kept" : "the archive's version is in use"}.`,
        act && (() => undoAct(act)),
      );
    });
  return (
    <Section title={nameOf(shown)}>
      <p className="mb-2 text-sm text-pencil">Archive: {conflict.archive}</p>
      <TwoVersions
        heads={["This notebook", "Archive"]}
        rows={rows.map((r) => ({ key: r.field, field: r.field, first: r.ours, second: r.theirs }))}
      />
      <div className="flex flex-wrap gap-3">
        <Button onClick={() => settle("ours")} aria-label={`Keep this notebook's version: ${nameOf(shown)}`}>
          Keep this notebook&apos;s version
        </Button>
        <Button onClick={() => settle("theirs")} aria-label={`Use the archive's version: ${nameOf(shown)}`}>
          Use the archive&apos;s version
        </Button>
      </div>
    </Section>
  );
}
