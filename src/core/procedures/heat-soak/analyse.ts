import { fitWarming, powerOn, type Warming, type WarmingReadings } from "../../fit";
import {
  divide,
  ELEMENTS,
  formatDuration,
  formatQuantity,
  median,
  multiply,
  rectangular,
  subtract,
  uncertain,
  type Uncertain,
  scatter,
  model,
  exact,
} from "../../quantities";
import { finite, indexAt } from "../../traces";
import { changingLoad } from "../kit/changing-load";
import { cleanLog, logCharts, type CleanColumns } from "../kit/guided";
import { logFinding, meterReading } from "../kit/log-reading";
import type {
  Corrections,
  Role,
  Analysis,
  ChartSpec,
  Finding,
  Note,
  NotStated,
  ReadingsOf,
  RunSetup,
  Unfairness,
} from "../../measurement";
import type { Wanted } from "../contract";
import { meterSource } from "../../instruments";
import { chargerHeat } from "./charger";
import { SHAPE } from "./guide";
import { TOUCH, type HeatPlan } from "./plan";
import { heatSource, warmingPriors, warmingRows, type HeatSource } from "./readings";

const { sampleAt } = ELEMENTS;

const q = formatQuantity;
const ROLES = [
  "partTemperature",
  "ambientTemperature",
  "batteryVoltage",
  "batteryCurrent",
  "outputVoltage",
  "outputCurrent",
  "inputVoltage",
  "inputCurrent",
  "cellVoltage",
  "cellCurrent",
] as const satisfies readonly Role[];
/** K beyond which a prediction is no result, and W below which nothing warms worth the name. */
const VAGUE = 15;
const LEAST = 0.02;
/** Emissivity from which an infrared thermometer can be believed as it is. */
const MATT = 0.9;

/** Settled temperature, time constant, thermal resistance and highest ambient from a warming, however early it was stopped. */
export function analyseHeat(
  readings: ReadingsOf<"trace">,
  setup: RunSetup<HeatPlan>,
  _corrections?: Corrections,
  wanted: Wanted = "all",
): Analysis {
  const { trace } = readings;
  const log = cleanLog(trace, setup, ROLES);
  if (!log?.columns.partTemperature)
    return {
      findings: [],
      notes: [{ code: "no-temperature", message: "The log has no part temperature: the heat can't be analysed." }],
      charts: [],
    };
  const { time, columns } = log;
  const notes: Note[] = [];
  const findings: Finding[] = [];
  const { rows, pauses, cut } = throughout(warmingRows(time, columns, setup));
  if (pauses > 0)
    notes.push({
      code: "load-off",
      message: `The load was off for ${formatDuration(pauses)}. The fitted curve follows it.`,
    });
  if (cut > 0)
    notes.push({
      code: "load-lost",
      message: `The load was off for the last ${formatDuration(cut)} of the log, which are not used.`,
    });
  const load = columns.outputCurrent;
  if (load && rows.time.length)
    notes.push(
      ...changingLoad(time, load, [
        { first: powerOn(load), end: indexAt(time, sampleAt(rows.time, rows.time.length - 1)) + 1 },
      ]),
    );
  const source = heatSource(columns, setup);
  if (!columns.ambientTemperature && setup.conditions.ambientTemperature === undefined)
    notes.push({
      code: "no-ambient",
      message: "The ambient was neither logged nor stated, so temperature rises can't be found.",
    });
  if (!source)
    notes.push({
      code: "no-power",
      message:
        "The log lacks voltage and current on both sides, and the heat was not stated. Enter the dissipation in W for the thermal resistance.",
    });
  const fit =
    rows.time.length && source && median(rows.power.subarray(powerOn(rows.power))) > LEAST
      ? fitWarming(rows, warmingPriors(setup, rows, columns.ambientTemperature !== undefined))
      : null;
  if (!fit && source)
    notes.push({ code: "no-warming", message: "No warming was seen that a curve could be laid through." });
  const resistance = fit && source ? settled(fit, source, rows, columns, setup, findings, notes) : null;
  const notStated = lacking(columns, source, setup);
  if (fit && resistance && source === "input and cell") {
    const charger = chargerHeat(time, columns, rows, fit, resistance, setup);
    // An infrared thermometer that reads too low takes the board for a cooler one.
    const lowest =
      charger.lowest && logFinding("heat.lowest-cell-voltage", charger.lowest, setup, { unfair: unfairness(setup) });
    if (lowest) findings.push(lowest);
    notes.push(...charger.notes);
    if (charger.notStated) notStated.push(charger.notStated);
  }
  return { findings, notes, notStated, charts: wanted === "findings" ? [] : charts(log, fit, trace.events) };
}

