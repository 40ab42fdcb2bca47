import { useMemo, useState } from "react";
import {
  rank,
  requirementText,
  ways,
  type Candidate,
  type Need,
  type Outcome,
  type Ranked,
  type Requirement,
  type Way,
} from "@/core/need";
import type { NeedRecord } from "@/core/files/records";
import type { HouseRules } from "@/core/measurement";
import type { WeighedBoard } from "@/notebook";
import { useLive } from "@/storage";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Link } from "@/ui/link";
import { OutcomeMark, OUTCOME_BASIS } from "@/ui/outcome-mark";
import { Quiet, Section } from "@/ui/section";
import { Tip, Why } from "@/ui/why";

/** Places that are shown at once: nobody reads three hundred columns. */
const PLACES = 24;

export interface RankingProps {
  readonly need: Need & Pick<NeedRecord, "id">;
  readonly rules: HouseRules;
  readonly boards: readonly WeighedBoard[];
  /** Boards with all that is known of them. */
  candidates(boardIds: readonly string[]): Promise<readonly Candidate[]>;
}

/** Which board serves a need and why, and what else could be done. */
export function Ranking({ need, rules, boards, candidates }: RankingProps) {
  const ranked = useMemo(
    () =>
      rank(
        need,
        boards.map((b) => ({ ...b, outcomes: b.outcomes.get(need.id) ?? [] })),
      ),
    [need, boards],
  );
  const [opened, setOpened] = useState<string | null>(null);
  const first = ranked.find((r) => r.boardId === opened) ?? ranked[0];
  const [all, setAll] = useState(false);
  if (ranked.length === 0)
    return (
      <Section mark="order" title="Ranking">
        No boards yet.
      </Section>
    );
  const columns: readonly DataColumn<Requirement>[] = [
    {
      id: "requirement",
      head: "Requirement",
      names: true,
      className: "min-w-44",
      content: (q) => (
        <>
          <span className={q.level === "must" ? "font-semibold" : "text-pencil"}>{q.level}</span>{" "}
          {requirementText(q, need.currency)}
        </>
      ),
    },
    ...(all ? ranked : ranked.slice(0, PLACES)).map((r) => ({
      id: r.boardId,
      head: r.title,
      heading: <RankedHead r={r} pressed={first?.boardId === r.boardId} onOpen={() => setOpened(r.boardId)} />,
      className: "min-w-28",
      content: (q: Requirement) => {
        const o = r.outcomes.find((x) => x.requirementId === q.id);
        return o ? <OutcomeCell o={o} boardId={r.boardId} /> : null;
      },
    })),
  ];
  return (
    <>
      <Section
        mark="order"
        title="Ranking"
        aside={
          <Why of="this order">
            Measured values from fair runs decide. Where there are none, claims are used and marked. Must-haves come
            before should-haves.
          </Why>
        }
      >
        <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Boards ranked against every requirement">
          <DataTable rows={need.requirements} columns={columns} id={(q) => q.id} />
        </div>
        {ranked.length > PLACES && !all ? (
          <Button className="no-print mt-2" onClick={() => setAll(true)}>
            Show all {ranked.length} boards
          </Button>
        ) : null}
        <p className="mt-2 text-sm text-pencil">
          {OUTCOME_BASIS.measured} {OUTCOME_BASIS.claimed} {OUTCOME_BASIS["entered"]} Select a name for its reasons.
        </p>
      </Section>
      {first ? <Reasons key={first.boardId} r={first} need={need} rules={rules} candidates={candidates} /> : null}
    </>
  );
}

function RankedHead({ r, pressed, onOpen }: { readonly r: Ranked; readonly pressed: boolean; onOpen(): void }) {
  return (
    <>
      <span className="figures block text-lg font-semibold leading-tight text-ink">{r.place}</span>
      <button
        type="button"
        onClick={onOpen}
        aria-pressed={pressed}
        className="text-left font-semibold text-ink underline decoration-pencil/60 underline-offset-4 aria-pressed:decoration-2 aria-pressed:decoration-margin"
      >
        {r.title}
      </button>
    </>
  );
}

function OutcomeCell({ o, boardId }: { readonly o: Outcome; readonly boardId: string }) {
  const href =
    o.basis === "claimed" && o.claimId
      ? `/board/${boardId}/claim/${o.claimId}`
      : o.runId
        ? `/run/${o.runId}/review`
        : null;
  const mark = <OutcomeMark word={o.word} basis={o.basis} />;
  return href ? (
    <Tip text={o.why}>
      <Link href={href} className="hover:underline">
        {mark}
      </Link>
    </Tip>
  ) : (
    <Tip text={o.why}>
      <span>{mark}</span>
    </Tip>
  );
}

