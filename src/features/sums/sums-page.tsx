"use client";

import { compute } from "@/workers/compute";
import { Link } from "@/ui/link";
import { useSearchParams } from "next/navigation";
import { useEffect, useState } from "react";
import { standing } from "@/core/sheet";
import type { Role } from "@/core/measurement";
import { FED_ROLES, feedsOf, feedsOfOpen, SUMS, type Fed, type OpenBeside } from "@/core/sums";
import { useSession } from "@/browser/context";
import { boardDossier, drawer, rulesOf, runDossier, type RunDossier } from "@/notebook";
import { boards, record, useLive } from "@/storage";
import { readingLogs } from "@/workers/client";
import { Quiet, Section } from "@/ui/section";
import { Select } from "@/ui/select";
import { SumForm } from "./sum-form";

/** Sums that are done beside the bench, each by itself or fed from what a board was found to do. */
export function SumsPage() {
  const { notebook } = useSession();
  const asked = useSearchParams();
  const open = { run: asked.get("run") ?? "", cell: asked.get("cell") ?? "" };
  const [from, setFrom] = useState<string>(
    asked.get("board") ?? (open.run ? `run:${open.run}` : open.cell ? `cell:${open.cell}` : ""),
  );
  const list = useLive(
    `sums-${notebook.id}`,
    () => boards(notebook.id),
    (n) => n.kinds.includes("board"),
  );
  const beside = useLive(`beside-${open.run}-${open.cell}`, () => titleOf(open.run, open.cell));
  const fed = useLive(`feeds-${from}`, async () => ({
    rules: await rulesOf(notebook.id),
    fed: await feedsFrom(notebook.id, from),
  }));
  useEffect(() => {
    document.title = "Quick sums · Nimbus Bench";
  }, []);
  if (list.state !== "ready") return <Quiet>Loading …</Quiet>;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="sums"
        title="Quick sums"
        aside={
          <Link href="/station" className="underline underline-offset-4">
            Charging station
          </Link>
        }
      >
        <p className="mb-2 max-w-prose text-pencil">
          Each sum shows its formula with your numbers. A run, a cell or a board can fill in the fields.
        </p>
        <Select
          label="Values from"
          value={from}
          onValue={setFrom}
          choices={[
            { value: "", label: "typical values" },
            ...(beside.state === "ready" && beside.value
              ? [{ value: beside.value.key, label: `open: ${beside.value.title}` }]
              : []),
            ...list.value.map((b) => ({ value: b.id as string, label: b.title })),
          ]}
        />
      </Section>
      {fed.state === "ready"
        ? SUMS.map((s) => <SumForm key={s.id + from} sum={s} fed={fed.value.fed} rules={fed.value.rules} />)
        : null}
    </div>
  );
}

async function titleOf(
  runId: string,
  cellId: string,
): Promise<{ readonly key: string; readonly title: string } | null> {
  const run = runId ? await record("run", runId) : null;
  if (run) return { key: `run:${run.id}`, title: run.title };
  const cell = cellId ? await record("cell", cellId) : null;
  return cell ? { key: `cell:${cell.id}`, title: cell.title } : null;
}

/** The newest value of each reading of a run: its last point that counts, or what its log ends with. */
async function newestOf(d: RunDossier): Promise<Partial<Record<Role, number>>> {
  if (d.log) {
    const figures = await readingLogs().ask("log-figures", { runId: d.run.id, rows: d.log.rows, roles: FED_ROLES });
    return Object.fromEntries(Object.entries(figures).flatMap(([role, f]) => (f ? [[role, f.newest]] : [])));
  }
  const last = d.points.filter((p) => !d.corrections.leftOut.has(p.id)).at(-1);
  return Object.fromEntries(
    Object.entries(last?.cells ?? {}).flatMap(([role, c]) =>
      c?.value === null || c?.value === undefined ? [] : [[role, c.value]],
    ),
  );
}

async function cellBeside(notebookId: string, id: string): Promise<OpenBeside["cell"]> {
  const c = (await drawer(compute, notebookId)).cells.find((x) => x.cell.id === id);
  const rested = c?.readings.filter((r) => r.volts !== null).at(-1)?.volts;
  return c
    ? {
        capacity: c.capacity?.value ?? c.cell.capacity,
        chargeRateLimit: c.cell.chargeRateLimit,
        ...(c.cell.fullVoltage ? { full: c.cell.fullVoltage } : {}),
        ...(rested ? { rested } : {}),
        ...(c.resistance ? { ohms: c.resistance.value } : {}),
      }
    : undefined;
}

async function feedsFrom(notebookId: string, from: string): Promise<ReadonlyMap<string, Fed>> {
  if (!from) return new Map();
  const rules = await rulesOf(notebookId);
  const [kind, id = ""] = from.includes(":") ? from.split(":") : ["board", from];
  const run = kind === "run" ? await runDossier(compute, id) : null;
  const cell = kind === "cell" || run?.run.cellId ? await cellBeside(notebookId, run?.run.cellId ?? id) : undefined;
  const boardId = run?.run.boardId ?? (kind === "board" ? id : null);
  const d = boardId ? await boardDossier(compute, boardId) : null;
  const sources = d
    ? feedsOf(standing(d.evidence.flatMap((x) => x.runs).filter((r) => r.finished)))
    : new Map<string, Fed>();
  // What is open goes before what the board was found to do, and that before what is usual.
  return new Map([
    ...(kind === "board" ? [] : feedsOfOpen({ rules })),
    ...sources,
    ...(run || cell
      ? feedsOfOpen({
          rules,
          ...(run ? { run: { id, conditions: run.run.setup.conditions, newest: await newestOf(run) } } : {}),
          ...(cell ? { cell } : {}),
        })
      : []),
  ]);
}
