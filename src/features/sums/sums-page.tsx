"use client";

import { Link } from "@/ui/link";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { formatQuantity } from "@/core/quantities";
import { standing } from "@/core/sheet";
import type { Role } from "@/core/procedures/roles";
import { FED_ROLES, feedsOf, feedsOfOpen, SUMS, type Fed, type OpenBeside, type Sum, type SumRules } from "@/core/sums";
import { useSession } from "@/session/context";
import { boardDossier, boards, drawer, record, rulesOf, runDossier, useLive, type RunDossier } from "@/storage";
import { readingLogs } from "@/workers/client";
import { NumberField } from "@/ui/number-field";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";

/** Sums that are done beside the bench, each by itself or fed from what a board was found to do. */
export function SumsPage() {
  const { notebook } = useSession();
  const asked = useSearchParams();
  const open = { run: asked.get("run") ?? "", cell: asked.get("cell") ?? "" };
  const [from, setFrom] = useState<string>(asked.get("board") ?? (open.run ? `run:${open.run}` : open.cell ? `cell:${open.cell}` : ""));
  const list = useLive(`sums-${notebook.id}`, () => boards(notebook.id), (n) => n.kinds.includes("board"));
  const beside = useLive(`beside-${open.run}-${open.cell}`, () => titleOf(open.run, open.cell));
  const fed = useLive(`feeds-${from}`, async () => ({ rules: await rulesOf(notebook.id), fed: await feedsFrom(notebook.id, from) }));
  useEffect(() => {
    document.title = "Quick sums · Nimbus Bench";
  }, []);
  if (list.state !== "ready") return <Quiet>Loading …</Quiet>;
  return (
    <div className="sheet">
      <Section level={1} mark="sums" title="Quick sums" aside={<Link href="/station" className="underline underline-offset-4">Charging station</Link>}>
        <p className="mb-2 max-w-prose text-pencil">Each sum shows its formula with your numbers. A run, a cell or a board can fill in the fields.</p>
        <Select
          label="Values from"
          value={from}
          onValue={setFrom}
          choices={[{ value: "", label: "typical values" }, ...(beside.state === "ready" && beside.value ? [{ value: beside.value.key, label: `open: ${beside.value.title}` }] : []), ...list.value.map((b) => ({ value: b.id as string, label: b.title }))]}
        />
      </Section>
      {fed.state === "ready" ? SUMS.map((s) => <SumRow key={s.id + from} sum={s} fed={fed.value.fed} rules={fed.value.rules} />) : null}
    </div>
  );
}

async function titleOf(runId: string, cellId: string): Promise<{ readonly key: string; readonly title: string } | null> {
  const run = runId ? await record("run", runId) : null;
  if (run) return { key: `run:${run.id}`, title: run.title };
  const cell = cellId ? await record("cell", cellId) : null;
  return cell ? { key: `cell:${cell.id}`, title: cell.title } : null;
}

/** The newest value of each reading of a run: its last point that counts, or what its log ends with. */
async function newestOf(d: RunDossier): Promise<Partial<Record<Role, number>>> {
  if (d.log) {
    const found = await readingLogs().ask("log-figures", { runId: d.run.id, rows: d.log.rows, roles: FED_ROLES });
    return Object.fromEntries(Object.entries(found).flatMap(([role, f]) => (f ? [[role, f.newest]] : [])));
  }
  const last = d.points.filter((p) => !d.corrections.leftOut.has(p.id)).at(-1);
  return Object.fromEntries(Object.entries(last?.cells ?? {}).flatMap(([role, c]) => (c?.value === null || c?.value === undefined ? [] : [[role, c.value]])));
}

async function cellBeside(notebookId: string, id: string): Promise<OpenBeside["cell"]> {
  const c = (await drawer(notebookId)).cells.find((x) => x.cell.id === id);
  const rested = c?.readings.filter((r) => r.volts !== null).at(-1)?.volts;
  return c ? { capacity: c.capacity?.value ?? c.cell.capacity, chargeRateLimit: c.cell.chargeRateLimit, ...(c.cell.fullVoltage ? { full: c.cell.fullVoltage } : {}), ...(rested ? { rested } : {}), ...(c.resistance ? { ohms: c.resistance.value } : {}) } : undefined;
}

