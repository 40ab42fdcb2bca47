import { openCircuit, stateOfCharge, type Chemistry } from "../cells";

export interface ForecastInput {
  readonly chemistry: Chemistry;
  /** Ah. */
  readonly capacity: number;
  /** Rested volts of the cell at the start. */
  readonly startVoltage: number;
  /** Programmed current, A, and the voltage it regulates to. */
  readonly current: number;
  readonly fullVoltage: number;
  /** Series resistance of cell and wires, Ω. */
  readonly resistance: number;
  /** The input at its source, V, and the cable there and back, Ω. */
  readonly supplyVoltage: number;
  readonly cable: number;
  /** °C, and the part's rise a watt, K/W. */
  readonly ambient: number;
  readonly thermalResistance: number;
  /** Share of the input's power that reaches the cell, for a charger that switches; absent for a linear one. */
  readonly switching?: number;
}

export interface ForecastPhase {
  readonly name: "pre-charge" | "constant current" | "constant voltage";
  /** s. */
  readonly seconds: number;
}

export interface Forecast {
  readonly phases: readonly ForecastPhase[];
  /** s. */
  readonly total: number;
  /** Ah put in. */
  readonly charge: number;
  /** The most heat, when, and what the part would reach. */
  readonly heat: { readonly watts: number; readonly at: number; readonly temperature: number };
  /** The charge as it would be logged: s from its start, A and V at the cell, °C of the part. Thinned to a few hundred moments. */
  readonly curve: {
    readonly time: readonly number[];
    readonly current: readonly number[];
    readonly voltage: readonly number[];
    readonly temperature: readonly number[];
  };
  /** What the source must give: A, and the least volts that leave the charger room at full current. */
  readonly supply: { readonly amps: number; readonly leastVoltage: number };
}

/** Pre-charge: a tenth of the current below this share of the full voltage (2.9 V of 4.2 V). */
const CONDITION = 0.69;
const TENTH = 0.1;
/** A linear charger's own drop at full current, V for each A. */
const DROP_OHMS = 0.3;
const STEP = 10;
/** Moments of the curve that is drawn. */
const DRAWN = 300;
const MOST = 48 * 3600;

/**
 * What a charge will be like, from the cell's open-circuit curve and one series resistance, in steps
 * of 10 s: current I until the terminals stand at the full voltage, then what (full − open-circuit) ÷ R lets through, done at
 * a tenth of I. A linear charger passes the current on and turns the rest of the volts into heat; one that switches takes the cell's
 * power ÷ its efficiency. It knows nothing of relaxation or foldback: times come out some per cent short.
 *
 * Worked: 2 Ah from 3.0 V at 1 A to 4.2 V with 0.1 Ω takes about two and a half hours, a quarter of it at constant voltage.
 */
export function forecastCharge(f: ForecastInput): Forecast {
  let soc = stateOfCharge(f.chemistry, f.startVoltage);
  const done = TENTH * f.current;
  const seconds = { "pre-charge": 0, "constant current": 0, "constant voltage": 0 };
  let total = 0;
  let charge = 0;
  let heat = { watts: 0, at: 0 };
  let drawn = 0;
  const moments: { at: number; amps: number; volts: number; watts: number }[] = [];
  while (total < MOST) {
    const emf = openCircuit(f.chemistry, soc);
    const conditioning = emf < CONDITION * f.fullVoltage && seconds["constant current"] === 0;
    const room = Math.max(0, (f.fullVoltage - emf) / f.resistance);
    const starved = Math.max(0, (f.supplyVoltage - emf) / (f.resistance + f.cable + DROP_OHMS));
    const amps = Math.min(conditioning ? TENTH * f.current : f.current, room, starved);
    const held = room <= amps;
    if (held && amps <= done) break;
    if (amps <= 0) break;
    const cell = (emf + f.resistance * amps) * amps;
    const watts = f.switching ? cell / f.switching - cell : (f.supplyVoltage - f.cable * amps) * amps - cell;
    if (f.switching) drawn = Math.max(drawn, cell / f.switching / f.supplyVoltage);
    moments.push({ at: total, amps, volts: emf + f.resistance * amps, watts });
    if (watts > heat.watts) heat = { watts, at: total };
    seconds[conditioning ? "pre-charge" : held ? "constant voltage" : "constant current"] += STEP;
    soc += (amps * STEP) / 3600 / f.capacity;
    charge += (amps * STEP) / 3600;
    total += STEP;
  }
  return {
    phases: (Object.keys(seconds) as ForecastPhase["name"][])
      .filter((name) => seconds[name] > 0)
      .map((name) => ({ name, seconds: seconds[name] })),
    total,
    charge,
    curve: curveOf(moments, f),
    heat: { ...heat, temperature: f.ambient + heat.watts * f.thermalResistance },
    supply: f.switching
      ? { amps: drawn, leastVoltage: f.fullVoltage + f.cable * drawn + DROP_OHMS * f.current }
      : { amps: f.current, leastVoltage: f.fullVoltage + (f.cable + DROP_OHMS) * f.current },
  };
}

/** s in which a small part and its board take up most of a change of heat. A guess: only the drawn temperature depends on it. */
const WARMS = 150;

/** The moments that are drawn: every so many-th and the last one; the part follows its heat as a body of one time constant does. */
function curveOf(
  moments: readonly { readonly at: number; readonly amps: number; readonly volts: number; readonly watts: number }[],
  f: ForecastInput,
): Forecast["curve"] {
  let rise = 0;
  const warm = moments.map((m) => {
    const now = rise;
    rise += (m.watts * f.thermalResistance - rise) * (1 - Math.exp(-STEP / WARMS));
    return { ...m, temperature: f.ambient + now };
  });
  const stride = Math.max(1, Math.ceil(warm.length / DRAWN));
  const few = warm.filter((_, k) => k % stride === 0 || k === warm.length - 1);
  return {
    time: few.map((m) => m.at),
    current: few.map((m) => m.amps),
    voltage: few.map((m) => m.volts),
    temperature: few.map((m) => m.temperature),
  };
}
