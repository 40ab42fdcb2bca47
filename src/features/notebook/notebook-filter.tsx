import type { VerdictWord } from "@/core/verdicts";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/quantity-field";
import { Select } from "@/ui/select";
import { AS_ADDED, ORDERS, type Arrangement, type Order } from "./arrange";
import { STEP_KINDS, type StepKind } from "./next-step";

const VERDICTS: readonly VerdictWord[] = [
  "meets",
  "misses",
  "too close to call",
  "not fairly tested",
  "not measured",
  "claim unclear",
];
const ORDER_LABELS: Readonly<Record<Order, string>> = {
  added: "added",
  name: "name",
  misses: "most misses",
  runs: "most runs",
};
const STEP_LABELS: Readonly<Record<StepKind, string>> = {
  resume: "resume a run",
  "finish preparing": "finish preparing",
  "add claims": "add claims",
  measure: "measure",
  none: "nothing left",
};
const ANY = { value: "any" as const, label: "any" };

/** Finding boards among many: words, a verdict, the next step, the order. */
export function NotebookFilter({
  value,
  shown,
  of,
  onValue,
}: {
  readonly value: Arrangement;
  readonly shown: number;
  readonly of: number;
  onValue(a: Arrangement): void;
}) {
  const put = (change: Partial<Arrangement>) => onValue({ ...value, ...change });
  return (
    <div className="no-print flex flex-wrap items-center gap-x-5 gap-y-2">
      <TextField
        label="Find boards: name, note or function"
        hideLabel
        placeholder="Find boards"
        text={value.text}
        onText={(text) => put({ text })}
      />
      <Select
        label="Verdict"
        value={value.verdict}
        onValue={(verdict) => put({ verdict })}
        choices={[ANY, ...VERDICTS.map((v) => ({ value: v, label: v }))]}
      />
      <Select
        label="Next step"
        value={value.step}
        onValue={(step) => put({ step })}
        choices={[ANY, ...STEP_KINDS.map((s) => ({ value: s, label: STEP_LABELS[s] }))]}
      />
      <Select
        label="Sort by"
        value={value.order}
        onValue={(order) => put({ order })}
        choices={ORDERS.map((o) => ({ value: o, label: ORDER_LABELS[o] }))}
      />
      <span role="status" className="text-sm text-pencil">
        {shown === of ? `${of} boards` : `${shown} of ${of} boards`}
      </span>
      {shown < of ? (
        <Button look="bare" onClick={() => onValue({ ...AS_ADDED, order: value.order })}>
          Show all
        </Button>
      ) : null}
    </div>
  );
}
