"use client";

import { compute } from "@/workers/compute";
import { ConfirmDialog } from "@/ui/confirm-dialog";
import type { StoredRecord } from "@/core/files/records";
import { useRouter } from "next/navigation";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Link } from "@/ui/link";
import { useEffect, useMemo, useState } from "react";
import { CHEMISTRY_LIMITS, gradeText, sinceCharge, storageAdvice } from "@/core/cells";
import { procedure } from "@/core/procedures";
import type { ChartSpec, HouseRules } from "@/core/measurement";
import { capital, formatDuration, formatQuantity, lowest, numeric } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { attempt, notifyUndoable } from "@/browser/notify";
import { drawer, keepCell, rejectCell, type DrawerCell } from "@/notebook";
import { remove, useLive, undoAct } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { CellDialog } from "@/ui/cell-dialog";
import { Chart, chartsAhead } from "@/ui/chart";
import { CodeSquare } from "@/ui/code-square";
import { ReasonDialog } from "@/ui/reason-dialog";
import { Quiet, Section } from "@/ui/section";
import { ReadCells } from "./read-cells";
import { dayOf, facts, rateText, STATE_SIGN, STATE_TONE } from "./words";

chartsAhead();
const DAY = 86_400_000;
const DAY_SECONDS = 86_400;
const q = formatQuantity;

/** One cell: what it is, what state it is in and why, all that was read of it and all that it took part in. */
export function CellPage({ id }: { readonly id: string }) {
  const { notebook } = useSession();
  const live = useLive(`cell-${id}`, async () => {
    const d = await drawer(compute, notebook.id);
    const own = d.cells.find((c) => c.cell.id === id);
    return own ? { cell: own, rules: d.rules } : null;
  });
  const title = live.state === "ready" ? live.value?.cell.cell.title : undefined;
  useEffect(() => {
    if (title) document.title = `${title} · Nimbus Bench`;
  }, [title]);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The cell can&apos;t be loaded: {live.message}</Quiet>;
  if (!live.value)
    return (
      <Quiet>No such cell in this notebook. It may have been deleted, or its label is from another notebook.</Quiet>
    );
  return <Shown c={live.value.cell} rules={live.value.rules} />;
}

/** Rest volts since the last charge, with the line through those that count. */
function restChart(c: DrawerCell): ChartSpec | null {
  const { drop } = c.triage;
  // As the triage sees it: a run with the cell ends its rest.
  const ended = lowest(
    c.runs
      .map(({ run }) => Date.parse(run.startUtc))
      .filter((at) => at > Date.parse([...c.readings].reverse().find((r) => r.charged)?.takenAt ?? "")),
  );
  const since = sinceCharge(c.readings).filter((r) => Date.parse(r.takenAt) < ended);
  const first = since[0];
  if (!drop || !first || since.length < 2) return null;
  const points = since.map((r, k) => ({
    x: (Date.parse(r.takenAt) - Date.parse(first.takenAt)) / DAY,
    y: numeric(r.volts),
    id: r.id,
    state: drop.used.includes(k) ? ("counts" as const) : ("left-out" as const),
  }));
  const used = points.filter((p) => p.state === "counts");
  const mean = (f: (p: (typeof used)[number]) => number) => used.reduce((s, p) => s + f(p), 0) / used.length;
  const ends = [used[0], used.at(-1)].flatMap((p) => (p ? [p.x] : []));
  const fit = drop.rate
    ? ends.map((x) => ({ x, y: mean((p) => p.y) - (drop.rate?.value ?? 0) * (x - mean((p) => p.x)) }))
    : [];
  return {
    id: "rest",
    title: "Rest voltage since the charge",
    x: { label: "Days", unit: "" },
    y: { label: "Voltage", unit: "V" },
    claims: [],
    series: [{ id: "rest", label: c.cell.title, tone: 0, points, fit }],
  };
}

/** Deletes something of a cell; one act brings it back. */
const del = (label: string, records: readonly StoredRecord[], said: string, then?: () => void) =>
  void attempt(async () => {
    const act = await remove(label, records);
    then?.();
    await notifyUndoable(said, act && (() => undoAct(act)));
  });