async function feedsFrom(notebookId: string, from: string): Promise<ReadonlyMap<string, Fed>> {
  if (!from) return new Map();
  const rules = await rulesOf(notebookId);
  const [kind, id = ""] = from.includes(":") ? from.split(":") : ["board", from];
  const run = kind === "run" ? await runDossier(id) : null;
  const cell = kind === "cell" || run?.run.cellId ? await cellBeside(notebookId, run?.run.cellId ?? id) : undefined;
  const boardId = run?.run.boardId ?? (kind === "board" ? id : null);
  const d = boardId ? await boardDossier(boardId) : null;
  const found = d ? feedsOf(standing(d.evidence.flatMap((x) => x.runs).filter((r) => r.finished))) : new Map<string, Fed>();
  // What is open goes before what the board was found to do, and that before what is usual.
  return new Map([...(kind === "board" ? [] : feedsOfOpen({ rules })), ...found, ...(run || cell ? feedsOfOpen({ rules, ...(run ? { run: { id, conditions: run.run.setup.conditions, newest: await newestOf(run) } } : {}), ...(cell ? { cell } : {}) }) : [])]);
}

/** A figure that is shown with no more digits than a sum is worth. */
const short = (value: number): number => Number(value.toPrecision(3));
const shortOrEmpty = (value: number | null): number | null => (value === null ? null : short(value));

function SumRow({ sum, fed, rules }: { readonly sum: Sum; readonly fed: ReadonlyMap<string, Fed>; readonly rules: SumRules }) {
  const first = useMemo(() => Object.fromEntries(sum.fields.map((f) => [f.key, shortOrEmpty(fed.get(`${sum.id}.${f.key}`)?.value ?? f.first)])), [sum, fed]);
  const [values, setValues] = useState<Readonly<Record<string, number | null>>>(first);
  const known = sum.fields.every((f) => values[f.key] !== null);
  const answer = known ? sum.work(values as Readonly<Record<string, number>>, rules) : null;
  const sources = sum.fields.flatMap((f) => {
    const x = fed.get(`${sum.id}.${f.key}`);
    return x?.runId && values[f.key] === short(x.value) ? [{ label: f.label, runId: x.runId }] : [];
  });
  return (
    <Section id={sum.id} mark={<span className="figures">{sum.formula}</span>} title={sum.title}>
      <div className="flex flex-wrap gap-x-5">
        {sum.fields.map((f) => (
          <NumberField
            key={f.key}
            label={f.label}
            quantity={f.unit}
            value={first[f.key] ?? null}
            refuse={(v) => (v >= f.low && v <= f.high ? null : `Between ${formatQuantity(f.low, f.unit)} and ${formatQuantity(f.high, f.unit)}.`)}
            onValue={(v) => setValues((old) => ({ ...old, [f.key]: v }))}
          />
        ))}
      </div>
      {answer ? (
        <div aria-live="polite">
          <dl className="flex flex-wrap gap-x-8 gap-y-1">
            {answer.results.map((r, k) => (
              <div key={r.label} data-sum={r.label}>
                <dt className="text-sm text-pencil">{r.label}</dt>
                <dd className={`figures ${k === 0 ? "text-2xl font-semibold" : "text-xl"}`}>{r.text ?? formatQuantity(r.value, r.unit, { digits: 3 })}</dd>
              </div>
            ))}
          </dl>
          <p className="figures mt-1 text-sm">{answer.filled}</p>
          {answer.remark ? <p className="mt-1 border-l-4 border-rule pl-2">{answer.remark}</p> : null}
        </div>
      ) : (
        <p className="text-pencil">A field above is empty or invalid.</p>
      )}
      {sources.length ? (
        <p className="mt-1 text-sm text-pencil">
          From runs:{" "}
          {sources.map((s, k) => (
            <span key={s.label}>
              {k ? ", " : ""}
              <Link href={`/run/${s.runId}/review`} className="underline underline-offset-4">
                {s.label.toLowerCase()}
              </Link>
            </span>
          ))}
          .
        </p>
      ) : null}
    </Section>
  );
}
