import type { Unit } from "../quantities";
import type { BoardFunction } from "./functions";

/** The conditions at which a characteristic may stand, with the unit each is stated in (`""` for a word). */
export const CONDITION_UNITS = {
  battery: "V",
  output: "V",
  configuration: "",
  channel: "1",
  state: "",
  input: "",
  event: "",
  load: "A",
  kind: "",
  action: "",
  rate: "A",
  floor: "V",
  cell: "1",
  inputVoltage: "V",
  ambient: "°C",
} as const satisfies Record<string, Unit>;
export type ConditionName = keyof typeof CONDITION_UNITS;

export const CONDITION_LABELS: Readonly<Record<ConditionName, string>> = {
  battery: "battery voltage",
  output: "output set to",
  configuration: "configuration",
  channel: "channel",
  state: "state",
  input: "input",
  event: "event",
  load: "load",
  kind: "kind of load",
  action: "action",
  rate: "rate",
  floor: "floor",
  cell: "cell",
  inputVoltage: "input voltage",
  ambient: "ambient temperature",
};

export type ValueKind = "number" | "yes/no" | "word";

/** Which way a quantity is better; null where neither is, or it depends on what it is for. */
export type Better = "more" | "less" | null;

/** Where a sentence on a quantity belongs, and the words around its values. */
export type Phrase = readonly [
  about: "output" | "protection" | "idle" | "heat" | "charging" | "input" | "pack",
  before: string,
  after?: string,
];

/** Which end of a range a quantity is, and of which condition. */
export interface RangeEnd {
  readonly side: "low" | "high";
  readonly of: "inputVoltage" | "battery" | "output";
  readonly tested: boolean;
}

/** All that is known of a quantity. */
export interface Characteristic {
  readonly name: string;
  readonly unit: Unit;
  readonly kind: ValueKind;
  /** Conditions that make up its name, such as `battery` for `boost.max-current @battery`. */
  readonly at: readonly ConditionName[];
  /** Further conditions that the run made for it carries, so that a claim may name them. */
  readonly under: readonly ConditionName[];
  /** The short label used on screens. */
  readonly label: string;
  readonly definition: string;
  /** The function it speaks of; `board` where any of them may change it, null for what belongs to a cell or to the bench. */
  readonly of: BoardFunction | "board" | null;
  readonly better: Better;
  /** How a findings sheet says it; null where it stands in the table alone. */
  readonly phrase: Phrase | null;
  /** The procedure that is made for it. */
  readonly run: string;
  /** The functions whose listings usually claim it; empty where claims rarely speak of it. */
  readonly usualFor: readonly BoardFunction[];
  /** The limit form a listing usually gives. */
  readonly usualLimit: "nominal" | "at-least" | "at-most" | "from-to" | "one-of" | "yes-no";
  /** It is an end of a range, shown by runs at that condition; `tested` where a test at the claimed value itself is a test of the claim. */
  readonly end?: RangeEnd;
  /** Magnitudes that such boards have, in the unit: a bare number a hundred times off either end is asked about. */
  readonly usual: readonly [low: number, high: number] | null;
  /** Admitted words of a word characteristic. */
  readonly words?: readonly string[];
}

type More = Partial<Omit<Characteristic, "name" | "unit" | "label" | "definition" | "run">>;
type Row = (name: string, unit: Unit, label: string, definition: string, more?: More) => Characteristic;

/** Rows of the quantities that one procedure is made for; what they share is said once. */
const madeFor =
  (run: string, of: Characteristic["of"], under: readonly ConditionName[]): Row =>
  (name, unit, label, definition, more = {}) => {
    const kind = more.kind ?? "number";
    const usualLimit = kind === "yes/no" ? "yes-no" : kind === "word" ? "one-of" : "nominal";
    return {
      name,
      unit,
      kind,
      label,
      definition,
      at: [],
      under,
      of,
      better: null,
      phrase: null,
      run,
      usualFor: [],
      usualLimit,
      usual: null,
      ...more,
    };
  };

