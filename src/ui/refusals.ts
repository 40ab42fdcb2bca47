/** Why a number is refused that makes no sense; null where it does. */
export const positive = (v: number): string | null => (v > 0 ? null : "Enter a value above zero.");
export const notNegative = (v: number): string | null => (v >= 0 ? null : "Enter zero or more.");

/** Why a text is no date; null where it is one. */
export const noDate = (text: string): string | null =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) ? null : "Enter a date as 2026-11-26.";