function Shown({ c, rules }: { readonly c: DrawerCell; readonly rules: HouseRules }) {
  const { notebook } = useSession();
  const [dialog, setDialog] = useState<"change" | "reject" | "delete" | null>(null);
  const { cell, triage: t } = c;
  const router = useRouter();
  const delCell = () => del(`delete ${cell.title}`, [cell], `${cell.title} is deleted.`, () => router.push("/cells"));
  return (
    <div className="sheet">
      <CellHead
        c={c}
        rules={rules}
        onChange={() => setDialog("change")}
        onDelete={() => (c.runs.length ? setDialog("delete") : delCell())}
      />
      <FitForUse c={c} rules={rules} onReject={() => setDialog("reject")} />
      <Section mark="read" title="Rest voltage and observations">
        <CellReadings c={c} />
        {cell.rejected ? null : <ReadCells cells={[c]} rules={rules} />}
      </Section>
      <CellRuns c={c} />
      {dialog === "change" ? (
        <CellDialog
          cell={cell}
          rules={rules}
          onClose={() => setDialog(null)}
          onKeep={(f) => attempt(async () => void (await keepCell(cell, f, notebook.id)))}
        />
      ) : null}
      {dialog === "delete" ? (
        <ConfirmDialog
          danger
          title={`Delete ${cell.title}?`}
          about={`${c.runs.length} ${c.runs.length === 1 ? "run names it" : "runs name it"}: they keep their readings without this cell. Undo restores it.`}
          act="Delete cell"
          onClose={() => setDialog(null)}
          onAct={delCell}
        />
      ) : null}
      {dialog === "reject" ? (
        <ReasonDialog
          title={`Reject ${cell.title}`}
          about="It leaves the lists and is not charged again. Its history stays."
          first={t.reasons
            .filter((r) => r.severity === "reject")
            .map((r) => r.text)
            .join("; ")}
          act="Reject cell"
          onClose={() => setDialog(null)}
          onReason={(why) => attempt(() => rejectCell(cell, why))}
        />
      ) : null}
    </div>
  );
}

function CellHead({
  c,
  rules,
  onChange,
  onDelete,
}: {
  readonly c: DrawerCell;
  readonly rules: HouseRules;
  onChange(): void;
  onDelete(): void;
}) {
  const { cell } = c;
  const limits = CHEMISTRY_LIMITS[cell.chemistry];
  const house = cell.chemistry === "lithium-ion";
  return (
    <Section
      level={1}
      mark="cell"
      title={cell.title}
      aside={
        <span className="flex flex-wrap gap-2">
          <Link href="/cells" className={buttonClass("bare")}>
            All cells
          </Link>
          <Button look="bare" onClick={onChange}>
            Edit cell
          </Button>
          {c.itself ? null : (
            <Button look="bare" onClick={onDelete}>
              Delete cell
            </Button>
          )}
        </span>
      }
    >
      <div className="flex flex-wrap items-start gap-6">
        <CodeSquare text={c.code} label={`Square code ${c.code}`} size="5.5rem" />
        <div className="min-w-0 flex-1">
          <p className="figures text-2xl font-semibold tracking-wider" data-testid="cell-code">
            {c.code}
          </p>
          <p>{facts(cell)}</p>
          <p className="text-sm text-pencil">
            Full at {q(cell.fullVoltage ?? (house ? rules.chargeFull : limits.full), "V")}, empty at{" "}
            {q(cell.emptyVoltage ?? (house ? rules.chargeEmpty : limits.empty), "V")} a cell; its maker allows{" "}
            {q(cell.chargeRateLimit, "")} C.
          </p>
          {cell.note ? <p className="mt-1">{cell.note}</p> : null}
        </div>
        <Link href={`/cells/labels?of=${cell.id}`} className={buttonClass()}>
          Print label
        </Link>
      </div>
    </Section>
  );
}

/** Its state, why, and what was measured of it. */
/** What a cell that waits is told: its storage voltage, and its next charge. Only a single lithium-ion cell at rest is. */
function WaitingLines({ c, rules }: { readonly c: DrawerCell; readonly rules: HouseRules }) {
  const { cell, triage: t } = c;
  const volts = t.last?.volts ?? null;
  if (
    volts === null ||
    cell.chemistry !== "lithium-ion" ||
    (cell.series ?? 1) > 1 ||
    cell.rejected ||
    c.charge ||
    c.pack
  )
    return null;
  const fall = t.drop?.rate && t.drop.settled ? t.drop.rate.value : null;
  const a = storageAdvice({ volts, capacity: c.capacity?.value ?? cell.capacity, fall }, rules);
  const low = q(rules.socLow, "1");
  return (
    <>
      {a.above ? (
        <li>
          To store it for months, discharge it from {q(volts, "V")} to {q(rules.storageVoltage, "V")}: a full cell ages
          several times as fast.
        </li>
      ) : null}
      <li>
        {a.days > 0
          ? `Next charge in about ${formatDuration(a.days * DAY_SECONDS)}: it is at ${q(a.soc, "1", { digits: 2 })} now, is used down to ${low}, and ${a.measured ? "falls at rest as measured" : "is taken to lose what a sound cell does (its fall was not measured)"}.`
          : `Charge it before use: it is at ${q(a.soc, "1", { digits: 2 })}, and cells are used down to ${low}.`}
      </li>
    </>
  );
}

