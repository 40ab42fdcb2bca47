"use client";

import { useState } from "react";
import { chooseProgramme, fitProgramme, type MeasuredProgramme, type Programme } from "@/core/fit";
import { formatQuantity, parseQuantity, type SeriesName } from "@/core/quantities";
import type { PlannedCell } from "@/core/procedures";
import { useLive } from "@/storage";
import { programmeOf } from "@/storage/programmed";
import { Button } from "@/ui/button";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { NumberField } from "@/ui/number-field";
import { TextField } from "@/ui/quantity-field";
import { named, Select } from "@/ui/select";

/** Pairs as text: `1k8 0.5A, 9k1 0.1A`. */
export function parsePairs(text: string): { pairs: { ohms: number; amps: number }[] } | { error: string } {
  const pairs: { ohms: number; amps: number }[] = [];
  for (const part of text.split(/[;\n]+|,(?=\s)/).map((t) => t.trim()).filter(Boolean)) {
    const [first = "", second = "", ...more] = part.split(/\s+/);
    const [ohms, amps] = [parseQuantity(first, "Ω"), parseQuantity(second, "A")];
    if (more.length || !ohms.ok || !amps.ok || !(ohms.value.value > 0) || !(amps.value.value > 0)) return { error: `“${part}”: write a resistor and its current as 1k8 0.5A, pairs apart by a semicolon.` };
    pairs.push({ ohms: ohms.value.value, amps: amps.value.value });
  }
  return { pairs };
}

/** The programme resistor for a better current: from the data sheet's K or measured pairs, to what can be bought or is at hand. */
export function ProgrammeHelper({ boardId, cell, drawer, onCurrent }: { boardId: string; cell: PlannedCell; drawer: readonly number[]; onCurrent(amps: number): void }) {
  const live = useLive(`programme-${boardId}`, () => programmeOf(boardId));
  const fromRuns = live.state === "ready" ? live.value : null;
  const [target, setTarget] = useState<number | null>(() => Number((Math.min(cell.chargeRate, cell.chargeRateLimit) * cell.capacity).toPrecision(3)));
  const [k, setK] = useState<number | null>(null);
  const [series, setSeries] = useState<SeriesName>("E24");
  const [pairsText, setPairsText] = useState("");
  const [own, setOwn] = useState("");
  const pairs = parsePairs(pairsText);
  const measured = "pairs" in pairs && pairs.pairs.length >= 2 ? fitProgramme(pairs.pairs) : null;
  const parts = own.split(/[,;\s]+/).filter(Boolean).map((t) => parseQuantity(t, "Ω"));
  const bad = parts.find((p) => !p.ok);
  const at = [...drawer, ...parts.flatMap((p) => (p.ok && p.value.value > 0 ? [p.value.value] : []))];
  const programme: Programme | null = measured ?? (k ? { k, offset: 0, tolerance: 0.1 } : fromRuns);
  const choices = programme && target ? chooseProgramme(target, programme, series, at) : [];
  return (
    <details className="mt-2">
      <summary className="font-medium">
        Another current: programming resistor <span className="text-pencil">(I = K ÷ R)</span>
      </summary>
      <div className="mt-2 flex flex-wrap gap-x-5">
        <NumberField label="Current wanted" quantity="A" value={target} refuse={(v) => (v > 0 ? null : "Enter a value above zero.")} onValue={setTarget} />
        <NumberField label="K from the data sheet" quantity="V" value={k} refuse={(v) => (v > 0 ? null : "Enter a value above zero.")} onValue={setK} />
        <Select<SeriesName> label="Values from" place="above" value={series} onValue={setSeries} choices={named<SeriesName>(["E12", "E24", "E96"])} />
        <TextField label="or measured pairs" text={pairsText} onText={setPairsText} numeric placeholder="1k8 0.5A; 9k1 0.1A" error={"error" in pairs ? pairs.error : null} echo={measured ? `K ${formatQuantity(measured.k, "V", { digits: 4 })}, ${formatQuantity(measured.offset, "Ω", { digits: 2 })} inside` : undefined} />
        <TextField label="Resistors at hand" text={own} onText={setOwn} numeric placeholder="1k5 2k2 4k7" error={bad && !bad.ok ? bad.error : null} echo={parts.length && !bad ? `${parts.length} values` : undefined} />
      </div>
      {fromRuns ? <p className="mb-2 text-sm">{ownText(fromRuns)}</p> : null}
      {choices.length ? (
        <DataTable label="Resistors for the current" rows={choices} columns={columnsFor(onCurrent)} id={(c) => c.parts.join() + c.join} />
      ) : null}
    </details>
  );
}

/** K as this board's own charges gave it. */
function ownText(p: MeasuredProgramme): string {
  const inside = p.offset > 0 ? `, with ${formatQuantity(p.offset, "Ω", { digits: 2 })} ± ${formatQuantity(p.offsetU, "Ω", { digits: 2 })} inside` : "";
  const from = `${p.runs} ${p.runs === 1 ? "charge" : "charges"} of this board with ${p.resistors} ${p.resistors === 1 ? "resistor" : "different resistors"}`;
  return `K measured: ${formatQuantity(p.k, "V", { digits: 4 })} ± ${formatQuantity(p.kU, "V", { digits: 2 })}${inside} (${from}). It is used unless you enter K or pairs above.`;
}

type ProgrammeChoice = ReturnType<typeof chooseProgramme>[number];

const columnsFor = (onCurrent: (amps: number) => void): DataColumn<ProgrammeChoice>[] => [
  { id: "resistor", head: "Resistor", className: "figures", cell: (c) => c.parts.map((r) => formatQuantity(r, "Ω", { digits: 3 })).join(c.join === "series" ? " + " : " ∥ ") },
  { id: "gives", head: "Gives", className: "figures", by: (c) => c.amps, cell: (c) => formatQuantity(c.amps, "A", { digits: 3 }) },
  {
    id: "tolerances",
    head: "Over the tolerances",
    cell: (c) => (
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
    cell: (c) => (
      <Button look="bare" onClick={() => onCurrent(Number(c.amps.toPrecision(3)))}>
        Use this resistor
      </Button>
    ),
  },
];
