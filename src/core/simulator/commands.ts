import type { BenchMeter, VirtualBench } from "./bench";
import type { Load } from "./boost";

/** The addresses on the simulated bench, each answering standard text commands. */
export const BENCH_ADDRESSES = [
  "supply",
  "load",
  "relay",
  "meter:batteryVoltage",
  "meter:batteryCurrent",
  "meter:outputVoltage",
  "meter:outputCurrent",
  "meter:partTemperature",
] as const;
export type BenchAddress = (typeof BENCH_ADDRESSES)[number];

/**
 * The instruments of a virtual bench behind text commands in the style of IEEE 488.2 and its common subsystem tree
 * (`*IDN?`, `SOUR:VOLT 3.6`, `OUTP ON`, `MEAS:VOLT?`, `SYST:ERR?`). Queries answer a line, commands answer null; what
 * is not understood or out of range is kept as the error that `SYST:ERR?` reports, as instruments do.
 */
export class TextInstruments {
  private readonly errors = new Map<BenchAddress, string>();

  constructor(private readonly bench: VirtualBench) {}

  send(address: BenchAddress, line: string): string | null {
    const [head = "", ...rest] = line.trim().split(/\s+/);
    const command = head.toUpperCase();
    if (command === "SYST:ERR?") {
      const e = this.errors.get(address) ?? '0,"No error"';
      this.errors.delete(address);
      return e;
    }
    if (command === "*IDN?") return `NIMBUS,SIMULATED ${address.toUpperCase()},0,1`;
    if (command === "*RST") {
      this.reset(address);
      return null;
    }
    const answer =
      address === "supply"
        ? this.supply(command, rest.join(" "))
        : address === "load"
          ? this.load(command, rest.join(" "))
          : address === "relay"
            ? this.relay(command, rest.join(" "))
            : this.meter(address, command);
    if (answer === undefined) this.errors.set(address, `-113,"Undefined header; ${line.trim()}"`);
    return answer ?? null;
  }

  private reset(address: BenchAddress): void {
    if (address === "supply") this.bench.setSupply({ volts: 0, on: false });
    if (address === "load") this.bench.setLoad({ load: { mode: "current", value: 0 }, on: false });
    if (address === "relay") this.bench.setReversed(null);
  }

  /** Swaps the supply's leads at the module: `ROUT:REV 33` through 33 Ω, `ROUT:NORM` puts them right. */
  private relay(command: string, argument: string): string | null | undefined {
    if (command === "ROUT:NORM") this.bench.setReversed(null);
    else if (command === "ROUT:REV") {
      const ohms = this.number("relay", argument, 0, 1e6);
      if (ohms !== null) this.bench.setReversed(ohms);
    } else return undefined;
    return null;
  }

  private number(address: BenchAddress, text: string, low: number, high: number): number | null {
    const value = Number(text);
    if (text === "" || !Number.isFinite(value)) this.errors.set(address, `-104,"Data type error; ${text}"`);
    else if (value < low || value > high)
      this.errors.set(address, `-222,"Data out of range; ${text} is not ${low} to ${high}"`);
    else return value;
    return null;
  }

  private supply(command: string, argument: string): string | null | undefined {
    const { volts, amps } = this.bench.config.supplyMaximum;
    if (command === "SOUR:VOLT") {
      const v = this.number("supply", argument, 0, volts);
      if (v !== null) this.bench.setSupply({ volts: v });
      return null;
    }
    if (command === "SOUR:CURR") {
      const v = this.number("supply", argument, 0, amps);
      if (v !== null) this.bench.setSupply({ limit: v });
      return null;
    }
    if (command === "OUTP") {
      this.bench.setSupply({ on: /^(ON|1)$/i.test(argument) });
      return null;
    }
    return undefined;
  }

  private load(command: string, argument: string): string | null | undefined {
    const { amps, watts } = this.bench.config.loadMaximum;
    const set = (mode: Load["mode"], low: number, high: number): null => {
      const v = this.number("load", argument, low, high);
      if (v !== null) this.bench.setLoad({ load: { mode, value: v } });
      return null;
    };
    if (command === "SOUR:CURR") return set("current", 0, amps);
    if (command === "SOUR:POW") return set("power", 0, watts);
    if (command === "SOUR:RES") return set("resistance", 0.1, 1e6);
    if (command === "INP") {
      this.bench.setLoad({ on: /^(ON|1)$/i.test(argument) });
      return null;
    }
    return undefined;
  }

  private meter(address: BenchAddress, command: string): string | undefined {
    const name = address.slice("meter:".length) as BenchMeter;
    const wanted = name.endsWith("Voltage") ? "MEAS:VOLT?" : name.endsWith("Current") ? "MEAS:CURR?" : "MEAS:TEMP?";
    return command === wanted ? this.bench.measure(name).toExponential(6) : undefined;
  }
}
