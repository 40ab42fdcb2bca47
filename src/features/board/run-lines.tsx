import { calendarDay } from "@/core/quantities";
import type { Finding } from "@/core/measurement";
import type { Procedure } from "@/core/procedures";
import { runPage } from "@/core/procedures/catalogue";
import type { RunRecord } from "@/core/files/records";
import type { BoardDossier } from "@/notebook";
import { Link } from "@/ui/link";
import { SimulatedMark } from "@/ui/verdict-mark";
import { Headline } from "./headline";

const ACTS: Readonly<Record<RunRecord["state"], string>> = {
  prepared: "Resume preparation",
  open: "Resume",
  finished: "Open result",
};

interface RunLineProps {
  readonly run: RunRecord;
  readonly procedure: Procedure;
  readonly dossier: BoardDossier;
  /** All that it found, in as many lines as that takes. */
  readonly whole: boolean;
  /** In the line of its step, where its title would leave no room for what it found. */
  readonly inline?: boolean;
}

/** The runs of a step, one line each. */
export function RunLines({ runs, ...of }: Omit<RunLineProps, "run"> & { readonly runs: readonly RunRecord[] }) {
  return (
    <ul>
      {runs.map((r) => (
        <li key={r.id}>
          <RunLine run={r} {...of} />
        </li>
      ))}
    </ul>
  );
}

/** A run: what it is called, of which sample, what it found, and the way to it. */
export function RunLine({ run: r, procedure, dossier, whole, inline = false }: RunLineProps) {
  const findings: readonly Finding[] =
    dossier.evidence.flatMap((s) => s.runs).find((x) => x.id === r.id)?.findings ?? [];
  const page = `/run/${r.id}/${runPage(procedure.id, r.state)}`;
  return (
    <div
      className={`grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3 text-sm ${inline ? "min-[900px]:grid-cols-[auto_minmax(0,1fr)_auto]" : "min-[700px]:grid-cols-[minmax(0,12rem)_minmax(0,1fr)_auto]"}`}
    >
      <span className="min-w-0 truncate" title={`${r.title}, ${calendarDay(r.startUtc, r.zone)}`}>
        <Link href={page} className={inline ? "hover:underline min-[900px]:hidden" : "hover:underline"}>
          {r.title}
        </Link>
        <span className="text-pencil">
          <span className={inline ? "min-[900px]:hidden" : ""}> · </span>
          {dossier.samples.find((s) => s.id === r.sampleId)?.name ?? "sample deleted"}
        </span>
      </span>
      <span
        className={`flex min-w-0 items-baseline ${inline ? "max-[899px]:order-last max-[899px]:col-span-2" : "max-[700px]:order-last max-[700px]:col-span-2"} ${whole ? "" : "truncate [&_p]:truncate"}`}
        {...(r.setAside ? { title: `Set aside: ${r.setAside}` } : {})}
      >
        {r.source.kind === "simulated" ? <SimulatedMark className="mr-2" /> : null}
        {r.setAside ? <span className="text-pencil">set aside{whole ? `: ${r.setAside}` : ""} </span> : null}
        <Headline procedure={procedure} findings={findings} most={whole ? 6 : 2} />
      </span>
      <Link
        href={page}
        {...(inline ? { "aria-label": `${ACTS[r.state]}: ${r.title}` } : {})}
        className={`whitespace-nowrap underline decoration-pencil/60 underline-offset-4 ${r.state === "finished" ? "" : "font-semibold"}`}
      >
        {ACTS[r.state]}
      </Link>
    </div>
  );
}
