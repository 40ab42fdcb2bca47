import { restDrop } from "../../cells";
import { formatQuantity, numeric } from "../../quantities";
import {
  HOUSE_RULES,
  type Analysis,
  type ChartSpec,
  type Corrections,
  type Finding,
  type Note,
  type Point,
  type ReadingsOf,
  type RunSetup,
} from "../../measurement";
import { logFinding } from "../kit/log-reading";

/** V a day from which a cell is rejected; the house's where an imported table brings none. */
export interface RestPlan {
  readonly limit: number;
}

const DAY = 86400;
const q = formatQuantity;

interface Reading {
  readonly id: string;
  readonly days: number;
  readonly volts: number;
}

/** The cells that a row reads: one, named beside its voltage, or one in each of the columns cell1Voltage, cell2Voltage … */
function cellsOf(p: Point): [cell: number, volts: number][] {
  const own = p.cells.cellVoltage?.value ?? null;
  const columns = Object.entries(p.cells).flatMap(([role, c]): [number, number][] => {
    const number = /^cell(\d+)Voltage$/.exec(role)?.[1];
    return number === undefined || c?.value === undefined || c.value === null ? [] : [[Number(number), c.value]];
  });
  return own === null ? columns : [[p.cells.cell?.value ?? 1, own], ...columns];
}

function readingsOf(points: readonly Point[], leftOut: ReadonlyMap<string, string>): Map<number, Reading[]> {
  const value = (p: Point, role: "time") => p.cells[role]?.value ?? null;
  const out = new Map<number, Reading[]>();
  for (const p of points) {
    const time = value(p, "time");
    if (time === null || leftOut.has(p.id)) continue;
    for (const [cell, volts] of cellsOf(p))
      out.set(cell, [...(out.get(cell) ?? []), { id: p.id, days: time / DAY, volts }]);
  }
  for (const list of out.values()) {
    list.sort((a, b) => a.days - b.days);
    const first = list[0]?.days ?? 0;
    list.forEach((r, k) => (list[k] = { ...r, days: r.days - first }));
  }
  return out;
}

/** How fast each cell's rest voltage falls, from readings days apart. */
export function analyseRest(
  readings: ReadingsOf<"points">,
  setup: RunSetup,
  { leftOut }: Pick<Corrections, "leftOut">,
): Analysis {
  const findings: Finding[] = [];
  const notes: Note[] = [];
  const cells = [...readingsOf(readings.points, leftOut)].sort(([a], [b]) => a - b);
  const series: ChartSpec["series"][number][] = [];
  for (const [cell, all] of cells) {
    const { rate, used: rows, settled } = restDrop(all, setup.instruments.cellVoltage);
    const used = rows.map((k) => all[k] as Reading);
    series.push({
      id: `cell${cell}`,
      label: `cell ${cell}`,
      tone: (cell - 1) % 6,
      points: all.map((r) => ({
        x: r.days,
        y: r.volts,
        id: r.id,
        state: used.includes(r) ? ("counts" as const) : ("left-out" as const),
      })),
    });
    if (!rate) {
      notes.push({
        code: "one-reading",
        message: `Cell ${cell} was measured only once: measure it again in a day or more.`,
        points: all.map((r) => r.id),
      });
      continue;
    }
    if (!settled)
      notes.push({
        code: "settling",
        message: `Cell ${cell}: no two readings later than a day after the first; the fall holds some of the settling after the charge. Measure it again in a week.`,
      });
    const f = logFinding("cell.rest-drop-rate", rate, setup, { conditions: { cell } });
    if (f) findings.push({ ...f, points: used.map((r) => r.id) });
  }
  verdicts(findings, notes, (setup.plan as RestPlan | undefined)?.limit ?? HOUSE_RULES.restDrop);
  const chart: ChartSpec = {
    id: "rest",
    title: "Rest voltage over the days",
    x: { label: "Days since the first reading", unit: "" },
    y: { label: "Voltage", unit: "V" },
    claims: [],
    series,
  };
  return { findings, notes, charts: series.length ? [chart] : [] };
}

/** Which cells are rejected, which pass, which can't be told yet. */
function verdicts(findings: readonly Finding[], notes: Note[], limit: number): void {
  const named = (list: readonly Finding[]) =>
    list.map((f) => `${f.conditions.cell} (${q(1000 * numeric(f.value), "", { digits: 2 })} mV a day)`).join(", ");
  const u = (f: Finding) => f.expandedUncertainty ?? 0;
  const bad = findings.filter((f) => numeric(f.value) - u(f) > limit);
  const good = findings.filter((f) => numeric(f.value) + u(f) <= limit);
  const open = findings.filter((f) => !bad.includes(f) && !good.includes(f));
  const plural = (list: readonly Finding[]) => (list.length === 1 ? "Cell" : "Cells");
  if (bad.length)
    notes.push({
      code: "rejected",
      message: `${plural(bad)} ${named(bad)} ${bad.length === 1 ? "falls" : "fall"} by more than ${1000 * limit} mV a day: reject ${bad.length === 1 ? "it" : "them"}, mark ${bad.length === 1 ? "it" : "them"} and take ${bad.length === 1 ? "it" : "them"} to a collection point. What falls so fast discharges itself inside.`,
    });
  if (good.length)
    notes.push({
      code: "sound",
      message: `${plural(good)} ${good.map((f) => f.conditions.cell).join(", ")} ${good.length === 1 ? "stays" : "stay"} within ${1000 * limit} mV a day.`,
    });
  if (open.length)
    notes.push({
      code: "open",
      message: `${plural(open)} ${named(open)}: too close to ${1000 * limit} mV a day to call. Read again later; a slope over more days is surer.`,
    });
}
