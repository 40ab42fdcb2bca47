import { err, ok, parseQuantity, type Result } from "../quantities";

/** A resistor as it is marked: Ω, and its relative tolerance; null where the marking does not say. */
export interface MarkedResistor {
  readonly ohms: number;
  readonly tolerance: number | null;
}

/** Digits of coloured bands (IEC 60062). */
const DIGITS = ["black", "brown", "red", "orange", "yellow", "green", "blue", "violet", "grey", "white"];
const MULTIPLIERS: Readonly<Record<string, number>> = {
  ...Object.fromEntries(DIGITS.map((c, k) => [c, 10 ** k])),
  gold: 0.1,
  silver: 0.01,
};
const TOLERANCES: Readonly<Record<string, number>> = {
  brown: 0.01,
  red: 0.02,
  green: 0.005,
  blue: 0.0025,
  violet: 0.001,
  grey: 0.0005,
  gold: 0.05,
  silver: 0.1,
};
const SPELT: Readonly<Record<string, string>> = { gray: "grey", purple: "violet" };
/** Tolerance of three bands. */
const NO_BAND = 0.2;

/**
 * Three to six bands by their colours, the first as it is read: two digits and a multiplier, a tolerance with four; three digits with five,
 * a temperature band after them with six. Worked: `brown red red gold` is 1.2 kΩ ± 5 %.
 */
function fromBands(words: readonly string[]): Result<MarkedResistor> {
  const colours = words.map((w) => SPELT[w] ?? w);
  if (colours.length < 3 || colours.length > 6) return err("Name three to six bands.");
  const places = colours.length >= 5 ? 3 : 2;
  const digits = colours.slice(0, places).map((c) => DIGITS.indexOf(c));
  const multiplier = MULTIPLIERS[colours[places] ?? ""];
  if (digits.includes(-1)) return err(`“${colours[digits.indexOf(-1)]}” can't be a digit: start from the other end.`);
  if (multiplier === undefined) return err(`“${colours[places]}” is no multiplier.`);
  const band = colours[places + 1];
  const tolerance = band === undefined ? NO_BAND : TOLERANCES[band];
  if (tolerance === undefined) return err(`“${band}” is no tolerance: start from the other end.`);
  const ohms = digits.reduce((n, d) => 10 * n + d, 0) * multiplier;
  return ohms > 0 ? ok({ ohms: Number(ohms.toPrecision(6)), tolerance }) : err("That is no resistance.");
}

/**
 * A resistor as people write or read it: `1k2`, `1.2 kΩ ± 1 %`, bands by their colours (`brown red red gold`), a printed code after the word
 * (`code 122` or `code 4992`: digits, then the number of zeros).
 */
export function readResistor(text: string): Result<MarkedResistor> {
  const words = text
    .trim()
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean);
  if (words.some((w) => w in MULTIPLIERS || w in SPELT)) return fromBands(words);
  if (words[0] === "code") {
    const code = /^(\d{2,3})(\d)$/.exec(words[1] ?? "");
    return code && words.length === 2
      ? ok({ ohms: Number(code[1]) * 10 ** Number(code[2]), tolerance: null })
      : err("Write a code as code 122: two or three digits, then the number of zeros.");
  }
  const [value = "", share] = text.split(/±|\+-|\+\/-/);
  const ohms = parseQuantity(value.trim(), "Ω");
  if (!ohms.ok) return ohms;
  if (!(ohms.value.value > 0)) return err("Enter a value above zero.");
  if (share === undefined) return ok({ ohms: ohms.value.value, tolerance: null });
  const tolerance = parseQuantity(/%/.test(share) ? share.trim() : `${share.trim()} %`, "1");
  return tolerance.ok && tolerance.value.value >= 0 && tolerance.value.value < 1
    ? ok({ ohms: ohms.value.value, tolerance: tolerance.value.value })
    : err("Write the tolerance as ± 1 %.");
}
