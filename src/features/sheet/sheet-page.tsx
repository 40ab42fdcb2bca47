"use client";

import { Checkbox } from "@/ui/checkbox";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { SCHEMA_VERSION, type IssuedRecord } from "@/core/files/records";
import { procedureVersion } from "@/core/procedures/catalogue";
import { sheetMarkdown } from "@/core/sheet";
import { attempt } from "@/browser/notify";
import { download, fileName } from "@/browser/download";
import { change, newId, now, ofBoard, useLive, localDay, localZone } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { chartsAhead } from "@/ui/chart";
import { Dialog } from "@/ui/dialog";
import { Quiet } from "@/ui/section";
import { loadSheet, type Loaded } from "./load";
import { Paper } from "./paper";

chartsAhead();

/** A board's findings on paper: what it is, what was claimed, measured and judged, and what follows. */
export function SheetPage({ id }: { readonly id: string }) {
  const live = useLive(`sheet-${id}`, () => loadSheet(id));
  const title = live.state === "ready" ? live.value?.paper.sheet.title : undefined;
  useEffect(() => {
    if (title) document.title = `${title}, findings · Nimbus Bench`;
  }, [title]);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The findings sheet can&apos;t be made: {live.message}</Quiet>;
  if (!live.value) return <Quiet>No such board in this browser.</Quiet>;
  return <Sheet {...live.value} />;
}

function Sheet({ dossier, paper }: Loaded) {
  const { board } = dossier;
  const { sheet } = paper;
  const [all, setAll] = useState(true);
  const [issuing, setIssuing] = useState(false);
  const issued = useLive(
    `issued-${board.id}`,
    async () => (await ofBoard(board.id, "issued")).reverse(),
    (n) => n.kinds.includes("issued"),
  );
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-center gap-3 px-1 text-sm">
        <Link href={`/board/${board.id}`} className={buttonClass("bare")}>
          Back to board
        </Link>
        <Checkbox checked={all} onChecked={setAll}>
          with wiring, charts, runs and meters
        </Checkbox>
        {issued.state === "ready" && issued.value.length ? (
          <span className="flex flex-wrap gap-x-3">
            Issued:
            {issued.value.slice(0, 4).map((i) => (
              <Link key={i.id} href={`/board/${board.id}/sheet/${i.id}`} className="underline underline-offset-4">
                {localDay(i.issuedAt)}
                {i.note ? `, ${i.note}` : ""}
              </Link>
            ))}
          </span>
        ) : null}
        <span className="ml-auto flex gap-2">
          <Button onClick={() => setIssuing(true)}>Issue sheet</Button>
          <Button
            onClick={() =>
              download(fileName(`${sheet.title} findings`, "md"), sheetMarkdown(sheet, localZone()), "text/markdown")
            }
          >
            Save as Markdown
          </Button>
          <Button look="main" onClick={() => window.print()}>
            Print
          </Button>
        </span>
      </div>
      <Paper {...paper} boardId={board.id} all={all} />
      {issuing ? <IssueDialog dossier={dossier} paper={paper} onClose={() => setIssuing(false)} /> : null}
    </>
  );
}

/** Freezes the sheet as it stands: what is found later changes the next one, not this. */
function IssueDialog({ dossier, paper, onClose }: Loaded & { onClose(): void }) {
  const router = useRouter();
  const { control, handleSubmit } = useForm({ defaultValues: { note: "" } });
  const save = handleSubmit(({ note }) =>
    attempt(async () => {
      const { board, rules, runs } = dossier;
      const at = now();
      const record: IssuedRecord = {
        kind: "issued",
        id: newId(),
        notebookId: board.notebookId,
        createdAt: at,
        updatedAt: at,
        boardId: board.id,
        title: paper.sheet.title,
        issuedAt: at,
        note: note.trim(),
        ...paper,
        markdown: sheetMarkdown(paper.sheet, localZone()),
        versions: {
          application: process.env.NIMBUS_VERSION ?? "unknown",
          schema: SCHEMA_VERSION,
          analyses: Object.fromEntries(runs.map((r) => [r.procedure, procedureVersion(r.procedure)])),
          rules,
        },
      };
      await change(`issue the sheet of ${board.title}`, [record]);
      router.push(`/board/${board.id}/sheet/${record.id}`);
    }),
  );
  return (
    <Dialog
      title="Issue findings sheet"
      about="Saves a copy with its versions. Later results don't change it."
      onClose={onClose}
    >
      <Form onSubmit={save}>
        <FormText control={control} name="note" label="For whom, or what for (optional)" autoFocus wide />
        <Button look="main" type="submit">
          Issue sheet
        </Button>
      </Form>
    </Dialog>
  );
}
