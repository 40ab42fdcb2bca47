import type { PointSettings, RoleReading, Role } from "@/core/measurement";
import { PortError, type InstrumentPort, type PortAbilities, type PortReading } from "./port";

/** Carries lines to addressed instruments and their answers back; null where a line asks nothing. */
export interface TextTransport {
  exchange(
    lines: readonly { readonly address: string; readonly line: string }[],
  ): Promise<{ readonly answers: readonly (string | null)[]; readonly time: number }>;
  pace?(factor: number): Promise<void>;
  close(): void;
}

export interface TextBenchLayout {
  readonly title: string;
  readonly supply: string;
  readonly load: string;
  /** What swaps the supply's leads at the board; absent where a person does. */
  readonly relay?: string;
  /** Role → address of its meter. */
  readonly meters: Readonly<Partial<Record<Role, string>>>;
  readonly limits: PortAbilities["limits"];
}

const question = (role: Role): string =>
  role.endsWith("Voltage") ? "MEAS:VOLT?" : role.endsWith("Current") ? "MEAS:CURR?" : "MEAS:TEMP?";

/** Answers of 9.9E37 and beyond mean overload by convention of such instruments. */
function answerCell(answer: string | null | undefined): RoleReading {
  const value = answer === null || answer === undefined || answer.trim() === "" ? NaN : Number(answer);
  if (Number.isNaN(value)) return { value: null, status: "empty" };
  return Math.abs(value) >= 9.9e37 ? { value: null, status: "overload" } : { value, status: "ok" };
}

/** The typed port over standard text commands. Errors an instrument reports are passed on in its words. */
export class TextCommandPort implements InstrumentPort {
  readonly abilities: PortAbilities;
  readonly pace?: (factor: number) => Promise<void>;
  private readonly roles: readonly Role[];
  private swapped = false;

  constructor(
    private readonly transport: TextTransport,
    private readonly layout: TextBenchLayout,
  ) {
    this.roles = Object.keys(layout.meters) as Role[];
    this.abilities = { title: layout.title, sets: true, reads: this.roles, limits: layout.limits };
    if (transport.pace) this.pace = (factor) => transport.pace?.(factor) ?? Promise.resolve();
  }

  async apply(settings: PointSettings): Promise<void> {
    const { supply, load, relay } = this.layout;
    const lines: { address: string; line: string }[] = [];
    if (settings.reversed && !relay) throw new PortError("This bench can't swap the supply's leads.");
    // The leads are swapped with the supply off, so that no arc and no wrong volts lie between.
    if (relay && (settings.reversed !== undefined) !== this.swapped) {
      lines.push(
        { address: supply, line: "OUTP OFF" },
        { address: relay, line: settings.reversed ? `ROUT:REV ${settings.reversed.ohms}` : "ROUT:NORM" },
      );
      this.swapped = settings.reversed !== undefined;
    }
    if (settings.supplyVoltage !== undefined)
      lines.push({ address: supply, line: `SOUR:VOLT ${settings.supplyVoltage}` });
    if (settings.supplyCurrentLimit !== undefined)
      lines.push({ address: supply, line: `SOUR:CURR ${settings.supplyCurrentLimit}` });
    const l = settings.load;
    if (l) {
      const command = { current: "SOUR:CURR", power: "SOUR:POW", resistance: "SOUR:RES" }[l.mode];
      if (l.value > 0) lines.push({ address: load, line: `${command} ${l.value}` });
      lines.push({ address: load, line: l.value > 0 ? "INP ON" : "INP OFF" });
    }
    if (settings.fromOff) lines.push({ address: supply, line: "OUTP OFF" });
    lines.push({ address: supply, line: "OUTP ON" });
    await this.command(lines);
  }

  async read(): Promise<PortReading> {
    const { answers, time } = await this.transport.exchange(
      this.roles.map((role) => ({ address: this.layout.meters[role] ?? "", line: question(role) })),
    );
    return { cells: Object.fromEntries(this.roles.map((role, i) => [role, answerCell(answers[i])])), time };
  }

  async safe(): Promise<void> {
    await this.command([
      { address: this.layout.load, line: "INP OFF" },
      { address: this.layout.supply, line: "OUTP OFF" },
    ]);
  }

  async powerCycle(): Promise<void> {
    await this.command([{ address: this.layout.supply, line: "OUTP OFF" }]);
    await this.command([{ address: this.layout.supply, line: "OUTP ON" }]);
  }

  close(): void {
    this.transport.close();
  }

  private async command(lines: readonly { address: string; line: string }[]): Promise<void> {
    const asked = [
      ...lines,
      { address: this.layout.supply, line: "SYST:ERR?" },
      { address: this.layout.load, line: "SYST:ERR?" },
    ];
    const { answers } = await this.transport.exchange(asked);
    const errors = answers.slice(-2).filter((a): a is string => typeof a === "string" && !a.startsWith("0"));
    if (errors.length) throw new PortError(`An instrument refused: ${errors.join("; ")}`);
  }
}
