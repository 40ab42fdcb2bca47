"use client";

import { compute } from "@/workers/compute";
import { Checkbox } from "@/ui/checkbox";
import { Link } from "@/ui/link";
import { useEffect, useState } from "react";
import { formatQuantity, numeric } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { drawer, type DrawerCell } from "@/notebook";
import { useLive } from "@/storage";
import { Button, buttonClass } from "@/ui/button";
import { CodeSquare } from "@/ui/code-square";
import { Quiet, Section } from "@/ui/section";
import { dayOf, facts } from "./words";

/** Labels to print, cut and stick on: name, code, volts with their date, when to read again. */
export function LabelsPage() {
  const { notebook } = useSession();
  const live = useLive(`labels-${notebook.id}`, () => drawer(compute, notebook.id));
  useEffect(() => {
    document.title = "Cell labels · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The cells can&apos;t be loaded: {live.message}</Quiet>;
  return <Labels cells={live.value.cells} />;
}

function Labels({ cells }: { readonly cells: readonly DrawerCell[] }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => {
    const of = new URLSearchParams(location.search).get("of");
    return new Set(of ? [of] : cells.filter((c) => !c.cell.rejected).map((c) => c.cell.id));
  });
  const shown = cells.filter((c) => chosen.has(c.cell.id));
  return (
    <>
      <div className="sheet no-print mb-4">
        <Section
          level={1}
          mark="labels"
          title="Cell labels"
          aside={
            <span className="flex flex-wrap gap-2">
              <Link href="/cells" className={buttonClass("bare")}>
                Cell drawer
              </Link>
              <Button look="main" onClick={() => window.print()} disabled={shown.length === 0}>
                Print {shown.length} {shown.length === 1 ? "label" : "labels"}
              </Button>
            </span>
          }
        >
          <p className="mb-2 max-w-prose text-pencil">
            A4, three across, 63 × 38 mm each. The QR code holds the five letters of the cell.
          </p>
          <ul className="flex flex-wrap gap-x-6 gap-y-1">
            {cells.map((c) => (
              <li key={c.cell.id}>
                <Checkbox
                  checked={chosen.has(c.cell.id)}
                  onChecked={(on) =>
                    setChosen((s) => new Set(on ? [...s, c.cell.id] : [...s].filter((x) => x !== c.cell.id)))
                  }
                >
                  {c.cell.title}
                  {c.cell.rejected ? " (rejected)" : c.triage.word === "reject it" ? " (to be rejected)" : ""}
                </Checkbox>
              </li>
            ))}
          </ul>
        </Section>
      </div>
      <div className="labels" aria-label="Labels">
        {shown.map((c) => (
          <Label key={c.cell.id} c={c} />
        ))}
      </div>
    </>
  );
}

function Label({ c }: { readonly c: DrawerCell }) {
  const read = [...c.readings].reverse().find((r) => r.volts !== null);
  return (
    <section className="label" aria-label={`Label of ${c.cell.title}`}>
      <div className="label-words">
        <p className="label-title">{c.cell.title}</p>
        <p>{facts(c.cell)}</p>
        <p className="figures label-volts">
          {read ? formatQuantity(numeric(read.volts), "V", { digits: 4 }) : "____ V"}
        </p>
        <p>
          {c.cell.rejected
            ? `REJECTED ${dayOf(c.cell.rejected.date)}`
            : c.triage.word === "reject it"
              ? "REJECT: not to be charged"
              : `${read?.charged ? "full " : ""}${read ? dayOf(read.takenAt) : "on ____________"}`}
        </p>
        {c.triage.due ? <p>read again by {dayOf(c.triage.due.at)}</p> : null}
      </div>
      <div className="label-code">
        <CodeSquare text={c.code} label={`Square code ${c.code}`} size="22mm" />
        <p className="figures">{c.code}</p>
      </div>
    </section>
  );
}
