"use client";

import { format } from "date-fns";
import { compute } from "@/workers/compute";
import { Checkbox } from "@/ui/checkbox";
import { Link } from "@/ui/link";
import { useEffect, useState } from "react";
import type { IssuedRecord } from "@/core/files/records";
import { HOUSE_RULES, RULE_TEXTS } from "@/core/measurement";
import { download, fileName } from "@/browser/download";
import { boardDossier, type BoardDossier } from "@/notebook";
import { record, useLive, localDay } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { chartsAhead } from "@/ui/chart";
import { FlipList } from "@/ui/flip-list";
import { Quiet } from "@/ui/section";
import { movedSince } from "./moved-since";
import { Paper } from "./paper";

chartsAhead();

/** A findings sheet as it was given out, and what has moved since. */
export function IssuedPage({ boardId, id }: { readonly boardId: string; readonly id: string }) {
  const live = useLive(`issued-${id}`, async () => ({
    issued: await record("issued", id),
    dossier: await boardDossier(compute, boardId),
  }));
  const issued = live.state === "ready" ? live.value.issued : null;
  useEffect(() => {
    if (issued) document.title = `${issued.title}, issued ${localDay(issued.issuedAt)} · Nimbus Bench`;
  }, [issued]);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The board can&apos;t be loaded: {live.message}</Quiet>;
  if (!issued) return <Quiet>No such sheet in this browser.</Quiet>;
  return <Issued issued={issued} dossier={live.value.dossier} boardId={boardId} />;
}

function Issued({
  issued,
  dossier,
  boardId,
}: {
  readonly issued: IssuedRecord;
  readonly dossier: BoardDossier | null;
  readonly boardId: string;
}) {
  const [all, setAll] = useState(true);
  const moved = dossier ? movedSince(issued, dossier) : null;
  const { versions } = issued;
  const rules = RULE_TEXTS.filter(
    (t) => versions.rules[t.key] !== undefined && versions.rules[t.key] !== HOUSE_RULES[t.key],
  ).map((t) => `${t.label.toLowerCase()} ${versions.rules[t.key]} ${t.unit === "1" ? "" : t.unit}`.trim());
  const still = moved && moved.flips.length + moved.added + moved.gone + moved.runs + moved.fewer === 0;
  return (
    <>
      <div className="no-print mb-3 px-1 text-sm">
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <Link href={`/board/${boardId}/sheet`} className={buttonClass("bare")}>
            Current findings sheet
          </Link>
          <Checkbox checked={all} onChecked={setAll}>
            with wiring, charts, runs and meters
          </Checkbox>
          <span className="ml-auto flex gap-2">
            <Button
              onClick={() =>
                download(
                  fileName(`${issued.title} findings ${localDay(issued.issuedAt)}`, "md"),
                  issued.markdown,
                  "text/markdown",
                )
              }
            >
              Save as Markdown
            </Button>
            <Button look="main" onClick={() => window.print()}>
              Print
            </Button>
          </span>
        </div>
        <p>
          Issued {format(new Date(issued.issuedAt), "yyyy-MM-dd HH:mm")}
          {issued.note ? `, ${issued.note}` : ""}. Later results don&apos;t change it. Made by Nimbus Bench{" "}
          {versions.application}, records of version {versions.schema}, analyses{" "}
          {Object.entries(versions.analyses)
            .map(([p, v]) => `${p} ${v}`)
            .join(", ") || "none"}
          ; house rules {rules.length ? `that depart from the first ones in ${rules.join(", ")}` : "as they first were"}
          .
        </p>
        <div role="status" data-testid="moved" className="mt-1">
          {still ? (
            "Nothing has changed since."
          ) : moved ? (
            <>
              <p className="mb-1">
                Since then:{" "}
                {[
                  moved.runs ? `${moved.runs} more finished ${moved.runs === 1 ? "run" : "runs"}` : "",
                  moved.fewer ? `${moved.fewer} ${moved.fewer === 1 ? "run" : "runs"} no longer counted` : "",
                  moved.added ? `${moved.added} more ${moved.added === 1 ? "claim" : "claims"}` : "",
                  moved.gone ? `${moved.gone} ${moved.gone === 1 ? "claim" : "claims"} undone` : "",
                  moved.flips.length
                    ? `${moved.flips.length} other ${moved.flips.length === 1 ? "verdict" : "verdicts"}`
                    : "",
                ]
                  .filter(Boolean)
                  .join(", ")}
                .
              </p>
              {moved.flips.length ? <FlipList flips={moved.flips} /> : null}
            </>
          ) : null}
        </div>
      </div>
      <Paper
        sheet={issued.sheet}
        charts={issued.charts}
        wiring={issued.wiring}
        boardId={boardId}
        all={all}
        issued={`${localDay(issued.issuedAt)}${issued.note ? ` ${issued.note}` : ""}`}
      />
    </>
  );
}
