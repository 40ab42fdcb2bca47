import { checkChargeCurrent, chooseProgramme, forecastCharge, programmedCurrent } from "../fit";
import { coldOpenVoltage, heldVoltage } from "../procedures/solar-input/panel";
import { formatDuration, nearestStandard } from "../quantities";
import { field, get, q, type Sum } from "./sum";
import { USE_SUMS } from "./sums-in-use";

/** Resistivity of copper at 20 °C, Ω·mm²/m, and its rise a kelvin. */
const COPPER = 0.0172;
/** A resistor is chosen for at least so many times its heat. */
const MARGIN = 2;
const YEAR = 365.25 * 86400;

const BENCH_SUMS: readonly Sum[] = [
  {
    id: "programme",
    title: "Programming resistor",
    formula: "R = K ÷ I − R₀",
    fields: [
      field("amps", "Charge current wanted", "A", 0.5, 0.001, 10),
      field("k", "K from the data sheet", "V", null, 1, 1e6),
      field("offset", "Resistance inside, R₀", "Ω", 0, 0, 1e5),
    ],
    work: (v) => {
      const [amps, k, offset] = [get(v, "amps"), get(v, "k"), get(v, "offset")];
      const ohms = k / amps - offset;
      const [nearest] = chooseProgramme(amps, { k, offset, tolerance: 0.1 }, "E24", []);
      const standard = nearest?.ohms ?? ohms;
      return {
        results: [
          { label: "resistor", value: ohms, unit: "Ω" },
          { label: "nearest of E24", value: standard, unit: "Ω" },
          { label: "which gives", value: programmedCurrent({ k, offset }, standard), unit: "A" },
        ],
        filled: `${q(k, "V")} ÷ ${q(amps, "A")} − ${q(offset, "Ω")} = ${q(ohms, "Ω")}`,
        ...(ohms <= 0
          ? { remark: "More current than this charger can be set to." }
          : nearest
            ? { remark: `Over the tolerances ${q(nearest.low, "A")} to ${q(nearest.high, "A")}.` }
            : {}),
      };
    },
  },
  {
    id: "linear-heat",
    title: "Heat of a linear charger",
    formula: "P = (V_in − V_cell) × I",
    fields: [
      field("input", "Input voltage", "V", 5, 1, 60),
      field("cell", "Lowest cell voltage at full current", "V", 3, 0.5, 60),
      field("amps", "Charge current", "A", 1, 0.001, 20),
      field("kelvin", "Thermal resistance of the part", "K/W", 50, 0.1, 500),
      field("ambient", "Ambient", "°C", 25, -40, 90),
    ],
    work: (v, rules) => {
      const watts = (get(v, "input") - get(v, "cell")) * get(v, "amps");
      const part = get(v, "ambient") + get(v, "kelvin") * watts;
      return {
        results: [
          { label: "heat", value: watts, unit: "W" },
          { label: "part reaches", value: part, unit: "°C" },
        ],
        filled: `(${q(get(v, "input"), "V")} − ${q(get(v, "cell"), "V")}) × ${q(get(v, "amps"), "A")} = ${q(watts, "W")}`,
        ...(watts < 0
          ? { remark: "The cell voltage is above the input voltage: no charge current." }
          : part > 110
            ? { remark: "It will cut its own current before it gets that hot." }
            : part > rules.touchLimit
              ? { remark: `Too hot to touch, above ${q(rules.touchLimit, "°C")}.` }
              : {}),
      };
    },
  },
  {
    id: "load-resistor",
    title: "Load resistor",
    formula: "R = V ÷ I,  P = V² ÷ R",
    fields: [field("volts", "Output voltage", "V", 5, 0.1, 100), field("amps", "Load wanted", "A", 0.5, 0.0001, 50)],
    work: (v) => {
      const [volts, amps] = [get(v, "volts"), get(v, "amps")];
      const ohms = volts / amps;
      const standard = nearestStandard("E12", ohms);
      const watts = volts ** 2 / standard;
      return {
        results: [
          { label: "resistor", value: ohms, unit: "Ω" },
          { label: "nearest of E12", value: standard, unit: "Ω" },
          { label: "which draws", value: volts / standard, unit: "A" },
          { label: "rated for at least", value: MARGIN * watts, unit: "W" },
        ],
        filled: `${q(volts, "V")} ÷ ${q(amps, "A")} = ${q(ohms, "Ω")}; ${q(volts, "V")}² ÷ ${q(standard, "Ω")} = ${q(watts, "W")}`,
        ...(watts > 1 ? { remark: "It gets hot, and drifts: read the current, don't trust the value." } : {}),
      };
    },
  },
  {
    id: "battery-current",
    title: "Battery current at a load",
    formula: "I_b = V_o × I_o ÷ (η × V_b)",
    fields: [
      field("volts", "Output voltage", "V", 5, 0.1, 100),
      field("amps", "Load", "A", 0.5, 0.0001, 50),
      field("efficiency", "Efficiency", "1", 0.88, 0.05, 1),
      field("battery", "Battery voltage", "V", 3.1, 0.5, 100),
    ],
    work: (v) => {
      const watts = get(v, "volts") * get(v, "amps");
      const amps = watts / (get(v, "efficiency") * get(v, "battery"));
      return {
        results: [
          { label: "from the battery", value: amps, unit: "A" },
          { label: "load power", value: watts, unit: "W" },
          { label: "heat in the module", value: watts / get(v, "efficiency") - watts, unit: "W" },
        ],
        filled: `${q(get(v, "volts"), "V")} × ${q(get(v, "amps"), "A")} ÷ (${q(get(v, "efficiency"), "1")} × ${q(get(v, "battery"), "V")}) = ${q(amps, "A")}`,
        remark: "It grows as the battery empties: use the lowest voltage.",
      };
    },
  },
  {
    id: "efficiency",
    title: "Efficiency from four readings",
    formula: "η = V_o × I_o ÷ (V_b × I_b)",
    fields: [
      field("batteryVolts", "Battery voltage", "V", 3.6, 0.01, 100),
      field("batteryAmps", "Battery current", "A", 0.78, 0.00001, 100),
      field("outputVolts", "Output voltage", "V", 5.05, 0, 100),
      field("outputAmps", "Output current", "A", 0.5, 0, 100),
    ],
    work: (v) => {
      const into = get(v, "batteryVolts") * get(v, "batteryAmps");
      const out = get(v, "outputVolts") * get(v, "outputAmps");
      return {
        results: [
          { label: "efficiency", value: out / into, unit: "1" },
          { label: "heat in the module", value: into - out, unit: "W" },
        ],
        filled: `${q(get(v, "outputVolts"), "V")} × ${q(get(v, "outputAmps"), "A")} ÷ (${q(get(v, "batteryVolts"), "V")} × ${q(get(v, "batteryAmps"), "A")}) = ${q(out / into, "1")}`,
        ...(out > into
          ? {
              remark:
                "Output power can't exceed input power: a reading or the wiring is wrong, most often the battery current.",
            }
          : {}),
      };
    },
  },
  {
    id: "standby-life",
    title: "Standby life",
    formula: "t = C ÷ (I_idle + I_self)",
    fields: [
      field("capacity", "Usable capacity", "Ah", 2, 0.001, 1000),
      field("idle", "Idle current", "A", 1e-3, 0, 10),
      field("self", "Self-discharge, as a current", "A", 6e-5, 0, 1),
    ],
    work: (v) => {
      const drain = get(v, "idle") + get(v, "self");
      const seconds = (3600 * get(v, "capacity")) / drain;
      const naive = (3600 * get(v, "capacity")) / get(v, "idle");
      const text = (s: number) => (Number.isFinite(s) ? formatDuration(s) : "for ever");
      return {
        results: [
          { label: "life", value: seconds, unit: "s", text: text(seconds) },
          { label: "without self-discharge", value: naive, unit: "s", text: text(naive) },
        ],
        filled: `${q(get(v, "capacity"), "Ah")} ÷ (${q(get(v, "idle"), "A")} + ${q(get(v, "self"), "A")}) = ${text(seconds)}`,
        ...(seconds > 4 * YEAR ? { remark: "Beyond a few years the cell's own ageing decides, not this figure." } : {}),
      };
    },
  },
  {
    id: "charge-time",
    title: "Charge time",
    formula: "pre-charge + constant current + tail, step by step down the cell's curve",
    fields: [
      field("capacity", "Capacity of the cell", "Ah", 2.2, 0.01, 200),
      field("start", "Rested voltage now", "V", 3.3, 2, 4.3),
      field("amps", "Charge current", "A", 1, 0.001, 100),
      field("full", "Full at", "V", 4.2, 3.6, 4.35),
      field("ohms", "Cell and wires", "Ω", 0.1, 0.001, 5),
    ],
    work: (v) => {
      const f = forecastCharge({
        chemistry: "lithium-ion",
        capacity: get(v, "capacity"),
        startVoltage: get(v, "start"),
        current: get(v, "amps"),
        fullVoltage: get(v, "full"),
        resistance: get(v, "ohms"),
        supplyVoltage: 5,
        cable: 0,
        ambient: 25,
        thermalResistance: 50,
      });
      const naive = (3600 * get(v, "capacity")) / get(v, "amps");
      return {
        results: [
          { label: "about", value: f.total, unit: "s", text: formatDuration(f.total) },
          { label: "charge delivered", value: f.charge, unit: "Ah" },
          ...f.phases.map((p) => ({
            label: p.name,
            value: p.seconds,
            unit: "s" as const,
            text: formatDuration(p.seconds),
          })),
        ],
        filled: f.phases.map((p) => `${p.name} ${formatDuration(p.seconds)}`).join(" + "),
        remark: `Capacity ÷ current alone gives ${formatDuration(naive)}.`,
      };
    },
  },
  {
    id: "panel-divider",
    title: "Panel divider",
    formula: "V_mp = V_ref × (1 + R_top ÷ R_bottom)",
    fields: [
      field("reference", "Reference of the charger", "V", 0.96, 0.1, 10),
      field("top", "Resistor to the panel", "Ω", 430e3, 1, 1e8),
      field("bottom", "Resistor to minus", "Ω", 82e3, 1, 1e8),
      field("open", "Panel's open-circuit voltage at 25 °C", "V", 7.2, 0.5, 200),
      field("cold", "Coldest morning", "°C", -15, -50, 25),
    ],
    work: (v) => {
      const d = { reference: get(v, "reference"), top: get(v, "top"), bottom: get(v, "bottom") };
      const held = heldVoltage(d);
      const open = coldOpenVoltage(get(v, "open"), -0.0032, get(v, "cold"));
      return {
        results: [
          { label: "holds the panel at", value: held, unit: "V" },
          { label: "open-circuit voltage in the cold", value: open, unit: "V" },
        ],
        filled: `${q(d.reference, "V", 4)} × (1 + ${q(d.top, "Ω")} ÷ ${q(d.bottom, "Ω")}) = ${q(held, "V")}`,
        remark:
          held >= get(v, "open")
            ? "That is above the panel's open-circuit voltage: no current will flow."
            : "The open-circuit voltage in the cold must stay under the input's maximum (−0.32 %/K assumed).",
      };
    },
  },
  {
    id: "c-rate",
    title: "C-rate",
    formula: "C = I ÷ capacity",
    fields: [
      field("amps", "Current", "A", 1, 0.0001, 1000),
      field("capacity", "Capacity of the cell", "Ah", 0.3, 0.001, 1000),
      field("limit", "Its maker allows, × C", "", 1, 0.05, 20),
      field("rule", "House rule, × C", "", 0.5, 0.02, 5),
    ],
    work: (v) => {
      const c = checkChargeCurrent(get(v, "amps"), get(v, "capacity"), get(v, "limit"), get(v, "rule"));
      return {
        results: [
          { label: "rate", value: c.rate, unit: "", text: `${Number(c.rate.toPrecision(3))} C` },
          { label: "the rule gives", value: c.advised, unit: "A" },
        ],
        filled: `${q(get(v, "amps"), "A")} ÷ ${q(get(v, "capacity"), "Ah")} = ${Number(c.rate.toPrecision(3))} C`,
        remark: c.message,
      };
    },
  },
  {
    id: "wire-drop",
    title: "Wire drop",
    formula: "R = ρ × 2 l ÷ A,  ΔV = I × R",
    fields: [
      field("length", "Length one way", "m", 2, 0.01, 1000),
      field("area", "Copper, mm²", "", 0.5, 0.01, 500),
      field("amps", "Current", "A", 1, 0.0001, 1000),
      field("volts", "Supply", "V", 5, 0.5, 400),
    ],
    work: (v) => {
      const ohms = (COPPER * 2 * get(v, "length")) / get(v, "area");
      const drop = ohms * get(v, "amps");
      return {
        results: [
          { label: "drop", value: drop, unit: "V" },
          { label: "left at the far end", value: get(v, "volts") - drop, unit: "V" },
          { label: "both wires", value: ohms, unit: "Ω" },
          { label: "heat in them", value: drop * get(v, "amps"), unit: "W" },
        ],
        filled: `${COPPER} × 2 × ${get(v, "length")} ÷ ${get(v, "area")} = ${q(ohms, "Ω")}; ${q(get(v, "amps"), "A")} × ${q(ohms, "Ω")} = ${q(drop, "V")}`,
        ...(get(v, "volts") - drop < 0.9 * get(v, "volts")
          ? { remark: "More than a tenth is lost on the way: thicker wire, or a shorter way." }
          : {}),
      };
    },
  },
];

/** At the bench first, then for putting modules to use. */
export const SUMS: readonly Sum[] = [...BENCH_SUMS, ...USE_SUMS];
