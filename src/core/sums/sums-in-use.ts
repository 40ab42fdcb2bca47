import { stateOfCharge } from "../cells";
import { formatDuration } from "../quantities";
import { checkAdded, checkCut, chooseFuse, joiningCurrent } from "../use/safeguards";
import { field, get, q, type Sum } from "./sum";

const HOUR = 3600;
const DAY = 86_400;

/** Sums for putting modules to use: what protects the cell, what feeds the charger, how hot it gets. */
export const USE_SUMS: readonly Sum[] = [
  {
    id: "fuse",
    title: "Fuse at the cell",
    formula: "I ÷ 0.75 ≤ rating ≤ wire,  10 × rating ≤ V ÷ ΣR",
    fields: [
      field("amps", "Highest current in use", "A", 1, 0.001, 100),
      field("wire", "Thinnest wire carries", "A", 5, 0.01, 200),
      field("volts", "Lowest battery voltage", "V", 3, 0.5, 100),
      field("ohms", "Cell, leads and contacts", "Ω", 0.13, 0.001, 100),
    ],
    work: (v) => {
      const f = chooseFuse({
        highest: get(v, "amps"),
        ampacity: get(v, "wire"),
        volts: get(v, "volts"),
        resistance: get(v, "ohms"),
      });
      return {
        results: [
          ...(f.rating === null ? [] : [{ label: "fuse", value: f.rating, unit: "A" as const }]),
          { label: "at least", value: f.least, unit: "A" },
          { label: "at most", value: f.most, unit: "A" },
        ],
        filled: `${q(get(v, "amps"), "A")} ÷ 0.75 = ${q(f.least, "A")}; ${q(get(v, "volts"), "V")} ÷ ${q(get(v, "ohms"), "Ω")} ÷ 10 = ${q(get(v, "volts") / get(v, "ohms") / 10, "A")}`,
        ...(f.rating === null ? { remark: f.why } : {}),
      };
    },
  },
  {
    id: "added-board",
    title: "Added protection board",
    formula: "trip × (1 − tolerance) > 1.2 × P ÷ (η × V_lowest)",
    fields: [
      field("watts", "Load at the output", "W", 5, 0.001, 1000),
      field("efficiency", "Efficiency of the module", "1", 0.85, 0.1, 1),
      field("volts", "Lowest battery voltage", "V", 3, 0.5, 100),
      field("trip", "It trips at", "A", 3, 0.01, 100),
      field("tolerance", "Give or take", "1", 0.2, 0, 0.9),
      field("cut", "It cuts off at", "V", 2.9, 0.5, 100),
      field("floor", "Floor of the cell", "V", 2.8, 0.5, 100),
      field("ohms", "Its resistance", "Ω", 0.05, 0, 10),
    ],
    work: (v) => {
      const power = get(v, "watts") / get(v, "efficiency");
      const amps = power / get(v, "volts");
      const wrong = checkAdded(
        {
          trip: get(v, "trip"),
          tolerance: get(v, "tolerance"),
          cut: get(v, "cut"),
          resistance: get(v, "ohms"),
          current: 0,
        },
        { batteryPower: power, lowestVoltage: get(v, "volts"), floor: get(v, "floor") },
      );
      return {
        results: [
          { label: "asked of it, with margin", value: 1.2 * amps, unit: "A" },
          { label: "may trip at", value: get(v, "trip") * (1 - get(v, "tolerance")), unit: "A" },
          { label: "it costs", value: amps * get(v, "ohms"), unit: "V" },
        ],
        filled: `1.2 × ${q(get(v, "watts"), "W")} ÷ (${q(get(v, "efficiency"), "1")} × ${q(get(v, "volts"), "V")}) = ${q(1.2 * amps, "A")}`,
        remark: wrong.length ? wrong.join(" ") : "It suits this load and this cell.",
      };
    },
  },
  {
    id: "forgotten",
    title: "Forgotten after the cut",
    formula: "days = C × (SoC(V_cut) − SoC(2.0 V)) ÷ (residual + self-discharge)",
    fields: [
      field("capacity", "Capacity of the cell", "Ah", 2.2, 0.001, 1000),
      field("cut", "Cut at", "V", 2.9, 2, 4.2),
      field("floor", "Floor of the cell", "V", 2.8, 2, 4.2),
      field("residual", "Current after the cut", "A", 5e-6, 0, 1),
      field("self", "Self-discharge of the cell", "A", 2e-5, 0, 0.1),
    ],
    work: (v) => {
      const c = checkCut({
        cut: get(v, "cut"),
        floor: get(v, "floor"),
        capacity: get(v, "capacity"),
        residual: get(v, "residual"),
        selfDischarge: get(v, "self"),
        stateOfCharge: (volts) => stateOfCharge("lithium-ion", volts),
      });
      const drain = get(v, "residual") + get(v, "self");
      return {
        results: [
          {
            label: "until it is ruined",
            value: (c.days ?? Infinity) * DAY,
            unit: "s",
            text: c.days === null ? "never" : formatDuration(c.days * DAY),
          },
          { label: "left unused above the cut", value: c.unused, unit: "1" },
        ],
        filled: `${q(get(v, "capacity"), "Ah")} × ${q(c.days === null ? NaN : (c.days * 24 * drain) / get(v, "capacity"), "1")} ÷ ${q(drain, "A")} = ${c.days === null ? "never" : formatDuration(c.days * DAY)}`,
        ...(c.belowFloor ? { remark: "The cut lies below the cell's floor: it ruins the cell in time." } : {}),
      };
    },
  },
  {
    id: "charger-floor",
    title: "Lowest cell voltage at full current",
    formula: "V_cell = V_in − (T_foldback − T_ambient) ÷ (R_th × I)",
    fields: [
      field("input", "Input voltage", "V", 5, 1, 60),
      field("amps", "Charge current", "A", 1, 0.001, 20),
      field("foldback", "It cuts its own current at", "°C", 100, 20, 200),
      field("ambient", "Ambient", "°C", 25, -40, 90),
      field("kelvin", "Thermal resistance of the part", "K/W", 50, 0.1, 500),
    ],
    work: (v) => {
      const watts = (get(v, "foldback") - get(v, "ambient")) / get(v, "kelvin");
      const cell = get(v, "input") - watts / get(v, "amps");
      return {
        results: [
          { label: "cell voltage", value: cell, unit: "V" },
          { label: "heat it can lose", value: watts, unit: "W" },
        ],
        filled: `${q(get(v, "input"), "V")} − (${q(get(v, "foldback"), "°C")} − ${q(get(v, "ambient"), "°C")}) ÷ (${q(get(v, "kelvin"), "K/W")} × ${q(get(v, "amps"), "A")}) = ${q(cell, "V")}`,
        remark:
          cell <= 2.5
            ? "Full current at any cell voltage."
            : cell >= 4.2
              ? "Never full current: less current, a heat sink or a lower input voltage."
              : "Below that it cuts its own current; a cell that comes in lower charges more slowly at first.",
      };
    },
  },
  {
    id: "heat-sink",
    title: "Heat sink",
    formula: "R_sa ≤ (T_max − T_ambient) ÷ P − R_jc − R_cs",
    fields: [
      field("watts", "Heat", "W", 2, 0.001, 1000),
      field("limit", "Highest part temperature", "°C", 110, 20, 200),
      field("ambient", "Ambient", "°C", 40, -40, 90),
      field("case", "Junction to case", "K/W", 5, 0, 200),
      field("pad", "Case to sink", "K/W", 1, 0, 50),
    ],
    work: (v) => {
      const sink = (get(v, "limit") - get(v, "ambient")) / get(v, "watts") - get(v, "case") - get(v, "pad");
      return {
        results: [{ label: "sink, at most", value: sink, unit: "K/W" }],
        filled: `(${q(get(v, "limit"), "°C")} − ${q(get(v, "ambient"), "°C")}) ÷ ${q(get(v, "watts"), "W")} − ${q(get(v, "case"), "K/W")} − ${q(get(v, "pad"), "K/W")} = ${q(sink, "K/W")}`,
        ...(sink <= 0 ? { remark: "No sink is enough: less heat, or a part with a better case." } : {}),
      };
    },
  },
  {
    id: "linear-feed",
    title: "Linear regulator before a charger",
    formula: "P = (V_in − V_out) × I,  V_in ≥ V_out + dropout",
    fields: [
      field("input", "Adapter", "V", 9, 1, 60),
      field("output", "Regulator's output", "V", 5, 0.5, 60),
      field("dropout", "Dropout", "V", 1.5, 0, 5),
      field("amps", "Current of all bays", "A", 1, 0.001, 50),
    ],
    work: (v) => {
      const watts = (get(v, "input") - get(v, "output")) * get(v, "amps");
      const short = get(v, "output") + get(v, "dropout") - get(v, "input");
      return {
        results: [
          { label: "heat", value: watts, unit: "W" },
          { label: "share of the adapter's power lost", value: 1 - get(v, "output") / get(v, "input"), unit: "1" },
        ],
        filled: `(${q(get(v, "input"), "V")} − ${q(get(v, "output"), "V")}) × ${q(get(v, "amps"), "A")} = ${q(watts, "W")}`,
        ...(short > 0
          ? { remark: `The adapter is ${q(short, "V")} too low for it.` }
          : watts > 2
            ? { remark: "It heats its surroundings: place it away from the cell, or use a switching regulator." }
            : {}),
      };
    },
  },
  {
    id: "panel-day",
    title: "A panel's day",
    formula: "E = P_mp × η × sun hours",
    fields: [
      field("panel", "Panel's maximum power", "W", 2, 0.01, 1000),
      field("efficiency", "Panel to cell", "1", 0.7, 0.05, 1),
      field("sun", "Sun hours a day", "s", 3 * HOUR, 0, DAY),
      field("load", "Mean load at the battery", "W", 0.2, 0, 1000),
      field("cell", "Energy in the cells", "Wh", 8, 0, 10_000),
    ],
    work: (v) => {
      const [gained, taken] = [get(v, "panel") * get(v, "efficiency") * (get(v, "sun") / HOUR), get(v, "load") * 24];
      const bridged = taken > 0 ? get(v, "cell") / taken : Infinity;
      return {
        results: [
          { label: "gained a day", value: gained, unit: "Wh" },
          { label: "taken a day", value: taken, unit: "Wh" },
          {
            label: "the cells bridge",
            value: bridged * DAY,
            unit: "s",
            text: Number.isFinite(bridged) ? formatDuration(bridged * DAY) : "any time",
          },
        ],
        filled: `${q(get(v, "panel"), "W")} × ${q(get(v, "efficiency"), "1")} × ${Number((get(v, "sun") / HOUR).toPrecision(3))} h = ${q(gained, "Wh")}`,
        remark:
          gained >= taken
            ? "The panel keeps up."
            : `It lacks ${q(taken - gained, "Wh")} a day: the cells are empty after ${formatDuration((get(v, "cell") / (taken - gained)) * DAY)}.`,
      };
    },
  },
  {
    id: "joining",
    title: "Joining cells in parallel",
    formula: "I = ΔV ÷ (R₁ + R₂)",
    fields: [
      field("first", "First cell", "V", 4.1, 0, 5),
      field("second", "Second cell", "V", 3.7, 0, 5),
      field("r1", "Its resistance, first", "Ω", 0.05, 0.001, 10),
      field("r2", "Its resistance, second", "Ω", 0.05, 0.001, 10),
    ],
    work: (v) => {
      const amps = joiningCurrent(
        { volts: get(v, "first"), resistance: get(v, "r1") },
        { volts: get(v, "second"), resistance: get(v, "r2") },
      );
      return {
        results: [{ label: "flows at once", value: amps, unit: "A" }],
        filled: `${q(Math.abs(get(v, "first") - get(v, "second")), "V")} ÷ (${q(get(v, "r1"), "Ω")} + ${q(get(v, "r2"), "Ω")}) = ${q(amps, "A")}`,
        remark:
          amps > 1
            ? "Bring them to the same voltage first."
            : "Still: bring them to the same voltage first where you can.",
      };
    },
  },
  {
    id: "balancing",
    title: "Time a balancer needs",
    formula: "t = ΔQ ÷ (I_bleed × share)",
    fields: [
      field("apart", "Charge by which the cells differ", "Ah", 0.12, 0.0001, 100),
      field("bleed", "A balancer bleeds", "A", 0.06, 0.0001, 10),
      field("share", "Share of the time that it works", "1", 1, 0.01, 1),
    ],
    work: (v) => {
      const seconds = (get(v, "apart") / (get(v, "bleed") * get(v, "share"))) * HOUR;
      return {
        results: [{ label: "until they are level", value: seconds, unit: "s", text: formatDuration(seconds) }],
        filled: `${q(get(v, "apart"), "Ah")} ÷ (${q(get(v, "bleed"), "A")} × ${q(get(v, "share"), "1")}) = ${formatDuration(seconds)}`,
        remark:
          get(v, "share") < 1
            ? "It works only while a cell is above its threshold."
            : "It works only while a cell is above its threshold: in a charge that is its last part. Enter that share of the time.",
      };
    },
  },
];