function FitForUse({ c, rules, onReject }: { readonly c: DrawerCell; readonly rules: HouseRules; onReject(): void }) {
  const { cell, triage: t } = c;
  return (
    <Section mark="state" title="Fit for use?">
      <p className={`text-xl font-semibold ${STATE_TONE[t.word]}`} data-testid="cell-state">
        <span aria-hidden>{STATE_SIGN[t.word]} </span>
        {t.word}
      </p>
      <ul className="mb-3 list-disc pl-5">
        {t.reasons.map((r) => (
          <li key={r.code + r.text}>{capital(r.text)}.</li>
        ))}
        {t.word === "unknown" ? <li>Not measured yet. Charge it and read it again later, or discharge it.</li> : null}
        {t.word === "sound" ? <li>All measured values are within the house rules.</li> : null}
        {c.itself ? (
          <li>
            Put together from {c.itself.groups.flat().length} cells of the drawer, {c.itself.groups.length} in series.{" "}
            <Link href="/cells/packs" className="underline underline-offset-4">
              Open packs
            </Link>
          </li>
        ) : null}
        {c.pack ? (
          <li>It is in the pack “{c.pack.title}”.</li>
        ) : c.charge ? (
          <li>
            It charges{c.charge.bay ? ` in bay ${c.charge.bay}` : ""} since {dayOf(c.charge.startedAt)}.
          </li>
        ) : null}
        {t.due ? (
          <li>
            Next reading due by {dayOf(t.due.at)}: {t.due.why}.
          </li>
        ) : null}
        <WaitingLines c={c} rules={rules} />
      </ul>
      <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2">
        <Figure label="falls at rest per day" value={t.drop?.rate ? rateText(t.drop.rate) : null} />
        <Figure
          label="holds"
          value={
            c.capacity
              ? `${q(c.capacity.value, "Ah", { digits: 3 })}, ${Math.round((100 * c.capacity.value) / cell.capacity)} % of its rating`
              : null
          }
        />
        <Figure label="grade" value={c.grade ? gradeText(c.grade) : null} />
        <Figure label="resistance" value={c.resistance ? q(c.resistance.value, "Ω", { digits: 2 }) : null} />
      </dl>
      {cell.rejected ? (
        <p className="flex flex-wrap items-center gap-4">
          Rejected on {dayOf(cell.rejected.date)}. Tape its terminals and take it to a collection point.
          <Button onClick={() => void attempt(() => rejectCell(cell, null))}>Use again</Button>
        </p>
      ) : (
        <Button look={t.word === "reject it" ? "danger" : "plain"} onClick={onReject}>
          Reject cell
        </Button>
      )}
    </Section>
  );
}

const readingColumns = (title: string): readonly DataColumn<DrawerCell["readings"][number]>[] => [
  { id: "date", head: "Date", by: (r) => r.takenAt, content: (r) => dayOf(r.takenAt) },
  {
    id: "voltage",
    head: "Voltage",
    figures: true,
    by: (r) => r.volts ?? undefined,
    content: (r) => (r.volts === null ? "—" : q(r.volts, "V", { digits: 4 })),
  },
  {
    id: "tested",
    head: "Cell tester",
    figures: true,
    content: (r) =>
      [r.capacity ? q(r.capacity, "Ah", { digits: 3 }) : "", r.resistance ? q(r.resistance, "Ω", { digits: 2 }) : ""]
        .filter(Boolean)
        .join(", "),
  },
  {
    id: "observed",
    head: "Observed",
    content: (r) =>
      [r.charged ? "just charged" : "", r.used ? "after use" : "", r.sign ?? "", r.note].filter(Boolean).join("; "),
  },
  {
    id: "delete",
    head: "Delete",
    bare: true,
    content: (r) => (
      <Button
        look="bare"
        aria-label={`Delete the reading of ${dayOf(r.takenAt)}`}
        onClick={() => del(`delete a reading of ${title}`, [r], "Reading deleted.")}
      >
        Delete
      </Button>
    ),
  },
];

function CellReadings({ c }: { readonly c: DrawerCell }) {
  const chart = restChart(c);
  const columns = useMemo(() => readingColumns(c.cell.title), [c.cell.title]);
  return (
    <>
      {chart ? <Chart spec={chart} height={240} /> : null}
      {c.readings.length ? (
        <div className="mb-4 max-w-2xl">
          <DataTable label="Readings" rows={[...c.readings].reverse()} id={(r) => r.id} columns={columns} />
        </div>
      ) : (
        <p className="mb-3 text-pencil">No readings yet.</p>
      )}
    </>
  );
}

const CellRuns = ({ c }: { readonly c: DrawerCell }) => (
  <Section mark="history" title="Runs">
    {c.runs.length === 0 ? (
      <p className="text-pencil">No runs yet. Choose this cell when you prepare a charge, a discharge or a pack.</p>
    ) : null}
    <ul className="divide-y divide-rule">
      {c.runs.map(({ run }) => (
        <li key={run.id} className="py-1">
          <span className="text-sm text-pencil">{dayOf(run.startUtc)} </span>
          <Link href={`/run/${run.id}/review`} className="hover:underline">
            {procedure(run.procedure)?.title ?? run.procedure}: {run.title}
          </Link>
          {run.source.kind === "simulated" ? " (simulated)" : ""}
          {run.state === "open" ? " (under way)" : ""}
        </li>
      ))}
    </ul>
  </Section>
);

function Figure({ label, value }: { readonly label: string; readonly value: string | null }) {
  return (
    <div>
      <dt className="text-sm text-pencil">{label}</dt>
      <dd className="figures text-lg">{value ?? <span className="font-sans text-pencil">not measured</span>}</dd>
    </div>
  );
}
