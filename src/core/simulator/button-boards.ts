import type { ButtonModel, Light, Press } from "./buttons";
import type { Random } from "./random";

const SOUND: ButtonModel = {
  on: "long",
  off: "double",
  torch: "short",
  longFrom: 1.3,
  doubleWithin: 0.5,
  lights: { charging: "red", full: "green", output: "none", fault: "red blinking" },
  emptyTerminals: "fault",
  deadBelow: 2,
  gauge: { steps: [3.12, 3.55, 3.74, 3.96], hysteresis: 0.06, follows: true },
  low: { volts: 3.1, sign: "a light blinks" },
  cut: 2.9,
  release: 3.12,
  wakes: "by itself",
  pullDowns: true,
  outputWhilePlugged: "stays on",
  marks: "right",
  jumper: "open",
  joints: "sound",
  connectors: "firm",
  lightPolarity: "right",
};

/** Invented boards to press and plug. */
export const SIMULATED_BUTTONS = {
  "steady-synchronous": { title: "Works as its table says", model: SOUND },
  "weak-switch": {
    title: "No pull-downs, a gauge that stays, full without a cell",
    model: {
      ...SOUND,
      off: null,
      torch: null,
      emptyTerminals: "full",
      deadBelow: null,
      gauge: { ...SOUND.gauge, follows: false },
      low: { volts: 0, sign: "none" },
      cut: 2.4,
      release: 2.6,
      wakes: "by a press",
      pullDowns: false,
      outputWhilePlugged: "goes off",
      joints: "cold joints",
      connectors: "loose",
    },
  },
  "hiccup-limit": {
    title: "Sleeps after the cut-off until a charger wakes it; bypass jumper closed",
    model: {
      ...SOUND,
      on: "double",
      off: "long",
      torch: null,
      lights: { charging: "blue blinking", full: "blue", output: "blue", fault: "none" },
      emptyTerminals: "charging",
      wakes: "by a charger",
      cut: 2.46,
      release: 2.7,
      jumper: "closed",
    },
  },
} as const satisfies Record<string, { title: string; model: ButtonModel }>;
export type SimulatedButtonsId = keyof typeof SIMULATED_BUTTONS;

/** A plausible random board, for property tests. */
export function randomButtons(r: Random): ButtonModel {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(r.uniform() * list.length)] as T;
  const presses: Press[] = (["short", "double", "long"] as Press[]).sort(() => r.uniform() - 0.5);
  const light = (): Light =>
    pick(["red", "green", "blue", "red blinking", "green blinking", "blue blinking", "red and green"]);
  const cut = r.between(2.3, 2.9);
  const first = r.between(3.12, 3.3);
  const second = first + r.between(0.15, 0.3);
  const third = second + r.between(0.15, 0.25);
  return {
    on: presses[0] as Press,
    off: pick([presses[0] as Press, presses[1] as Press, null]),
    torch: pick([presses[2] as Press, null]),
    longFrom: r.between(1, 2.8),
    doubleWithin: r.between(0.35, 0.9),
    lights: {
      charging: light(),
      full: light(),
      output: pick(["none", "blue"] as const),
      fault: pick(["none", "red blinking"] as const),
    },
    emptyTerminals: pick(["full", "fault", "charging"] as const),
    deadBelow: pick([null, 1.8, 2.4]),
    gauge: {
      steps: [first, second, third, third + r.between(0.1, 0.2)],
      hysteresis: r.between(0.01, 0.08),
      follows: r.uniform() < 0.75,
    },
    low: {
      volts: cut + r.between(0.05, 0.15),
      sign: pick(["none", "a light blinks", "all lights blink", "beeps"] as const),
    },
    cut,
    release: cut + r.between(0.1, 0.4),
    wakes: pick(["by itself", "by a press", "by a charger"] as const),
    pullDowns: r.uniform() < 0.6,
    outputWhilePlugged: pick(["stays on", "goes off"] as const),
    marks: pick(["right", "wrong", "missing"] as const),
    jumper: pick(["open", "closed", "none fitted"] as const),
    joints: pick(["sound", "cold joints", "bridges", "balls of solder"] as const),
    connectors: pick(["firm", "loose", "poor contact"] as const),
    lightPolarity: r.uniform() < 0.9 ? "right" : "reversed",
  };
}
