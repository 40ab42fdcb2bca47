import type { FileChoice, FileQuestion, Procedure } from "@/core/procedures";
import { NumberField } from "@/ui/number-field";
import { Select } from "@/ui/select";

export interface AskedFieldsProps {
  readonly procedure: Procedure;
  value(condition: FileQuestion["condition"]): number | null;
  word(condition: FileChoice["condition"]): string | undefined;
  onValue(condition: FileQuestion["condition"], value: number | null): void;
  onWord(condition: FileChoice["condition"], word: string): void;
}

/** What a procedure asks beside a file. */
export function AskedFields({ procedure: p, value, word, onValue, onWord }: AskedFieldsProps) {
  return (
    <>
      {(p.chooses ?? []).map((q) => (
        <span key={q.condition} className="mb-3 self-center">
          <Select label={q.label} value={word(q.condition) ?? q.of[0].value} onValue={(v) => onWord(q.condition, v)} choices={q.of} />
        </span>
      ))}
      {p.asks.map((q) => (
        <NumberField
          key={q.condition}
          label={q.label}
          quantity={q.unit}
          value={value(q.condition)}
          optional={!q.required}
          onValue={(v) => onValue(q.condition, v)}
          refuse={(v) => (q.aboveZero && !(v > 0) ? "Enter a value above zero." : !q.aboveZero && q.unit !== "°C" && v < 0 ? "Enter zero or more." : null)}
        />
      ))}
    </>
  );
}
