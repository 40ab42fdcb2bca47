"use client";

import { compute } from "@/workers/compute";
import { Link } from "@/ui/link";
import { Fragment, useEffect } from "react";
import { characteristic, formatConditions } from "@/core/characteristics";
import { readingText, type ClaimReading, type Limit } from "@/core/claims";
import { capital, formatQuantity } from "@/core/quantities";
import type { JudgedFinding, ReadingVerdict } from "@/core/verdicts";
import { attempt } from "@/browser/notify";
import { Button } from "@/ui/button";
import { assumedInstruments } from "@/core/procedures/catalogue";
import { assumeOrdinaryMeters, boardDossier, runDossier, type BoardDossier } from "@/notebook";
import { useLive } from "@/storage";
import { commonSpan, IntervalFigure, type Span } from "@/ui/interval-figure";
import { Quiet, Section } from "@/ui/section";
import { VerdictMark, VerdictRemarks } from "@/ui/verdict-mark";
import { fairRun } from "@/core/verdicts/fair-run";
import { AlsoSaid } from "./also-said";
import { Disagreement } from "./disagreement";
import { FairRunOffer } from "./fair-run-offer";
import { WhatWouldSettle } from "./settling";

/** One verdict opened: the words and their source, the interval against the limit, why, and the readings behind it. */
export function VerdictPage({ boardId, claimId }: { boardId: string; claimId: string }) {
  const live = useLive(`verdict-${claimId}`, () => boardDossier(compute, boardId));
  const dossier = live.state === "ready" ? live.value : null;
  const claim = dossier?.claims.find((c) => c.id === claimId);
  const verdict = dossier?.verdicts.get(claimId);
  useEffect(() => {
    if (claim) document.title = `“${claim.source.wording}” · Nimbus Bench`;
  }, [claim]);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The verdict can&apos;t be worked out: {live.message}</Quiet>;
  if (!dossier || !claim || !verdict) return <Quiet>No such claim in this browser.</Quiet>;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="verdict"
        title={`“${claim.source.wording}”`}
        aside={
          <Link href={`/board/${boardId}#claims`} className="underline underline-offset-4">
            Board {dossier.board.title}
          </Link>
        }
      >
        <p className="mb-3 text-pencil">
          Claim for {dossier.board.title} in the {claim.source.kind}, dated {claim.source.date}.
        </p>
        <VerdictMark word={verdict.word} large />
        <VerdictRemarks v={verdict} />
        {verdict.word === "claim unclear" ? (
          <p className="mt-2 max-w-prose">
            The wording has {claim.readings.length} meanings with different verdicts. Each is judged below.
          </p>
        ) : null}
      </Section>
      {verdict.readings.map((r, i) => (
        <Section
          key={i}
          mark={verdict.readings.length > 1 ? `reading ${i + 1}` : "read as"}
          title={readingText(claim.readings[i] as (typeof claim.readings)[number])}
        >
          <ReadingDetail
            reading={r}
            said={claim.readings[i] as ClaimReading}
            dossier={dossier}
            single={verdict.readings.length === 1}
          />
        </Section>
      ))}
      <AlsoSaid dossier={dossier} claimId={claimId} />
    </div>
  );
}

