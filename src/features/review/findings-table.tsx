import { useState } from "react";
import {
  characteristic,
  CONDITION_LABELS,
  formatConditions,
  formatConditionValue,
  type ConditionName,
} from "@/core/characteristics";
import { formatQuantity, listed, plainNumber, type ErrorKind, type ErrorSource } from "@/core/quantities";
import { meterName, uncertaintyRemark } from "@/core/procedures/kit/accuracies";
import { roleLabel, type Finding, type Role } from "@/core/measurement";
import { DataTable, type DataColumn } from "@/ui/data-table";
import { usePointNames } from "./point-numbers";

/** What an error source is called where nothing names it. */
const KIND_WORDS: Readonly<Record<ErrorKind, string>> = {
  gain: "the gain error",
  offset: "the offset error",
  own: "the noise and resolution",
  lead: "the leads",
  model: "the model",
  sampling: "sampling",
};

/** An error source in words: the gain error of the output current, the scatter of the repeats. */
export function sourceText({ kind, role, id }: ErrorSource): string {
  if (role) return `${KIND_WORDS[kind]} of the ${roleLabel(role as Role).toLowerCase()}`;
  if (!id) return KIND_WORDS[kind];
  return kind === "gain" || kind === "offset" ? `${KIND_WORDS[kind]} of the ${id}` : id;
}

export function findingValue(f: Finding): string {
  if (typeof f.value === "string") return f.value;
  const value = formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty, withUncertainty: true });
  return `${f.bound === "at-least" ? "≥ " : f.bound === "at-most" ? "≤ " : ""}${value}`;
}

/** A result's value with what has to be known of it; it opens to where it comes from. */
export function ValueButton({
  finding: f,
  open,
  onOpen,
  remark = true,
}: {
  readonly finding: Finding;
  readonly open: boolean;
  onOpen(): void;
  /** Not where the table says it of all its values. */ readonly remark?: boolean;
}) {
  return (
    <button
      type="button"
      className="figures whitespace-nowrap decoration-pencil/60 underline-offset-4 hover:underline aria-expanded:underline"
      aria-expanded={open}
      onClick={onOpen}
    >
      {findingValue(f)}
      {remark && uncertaintyRemark(f) ? (
        <span className="font-sans text-sm text-pencil"> {uncertaintyRemark(f)}</span>
      ) : null}
      {f.unfair.length ? <span className="font-sans text-unfair"> not fair</span> : null}
    </button>
  );
}

interface Row {
  readonly key: string;
  readonly name: string;
  /** What tells it from other rows of its quantity, in words. */
  readonly apart: string;
  /** By the condition that tells the columns apart; under "all" what stands at none. */
  readonly cells: ReadonlyMap<string, Finding>;
}

/** The conditions by which findings may stand in columns, first come first. */
const APART = ["battery", "channel", "state"] as const;

function pivot(findings: readonly Finding[]): {
  by: (typeof APART)[number];
  columns: string[];
  rows: Row[];
  common: string;
} {
  const by = APART.find((name) => findings.some((f) => f.conditions[name] !== undefined)) ?? "battery";
  const columnOf = (f: Finding): string => (f.conditions[by] === undefined ? "all" : String(f.conditions[by]));
  // The fullest battery first; channels as they are numbered.
  const up = by === "battery" ? -1 : 1;
  const columns = [...new Set(findings.map(columnOf))].filter((c) => c !== "all");
  if (by !== "state") columns.sort((a, b) => up * (Number(a) - Number(b)));
  // What stands at every finding alike is said once; what tells findings of one quantity apart makes rows of their own.
  const first = Object.entries(findings[0]?.conditions ?? {}).filter(([k]) => k !== by);
  const common = first.filter(([k, v]) => findings.every((f) => f.conditions[k as ConditionName] === v));
  const own = (f: Finding) =>
    Object.entries(f.conditions).filter(([k]) => k !== by && !common.some(([c]) => c === k)) as [
      ConditionName,
      number | string,
    ][];
  const rows = new Map<string, { name: string; apart: string; cells: Map<string, Finding> }>();
  for (const f of findings) {
    const key = f.characteristic + JSON.stringify(own(f));
    const row = rows.get(key) ?? {
      name: f.characteristic,
      apart: own(f)
        .map(([k, v]) => (typeof v === "number" ? `${CONDITION_LABELS[k]} ${formatConditionValue(k, v)}` : v))
        .join(", "),
      cells: new Map<string, Finding>(),
    };
    row.cells.set(columnOf(f), f);
    rows.set(key, row);
  }
  return {
    by,
    columns,
    rows: [...rows].map(([key, row]) => ({ key, ...row })),
    common: formatConditions(Object.fromEntries(common)),
  };
}