interface ReasonsProps extends Pick<RankingProps, "need" | "rules" | "candidates"> {
  readonly r: Ranked;
}

function Reasons({ r, need, rules, candidates }: ReasonsProps) {
  return (
    <>
      <Section
        mark={`place ${r.place}`}
        title={`Why ${r.title} ranks there`}
        aside={
          <Link href={`/board/${r.boardId}/sheet`} className="underline underline-offset-4">
            Findings sheet
          </Link>
        }
      >
        <ul className="mb-3 max-w-prose list-disc pl-5">
          {r.reasons.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
        <ul className="divide-y divide-rule border-y border-rule">
          {need.requirements.map((q) => {
            const o = r.outcomes.find((x) => x.requirementId === q.id);
            return o ? (
              <li key={q.id} className="grid gap-x-4 py-1.5 text-sm min-[700px]:grid-cols-[9rem_minmax(0,1fr)]">
                <OutcomeCell o={o} boardId={r.boardId} />
                <span>
                  <span className="text-pencil">{requirementText(q, need.currency)}.</span> {o.why}
                </span>
              </li>
            ) : null;
          })}
        </ul>
      </Section>
      <Section mark="ways" title="Buy, modify or build">
        <Ways r={r} need={need} rules={rules} candidates={candidates} />
      </Section>
    </>
  );
}

/** What could be done with a board: that rests on all that is known of it, and of what could be added to it or built instead. */
function Ways({ r, need, rules, candidates }: ReasonsProps) {
  const ids = [...new Set([r.boardId, need.addedBoard?.boardId, need.build?.boardId].filter((x) => x !== undefined))];
  const live = useLive(`ways-${ids.join()}`, () => candidates(ids));
  const found = live.state === "ready" ? live.value : null;
  const all = useMemo(() => {
    const own = found?.find((c) => c.boardId === r.boardId);
    return own ? ways(need, own, r, rules, found ?? []) : [];
  }, [need, r, rules, found]);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>What could be done can&apos;t be worked out: {live.message}</Quiet>;
  return (
    <>
      <DataTable rows={all} columns={wayColumns(r, need, all.length === 1)} id={(w) => w.kind} />
      <p className="mt-2 text-sm text-pencil">{OUTCOME_BASIS.changed}</p>
    </>
  );
}

const wayColumns = (r: Ranked, need: Need, alone: boolean): readonly DataColumn<Way>[] => [
  {
    id: "way",
    head: "Way",
    names: true,
    content: (w) => (
      <>
        <span className="font-semibold">{w.kind}</span> {w.title}
      </>
    ),
  },
  { id: "must", head: "Must have", content: (w) => tallyText(w.must) },
  { id: "should", head: "Should have", content: (w) => tallyText(w.should) },
  {
    id: "price",
    head: "Price",
    figures: true,
    by: (w) => w.price ?? undefined,
    content: (w) => (w.price === null ? "not known" : `${need.currency}${w.price.toFixed(2)}`),
  },
  {
    id: "takes",
    head: "What it takes and changes",
    content: (w) => <WayChanges w={w} r={r} need={need} alone={alone} />,
  },
];

function WayChanges({
  w,
  r,
  need,
  alone,
}: {
  readonly w: Way;
  readonly r: Ranked;
  readonly need: Need;
  readonly alone: boolean;
}) {
  const changed =
    w.kind === "modify"
      ? w.outcomes.filter((o) => r.outcomes.find((x) => x.requirementId === o.requirementId)?.word !== o.word)
      : [];
  return (
    <>
      {w.takes.map((t) => (
        <p key={t}>{t}</p>
      ))}
      {changed.length ? (
        <ul>
          {changed.map((o) => (
            <li key={o.requirementId} className="flex flex-wrap gap-x-2">
              <OutcomeMark word={o.word} basis={o.basis} />{" "}
              <span className="text-pencil">
                {requirementText(need.requirements.find((q) => q.id === o.requirementId) as Requirement, need.currency)}
              </span>
              <span className="basis-full">{o.why}</span>
            </li>
          ))}
        </ul>
      ) : null}
      {w.kind === "buy" && alone ? (
        <p className="text-pencil">The need lists nothing that could be added, or nothing is missing.</p>
      ) : null}
    </>
  );
}

const tallyText = (t: Way["must"]): string => {
  if (t.of === 0) return "none";
  const parts = [
    t.met ? `${t.met} met` : "",
    t.claimed ? `${t.claimed} claimed` : "",
    t.unsure ? `${t.unsure} unsure` : "",
    t.missed ? `${t.missed} missed` : "",
  ].filter(Boolean);
  return parts.join(", ");
};
