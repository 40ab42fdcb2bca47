/** Why a number is refused that makes no sense; null where it does. */
export const positive = (v: number): string | null => (v > 0 ? null : "Enter a value above zero.");
export const notNegative = (v: number): string | null => (v >= 0 ? null : "Enter zero or more.");
