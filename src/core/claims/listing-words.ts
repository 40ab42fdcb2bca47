/** The words that listings put around a number, and what their sellers mean by them. */
import { err, ok, UNIT_INFO, type Result, type Unit } from "../quantities";

/** What stands at a number: the most of it, the least of it, or about so much. */
export type Qualifier = "most" | "least" | "about";

export interface Phrase {
  /** The number or range with its unit, spelled as the application reads it. */
  readonly text: string;
  readonly qualifier: Qualifier | null;
}

const MOST = "max(?:imum)?\\.?|up to";
const LEAST = "min(?:imum)?\\.?";
const ABOUT = "about|around|approx(?:imately|\\.)?|circa|ca\\.|typ(?:ical(?:ly)?|\\.)?|nom(?:inal(?:ly)?|\\.)?|~|≈";
/** What can be had all the time is what a bare number promises. */
const LASTING = "cont(?:inuous(?:ly)?|\\.)?|constant|rated";
const BRIEF = "peak|surge|burst|pulsed?|short[- ]term";

const before = (words: string): RegExp => new RegExp(`^(?:${words})\\s*:?\\s*(?=[^a-z]|\\d)`, "i");
const after = (words: string): RegExp => new RegExp(`[\\s,]*\\(?(?<![a-z])(?:${words})\\)?$`, "i");

const QUALIFIERS: readonly (readonly [Qualifier | null, RegExp, RegExp])[] = [
  ["most", before(MOST), after(MOST)],
  ["least", before(LEAST), after(LEAST)],
  ["about", before(ABOUT), after(ABOUT)],
  [null, before(LASTING), after(LASTING)],
];

/** Units as they are spelled out or carelessly cased, for those that listings quote. */
const SPELLED: Readonly<Partial<Record<Unit, string>>> = {
  A: "amp(?:ere)?s?|a",
  V: "volts?|vdc|v",
  W: "watts?|w",
  Ah: "amp(?:ere)?-?hours?|ah",
  Wh: "watt-?hours?|wh",
};

/** `3 amps`, `500MA`, `5v` as `3A`, `500mA`, `5V`: no such module has mega-anything. */
function spelled(text: string, unit: Unit): string {
  const words = SPELLED[unit];
  if (!words) return text;
  return text.replace(
    new RegExp(`(\\d)\\s*(milli|micro|[munµk])?\\s*(?:${words})(?![a-z0-9])`, "gi"),
    (_whole, digit: string, prefix = "") => `${digit}${PREFIX[String(prefix).toLowerCase()] ?? ""}${unit}`,
  );
}
const PREFIX: Readonly<Record<string, string>> = { milli: "m", micro: "u", m: "m", u: "u", µ: "u", n: "n", k: "k" };

/** Of `5V/3A`, the part in this unit, where exactly one is and the others are in other units. */
function ownPart(text: string, unit: Unit): string {
  const parts = text.split(/\s*[/@]\s*|\s+(?=\d)/).filter(Boolean);
  if (parts.length < 2) return text;
  const inUnit = (part: string, u: Unit) =>
    new RegExp(
      `\\d\\s*[munµk]?(?:${[...UNIT_INFO[u].spellings, ...Object.keys(UNIT_INFO[u].special)].join("|")})$`,
    ).test(spelled(part, u));
  const own = parts.filter((part) => inUnit(part, unit));
  const others = (Object.keys(SPELLED) as Unit[]).filter((u) => u !== unit);
  return own.length === 1 && parts.every((part) => part === own[0] || others.some((u) => inUnit(part, u)))
    ? (own[0] as string)
    : text;
}

/**
 * Takes a listing's phrase apart: `3A MAX!`, `up to 3A`, `2A (3A peak)`, `5V/3A`, `approx. 3 amps`.
 *
 * What holds only for moments says nothing of what is promised, unless the quantity is itself a peak (`ofPeak`): beside a
 * lasting value it is left out, alone it is refused with the reason.
 */
export function listingPhrase(wording: string, unit: Unit, ofPeak: boolean): Result<Phrase> {
  let text = wording.trim().replace(/[!*\s]+$/, "");
  if (!ofPeak) {
    text = text.replace(new RegExp(`\\s*[(,/]\\s*[^(),/]*\\b(?:${BRIEF})\\b[^(),/]*\\)?$`, "i"), "");
    if (after(BRIEF).test(text) || before(BRIEF).test(text))
      return err(`“${wording.trim()}” is what it gives for moments. Type what it gives all the time.`);
  } else text = text.replace(after(BRIEF), "").replace(before(BRIEF), "");
  let qualifier: Qualifier | null = null;
  for (let again = true; again;) {
    again = false;
    for (const [meant, front, back] of QUALIFIERS) {
      // At a time, “min” behind the number is its unit.
      const shorter =
        text.replace(front, "") !== text
          ? text.replace(front, "")
          : meant === "least" && unit === "s"
            ? text
            : text.replace(back, "");
      if (shorter === text || shorter === "") continue;
      text = shorter.trim();
      qualifier ??= meant;
      again = true;
    }
  }
  return ok({ text: spelled(ownPart(text, unit), unit), qualifier });
}
