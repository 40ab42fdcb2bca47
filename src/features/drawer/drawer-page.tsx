"use client";

import { compute } from "@/workers/compute";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { Form } from "@/ui/form";
import { FormText } from "@/ui/form-fields";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { CELL_STAGES, gradeText, readCode } from "@/core/cells";
import { formatQuantity } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { attempt } from "@/browser/notify";
import { addCells, drawer, keepCell, type Drawer, type DrawerCell } from "@/notebook";
import { useLive } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { CellDialog } from "@/ui/cell-dialog";
import { Fold } from "@/ui/fold";
import { Quiet, Section } from "@/ui/section";
import { Tabs } from "@/ui/tabs";
import { IntakeDialog } from "./intake-dialog";
import { ReadByCode } from "./read-by-code";
import { ReadCells } from "./read-cells";
import { StageColumns } from "./stage-columns";
import { dayOf, facts, rateText, STATE_SIGN, STATE_TONE, whenDue } from "./words";

/** More cells than this are read by their codes; their list is folded away. */
const MANY = 12;

/** The cell drawer: what is in it, what state it is in and why, what is to be read again. */
export function DrawerPage() {
  const { notebook } = useSession();
  const live = useLive(`drawer-${notebook.id}`, () => drawer(compute, notebook.id));
  useEffect(() => {
    document.title = "Cell drawer · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The cells can&apos;t be loaded: {live.message}</Quiet>;
  return <Cells {...live.value} />;
}

function Cells({ cells, rules }: Drawer) {
  const { notebook } = useSession();
  const [writing, setWriting] = useState(false);
  const [takingIn, setTakingIn] = useState(false);
  const [view, setView] = useState<"list" | "columns">("list");
  const inUse = cells.filter((c) => !c.cell.rejected);
  const list = <ReadCells key={cells.map((c) => c.cell.id).join()} cells={inUse} rules={rules} />;
  return (
    <div className="sheet">
      <Section
        level={1}
        mark="cells"
        title="Cell drawer"
        aside={
          <span className="flex flex-wrap gap-2">
            {cells.length ? (
              <>
                <Link href="/cells/packs" className={buttonClass("bare")}>
                  Packs
                </Link>
                <Link href="/station" className={buttonClass("bare")}>
                  Charging station
                </Link>
                <Link href="/cells/labels" className={buttonClass()}>
                  Print labels
                </Link>
              </>
            ) : null}
            <Button onClick={() => setTakingIn(true)}>Take in cells</Button>
            <Button look={cells.length ? "plain" : "main"} onClick={() => setWriting(true)}>
              Add cell
            </Button>
          </span>
        }
      >
        {cells.length === 0 ? (
          <div className="max-w-prose">
            <p className="mb-2">No cells yet.</p>
            <ol className="list-decimal pl-5">
              <li>Add each cell or pack with its rated values; it gets a short code.</li>
              <li>
                Charge it, print its label, and read it again after {rules.restDays} days. A cell that falls too fast is
                rejected.
              </li>
              <li>Discharge it for its capacity and resistance. Charges and discharges name their cell.</li>
            </ol>
          </div>
        ) : (
          <FindByCode cells={cells} />
        )}
      </Section>
      <Due cells={cells} />
      {cells.length ? (
        <>
          <Section id="read" mark="read" title="Read cells">
            <ReadByCode cells={inUse} />
            {inUse.length > MANY ? (
              <Fold title="All cells in one list" open={false}>
                <div className="pt-3">{list}</div>
              </Fold>
            ) : (
              list
            )}
          </Section>
          <Section mark="state" title="Cells">
            <Tabs<"list" | "columns">
              label="Cells as"
              value={view}
              onValue={setView}
              tabs={[
                { value: "list", label: "List", content: <CellTable cells={cells} /> },
                { value: "columns", label: "Columns", content: <StageColumns cells={cells} /> },
              ]}
            />
          </Section>
        </>
      ) : null}
      {takingIn ? <IntakeDialog onClose={() => setTakingIn(false)} /> : null}
      {writing ? (
        <CellDialog
          cell={null}
          rules={rules}
          onClose={() => setWriting(false)}
          onKeep={(f) => attempt(async () => void (await keepCell(null, f, notebook.id)))}
          onKeepMany={(f, count) => attempt(() => addCells(f, count, notebook.id))}
        />
      ) : null}
    </div>
  );
}

/** Cells that wait to be read, the longest first. */
function Due({ cells }: { readonly cells: readonly DrawerCell[] }) {
  const [now] = useState(() => Date.now());
  const due = cells.filter((c) => c.triage.due).sort((a, b) => (a.triage.due?.at ?? 0) - (b.triage.due?.at ?? 0));
  if (due.length === 0) return null;
  return (
    <Section mark="due" title="Due to be read">
      <ul className="divide-y divide-rule border-y border-rule">
        {due.map((c) => {
          const when = whenDue(c.triage.due?.at ?? 0, now);
          return (
            <li key={c.cell.id} className="flex flex-wrap items-baseline gap-x-4 py-1">
              <Link href={`/cells/${c.cell.id}`} className="font-medium hover:underline">
                {c.cell.title}
              </Link>
              <span className="figures text-sm text-pencil">{c.code}</span>
              <span className={when.late ? "font-semibold text-close" : ""}>
                {when.late ? "! " : ""}
                {when.text}
              </span>
              <span className="text-sm text-pencil">
                {dayOf(c.triage.due?.at ?? 0)}: {c.triage.due?.why}
              </span>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

/** A label's code, typed or scanned, leads to its cell. */
function FindByCode({ cells }: { readonly cells: readonly DrawerCell[] }) {
  const router = useRouter();
  // An address that carries a code is what a scanned label opens.
  const { control, handleSubmit, trigger } = useForm({
    mode: "onTouched",
    defaultValues: { text: new URLSearchParams(location.search).get("code") ?? "" },
  });
  const text = useWatch({ control, name: "text" });
  const of = (t: string): DrawerCell | undefined => cells.find((c) => c.code === readCode(t));
  const matches = of(text);
  const href = matches ? `/cells/${matches.cell.id}` : null;
  useEffect(() => {
    if (!location.search.includes("code=")) return;
    if (href) router.replace(href);
    else void trigger();
  }, [href, router, trigger]);
  const check = (t: string): string | null =>
    of(t) ? null : readCode(t) ? "No cell in this notebook has this code." : "A code has five letters and digits.";
  return (
    <Form
      className="flex flex-wrap items-end gap-x-4"
      onSubmit={handleSubmit((f) => {
        const cell = of(f.text);
        if (cell) router.push(`/cells/${cell.cell.id}`);
      })}
    >
      <FormText
        control={control}
        name="text"
        label="Code on a label"
        placeholder="such as 7K3QF"
        echo={matches ? matches.cell.title : undefined}
        missing="Enter a code."
        check={check}
      />
      <Button type="submit" className="mb-5">
        Find cell
      </Button>
    </Form>
  );
}

const CELL_COLUMNS: readonly DataColumn<DrawerCell>[] = [
  {
    id: "cell",
    head: "Cell",
    by: (c) => c.cell.title,
    content: (c) => (
      <>
        <Link href={`/cells/${c.cell.id}`} className="text-base font-medium hover:underline">
          {c.cell.title}
        </Link>{" "}
        <span className="figures text-pencil">{c.code}</span>
        <span className="block text-pencil">{facts(c.cell)}</span>
      </>
    ),
  },
  {
    id: "stage",
    head: "Where",
    by: (c) => CELL_STAGES.indexOf(c.stage.stage),
    content: (c) => <CellStageText c={c} />,
  },
  {
    id: "state",
    head: "State",
    className: "max-w-72",
    by: (c) => c.triage.word,
    content: (c) => <CellState triage={c.triage} />,
  },
  {
    id: "grade",
    head: "Grade",
    by: (c) => (c.grade ? gradeText(c.grade) : undefined),
    content: (c) => (c.grade ? gradeText(c.grade) : "—"),
  },
  {
    id: "last",
    head: "Last read",
    figures: true,
    by: (c) => c.triage.last?.volts ?? undefined,
    content: ({ triage: { last } }) => (
      <>
        {last ? (last.volts === null ? last.sign : formatQuantity(last.volts, "V", { digits: 4 })) : "—"}
        <span className="block whitespace-nowrap font-sans text-pencil">{last ? dayOf(last.at) : ""}</span>
      </>
    ),
  },
  {
    id: "fall",
    head: "Fall per day",
    figures: true,
    by: (c) => c.triage.drop?.rate?.value,
    content: (c) => (c.triage.drop?.rate ? rateText(c.triage.drop.rate) : "—"),
  },
  {
    id: "capacity",
    head: "Capacity",
    figures: true,
    by: (c) => c.capacity?.value,
    content: (c) => (c.capacity ? formatQuantity(c.capacity.value, "Ah", { digits: 3 }) : "—"),
  },
  {
    id: "resistance",
    head: "Resistance",
    figures: true,
    by: (c) => c.resistance?.value,
    content: (c) => (c.resistance ? formatQuantity(c.resistance.value, "Ω", { digits: 2 }) : "—"),
  },
];

const CellTable = ({ cells }: { readonly cells: readonly DrawerCell[] }) => (
  <DataTable
    label="Cells"
    rows={cells}
    columns={CELL_COLUMNS}
    id={(c) => c.cell.id}
    rowProps={(c) => ({ "data-cell": c.cell.title, "data-state": c.triage.word })}
    least={760}
  />
);

/** Where it is on its way, and since when. */
function CellStageText({ c }: { readonly c: DrawerCell }) {
  return (
    <>
      {c.stage.stage}
      <span className="block text-pencil">
        {c.pack
          ? c.pack.title
          : c.charge?.bay
            ? `bay ${c.charge.bay}`
            : c.stage.since
              ? `since ${dayOf(c.stage.since)}`
              : ""}
      </span>
    </>
  );
}

function CellState({ triage: t }: { readonly triage: DrawerCell["triage"] }) {
  return (
    <>
      <span className={`font-semibold ${STATE_TONE[t.word]}`}>
        <span aria-hidden>{STATE_SIGN[t.word]} </span>
        {t.word}
      </span>
      {t.reasons.length ? <span className="block">{t.reasons.map((r) => r.text).join("; ")}</span> : null}
    </>
  );
}
