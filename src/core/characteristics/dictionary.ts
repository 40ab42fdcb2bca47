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
  action: "action",
  rate: "rate",
  floor: "floor",
  cell: "cell",
  inputVoltage: "input voltage",
  ambient: "ambient temperature",
};

export type ValueKind = "number" | "yes/no" | "word";

export interface Characteristic {
  readonly name: string;
  readonly unit: Unit;
  readonly kind: ValueKind;
  /** Conditions that make up its name, such as `battery` for `boost.max-current @battery`. */
  readonly at: readonly ConditionName[];
  /** The short label used on screens. */
  readonly label: string;
  readonly definition: string;
  /** The functions whose listings usually claim it; empty where claims rarely speak of it. */
  readonly usualFor: readonly BoardFunction[];
  /** The limit form a listing usually gives. */
  readonly usualLimit: "nominal" | "at-least" | "at-most" | "from-to" | "one-of" | "yes-no";
  /** Admitted words of a word characteristic. */
  readonly words?: readonly string[];
}

type Row = readonly [name: string, unit: Unit, label: string, definition: string, at?: readonly ConditionName[], usual?: readonly [Characteristic["usualLimit"], ...BoardFunction[]]];

const number = (row: Row): Characteristic => ({
  name: row[0],
  unit: row[1],
  kind: "number",
  label: row[2],
  definition: row[3],
  at: row[4] ?? [],
  usualFor: (row[5]?.slice(1) ?? []) as BoardFunction[],
  usualLimit: row[5]?.[0] ?? "nominal",
});
const yesNo = (row: Row): Characteristic => ({ ...number(row), kind: "yes/no", usualLimit: "yes-no" });
const word = (row: Row, words?: readonly string[]): Characteristic => ({
  ...number(row),
  kind: "word",
  usualLimit: "one-of",
  ...(words ? { words } : {}),
});

const BOOST_AT: readonly ConditionName[] = ["battery", "output", "configuration"];
const BOOST_ALL: readonly ConditionName[] = ["output", "configuration"];

