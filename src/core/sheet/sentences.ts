import { CHARACTERISTICS, conditionPhrase, type ConditionName } from "../characteristics";
import type { Finding } from "../measurement";
import { formatQuantity } from "../quantities";

/** A finding that stands for its quantity on the sheet, and the run it came from. */
export interface Found {
  readonly finding: Finding;
  readonly runId: string;
  /** Only the simulated bench showed it. */
  readonly simulated?: boolean;
}

/** A piece of a sentence: words, or a number that leads back to its run. */
export type Piece = string | { readonly text: string; readonly runId: string };
export type Sentence = readonly Piece[];

export interface Said {
  /** Where it belongs on the sheet. */
  readonly about: "output" | "protection" | "idle" | "heat" | "charging" | "input" | "pack" | "behaviour";
  readonly sentence: Sentence;
  /** What speaks for the board, what against it; null for what only describes it. */
  readonly side: "strength" | "weakness" | null;
  /** What to do about a weakness. */
  readonly modify?: string;
}

const value = ({ finding: f }: Found): string =>
  typeof f.value === "string"
    ? f.value
    : `${f.bound === "at-least" ? "at least " : f.bound === "at-most" ? "at most " : ""}${formatQuantity(f.value, f.unit, { uncertainty: f.expandedUncertainty })}`;

const conditionText = (f: Finding, left: ReadonlySet<string>): string =>
  Object.entries(f.conditions)
    .filter(([k, v]) => v !== undefined && !left.has(k))
    .map(([k, v]) => conditionPhrase(k as ConditionName, v as number | string))
    .join(", ");

/** Values of one quantity with what tells them apart, as pieces: `1.83 A at a 3.6 V battery, 1.54 A at a 3.1 V battery`. */
function listed(found: readonly Found[]): Piece[] {
  // What stands at all of them alike, or is in the heading of the sheet, is not said with each.
  const left = new Set(["configuration"]);
  const out: Piece[] = [];
  found.forEach((f, k) => {
    const at = conditionText(f.finding, left);
    out.push(k > 0 ? (k === found.length - 1 ? " and " : ", ") : "", { text: value(f), runId: f.runId });
    const over = f.finding.over && f.finding.over.length > 1 ? ` (over ${f.finding.over.length} runs)` : "";
    const more = `${at ? ` ${at}` : ""}${over}${f.simulated ? " (simulated)" : ""}`;
    if (more) out.push(more);
  });
  return out.filter((p) => p !== "");
}

type Judge = (f: Found) => Omit<Said, "about"> & { readonly about: Said["about"] };
const yesNo =
  (about: Said["about"], yes: string, no: string, modify?: string): Judge =>
  (f) => {
    const good = f.finding.value === "yes";
    return {
      about,
      sentence: [{ text: good ? yes : no, runId: f.runId }, ...(f.simulated ? [" (simulated)"] : [])],
      side: good ? "strength" : "weakness",
      ...(good || !modify ? {} : { modify }),
    };
  };

/** What is said of an answer by yes or no. */
const ANSWERS: Readonly<Record<string, Judge>> = {
  "protect.over-discharge-present": yesNo(
    "protection",
    "It really disconnects an empty battery.",
    "Nothing disconnects an empty battery: a forgotten cell is ruined.",
    "Put a protection board between cell and module, or use a cell that has one.",
  ),
  "protect.short-present": yesNo(
    "protection",
    "It limits a short on its own.",
    "Nothing on it limits a short.",
    "Put a fuse or a protection board in the battery wire.",
  ),
  "path.finishes-under-load": yesNo(
    "input",
    "It ends its charge although a load runs.",
    "With a load on it never sees the end of its charge.",
    "Charge it with the load off, or feed the load from the input.",
  ),
  "reverse.survived": yesNo(
    "protection",
    "It lives through a reversed battery.",
    "A reversed battery kills or harms it.",
    "Key its battery connector, or put a fuse and a diode in the wire.",
  ),
};

/** What is said of what a checklist saw, where it speaks against the board. */
const SEEN: Readonly<Record<string, Readonly<Record<string, readonly [text: string, modify?: string]>>>> = {
  "charges from a C-to-C cable": {
    no: ["It stays dead on a C-to-C cable.", "Solder 5.1 kΩ from CC1 and from CC2 to ground."],
  },
  "gauge falling": {
    stays: ["Its gauge doesn't follow a falling battery."],
    jumps: ["Its gauge jumps back and forth."],
  },
  "polarity marks": {
    wrong: ["A polarity mark on it is wrong.", "Cross the wrong mark out and write the right one."],
    missing: ["It has no polarity marks.", "Mark + and − before a cell is joined."],
  },
  "by-pass jumper": {
    closed: [
      "The jumper that bypasses its protection is closed.",
      "Open the jumper unless the cell has a protection board of its own.",
    ],
  },
  "solder joints": {
    "cold joints": ["It has cold joints.", "Solder the cold joints again."],
    bridges: ["It has solder bridges.", "Remove the solder bridges before it is connected."],
    "balls of solder": ["It has loose solder balls.", "Brush the balls of solder off."],
  },
  connectors: {
    loose: ["Its connectors are loose.", "Solder leads in place of the connectors."],
    "poor contact": ["Its connectors make poor contact.", "Solder leads in place of the connectors."],
  },
  "low-battery sign": { "switches off without a sign": ["It switches off without a warning."] },
};

/** The sentences that findings make, in the order of the dictionary's phrases; what has no phrase stays in the table. */
export function sentencesOf(found: readonly Found[], touchLimit: number): Said[] {
  const out: Said[] = [];
  const of = (name: string) =>
    found.filter((f) => f.finding.characteristic === name && f.finding.value !== "not stated");
  for (const { name, phrase } of CHARACTERISTICS) {
    const own = phrase ? of(name) : [];
    const [about, before, after] = phrase ?? ["output", ""];
    if (own.length)
      out.push({ about, sentence: [`${before} `, ...listed(own), `${after ? ` ${after}` : ""}.`], side: null });
  }
  for (const [name, judge] of Object.entries(ANSWERS)) for (const f of of(name)) out.push(judge(f));
  const fold = of("charge.foldback-onset-temperature")[0];
  if (fold)
    out.push({
      about: "charging",
      sentence: [
        "From ",
        { text: value(fold), runId: fold.runId },
        " on it cuts its own charge current because of heat.",
      ],
      side: "weakness",
      modify: "A larger programming resistor: less current, less heat.",
    });
  for (const f of of("heat.steady-temperature"))
    if (typeof f.finding.value === "number" && f.finding.value > touchLimit)
      out.push({
        about: "heat",
        sentence: [
          "Its part settles at ",
          { text: value(f), runId: f.runId },
          `: too hot to touch, above ${formatQuantity(touchLimit, "°C")}.`,
        ],
        side: "weakness",
        modify: "Cover the hot part, or spread its heat.",
      });
  for (const f of of("behaviour.response")) {
    const words = SEEN[String(f.finding.conditions.action)]?.[String(f.finding.value)];
    if (words)
      out.push({
        about: "behaviour",
        sentence: [{ text: words[0], runId: f.runId }],
        side: "weakness",
        ...(words[1] ? { modify: words[1] } : {}),
      });
  }
  return out;
}