/** Findings with their expanded uncertainty (k = 2), a column a battery voltage, a channel or an idle state; each opens to where it comes from. */
export function FindingsTable({ findings, onPoint }: { findings: readonly Finding[]; onPoint(id: string): void }) {
  const [open, setOpen] = useState<string | null>(null);
  if (findings.length === 0)
    return <p className="text-pencil">No results yet: at least one complete point is needed.</p>;
  const { by, columns: apart, rows, common } = pivot(findings);
  const valueColumn = (key: string, head: string): DataColumn<Row> => ({
    id: key,
    head,
    heading: <span className="block text-right">{head}</span>,
    className: "text-right text-base",
    content: (row) => {
      const f = row.cells.get(key);
      if (f)
        return (
          <ValueButton
            finding={f}
            open={open === row.key + key}
            onOpen={() => setOpen(open === row.key + key ? null : row.key + key)}
          />
        );
      return key === "all" || row.cells.has("all") ? null : <span className="text-pencil">not shown</span>;
    },
  });
  const columns: readonly DataColumn<Row>[] = [
    {
      id: "quantity",
      head: "Quantity",
      names: true,
      className: "text-base",
      content: (row) => (
        <>
          {characteristic(row.name)?.label ?? row.name}
          {row.apart ? <span className="text-pencil">, {row.apart}</span> : null}
        </>
      ),
    },
    ...apart.map((c) => valueColumn(c, by === "state" ? c : `${by} ${formatConditionValue(by, Number(c))}`)),
    ...(rows.some((r) => r.cells.has("all")) ? [valueColumn("all", apart.length ? "Overall" : "Value")] : []),
  ];
  const shown = (row: Row): Finding | undefined => [...row.cells].find(([c]) => open === row.key + c)?.[1];
  return (
    <div>
      <p className="mb-1 text-sm text-pencil">
        Value ± expanded uncertainty, k = 2{common ? `, ${common}` : ""}. Select a value for its sources.
      </p>
      <DataTable
        rows={rows}
        columns={columns}
        id={(r) => r.key}
        least={560}
        below={(row) => {
          const f = shown(row);
          return f ? <Origin finding={f} onPoint={onPoint} /> : null;
        }}
      />
    </div>
  );
}

/** Results as a table for a spreadsheet: quantity, conditions, value, expanded uncertainty and unit, tabs between. */
export function findingsAsTable(findings: readonly Finding[]): string {
  const rows = findings.map((f) => [
    characteristic(f.characteristic)?.label ?? f.characteristic,
    formatConditions(f.conditions),
    `${f.bound ? `${f.bound.replace("-", " ")} ` : ""}${typeof f.value === "number" ? plainNumber(f.value, f.expandedUncertainty) : f.value}`,
    f.expandedUncertainty === undefined ? "" : plainNumber(f.expandedUncertainty, f.expandedUncertainty),
    f.unit,
  ]);
  return [["Quantity", "Conditions", "Value", "U (k = 2)", "Unit"], ...rows].map((r) => r.join("\t")).join("\n");
}

/** What a finding means, which readings it came from and which error sources make up its uncertainty. */
export function Origin({ finding: f, onPoint }: { finding: Finding; onPoint(id: string): void }) {
  const nameOf = usePointNames();
  return (
    <>
      <p className="mb-1">
        {characteristic(f.characteristic)?.definition} {formatConditions(f.conditions)}
      </p>
      {f.bracket ? (
        <p className="mb-1">
          Between {formatQuantity(f.bracket.low, f.unit, { uncertainty: f.expandedUncertainty })} and{" "}
          {formatQuantity(f.bracket.high, f.unit, { uncertainty: f.expandedUncertainty })}: the last that held and the
          first that fell.
        </p>
      ) : null}
      {f.bound ? <p className="mb-1">The run stopped before the limit, so this is a bound.</p> : null}
      {f.budget.length ? (
        <ul className="mb-1" aria-label="Sources of the uncertainty">
          <li className="text-pencil">Of its uncertainty come</li>
          {mergeOwn(f).map((b) => (
            <li key={b.label}>
              <span className="figures inline-block w-14 text-right">{Math.round(b.share * 100)} %</span> from {b.label}
            </li>
          ))}
        </ul>
      ) : (
        <p>
          {f.unstated?.length
            ? `The accuracy of the ${listed(f.unstated.map(meterName))} meter${f.unstated.length > 1 ? "s" : ""} is not stated.`
            : "No uncertainty is stated."}
        </p>
      )}
      {f.points.map((id, i) => (
        <button key={id} type="button" className="mr-3 underline underline-offset-4" onClick={() => onPoint(id)}>
          {nameOf(id, i)}
        </button>
      ))}
      {f.unfair.map((u) => (
        <p key={u.code} className="mt-1 text-unfair">
          {u.message} {u.remedy}
        </p>
      ))}
    </>
  );
}

/** The budget with each meter's own noise over many readings in one line; less than half a per cent is passed over. */
function mergeOwn(f: Finding): { label: string; share: number }[] {
  const merged = new Map<string, number>();
  for (const b of f.budget) merged.set(sourceText(b.source), (merged.get(sourceText(b.source)) ?? 0) + b.share);
  return [...merged]
    .map(([label, share]) => ({ label, share }))
    .filter((b) => b.share >= 0.005)
    .sort((a, b) => b.share - a.share);
}