/** What the log lacks for any of it: an ambient, the heat. */
function lacking(columns: CleanColumns, source: HeatSource | null, setup: RunSetup): NotStated[] {
  const all = [
    "heat.steady-temperature",
    "heat.time-constant",
    "heat.thermal-resistance",
    "heat.max-ambient",
    "heat.lowest-cell-voltage",
  ];
  if (!columns.ambientTemperature && setup.conditions.ambientTemperature === undefined)
    return all.map((characteristic) => ({
      characteristic,
      code: "needs",
      reason: "The ambient temperature was neither logged nor stated.",
      needs: { condition: "ambientTemperature" },
    }));
  if (!source)
    return all.map((characteristic) => ({
      characteristic,
      code: "needs",
      reason:
        "The power turned into heat is not known: the log lacks voltage and current on one side, and it was not stated.",
      needs: { condition: "dissipation" },
    }));
  return [];
}

/** The rows up to where the load went off for good, with the s that it was off before that and after. */
function throughout(rows: WarmingReadings): {
  readonly rows: WarmingReadings;
  readonly pauses: number;
  readonly cut: number;
} {
  const { time, power } = rows;
  const on = powerOn(power);
  const half = 0.5 * (power[on] ?? 0);
  let end = time.length;
  while (end > on && !(sampleAt(power, end - 1) > half)) end--;
  // A sample or two at the end are the load coming off as the log is finished.
  const whole = time.length - end < 3 || end <= on;
  const lastRow = whole ? time.length : end;
  let pauses = 0;
  for (let k = on + 1; k < lastRow; k++)
    if (!(sampleAt(power, k) > half)) pauses += sampleAt(time, k) - sampleAt(time, k - 1);
  const part = (c: Float64Array) => c.subarray(0, lastRow);
  return {
    rows: { time: part(time), part: part(rows.part), ambient: part(rows.ambient), power: part(power) },
    pauses: whole && end < time.length ? 0 : pauses,
    cut: whole ? 0 : sampleAt(time, time.length - 1) - sampleAt(time, end - 1),
  };
}

function unfairness(setup: RunSetup<HeatPlan>): readonly Unfairness[] {
  const emissivity = setup.conditions.emissivity;
  if (setup.plan?.thermometer !== "infrared-shiny" && !(emissivity !== undefined && emissivity < MATT)) return [];
  return [
    {
      code: "infrared-shiny",
      message: "An infrared thermometer looked at a shiny part: it reads far too low.",
      remedy: "Put matt tape or a dab of paint on the part, or a probe, and soak it again.",
      pushes: "low",
    },
  ];
}

/** What a fitted warming gives; the thermal resistance in K/W, or null where the log ended too early for any of it. */
function settled(
  fit: Warming,
  source: HeatSource,
  rows: ReturnType<typeof warmingRows>,
  c: CleanColumns,
  setup: RunSetup<HeatPlan>,
  findings: Finding[],
  notes: Note[],
): Uncertain | null {
  const mean = rows.ambient.reduce((s, v) => s + v, 0) / rows.ambient.length;
  const end = sampleAt(rows.time, rows.time.length - 1);
  const on = sampleAt(rows.time, powerOn(rows.power));
  const shape = rectangular(SHAPE * Math.abs(fit.left));
  const settles = mean + fit.offset + fit.rise;
  const unfair = unfairness(setup);
  const opposite = unfair.map((u) => ({ ...u, pushes: "high" as const }));
  const put = (name: string, x: Uncertain, why: Finding["unfair"]) => {
    const f = logFinding(name, x, setup, { unfair: why });
    if (f) findings.push(f);
  };
  if (2 * fit.u.steady > VAGUE) {
    notes.push({
      code: "too-short",
      message: `The log ends ${formatDuration(end - on)} after the load came on, too early to predict where it settles (±${q(2 * fit.u.steady, "K", { digits: 2 })}). Soak it longer.`,
    });
    return null;
  }
  const meter = setup.instruments.partTemperature;
  const gain = rectangular(meter?.gain ?? 0);
  put(
    "heat.steady-temperature",
    uncertain(settles, [
      [meterSource("partTemperature", "gain"), gain * settles],
      [meterSource("partTemperature", "offset"), meter ? rectangular(meter.counts * meter.resolution) : 0],
      [scatter("scatter and extrapolation"), fit.u.steady],
      [model("shape of the curve"), shape],
    ]),
    unfair,
  );
  put(
    "heat.time-constant",
    uncertain(fit.tau, [
      [scatter("scatter and extrapolation"), fit.u.tau],
      [model("shape of the curve"), rectangular((SHAPE * fit.tau * Math.abs(fit.left)) / fit.rise)],
    ]),
    [],
  );
  const rise: Uncertain = uncertain(fit.rise, [
    [meterSource("partTemperature", "gain"), gain * fit.rise],
    [scatter("scatter and extrapolation"), fit.u.rise],
    [model("shape of the curve"), shape],
  ]);
  const watts = dissipation(fit.power, source, rows, c, setup);
  const resistance = divide(rise, watts);
  put("heat.thermal-resistance", resistance, unfair);
  const limit = setup.conditions.partLimitTemperature;
  if (limit !== undefined) put("heat.max-ambient", subtract(exact(limit), rise), opposite);
  for (const u of unfair) notes.push({ code: u.code, message: `${u.message} ${u.remedy}` });
  if (fit.left > 0.05 * fit.rise)
    notes.push({
      code: "extrapolated",
      message: `The log ends ${formatDuration(end - on)} after the load came on, with ${q(fit.left, "K", { digits: 2 })} of ${q(fit.rise, "K", { digits: 3 })} still to rise: the final temperature is predicted from the curve.`,
    });
  const drift = sampleAt(rows.ambient, rows.ambient.length - 1) - sampleAt(rows.ambient, 0);
  if (Math.abs(drift) > 0.4)
    notes.push({
      code: "ambient-drift",
      message: `The ambient drifted by ${q(drift, "K", { digits: 2 })}. The curve follows it with the board's lag, and the settled temperature is given at its mean of ${q(mean, "°C", { digits: 3 })}.`,
    });
  if (fit.quickTau !== null && fit.quick * fit.power > 0.3)
    notes.push({
      code: "quick-rise",
      message: `The part rises ${q(fit.quick * fit.power, "K", { digits: 2 })} above its board within ${formatDuration(Math.max(1, 3 * fit.quickTau))}; the other ${q(fit.slow * fit.power, "K", { digits: 3 })} follow with the board.`,
    });
  touch(settles, mean, fit, setup, notes);
  return resistance;
}

