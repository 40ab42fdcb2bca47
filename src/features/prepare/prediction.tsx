import { ofTrace, type PredictedFigure } from "@/core/procedures";
import type { RunSetup } from "@/core/measurement";
import { Predicted } from "./predicted";
import type { Preparation } from "./use-preparation";

/** Whether a procedure predicts anything at all. */
export const predicts = (p: Preparation["p"]): boolean =>
  ofTrace(p)?.predicts !== undefined || ofTrace(p)?.forecast !== undefined;

/** What the plan predicts: in figures, and drawn as the log will show it. */
export function Prediction({ prep: { p, full } }: { readonly prep: Preparation }) {
  const setup: RunSetup = full;
  const figures = ofTrace(p)?.forecast?.(setup) ?? [];
  const curves = ofTrace(p)?.predicts?.(setup) ?? [];
  if (figures.length === 0 && curves.length === 0)
    return <p className="text-sm text-pencil">Nothing yet: it needs what is listed under “Blocked”.</p>;
  return (
    <>
      <dl className="grid grid-cols-2 gap-x-6 gap-y-1.5">
        {figures.map((f) => (
          <Figure key={f.label} figure={f} />
        ))}
      </dl>
      <Predicted curves={curves} />
    </>
  );
}

function Figure({ figure: { label, text, main } }: { readonly figure: PredictedFigure }) {
  return (
    <div className={main ? "col-span-2" : ""}>
      <dt className="text-sm text-pencil">{label}</dt>
      <dd className={main ? "figures text-2xl font-semibold" : "figures text-lg"}>{text}</dd>
    </div>
  );
}
