import type { Finding, Procedure } from "@/core/procedures";
import { runPage } from "@/core/procedures/versions";
import type { RunRecord } from "@/core/files/records";
import type { BoardDossier } from "@/storage";
import { Link } from "@/ui/link";
import { SimulatedMark } from "@/ui/verdict-mark";
import { Headline } from "./headline";

const ACTS: Readonly<Record<RunRecord["state"], string>> = { prepared: "Resume preparation", open: "Resume", finished: "Open result" };

/** The runs of a step, one line each: what it is called, of which sample, what it found, and the way to it. */
export function RunLines({ procedure, dossier, whole }: { readonly procedure: Procedure; readonly dossier: BoardDossier; /** All that it found, in as many lines as that takes. */ readonly whole: boolean }) {
  const runs = dossier.runs.filter((r) => r.procedure === procedure.id);
  const findings = (id: string): readonly Finding[] => dossier.evidence.flatMap((s) => s.runs).find((r) => r.id === id)?.findings ?? [];
  return (
    <ul>
      {runs.map((r) => {
        const page = `/run/${r.id}/${runPage(procedure.id, r.state)}`;
        return (
          <li key={r.id} className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3 py-0.5 text-sm min-[700px]:grid-cols-[15rem_minmax(0,1fr)_auto]">
            <span className="min-w-0 truncate">
              <Link href={page} className="hover:underline">
                {r.title}
              </Link>
              <span className="text-pencil"> · {dossier.samples.find((s) => s.id === r.sampleId)?.name ?? "sample deleted"}</span>
            </span>
            <span className={`flex min-w-0 items-baseline max-[700px]:order-last max-[700px]:col-span-2 ${whole ? "" : "truncate [&_p]:truncate"}`} {...(r.setAside ? { title: `Set aside: ${r.setAside}` } : {})}>
              {r.source.kind === "simulated" ? <SimulatedMark className="mr-2" /> : null}
              {r.setAside ? <span className="text-pencil">set aside{whole ? `: ${r.setAside}` : ""} </span> : null}
              <Headline procedure={procedure} findings={findings(r.id)} most={whole ? 6 : 2} />
            </span>
            <Link href={page} className={`whitespace-nowrap underline decoration-pencil/60 underline-offset-4 ${r.state === "finished" ? "" : "font-semibold"}`}>
              {ACTS[r.state]}
            </Link>
          </li>
        );
      })}
    </ul>
  );
}
