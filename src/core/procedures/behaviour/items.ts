import type { BoardFunction } from "../../characteristics";
import type { ChecklistItem } from "../../measurement";

/** Groups of a checklist, in the order of the bench: looked at before anything is connected, destructive things never. */
export const GROUPS = ["look", "presses", "lights", "gauge", "cables", "wake-up"] as const;
export type Group = (typeof GROUPS)[number];

export const GROUP_LABELS: Readonly<Record<Group, string>> = {
  look: "Looked at, nothing connected",
  presses: "Button",
  lights: "Lights",
  gauge: "Gauge",
  cables: "Cables and plugs",
  "wake-up": "Waking up",
};

const LIGHTS = ["none", "red", "green", "blue", "red blinking", "green blinking", "blue blinking", "red and green"];
const YES_NO = ["yes", "no"];
const PRESS = ["output on", "output off", "nothing", "torch on", "torch off", "gauge shows"];

type Row = Omit<ChecklistItem, "group" | "said" | "at"> & {
  readonly group: Group;
  readonly gauge?: "falling" | "rising";
  readonly of?: readonly BoardFunction[];
};

/** What is asked of a board, and of which boards; where no function is named, of every one. */
const ROWS: readonly Row[] = [
  {
    id: "polarity marks",
    group: "look",
    act: "Look for + and − at every terminal, and measure whether they are right.",
    words: ["right", "wrong", "missing"],
    caution: "Before a cell touches the board: a wrong mark kills it.",
  },
  {
    id: "by-pass jumper",
    group: "look",
    act: "Is there a solder jumper that bypasses the protection, and is it closed?",
    words: ["open", "closed", "none fitted"],
    of: ["protection", "charger"],
  },
  {
    id: "solder joints",
    group: "look",
    act: "Look at the joints under a lens, and bend the board a little.",
    words: ["sound", "cold joints", "bridges", "balls of solder"],
  },
  {
    id: "connectors",
    group: "look",
    act: "Pull and wiggle each connector.",
    words: ["firm", "loose", "poor contact", "none fitted"],
  },
  {
    id: "light polarity",
    group: "look",
    act: "Are the LEDs fitted the way the print shows? (Check with a diode tester.)",
    words: ["right", "reversed", "none fitted"],
  },
  {
    id: "short press",
    group: "presses",
    act: "With the output off, press the button once, briefly.",
    words: PRESS,
    of: ["boost"],
  },
  {
    id: "short press while on",
    group: "presses",
    act: "With the output on, press the button once, briefly.",
    words: PRESS,
    of: ["boost"],
  },
  { id: "double press", group: "presses", act: "Press the button twice within a second.", words: PRESS, of: ["boost"] },
  { id: "long press", group: "presses", act: "Hold the button for three seconds.", words: PRESS, of: ["boost"] },
  {
    id: "lights while charging",
    group: "lights",
    act: "Plug the input in with a half-full cell on the board.",
    words: LIGHTS,
    of: ["charger"],
  },
  {
    id: "lights when full",
    group: "lights",
    act: "Let it charge to the end, or put a full cell on it.",
    words: LIGHTS,
    of: ["charger"],
  },
  {
    id: "lights with no cell",
    group: "lights",
    act: "Plug the input in with nothing on the battery terminals.",
    words: LIGHTS,
    of: ["charger"],
  },
  {
    id: "lights with the cell removed",
    group: "lights",
    act: "Remove the cell while it charges.",
    words: LIGHTS,
    of: ["charger"],
  },
  {
    id: "lights with a dead cell",
    group: "lights",
    act: "Let a supply of 1.5 V behind 47 Ω play a dead cell, and plug the input in.",
    words: LIGHTS,
    of: ["charger"],
    caution: "Never a real dead cell: it must not be charged.",
  },
  {
    id: "lights while the output is on",
    group: "lights",
    act: "Unplug the input, switch the output on.",
    words: LIGHTS,
    of: ["boost"],
  },
  {
    id: "gauge falling",
    group: "gauge",
    act: "Output on. Lower the battery step by step: how many lights of the gauge are lit?",
    words: ["0", "1", "2", "3", "4", "5"],
    gauge: "falling",
    of: ["boost"],
  },
  {
    id: "gauge rising",
    group: "gauge",
    act: "Raise the battery again step by step: how many are lit?",
    words: ["0", "1", "2", "3", "4", "5"],
    gauge: "rising",
    of: ["boost"],
  },
  {
    id: "low-battery sign",
    group: "gauge",
    act: "Lower the battery until just above the cut-off: what warns?",
    words: ["none", "a light blinks", "all lights blink", "beeps", "switches off without a sign"],
    of: ["boost", "protection"],
  },
  {
    id: "charges from an A-to-C cable",
    group: "cables",
    act: "Plug an A-to-C cable into the input.",
    words: YES_NO,
    of: ["charger"],
  },
  {
    id: "charges from a C-to-C cable",
    group: "cables",
    act: "Plug a C-to-C cable into the input, from a supply with a C socket.",
    words: YES_NO,
    of: ["charger"],
  },
  {
    id: "output while plugged in",
    group: "cables",
    act: "Plug the input in while the output is on.",
    words: ["stays on", "goes off", "dips and returns"],
    of: ["boost"],
  },
  {
    id: "wakes after the cut-off",
    group: "wake-up",
    act: "Lower the battery past the cut-off, raise it again: what restores the output?",
    words: ["by itself", "by a press", "by a charger", "never"],
    of: ["boost", "protection"],
  },
];

/** A gauge is looked at from full to nearly empty at these battery volts, V. */
export function gaugeVolts(from: number, to: number, step: number): number[] {
  const n = Math.max(1, Math.round((from - to) / step));
  return Array.from({ length: n + 1 }, (_, k) => Number((from - (k * (from - to)) / n).toFixed(3)));
}

/** The items for a board with these functions (all of them where none are known), of the chosen groups. */
export function itemsFor(
  functions: readonly BoardFunction[] | null,
  groups: readonly Group[],
  volts: readonly number[],
  said: Readonly<Record<string, string>>,
): ChecklistItem[] {
  return ROWS.filter(
    (r) => groups.includes(r.group) && (!functions?.length || !r.of || r.of.some((f) => functions.includes(f))),
  ).map(({ gauge, of: _of, group, ...r }) => {
    void _of;
    return {
      ...r,
      group: GROUP_LABELS[group],
      ...(said[r.id] ? { said: said[r.id] as string } : {}),
      ...(gauge ? { at: { volts: gauge === "falling" ? volts : [...volts].reverse(), way: gauge } } : {}),
    };
  });
}

/** The group in which an action is looked at; null where no checklist knows it. */
export const groupOf = (action: string | null): Group | null => ROWS.find((r) => r.id === action)?.group ?? null;

/** Every action that a checklist knows by name. */
export const ACTIONS: readonly string[] = ROWS.map((r) => r.id);