const charging = madeFor("charge-cycle", "charger", ["configuration", "inputVoltage", "ambient"]);
const sweep = madeFor("load-sweep", "boost", []);
const waveform = madeFor("ripple", "boost", []);
const ramp = madeFor("threshold-ramp", "protection", ["load", "output", "configuration"]);
const overload = madeFor("overload", "protection", ["battery", "output", "configuration"]);
const standby = madeFor("standby", "boost", ["battery", "output", "configuration"]);
const lightLoad = madeFor("light-load", "boost", ["battery", "output", "configuration"]);
const heat = madeFor("heat-soak", "board", ["battery", "load", "ambient", "output", "configuration"]);
const path = madeFor("power-path", "power-path", ["configuration"]);
const solar = madeFor("solar-input", "solar-input", ["configuration"]);
const behaviour = madeFor("behaviour", "board", ["configuration"]);
const reversal = madeFor("reverse-polarity", "board", ["configuration"]);
const meters = madeFor("meter-check", null, []);
const pack = madeFor("pack-charge", "balancer", ["configuration"]);
const discharge = madeFor("discharge", null, []);
const rest = madeFor("rest-check", null, []);

const BOOST_AT: readonly ConditionName[] = ["battery", "output", "configuration"];
const BOOST_ALL: readonly ConditionName[] = ["output", "configuration"];