/** What the settled temperature means for a finger and for a case. */
function touch(settles: number, ambient: number, fit: Warming, setup: RunSetup<HeatPlan>, notes: Note[]): void {
  const limit = setup.plan?.touchLimit ?? TOUCH;
  const from = limit - fit.rise;
  const finger =
    settles > limit
      ? `Too hot to touch: it settles at ${q(settles, "°C", { digits: 3 })}, above ${q(limit, "°C")}. Cover it or move it out of reach.`
      : `A finger can stay on it at this ambient (${q(settles, "°C", { digits: 3 })} of ${q(limit, "°C")}), but not above ${q(from, "°C", { digits: 3 })} ambient.`;
  notes.push({
    code: "touch",
    message: `${finger} In a closed case the ambient is the air inside: at ${q(ambient + 15, "°C", { digits: 2 })}, 15 K more than on this bench, the part settles near ${q(settles + 15, "°C", { digits: 3 })}.`,
  });
}

/** The heat at the end of the log, W, with what its meters leave of doubt. */
function dissipation(
  power: number,
  source: HeatSource,
  rows: ReturnType<typeof warmingRows>,
  c: CleanColumns,
  setup: RunSetup,
): Uncertain {
  if (source === "stated") return uncertain(power, [[model("heat as stated"), rectangular(0.02 * power)]]);
  const [v1, a1, v2, a2]: readonly Role[] =
    source === "battery and output"
      ? ["batteryVoltage", "batteryCurrent", "outputVoltage", "outputCurrent"]
      : ["inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"];
  const from = Math.floor((2 * (c[v1 as Role]?.length ?? 0)) / 3);
  const count = Math.max(1, Math.floor(rows.time.length / 3));
  const read = (role: Role) => meterReading(median(finite(c[role], from, Infinity)), role, setup, "soak", count);
  const x = { v1: read(v1 as Role), a1: read(a1 as Role), v2: read(v2 as Role), a2: read(a2 as Role) };
  return { ...subtract(multiply(x.v1, x.a1), multiply(x.v2, x.a2)), value: power };
}

function charts(
  log: { readonly time: Float64Array; readonly columns: CleanColumns },
  fit: Warming | null,
  events: Parameters<typeof logCharts>[3]["events"],
): ChartSpec[] {
  const made = logCharts(
    log.time,
    log.columns,
    [
      {
        id: "temperature",
        title: "Part and ambient",
        label: "Temperature",
        unit: "°C",
        roles: [
          ["partTemperature", "part", 1],
          ["ambientTemperature", "ambient", 0],
        ],
        claims: [{ characteristic: "heat.steady-temperature", axis: "y" }],
      },
      {
        id: "current",
        title: "Load and battery current",
        label: "Current",
        unit: "A",
        roles: [
          ["outputCurrent", "load", 1],
          ["batteryCurrent", "battery", 0],
        ],
      },
    ],
    { spans: [], events },
  );
  return made.map((c) =>
    c.id === "temperature" && fit
      ? { ...c, series: [...c.series, { id: "fitted", label: "fitted curve", tone: 2, points: [], fit: fit.curve }] }
      : c,
  );
}
