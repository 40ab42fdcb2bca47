import type { Answer, ChecklistItem } from "../measurement";
import { ButtonBoard, type ButtonModel, type ButtonState } from "../simulator/buttons";

/** What was seen on the simulated bench: the word for it, and the rest in a sentence. */
export interface Seen {
  readonly word: string;
  readonly more: string;
}

const told = (s: ButtonState): string =>
  [
    s.output ? "output on" : "output off",
    `charger's light ${s.light}`,
    ...(s.gauge ? [`gauge ${s.gauge}`] : []),
    ...(s.torch ? ["torch on"] : []),
    ...(s.charging ? ["current into the cell"] : []),
    ...(s.warning !== "none" ? [s.warning] : []),
  ].join(", ");

/** Switches the output on by whatever press does it. */
function switchedOn(board: ButtonBoard): ButtonBoard {
  for (const press of [() => board.press(0.2), () => board.press(0.2, 2), () => board.press(5)])
    if (!board.look().output) press();
  return board;
}

/** What changed with a press. */
function changed(board: ButtonBoard, press: () => void): Seen {
  const before = board.look();
  press();
  const after = board.look();
  const word =
    after.output !== before.output
      ? after.output
        ? "output on"
        : "output off"
      : after.torch !== before.torch
        ? after.torch
          ? "torch on"
          : "torch off"
        : "nothing";
  return { word, more: told(after) };
}

const light = (board: ButtonBoard): Seen => ({ word: board.look().light, more: told(board.look()) });
const charges = (board: ButtonBoard, cable: "A-to-C" | "C-to-C"): Seen => {
  board.plug(cable);
  return { word: board.look().charging ? "yes" : "no", more: told(board.look()) };
};

/** How each action of a checklist is done on a fresh board, and what is then seen. */
const DOINGS: Readonly<Record<string, (b: ButtonBoard) => Seen>> = {
  "polarity marks": (b) => ({ word: b.model.marks, more: "under the lens and by the meter" }),
  "by-pass jumper": (b) => ({ word: b.model.jumper, more: "under the lens" }),
  "solder joints": (b) => ({ word: b.model.joints, more: "under the lens" }),
  connectors: (b) => ({ word: b.model.connectors, more: "pulled and wiggled" }),
  "light polarity": (b) => ({ word: b.model.lightPolarity, more: "by the diode tester" }),
  "short press": (b) => changed(b, () => b.press(0.2)),
  "short press while on": (b) => changed(switchedOn(b), () => b.press(0.2)),
  "double press": (b) => changed(b, () => b.press(0.2, 2)),
  "long press": (b) => changed(b, () => b.press(3)),
  "lights while charging": (b) => (b.plug("A-to-C"), light(b)),
  "lights when full": (b) => (b.battery(4.2), b.plug("A-to-C"), light(b)),
  "lights with no cell": (b) => (b.battery(null), b.plug("A-to-C"), light(b)),
  "lights with the cell removed": (b) => (b.plug("A-to-C"), b.battery(null), light(b)),
  "lights with a dead cell": (b) => (b.battery(1.5), b.plug("A-to-C"), light(b)),
  "lights while the output is on": (b) => light(switchedOn(b)),
  "low-battery sign": (b) => {
    switchedOn(b);
    for (let v = 3.8; v > b.model.cut + 0.01; v -= 0.01) b.battery(v);
    const warned = b.look();
    b.battery(b.model.cut - 0.01);
    return { word: warned.warning === "none" ? "switches off without a sign" : warned.warning, more: told(warned) };
  },
  "charges from an A-to-C cable": (b) => charges(b, "A-to-C"),
  "charges from a C-to-C cable": (b) => charges(b, "C-to-C"),
  "output while plugged in": (b) => {
    switchedOn(b).plug("A-to-C");
    return { word: b.look().output ? "stays on" : "goes off", more: told(b.look()) };
  },
  "wakes after the cut-off": (b) => {
    switchedOn(b).battery(2);
    b.battery(3.8);
    if (b.look().output) return { word: "by itself", more: told(b.look()) };
    // Whatever press switches it on is tried before a charger is.
    switchedOn(b);
    if (b.look().output) return { word: "by a press", more: told(b.look()) };
    b.plug("A-to-C");
    b.plug(null);
    if (!b.look().output) switchedOn(b);
    return { word: b.look().output ? "by a charger" : "never", more: told(b.look()) };
  },
};

/** Does one item on a fresh board; null where the simulated bench can't. */
export function perform(model: ButtonModel, item: Pick<ChecklistItem, "id" | "at">, volts?: number): Seen | null {
  const board = new ButtonBoard(model);
  if (item.at && volts !== undefined) {
    // A gauge is brought to each battery voltage along the way that is looked at.
    const { way } = item.at;
    board.battery(way === "falling" ? 4.2 : 3.8);
    switchedOn(board);
    if (way === "rising") for (let v = 3.8; v > board.model.cut + 0.05; v -= 0.01) board.battery(v);
    for (
      let v = way === "falling" ? 4.2 : board.model.cut + 0.05;
      way === "falling" ? v > volts : v < volts;
      v += way === "falling" ? -0.005 : 0.005
    )
      board.battery(v);
    board.battery(volts);
    return { word: String(board.look().gauge), more: told(board.look()) };
  }
  return DOINGS[item.id]?.(board) ?? null;
}

/** A whole checklist, done on the simulated bench. */
export function rehearseChecklist(
  model: ButtonModel,
  items: readonly ChecklistItem[],
  at: (k: number) => string,
): Answer[] {
  const out: Answer[] = [];
  for (const item of items)
    for (const volts of item.at?.volts ?? [undefined]) {
      const seen = perform(model, item, volts);
      if (seen)
        out.push({
          id: `answer-${out.length}`,
          item: item.id,
          word: seen.word,
          at: at(out.length),
          ...(volts !== undefined ? { volts } : {}),
        });
    }
  return out;
}
