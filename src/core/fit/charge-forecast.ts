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
  /** What the source must give: A, and the least volts that leave the charger room at full current. */
  readonly supply: { readonly amps: number; readonly leastVoltage: number };
}

/** Pre-charge: a tenth of the current below this share of the full voltage (2.9 V of 4.2 V). */
const CONDITION = 0.69;
const TENTH = 0.1;
/** A linear charger's own drop at full current, V for each A. */
const DROP_OHMS = 0.3;
const STEP = 10;
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
    if (watts > heat.watts) heat = { watts, at: total };
    seconds[conditioning ? "pre-charge" : held ? "constant voltage" : "constant current"] += STEP;
    soc += (amps * STEP) / 3600 / f.capacity;
    charge += (amps * STEP) / 3600;
    total += STEP;
  }
  return {
    phases: (Object.keys(seconds) as ForecastPhase["name"][]).filter((name) => seconds[name] > 0).map((name) => ({ name, seconds: seconds[name] })),
    total,
    charge,
    heat: { ...heat, temperature: f.ambient + heat.watts * f.thermalResistance },
    supply: f.switching ? { amps: drawn, leastVoltage: f.fullVoltage + f.cable * drawn + DROP_OHMS * f.current } : { amps: f.current, leastVoltage: f.fullVoltage + (f.cable + DROP_OHMS) * f.current },
  };
}
