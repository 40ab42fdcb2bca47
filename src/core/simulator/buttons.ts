/** A board as its user meets it: a button, lights, a gauge, an input socket. Nothing here knows a checklist. */

export type Press = "short" | "double" | "long";
/** What a light-emitting diode of the charger does, as one would say it. */
export type Light =
  "none" | "red" | "green" | "blue" | "red blinking" | "green blinking" | "blue blinking" | "red and green";

export interface ButtonModel {
  /** What switches the output on and off; `off` null where only time or a cut-off does. */
  readonly on: Press;
  readonly off: Press | null;
  readonly torch: Press | null;
  /** s from which a press counts as long, and within which a second one makes it double. */
  readonly longFrom: number;
  readonly doubleWithin: number;
  readonly lights: { readonly charging: Light; readonly full: Light; readonly output: Light; readonly fault: Light };
  /** What a charger without a cell believes: its empty terminals float up to full, look like a fault, or go back and forth. */
  readonly emptyTerminals: "full" | "fault" | "charging";
  /** V under which a cell is called dead and not charged; null where everything is charged. */
  readonly deadBelow: number | null;
  readonly gauge: {
    /** V at which it shows 1, 2, 3 … lights, ascending. */
    readonly steps: readonly number[];
    /** V that a rising battery needs more. */
    readonly hysteresis: number;
    /** False: it keeps what it showed when the output came on. */
    readonly follows: boolean;
  };
  readonly low: { readonly volts: number; readonly sign: "none" | "a light blinks" | "all lights blink" | "beeps" };
  /** V at which it cuts off, V more for its return, and what brings the output back. */
  readonly cut: number;
  readonly release: number;
  readonly wakes: "by itself" | "by a press" | "by a charger";
  /** The two resistors that a C-to-C cable asks for. */
  readonly pullDowns: boolean;
  /** The output stays while the input is plugged in. */
  readonly outputWhilePlugged: "stays on" | "goes off";
  readonly marks: "right" | "wrong" | "missing";
  readonly jumper: "open" | "closed" | "none fitted";
  readonly joints: "sound" | "cold joints" | "bridges" | "balls of solder";
  readonly connectors: "firm" | "loose" | "poor contact";
  readonly lightPolarity: "right" | "reversed";
}

export interface ButtonState {
  readonly output: boolean;
  readonly torch: boolean;
  readonly charging: boolean;
  readonly light: Light;
  /** Lights of the gauge that are lit; 0 while it is dark. */
  readonly gauge: number;
  readonly warning: string;
}

/** The board with something at its battery terminals and perhaps a cable in its input, driven by what a person does. */
export class ButtonBoard {
  private output = false;
  private torch = false;
  private volts: number | null = 3.8;
  private cable: "A-to-C" | "C-to-C" | null = null;
  private shown = 0;
  private cutOff = false;

  constructor(readonly model: ButtonModel) {}

  /** Presses the button so often, each time for so many seconds, with so many seconds between. */
  press(seconds: number, times = 1, between = 0.3): void {
    const { model: m } = this;
    for (let k = 0; k < times;) {
      const double = seconds < m.longFrom && k + 1 < times && between <= m.doubleWithin;
      this.act(seconds >= m.longFrom ? "long" : double ? "double" : "short");
      k += double ? 2 : 1;
    }
  }

  private act(press: Press): void {
    const { model: m } = this;
    if (this.cutOff && m.wakes === "by a press" && this.hasPower() && (this.volts ?? 0) >= m.release)
      this.cutOff = false;
    if (press === m.torch) this.torch = !this.torch && this.hasPower();
    // A press that does both switches on what is off and off what is on.
    else if (press === m.on && !this.output) this.switchOn();
    else if (press === m.off && this.output) this.output = false;
  }

  private hasPower(): boolean {
    return this.volts !== null && this.volts > this.model.cut;
  }

  private switchOn(): void {
    if (this.cutOff || !this.hasPower()) return;
    this.output = true;
    this.shown = this.lightsAt(this.volts ?? 0, false);
  }

  private lightsAt(volts: number, rising: boolean): number {
    const { steps, hysteresis } = this.model.gauge;
    return steps.filter((s) => volts >= s + (rising ? hysteresis : 0)).length;
  }

  /** Puts so many volts at the battery terminals; null takes the cell away. */
  battery(volts: number | null): void {
    const { model: m } = this;
    const before = this.volts;
    this.volts = volts;
    if (volts === null || volts <= m.cut) {
      this.cutOff ||= volts !== null && before !== null;
      this.output = false;
      this.torch = false;
      return;
    }
    if (this.cutOff && m.wakes === "by itself" && volts >= m.release) {
      this.cutOff = false;
      this.switchOn();
    }
    if (!this.output || !m.gauge.follows || before === null) return;
    const [down, up] = [this.lightsAt(volts, false), this.lightsAt(volts, true)];
    this.shown = volts < before ? Math.min(this.shown, down) : Math.max(this.shown, up);
  }

  /** Plugs a cable into the input, or pulls it. A socket without pull-downs gets nothing through C-to-C. */
  plug(cable: "A-to-C" | "C-to-C" | null): void {
    this.cable = cable;
    if (!this.powered()) return;
    if (this.cutOff && this.model.wakes === "by a charger" && (this.volts ?? 0) >= this.model.release) {
      this.cutOff = false;
      this.switchOn();
    }
    if (this.model.outputWhilePlugged === "goes off") this.output = false;
  }

  private powered(): boolean {
    return this.cable === "A-to-C" || (this.cable === "C-to-C" && this.model.pullDowns);
  }

  private charger(): "off" | "charging" | "full" | "fault" {
    if (!this.powered()) return "off";
    if (this.volts === null) return this.model.emptyTerminals;
    if (this.model.deadBelow !== null && this.volts < this.model.deadBelow) return "fault";
    return this.volts >= 4.19 ? "full" : "charging";
  }

  /** What is seen of it now. */
  look(): ButtonState {
    const { model: m } = this;
    const charger = this.charger();
    const lit: Light = charger === "off" ? (this.output ? m.lights.output : "none") : m.lights[charger];
    const low = this.output && this.volts !== null && this.volts <= m.low.volts;
    return {
      output: this.output,
      torch: this.torch,
      charging: charger === "charging" && this.volts !== null,
      // A diode that was soldered the wrong way round never lights.
      light: m.lightPolarity === "reversed" ? "none" : lit,
      gauge: this.output ? this.shown : 0,
      warning: low ? m.low.sign : "none",
    };
  }
}
