"use client";

import { compute } from "@/workers/compute";
import { useForm, useWatch } from "react-hook-form";
import { chooseProgramme, fitProgramme, type MeasuredProgramme, type Programme } from "@/core/fit";
import { formatQuantity, parseQuantity, type SeriesName } from "@/core/quantities";
import type { PlannedCell } from "@/core/measurement";
import { useLive } from "@/storage";
import { programmeOf } from "@/notebook/programmed";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { FormNumber, FormParsed, FormSelect } from "@/ui/form-fields";
import { fieldText } from "@/ui/number-field";
import { positive } from "@/ui/refusals";
import { choicesByName } from "@/ui/select";

interface Pair {
  readonly ohms: number;
  readonly amps: number;
}

/** Pairs as text: `1k8 0.5A; 9k1 0.1A`. */
function readPairs(text: string): { readonly value: readonly Pair[] } | { readonly error: string } {
  const value: Pair[] = [];
  for (const part of text
    .split(/[;\n]+|,(?=\s)/)
    .map((t) => t.trim())
    .filter(Boolean)) {
    const [first = "", second = "", ...more] = part.split(/\s+/);
    const [ohms, amps] = [parseQuantity(first, "Ω"), parseQuantity(second, "A")];
    if (more.length || !ohms.ok || !amps.ok || !(ohms.value.value > 0) || !(amps.value.value > 0))
      return { error: `“${part}”: write a resistor and its current as 1k8 0.5A, pairs apart by a semicolon.` };
    value.push({ ohms: ohms.value.value, amps: amps.value.value });
  }
  return { value };
}

/** Resistors as text: `1k5 2k2 4k7`. */
function readResistors(text: string): { readonly value: readonly number[] } | { readonly error: string } {
  const parts = text
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map((t) => ({ t, read: parseQuantity(t, "Ω") }));
  const value: number[] = [];
  for (const { t, read } of parts) {
    if (!read.ok) return { error: read.error };
    if (!(read.value.value > 0)) return { error: `“${t}”: enter a value above zero.` };
    value.push(read.value.value);
  }
  return { value };
}

interface Wanted {
  target: number | null;
  k: number | null;
  series: SeriesName;
  pairs: readonly Pair[];
  own: readonly number[];
}
const numberOrNull = (v: number | null): number | null => (v === null || Number.isNaN(v) ? null : v);
/** What a list holds as it is typed: nothing while it makes no sense. */
const listed = <V,>(v: readonly V[]): readonly V[] => (Array.isArray(v) ? v : []);

export interface ProgrammeHelperProps {
  readonly boardId: string;
  readonly cell: PlannedCell;
  /** Ω of the resistors at hand. */
  readonly resistors: readonly number[];
  onCurrent(amps: number): void;
}