/** One name for one quantity: claims, findings, verdicts, files and the command line all use these. */
export const CHARACTERISTICS: readonly Characteristic[] = [
  number(["charge.precharge-current", "A", "Pre-charge current", "Median cell current while the charger conditions a deeply discharged cell, before it steps up to full current."]),
  number(["charge.precharge-threshold", "V", "Pre-charge threshold", "Cell voltage in the last instant before the step to full current."]),
  number(["charge.cc-current", "A", "Charge current", "Median cell current over the constant-current phase, heat foldback left out.", ["configuration"], ["nominal", "charger"]]),
  number(["charge.cc-end-voltage", "V", "End of constant current", "Cell voltage at the instant from which the voltage loop sets the current."]),
  number(["charge.cc-duration", "s", "Constant-current time", "Time from the start of full-current charging to the change to constant voltage."]),
  number(["charge.cv-voltage", "V", "Full voltage", "Median cell voltage over the constant-voltage phase.", [], ["nominal", "charger"]]),
  number(["charge.termination-current", "A", "Termination current", "Cell current in the last instant before the charger stops.", [], ["nominal", "charger"]]),
  number(["charge.termination-voltage", "V", "Termination voltage", "Cell voltage in the last instant before the charger stops."]),
  number(["charge.rest-voltage", "V", "Rest voltage", "Cell voltage at the end of the log, after charging stopped and at least 60 s of rest."]),
  number(["charge.total-time", "s", "Charge time", "From the first charging current to the end of the charge, pauses left out."]),
  number(["charge.capacity", "Ah", "Charge put in", "Charge delivered into the cell from start to end, all segments of an interrupted charge added."]),
  number(["charge.partial-capacity", "Ah", "Charge put in so far", "Charge delivered in the log, where it does not hold the whole charge."]),
  number(["charge.interruptions", "count", "Interruptions", "How often the current stopped otherwise than by the end of the charge."]),
  number(["charge.paused-time", "s", "Paused time", "Time without current between the segments of a charge."]),
  number(["charge.energy-delivered", "Wh", "Energy put in", "Energy delivered into the cell from start to end."]),
  number(["charge.energy-drawn", "Wh", "Energy drawn", "Energy taken in at the module's input terminals over the same time."]),
  number(["charge.efficiency", "1", "Charge efficiency", "Energy put in ÷ energy drawn.", [], ["at-least", "charger"]]),
  number(["charge.input-sag", "V", "Input sag", "Unloaded input voltage less the lowest input voltage while charging."]),
  number(["charge.peak-dissipation", "W", "Peak dissipation", "Highest input power less cell power, as a 1-minute mean."]),
  number(["charge.peak-temperature-rise", "K", "Peak temperature rise", "Highest part temperature less ambient while charging."]),
  number(["charge.foldback-onset-temperature", "°C", "Foldback onset", "Part temperature at which the charger starts to cut its own current because of heat."]),
  number(["charge.recharge-threshold", "V", "Recharge threshold", "Cell voltage at which charging starts again after it had finished."]),
  number(["channels.done-voltage", "V", "Voltage at done", "Cell voltage when that channel signals done, mean over repeats.", ["channel"]]),
  number(["channels.done-current", "A", "Current at done", "Total current still flowing into the cell when that channel signals done, mean over repeats.", ["channel"]]),
  number(["channels.voltage-spread", "V", "Channel spread", "Highest less lowest mean done-voltage."]),
  number(["channels.early-time", "s", "First to last done", "Mean time from the first channel's done signal to the last."]),
  number(["channels.early-charge", "Ah", "Charge missed at first done", "Mean charge still delivered between the first and the last done signal."]),
  number(["boost.no-load-voltage", "V", "No-load voltage", "Output voltage with no load.", BOOST_AT, ["nominal", "boost"]]),
  number(["boost.peak-efficiency", "1", "Peak efficiency", "Highest output power ÷ input power.", BOOST_AT, ["at-least", "boost"]]),
  number(["boost.peak-efficiency-current", "A", "Current at peak efficiency", "Load current at which the efficiency peaks.", BOOST_AT]),
  number(["boost.lowest-efficiency", "1", "Lowest efficiency", "Lowest efficiency among points in regulation with at least 5 % of the highest sustained load.", BOOST_AT]),
  number(["boost.max-current", "A", "Highest load held", "Highest load current held with the output inside the regulation band, from the points taken.", BOOST_AT, ["at-least", "boost"]]),
  number(["boost.collapse-current", "A", "Collapse current", "Lowest load current at which the output fell out of the band.", BOOST_AT]),
  number(["boost.load-regulation", "1", "Load regulation", "(Unloaded voltage − voltage at the highest sustained load) ÷ nominal.", BOOST_AT, ["at-most", "boost"]]),
  number(["boost.output-resistance", "Ω", "Output resistance", "Slope of output voltage against load current in regulation, sign reversed.", BOOST_AT]),
  number(["boost.line-regulation", "1", "Line regulation", "Spread of output voltage over the battery voltages at the highest load that all sustain ÷ nominal.", BOOST_ALL]),
  number(["boost.start-current", "A", "Load it starts into", "Highest load into which the output starts from off.", BOOST_AT]),
  number(["boost.input-current-limit", "A", "Battery-side current limit", "Highest battery-side current reached in regulation, where a collapse shows that it is a limit.", BOOST_ALL]),
  number(["protect.over-discharge-voltage", "V", "Over-discharge cut", "Battery voltage at which the module disconnects on the way down.", [], ["nominal", "protection"]]),
  number(["protect.over-discharge-release", "V", "Over-discharge release", "Battery voltage at which it connects again on the way up.", [], ["nominal", "protection"]]),
  number(["protect.over-charge-voltage", "V", "Over-charge cut", "Cell voltage at which charging is cut off on the way up.", [], ["nominal", "protection"]]),
  number(["protect.over-charge-release", "V", "Over-charge release", "Cell voltage at which charging is allowed again on the way down."]),
  number(["protect.residual-current", "A", "Residual current", "Median battery current after the cut-off.", [], ["at-most", "protection"]]),
  number(["boost.dropout-voltage", "V", "Dropout voltage", "Battery voltage below which the output leaves the regulation band, on the way down."]),
  yesNo(["protect.over-discharge-present", "", "Over-discharge protection", "Whether the battery is really disconnected.", [], ["yes-no", "protection"]]),
  number(["protect.over-current", "A", "Over-current", "Load current at which the module limits or trips.", [], ["nominal", "protection"]]),
  number(["protect.short-current", "A", "Short-circuit current", "Steady battery-side current with the output shorted."]),
  number(["protect.short-peak", "A", "Short-circuit peak", "Highest battery-side current in the first moments of the short, as far as the log resolves it."]),
  yesNo(["protect.short-present", "", "Short-circuit protection", "Whether the short-circuit current is really limited by the module.", [], ["yes-no", "protection"]]),
  word(["protect.short-recovery", "", "Recovery after a short", "What it takes to get the output back."], ["automatic", "load-removal", "power-cycle", "none"]),
  number(["standby.current", "A", "Standby current", "Time-mean battery current in that state.", ["state"], ["at-most", "boost", "protection"]]),
  number(["standby.life", "s", "Standby life", "Usable cell capacity ÷ (that current + the cell's self-discharge).", ["state"]]),
  number(["standby.auto-off-current", "A", "Auto-off load", "Load current below which the output switches itself off.", [], ["nominal"]]),
  number(["standby.auto-off-delay", "s", "Auto-off delay", "Time from the load falling below the auto-off load to the switch-off.", [], ["nominal"]]),
  number(["heat.steady-temperature", "°C", "Settled temperature", "Temperature that the part settles at, at the mean ambient of the log."]),
  number(["heat.time-constant", "s", "Time constant", "Of the dominant exponential."]),
  number(["heat.thermal-resistance", "K/W", "Thermal resistance", "Steady rise above ambient ÷ dissipation."]),
  number(["heat.max-ambient", "°C", "Highest ambient", "Ambient at which the part reaches its limit at this load.", [], ["at-least", "boost"]]),
  number(["path.output-voltage", "V", "Output, input absent or present", "Output with the input absent or present.", ["input"], ["nominal", "power-path"]]),
  number(["path.dip", "V", "Dip at hand-over", "Lowest output below the settled one when the input is plugged or unplugged under load.", ["event"]]),
  number(["path.overshoot", "V", "Overshoot at hand-over", "Highest output above the settled one when the input is plugged or unplugged under load.", ["event"]]),
  number(["path.handover-time", "s", "Hand-over time", "Time outside the regulation band at that event.", ["event"], ["at-most", "power-path"]]),
  number(["path.charge-current", "A", "Charge current under load", "Charging current while the output carries that load.", ["load"]]),
  number(["path.input-current", "A", "Input current under load", "What the input must carry then.", ["load"]]),
  yesNo(["path.finishes-under-load", "", "Finishes under load", "Whether charging still ends while the output carries that load.", ["load"], ["yes-no", "power-path"]]),
  number(["solar.conversion-efficiency", "1", "Conversion efficiency", "Cell power ÷ panel power over the steady windows.", [], ["at-least", "solar-input"]]),
  number(["solar.harvest", "1", "Harvest", "Cell power ÷ the panel's maximum power at that light."]),
  number(["solar.panel-voltage", "V", "Panel voltage held", "Voltage the charger holds the panel at over the steady windows.", [], ["nominal", "solar-input"]]),
  word(["behaviour.response", "", "Response", "What an action led to.", ["action"]]),
  number(["behaviour.gauge-step", "V", "Gauge step", "Battery voltage at which the number of lights of the gauge changes; the middle of the two readings around it.", ["action"]]),
  number(["reverse.current", "A", "Reversed-cell current", "Current with the cell reversed through the stated series resistance."]),
  yesNo(["reverse.survived", "", "Survives reversal", "Whether no-load voltage and one load point repeat afterwards within their uncertainties.", [], ["yes-no"]]),
  number(["meter.offset", "V", "Meter offset", "Difference of two meters at no current."]),
  number(["meter.lead-resistance", "Ω", "Lead resistance", "Slope of the difference of two meters against current."]),
  number(["pack.cutoff-cell-voltage", "V", "Pack cut, highest cell", "Voltage of the highest cell when charging is cut.", [], ["nominal", "balancer"]]),
  number(["pack.current-at-cutoff", "A", "Current at the cut", "Charging current just before the cut."]),
  number(["pack.release-cell-voltage", "V", "Pack release", "Highest cell's voltage when charging is allowed again."]),
  number(["pack.spread-at-cutoff", "V", "Spread at the cut", "Highest less lowest cell at the cut.", [], ["at-most", "balancer"]]),
  number(["pack.low-cutoff-cell-voltage", "V", "Pack low cut, lowest cell", "Voltage of the lowest cell when discharging is cut.", [], ["nominal", "balancer"]]),
  number(["cell.capacity", "Ah", "Capacity", "Charge delivered from full to the stated floor at the stated rate.", ["rate", "floor"]]),
  number(["cell.resistance", "Ω", "Cell resistance", "Step of the cell voltage ÷ step of its current when the load goes off."]),
  number(["cell.rest-drop-rate", "V/day", "Rest drop", "Slope of the rest voltage over the days, sign reversed.", ["cell"]]),
];

const BY_NAME = new Map(CHARACTERISTICS.map((c) => [c.name, c]));

/** The entry of that name, or undefined where the dictionary has none. */
export const characteristic = (name: string): Characteristic | undefined => BY_NAME.get(name);

/** The claims that boards with these functions usually carry, in the order of the dictionary. */
export function usualClaims(functions: readonly BoardFunction[]): Characteristic[] {
  return CHARACTERISTICS.filter((c) => c.usualFor.some((f) => functions.includes(f)));
}