function ReadingDetail({
  reading,
  said,
  dossier,
  single,
}: {
  reading: ReadingVerdict;
  said: ClaimReading;
  dossier: BoardDossier;
  single: boolean;
}) {
  // A run that would be fair says itself what to do otherwise, and a close call is worked through change by change.
  const unstated = [...new Set(reading.judged.filter((j) => j.finding.unstated?.length).map((j) => j.runId))];
  const span = commonSpan(
    reading.judged.flatMap((j) =>
      j.interval && j.limits && typeof j.finding.value === "number"
        ? [j.interval.low, j.interval.high, j.limits.low, j.limits.high, j.finding.value]
        : [],
    ),
  );
  const offered = fairRun(said, reading, dossier.samples, dossier.rules);
  return (
    <>
      {single ? null : (
        <p className="mb-2">
          <VerdictMark word={reading.word} />
          <VerdictRemarks
            v={{ simulated: reading.simulated, assumed: reading.assumed, disagree: reading.contradictions.length > 0 }}
          />
        </p>
      )}
      <p className="mb-2 text-sm text-pencil">
        {reading.samples === 0
          ? "No sample was measured."
          : `Judged from ${reading.samples} ${reading.samples === 1 ? "sample" : "samples"}; the worst decides.`}
        {reading.simulated ? " Simulated bench only: the verdict is about the simulated module." : ""}
      </p>
      <Disagreement reading={reading} dossier={dossier} />
      <ul className="mb-4 max-w-prose list-disc pl-5">
        {reading.why
          .filter((w) => !reading.contradictions.some((c) => c.text === w))
          .map((w) => (
            <li key={w}>{w}</li>
          ))}
      </ul>
      {reading.settle.length && !offered && reading.word !== "too close to call" ? (
        <>
          <h3 className="font-semibold">What would settle it</h3>
          <ul className="mb-4 max-w-prose list-disc pl-5">
            {reading.settle.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </>
      ) : null}
      {unstated.length ? (
        <Button
          className="mb-4"
          onClick={() =>
            void attempt(async () => {
              for (const id of unstated) await assumeOrdinaryMeters(compute, id);
            })
          }
        >
          Assume {assumedInstruments(characteristic(reading.characteristic)?.run ?? "")}
        </Button>
      ) : null}
      {offered && unstated.length === 0 ? <FairRunOffer run={offered} dossier={dossier} /> : null}
      {reading.judged.length ? <h3 className="mb-1 font-semibold">Measured against the limit</h3> : null}
      <ul className="space-y-4">
        {reading.judged.map((j) => (
          <Judged
            key={j.runId + formatConditions(j.finding.conditions)}
            j={j}
            limit={said.limit}
            span={span}
            dossier={dossier}
          />
        ))}
      </ul>
    </>
  );
}

/** Points named at most. */
const NAMED = 8;

/** The points behind a value, by the numbers that the table of their run has. */
function JudgedPoints({ runId, ids }: { readonly runId: string; readonly ids: readonly string[] }) {
  const live = useLive(
    `points-of-${runId}`,
    async () => (await runDossier(compute, runId))?.points.map((p) => p.id) ?? [],
  );
  if (live.state !== "ready") return null;
  const number = (id: string) => live.value.indexOf(id) + 1;
  return (
    <p className="text-sm">
      Readings:{" "}
      {ids.slice(0, NAMED).map((id, i) => (
        <Link
          key={id}
          href={`/run/${runId}/review#point-${encodeURIComponent(id)}`}
          className="mr-2 underline underline-offset-4"
        >
          {number(id) ? `point ${number(id)}` : `reading ${i + 1}`}
        </Link>
      ))}
      {ids.length > NAMED ? `and ${ids.length - NAMED} more` : ""}
    </p>
  );
}

/** The other runs that a result of the sample rests on. */
function Over({ over }: { readonly over: NonNullable<JudgedFinding["finding"]["over"]> }) {
  return (
    <>
      {over.map((o) => (
        <Fragment key={o.runId}>
          ,{" "}
          <Link href={`/run/${o.runId}/review`} className="underline underline-offset-4">
            {o.title}
          </Link>
        </Fragment>
      ))}
    </>
  );
}

function Judged({
  j,
  limit,
  span,
  dossier,
}: {
  readonly j: JudgedFinding;
  readonly limit: Limit;
  /** The common scale of the drawings. */ readonly span: Span;
  readonly dossier: BoardDossier;
}) {
  const unit = characteristic(j.finding.characteristic)?.unit ?? "";
  return (
    <li className="grid gap-x-6 gap-y-1 border-t border-rule pt-3 min-[760px]:grid-cols-[minmax(0,1fr)_27rem]">
      <div>
        <p className="font-medium">{capital(formatConditions(j.finding.conditions)) || "All conditions"}</p>
        <VerdictMark word={j.word} />
        <p className="text-sm">
          Sample {j.sampleName},{" "}
          <Link href={`/run/${j.runId}/review`} className="underline underline-offset-4">
            {j.runTitle}
          </Link>
          {j.finding.over ? <Over over={j.finding.over.filter((o) => o.runId !== j.runId)} /> : null}
        </p>
        {j.probability !== null && j.word !== "not fairly tested" ? (
          <p className="text-sm">
            Probability that it conforms:{" "}
            <span className="figures">
              {j.probability > 0.9995
                ? "> 99.9 %"
                : j.probability < 0.0005
                  ? "< 0.1 %"
                  : formatQuantity(j.probability, "1", { digits: 3 })}
            </span>
          </p>
        ) : null}
        {j.finding.points.length ? <JudgedPoints runId={j.runId} ids={j.finding.points} /> : null}
      </div>
      {j.interval && j.limits && typeof j.finding.value === "number" ? (
        <IntervalFigure
          word={j.word}
          unit={unit}
          interval={j.interval}
          limits={j.limits}
          value={j.finding.value}
          span={span}
        />
      ) : (
        <p className="figures">
          {typeof j.finding.value === "number" ? formatQuantity(j.finding.value, unit, { digits: 4 }) : j.finding.value}
        </p>
      )}
      {j.word === "too close to call" ? (
        <WhatWouldSettle j={j} limit={limit} unit={unit} rules={dossier.rules} notebookId={dossier.board.notebookId} />
      ) : null}
    </li>
  );
}