/** The programme resistor for a better current: from the data sheet's K or measured pairs, to what can be bought or is at hand. */
export function ProgrammeHelper({ boardId, cell, resistors, onCurrent }: ProgrammeHelperProps) {
  const live = useLive(`programme-${boardId}`, () => programmeOf(compute, boardId));
  const fromRuns = live.state === "ready" ? live.value : null;
  const { control } = useForm<Wanted>({
    defaultValues: {
      target: Number((Math.min(cell.chargeRate, cell.chargeRateLimit) * cell.capacity).toPrecision(3)),
      k: null,
      series: "E24",
      pairs: [],
      own: [],
    },
  });
  const wanted = useWatch({ control }) as Wanted;
  const pairs = listed(wanted.pairs);
  const measured = pairs.length >= 2 ? fitProgramme(pairs) : null;
  const [target, k] = [numberOrNull(wanted.target), numberOrNull(wanted.k)];
  const programme: Programme | null = measured ?? (k ? { k, offset: 0, tolerance: 0.1 } : fromRuns);
  const choices =
    programme && target ? chooseProgramme(target, programme, wanted.series, [...resistors, ...listed(wanted.own)]) : [];
  return (
    <details className="mt-2">
      <summary className="font-medium">
        Another current: programming resistor <span className="text-pencil">(I = K ÷ R)</span>
      </summary>
      <div className="mt-2 flex flex-wrap gap-x-5">
        <FormNumber control={control} name="target" label="Current wanted" quantity="A" refuse={positive} />
        <FormNumber control={control} name="k" label="K from the data sheet" quantity="V" refuse={positive} />
        <FormSelect<Wanted, SeriesName>
          control={control}
          name="series"
          label="Values from"
          place="above"
          choices={choicesByName<SeriesName>(["E12", "E24", "E96"])}
        />
        <FormParsed<Wanted, readonly Pair[]>
          control={control}
          name="pairs"
          label="or measured pairs"
          numeric
          placeholder="1k8 0.5A; 9k1 0.1A"
          textOf={(list) => list.map((p) => `${fieldText(p.ohms, "Ω")} ${fieldText(p.amps, "A")}A`).join("; ")}
          read={readPairs}
          echoOf={() =>
            measured
              ? `K ${formatQuantity(measured.k, "V", { digits: 4 })}, ${formatQuantity(measured.offset, "Ω", { digits: 2 })} inside`
              : undefined
          }
        />
        <FormParsed<Wanted, readonly number[]>
          control={control}
          name="own"
          label="Resistors at hand"
          numeric
          placeholder="1k5 2k2 4k7"
          textOf={(list) => list.map((r) => fieldText(r, "Ω")).join(" ")}
          read={readResistors}
          echoOf={(list) => (list.length ? `${list.length} values` : undefined)}
        />
      </div>
      {fromRuns ? <p className="mb-2 text-sm">{ownText(fromRuns)}</p> : null}
      {choices.length ? (
        <DataTable
          label="Resistors for the current"
          rows={choices}
          columns={columnsFor(onCurrent)}
          id={(c) => c.parts.join() + c.join}
        />
      ) : null}
    </details>
  );
}

/** K as this board's own charges gave it. */
function ownText(p: MeasuredProgramme): string {
  const inside =
    p.offset > 0
      ? `, with ${formatQuantity(p.offset, "Ω", { digits: 2 })} ± ${formatQuantity(p.offsetU, "Ω", { digits: 2 })} inside`
      : "";
  const from = `${p.runs} ${p.runs === 1 ? "charge" : "charges"} of this board with ${p.resistors} ${p.resistors === 1 ? "resistor" : "different resistors"}`;
  return `K measured: ${formatQuantity(p.k, "V", { digits: 4 })} ± ${formatQuantity(p.kU, "V", { digits: 2 })}${inside} (${from}). It is used unless you enter K or pairs above.`;
}

type ProgrammeChoice = ReturnType<typeof chooseProgramme>[number];

const columnsFor = (onCurrent: (amps: number) => void): DataColumn<ProgrammeChoice>[] => [
  {
    id: "resistor",
    head: "Resistor",
    className: "figures",
    content: (c) => c.parts.map((r) => formatQuantity(r, "Ω", { digits: 3 })).join(c.join === "series" ? " + " : " ∥ "),
  },
  {
    id: "gives",
    head: "Gives",
    className: "figures",
    by: (c) => c.amps,
    content: (c) => formatQuantity(c.amps, "A", { digits: 3 }),
  },
  {
    id: "tolerances",
    head: "Over the tolerances",
    content: (c) => (
      <>
        <span className="figures">
          {formatQuantity(c.low, "A", { digits: 3 })} to {formatQuantity(c.high, "A", { digits: 3 })}
        </span>
        {c.doubt ? <span className="block text-close">{c.doubt}</span> : null}
      </>
    ),
  },
  {
    id: "use",
    head: "Use",
    bare: true,
    content: (c) => (
      <Button look="bare" onClick={() => onCurrent(Number(c.amps.toPrecision(3)))}>
        Use this resistor
      </Button>
    ),
  },
];
