import { ELEMENTS } from "./elements";

const { nth } = ELEMENTS;

/** The highest and the lowest of a list, NaN passed over; ∓∞ where there is none. Spreading a long log into Math.max overflows the stack. */
export const highest = (values: ArrayLike<number>): number => extreme(values, 1);
export const lowest = (values: ArrayLike<number>): number => -extreme(values, -1);
function extreme(values: ArrayLike<number>, sign: 1 | -1): number {
  let best = -Infinity;
  for (let k = 0; k < values.length; k++) if (sign * nth(values, k) > best) best = sign * nth(values, k);
  return best;
}