/** One name for one quantity: claims, findings, verdicts, files and the command line all use these. */
export const CHARACTERISTICS: readonly Characteristic[] = [
  // charge-cycle
  charging(
    "charge.precharge-current",
    "A",
    "Pre-charge current",
    "Median cell current while the charger conditions a deeply discharged cell, before it steps up to full current.",
    { usual: [0.005, 0.5] },
  ),
  charging(
    "charge.precharge-threshold",
    "V",
    "Pre-charge threshold",
    "Cell voltage in the last instant before the step to full current.",
  ),
  charging(
    "charge.cc-current",
    "A",
    "Charge current",
    "Median cell current over the constant-current phase, without heat foldback.",
    { at: ["configuration"], usualFor: ["charger"], phrase: ["charging", "It charges with"], usual: [0.05, 5] },
  ),
  charging(
    "charge.cc-end-voltage",
    "V",
    "End of constant current",
    "Cell voltage at the instant from which the voltage loop sets the current.",
  ),
  charging(
    "charge.cc-duration",
    "s",
    "Constant-current time",
    "Time from the start of full-current charging to the change to constant voltage.",
    { usual: [900, 36_000] },
  ),
  charging("charge.cv-voltage", "V", "Full voltage", "Median cell voltage over the constant-voltage phase.", {
    usualFor: ["charger"],
    phrase: ["charging", "It charges a cell to"],
  }),
  charging(
    "charge.termination-current",
    "A",
    "Termination current",
    "Cell current in the last instant before the charger stops.",
    { usualFor: ["charger"], phrase: ["charging", "It ends a charge at"], usual: [0.005, 0.3] },
  ),
  charging(
    "charge.termination-voltage",
    "V",
    "Termination voltage",
    "Cell voltage in the last instant before the charger stops.",
  ),
  charging(
    "charge.rest-voltage",
    "V",
    "Rest voltage",
    "Cell voltage at the end of the log, after charging stopped and at least 60 s of rest.",
  ),
  charging(
    "charge.total-time",
    "s",
    "Charge time",
    "From the first charging current to the end of the charge, without pauses. Depends on the cell as much as on the charger.",
    { phrase: ["charging", "The charge took"], usual: [1800, 40_000] },
  ),
  charging(
    "charge.capacity",
    "Ah",
    "Charge put in",
    "Charge delivered into the cell from start to end, all segments of an interrupted charge added.",
  ),
  charging(
    "charge.partial-capacity",
    "Ah",
    "Charge put in so far",
    "Charge delivered in the log, where the log doesn't cover the whole charge.",
  ),
  charging(
    "charge.interruptions",
    "count",
    "Interruptions",
    "How often the current stopped without the charge having ended.",
  ),
  charging("charge.paused-time", "s", "Paused time", "Time without current between the segments of a charge."),
  charging("charge.energy-delivered", "Wh", "Energy put in", "Energy delivered into the cell from start to end."),
  charging(
    "charge.energy-drawn",
    "Wh",
    "Energy drawn",
    "Energy drawn at the module's input terminals over the same time.",
  ),
  charging("charge.efficiency", "1", "Charge efficiency", "Energy put in ÷ energy drawn.", {
    better: "more",
    usualLimit: "at-least",
    usualFor: ["charger"],
    phrase: ["charging", "Of the energy drawn", "reach the cell"],
  }),
  charging(
    "charge.input-sag",
    "V",
    "Input sag",
    "Unloaded input voltage less the lowest input voltage while charging.",
  ),
  charging(
    "charge.peak-dissipation",
    "W",
    "Peak dissipation",
    "Highest input power less cell power, as a 1-minute mean.",
    { better: "less" },
  ),
  charging(
    "charge.peak-temperature-rise",
    "K",
    "Peak temperature rise",
    "Highest part temperature less ambient while charging.",
    { better: "less", phrase: ["charging", "While it charges its part warms by"] },
  ),
  charging(
    "charge.foldback-onset-temperature",
    "°C",
    "Foldback onset",
    "Part temperature at which the charger starts to cut its own current because of heat.",
  ),
  charging(
    "charge.recharge-threshold",
    "V",
    "Recharge threshold",
    "Cell voltage at which charging starts again after it had finished.",
    { phrase: ["charging", "It charges again below"] },
  ),
  charging(
    "charge.input-minimum",
    "V",
    "Lowest input",
    "Lowest input voltage at which the full charge current was seen, over the sample's runs.",
    {
      at: ["configuration"],
      under: ["ambient"],
      better: "less",
      end: { side: "low", of: "inputVoltage", tested: true },
      usualLimit: "at-most",
      usualFor: ["charger"],
      phrase: ["charging", "Its lowest input at full current is"],
      usual: [2.5, 20],
    },
  ),
  charging(
    "charge.input-maximum",
    "V",
    "Highest input",
    "Highest input voltage at which the full charge current was seen, over the sample's runs.",
    {
      at: ["configuration"],
      under: ["ambient"],
      better: "more",
      end: { side: "high", of: "inputVoltage", tested: true },
      usualLimit: "at-least",
      usualFor: ["charger"],
      usual: [3, 40],
    },
  ),
  charging(
    "charge.set-current-minimum",
    "A",
    "Lowest set current",
    "Lowest charge current that it was set to and kept, over the sample's runs.",
    { under: [], better: "less", usualLimit: "at-most", usual: [0.005, 3] },
  ),
  charging(
    "charge.set-current-maximum",
    "A",
    "Highest set current",
    "Highest charge current that it was set to and kept, over the sample's runs.",
    { under: [], better: "more", usualLimit: "at-least", usual: [0.05, 10] },
  ),
  charging(
    "channels.done-voltage",
    "V",
    "Voltage at done",
    "Cell voltage when that channel signals done, mean over repeats.",
    { at: ["channel"] },
  ),
  charging(
    "channels.done-current",
    "A",
    "Current at done",
    "Total current still flowing into the cell when that channel signals done, mean over repeats.",
    { at: ["channel"], usual: [0.005, 3] },
  ),
  charging("channels.voltage-spread", "V", "Channel spread", "Highest less lowest mean done-voltage.", {
    better: "less",
    phrase: ["charging", "Its channels signal done", "apart"],
  }),
  charging(
    "channels.early-time",
    "s",
    "First to last done",
    "Mean time from the first channel's done signal to the last.",
    { better: "less", phrase: ["charging", "The first channel signals done", "before the last"] },
  ),
  charging(
    "channels.early-charge",
    "Ah",
    "Charge missed at first done",
    "Mean charge still delivered between the first and the last done signal.",
    { better: "less" },
  ),
  // load-sweep
  sweep("boost.no-load-voltage", "V", "No-load voltage", "Output voltage with no load.", {
    at: BOOST_AT,
    usualFor: ["boost"],
    phrase: ["output", "Unloaded it gives"],
  }),
  sweep("boost.peak-efficiency", "1", "Peak efficiency", "Highest output power ÷ input power.", {
    at: BOOST_AT,
    better: "more",
    usualLimit: "at-least",
    usualFor: ["boost"],
    phrase: ["output", "Its efficiency peaks at"],
  }),
  sweep(
    "boost.peak-efficiency-current",
    "A",
    "Current at peak efficiency",
    "Load current at which the efficiency peaks.",
    { at: BOOST_AT, usual: [0.02, 5] },
  ),
  sweep(
    "boost.lowest-efficiency",
    "1",
    "Lowest efficiency",
    "Lowest efficiency among points in regulation with at least 5 % of the highest sustained load.",
    { at: BOOST_AT, better: "more" },
  ),
  sweep(
    "boost.max-current",
    "A",
    "Highest load held",
    "Highest load current held with the output inside the regulation band, from the points recorded.",
    {
      at: BOOST_AT,
      better: "more",
      usualLimit: "at-least",
      usualFor: ["boost"],
      phrase: ["output", "It holds"],
      usual: [0.05, 5],
    },
  ),
  sweep(
    "boost.collapse-current",
    "A",
    "Collapse current",
    "Lowest load current at which the output fell out of the band.",
    { at: BOOST_AT, better: "more", phrase: ["output", "It falls out of its band at"], usual: [0.05, 8] },
  ),
  sweep(
    "boost.load-regulation",
    "1",
    "Load regulation",
    "(Unloaded voltage − voltage at the highest sustained load) ÷ nominal.",
    {
      at: BOOST_AT,
      better: "less",
      usualLimit: "at-most",
      usualFor: ["boost"],
      phrase: ["output", "From no load to the highest it holds its output falls by"],
    },
  ),
  sweep(
    "boost.output-resistance",
    "Ω",
    "Output resistance",
    "Slope of output voltage against load current in regulation, sign reversed.",
    { at: BOOST_AT, better: "less" },
  ),
  sweep(
    "boost.line-regulation",
    "1",
    "Line regulation",
    "Spread of output voltage over the battery voltages at the highest load that all sustain ÷ nominal.",
    { at: BOOST_ALL, better: "less" },
  ),
  sweep(
    "boost.start-current",
    "A",
    "Load it starts into",
    "Highest load into which the output starts from off, by how the load draws; a constant power is given by its current at the nominal output.",
    { at: ["battery", "kind", ...BOOST_ALL], better: "more", phrase: ["output", "It starts into"], usual: [0.02, 5] },
  ),
  sweep(
    "boost.start-voltage",
    "V",
    "Battery it starts from",
    "Lowest battery voltage from which the output starts into that load.",
    {
      at: ["load", ...BOOST_ALL],
      better: "less",
      phrase: ["output", "It starts from a battery of"],
      usual: [0.8, 4.2],
    },
  ),
  sweep(
    "boost.output-minimum",
    "V",
    "Lowest output setting",
    "No-load voltage at the lowest setting of an adjustable output, over the sample's runs.",
    {
      at: ["configuration"],
      end: { side: "low", of: "output", tested: false },
      better: "less",
      usualLimit: "at-most",
      usual: [0.5, 40],
    },
  ),
  sweep(
    "boost.output-maximum",
    "V",
    "Highest output setting",
    "No-load voltage at the highest setting of an adjustable output, over the sample's runs.",
    {
      at: ["configuration"],
      end: { side: "high", of: "output", tested: false },
      better: "more",
      usualLimit: "at-least",
      usual: [1, 60],
    },
  ),
  sweep(
    "boost.input-minimum",
    "V",
    "Lowest battery at rated load",
    "Lowest battery voltage at which the output is in its band at the rated load, over the sample's runs.",
    {
      at: BOOST_ALL,
      under: ["load"],
      better: "less",
      end: { side: "low", of: "battery", tested: true },
      usualLimit: "at-most",
      usualFor: ["boost"],
      usual: [0.7, 12],
    },
  ),
  sweep(
    "boost.input-maximum",
    "V",
    "Highest battery at rated load",
    "Highest battery voltage at which the output is in its band at the rated load, over the sample's runs.",
    {
      at: BOOST_ALL,
      under: ["load"],
      better: "more",
      end: { side: "high", of: "battery", tested: true },
      usualLimit: "at-least",
      usual: [2, 30],
    },
  ),
  waveform(
    "boost.ripple",
    "V",
    "Output ripple",
    "Peak to peak of the output, from a waveform within the stated bandwidth.",
    {
      at: ["battery", "load", ...BOOST_ALL],
      better: "less",
      usualLimit: "at-most",
      phrase: ["output", "Its ripple is", "peak to peak"],
      usual: [0.001, 1],
    },
  ),
  sweep(
    "boost.input-current-limit",
    "A",
    "Battery-side current limit",
    "Highest battery-side current reached in regulation, where a collapse shows that it is a limit.",
    { at: BOOST_ALL, better: "more", phrase: ["output", "It draws no more from the battery than"], usual: [0.2, 10] },
  ),
  // threshold-ramp
  ramp(
    "protect.over-discharge-voltage",
    "V",
    "Over-discharge cut",
    "Battery voltage at which the module disconnects on the way down.",
    { usualFor: ["protection"], phrase: ["protection", "It disconnects the battery at"] },
  ),
  ramp(
    "protect.over-discharge-release",
    "V",
    "Over-discharge release",
    "Battery voltage at which it connects again on the way up.",
    { usualFor: ["protection"], phrase: ["protection", "It connects the battery again at"] },
  ),
  ramp(
    "protect.over-charge-voltage",
    "V",
    "Over-charge cut",
    "Cell voltage at which charging is cut off on the way up.",
    { usualFor: ["protection"], phrase: ["protection", "It stops a charge at"], under: ["configuration"] },
  ),
  ramp(
    "protect.over-charge-release",
    "V",
    "Over-charge release",
    "Cell voltage at which charging is allowed again on the way down.",
    { under: ["configuration"] },
  ),
  ramp("protect.residual-current", "A", "Residual current", "Median battery current after the cut-off.", {
    better: "less",
    usualLimit: "at-most",
    usualFor: ["protection"],
    phrase: ["protection", "After the cut the battery still loses"],
    usual: [1e-8, 0.001],
  }),
  ramp(
    "boost.dropout-voltage",
    "V",
    "Dropout voltage",
    "Battery voltage below which the output leaves the regulation band, on the way down.",
    { phrase: ["output", "Its output leaves the band below a battery of"], of: "boost" },
  ),
  ramp(
    "protect.over-discharge-present",
    "",
    "Over-discharge protection",
    "Whether the battery is really disconnected.",
    { kind: "yes/no", usualFor: ["protection"] },
  ),
  // overload
  overload("protect.over-current", "A", "Over-current", "Load current at which the module limits or trips.", {
    usualFor: ["protection"],
    phrase: ["protection", "It limits or trips at"],
    usual: [0.3, 15],
  }),
  overload(
    "protect.short-current",
    "A",
    "Short-circuit current",
    "Steady battery-side current with the output shorted.",
    { phrase: ["protection", "Shorted it draws"], usual: [0.3, 15] },
  ),
  overload(
    "protect.short-peak",
    "A",
    "Short-circuit peak",
    "Highest battery-side current in the first moments of the short, as far as the log resolves it.",
  ),
  overload(
    "protect.short-present",
    "",
    "Short-circuit protection",
    "Whether the short-circuit current is really limited by the module.",
    { kind: "yes/no", usualFor: ["protection"] },
  ),
  overload("protect.short-recovery", "", "Recovery after a short", "What it takes to get the output back.", {
    kind: "word",
    words: ["automatic", "load-removal", "power-cycle", "none"],
    phrase: ["protection", "After a short its output comes back:"],
  }),
  // standby
  standby("standby.current", "A", "Standby current", "Time-mean battery current in that state.", {
    at: ["state"],
    better: "less",
    usualLimit: "at-most",
    usualFor: ["boost", "protection"],
    phrase: ["idle", "Idle it draws"],
    usual: [1e-7, 0.02],
  }),
  standby("standby.life", "s", "Standby life", "Usable cell capacity ÷ (that current + the cell's self-discharge).", {
    at: ["state"],
    better: "more",
    phrase: ["idle", "A cell lasts it"],
    usual: [86_400, 1e9],
  }),
  // light-load
  lightLoad(
    "standby.auto-off-current",
    "A",
    "Auto-off load",
    "Load current below which the output switches itself off.",
    { phrase: ["idle", "It switches itself off below"], usual: [0.001, 0.2] },
  ),
  lightLoad(
    "standby.auto-off-delay",
    "s",
    "Auto-off delay",
    "Time from the load falling below the auto-off load to the switch-off.",
    { phrase: ["idle", "It does so after"], usual: [1, 600] },
  ),
  // heat-soak
  heat(
    "heat.steady-temperature",
    "°C",
    "Settled temperature",
    "Temperature that the part settles at, at the mean ambient of the log.",
    { better: "less", phrase: ["heat", "Its part settles at"] },
  ),
  heat("heat.time-constant", "s", "Time constant", "Of the dominant exponential."),
  heat("heat.thermal-resistance", "K/W", "Thermal resistance", "Steady rise above ambient ÷ dissipation.", {
    better: "less",
    phrase: ["heat", "Its part warms by", "for each watt lost"],
  }),
  heat("heat.max-ambient", "°C", "Highest ambient", "Ambient at which the part reaches its limit at this load.", {
    better: "more",
    usualLimit: "at-least",
    usualFor: ["boost"],
    phrase: ["heat", "It may be used up to an ambient of"],
    under: ["battery", "load", "output", "configuration"],
  }),
  heat(
    "heat.lowest-cell-voltage",
    "V",
    "Lowest cell at full current",
    "For a charger: lowest cell voltage at which it keeps its full current at this ambient.",
    {
      of: "charger",
      better: "less",
      usualLimit: "at-most",
      phrase: ["heat", "The lowest cell at which heat leaves it its full charge current is"],
      under: ["ambient", "configuration"],
    },
  ),
  // power-path
  path("path.output-voltage", "V", "Output, input absent or present", "Output with the input absent or present.", {
    at: ["input"],
    usualFor: ["power-path"],
    phrase: ["input", "Its output is"],
    under: ["load", "inputVoltage", "configuration"],
  }),
  path(
    "path.dip",
    "V",
    "Dip at handover",
    "Lowest output below the settled one when the input is plugged or unplugged under load.",
    {
      at: ["event"],
      better: "less",
      phrase: ["input", "At the handover its output dips by"],
      under: ["load", "inputVoltage", "configuration"],
    },
  ),
  path(
    "path.overshoot",
    "V",
    "Overshoot at handover",
    "Highest output above the settled one when the input is plugged or unplugged under load.",
    { at: ["event"], better: "less", under: ["load", "inputVoltage", "configuration"] },
  ),
  path("path.handover-time", "s", "Handover time", "Time outside the regulation band at that event.", {
    at: ["event"],
    better: "less",
    usualLimit: "at-most",
    usualFor: ["power-path"],
    phrase: ["input", "At the handover its output is out of band for"],
    under: ["load", "inputVoltage", "configuration"],
    usual: [1e-6, 1],
  }),
  path(
    "path.charge-current",
    "A",
    "Charge current under load",
    "Charging current while the output carries that load.",
    {
      at: ["load"],
      phrase: ["input", "Under load it charges with"],
      under: ["inputVoltage", "configuration"],
      usual: [0.02, 5],
    },
  ),
  path("path.input-current", "A", "Input current under load", "Input current needed then.", {
    at: ["load"],
    under: ["inputVoltage", "configuration"],
    usual: [0.02, 5],
  }),
  path(
    "path.finishes-under-load",
    "",
    "Finishes under load",
    "Whether charging still ends while the output carries that load.",
    { at: ["load"], kind: "yes/no", usualFor: ["power-path"], under: ["inputVoltage", "configuration"] },
  ),
  // solar-input
  solar(
    "solar.conversion-efficiency",
    "1",
    "Conversion efficiency",
    "Cell power ÷ panel power over the steady windows.",
    {
      better: "more",
      usualLimit: "at-least",
      usualFor: ["solar-input"],
      phrase: ["input", "Of a panel's power", "reach the cell"],
    },
  ),
  solar("solar.harvest", "1", "Harvest", "Cell power ÷ the panel's maximum power at that light.", { better: "more" }),
  solar(
    "solar.panel-voltage",
    "V",
    "Panel voltage held",
    "Voltage the charger holds the panel at over the steady windows.",
    { usualFor: ["solar-input"], phrase: ["input", "It holds the panel at"] },
  ),
  // behaviour
  behaviour("behaviour.response", "", "Response", "What an action led to.", { at: ["action"], kind: "word" }),
  behaviour(
    "behaviour.gauge-step",
    "V",
    "Gauge step",
    "Battery voltage at which the number of lights of the gauge changes; the middle of the two readings around it.",
    { at: ["action"] },
  ),
  // reverse-polarity
  reversal(
    "reverse.current",
    "A",
    "Reversed-cell current",
    "Current with the cell reversed through the stated series resistance.",
    { usual: [1e-7, 5] },
  ),
  reversal(
    "reverse.survived",
    "",
    "Survives reversal",
    "Whether no-load voltage and one load point repeat afterwards within their uncertainties.",
    { kind: "yes/no" },
  ),
  // meter-check
  meters("meter.offset", "V", "Meter offset", "Difference of two meters at no current."),
  meters("meter.lead-resistance", "Ω", "Lead resistance", "Slope of the difference of two meters against current."),
  // pack-charge
  pack("pack.cutoff-cell-voltage", "V", "Pack cut, highest cell", "Voltage of the highest cell when charging is cut.", {
    usualFor: ["balancer"],
    phrase: ["pack", "It stops the charge when the highest cell is at"],
  }),
  pack("pack.current-at-cutoff", "A", "Current at the cut", "Charging current just before the cut.", {
    usual: [0.02, 10],
  }),
  pack("pack.release-cell-voltage", "V", "Pack release", "Highest cell's voltage when charging is allowed again."),
  pack("pack.spread-at-cutoff", "V", "Spread at the cut", "Highest less lowest cell at the cut.", {
    better: "less",
    usualLimit: "at-most",
    usualFor: ["balancer"],
    phrase: ["pack", "The spread of its cells then is", "apart"],
  }),
  pack("pack.voltage-at-cutoff", "V", "Pack voltage at the cut", "Sum of the cell voltages when charging is cut."),
  pack("pack.charge-at-cutoff", "Ah", "Charge put in at the cut", "Charge put into the pack until charging is cut.", {
    usual: [0.02, 100],
  }),
  pack(
    "pack.missing-charge",
    "Ah",
    "Charge a cell lacked",
    "What that cell lacked to full when charging was cut, from its rested voltage and capacity.",
    { at: ["cell"], better: "less" },
  ),
  pack("pack.rebound", "V", "Rebound of a cell", "Fall of that cell's voltage in the minute after the cut.", {
    at: ["cell"],
    better: "less",
  }),
  pack(
    "pack.low-cutoff-cell-voltage",
    "V",
    "Pack low cut, lowest cell",
    "Voltage of the lowest cell when discharging is cut.",
    { usualFor: ["balancer"], phrase: ["pack", "It stops the discharge when the lowest cell is at"] },
  ),
  // discharge
  discharge("cell.capacity", "Ah", "Capacity", "Charge delivered from full to the stated floor at the stated rate.", {
    at: ["rate", "floor"],
    better: "more",
    usual: [0.05, 20],
  }),
  discharge(
    "cell.resistance",
    "Ω",
    "Cell resistance",
    "Step of the cell voltage ÷ step of its current when the load goes off.",
    { better: "less", usual: [0.005, 1] },
  ),
  // rest-check
  rest("cell.rest-drop-rate", "V/day", "Rest drop", "Slope of the rest voltage over the days, sign reversed.", {
    at: ["cell"],
    better: "less",
  }),
];

const BY_NAME = new Map(CHARACTERISTICS.map((c) => [c.name, c]));

/** The entry of that name, or undefined where the dictionary has none. */
export const characteristic = (name: string): Characteristic | undefined => BY_NAME.get(name);

/** The conditions that a claim on a quantity may name: those that make up its name, and those that its run carries besides. */
export function conditionsOf(name: string): readonly ConditionName[] {
  const c = characteristic(name);
  return c ? [...c.at, ...c.under.filter((x) => !c.at.includes(x))] : [];
}

/** Whether modifications of these functions keep a run from speaking of the maker's board as to that quantity. */
export function touchedBy(name: string, modified: readonly BoardFunction[]): boolean {
  const of = characteristic(name)?.of ?? null;
  return of === "board" ? modified.length > 0 : of !== null && modified.includes(of);
}

/** The claims that boards with these functions usually carry, in the order of the dictionary. */
export function usualClaims(functions: readonly BoardFunction[]): Characteristic[] {
  return CHARACTERISTICS.filter((c) => c.usualFor.some((f) => functions.includes(f)));
}
