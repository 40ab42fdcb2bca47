/** How many of a random population are tried: a few with every run of the tests, all in a campaign (`npm run campaign`). */
export const population = (usual: number, campaign: number): number => (process.env.NIMBUS_CAMPAIGN ? campaign : usual);

/** The seed of a population: NIMBUS_SEED where one is to be tried again, else its own. Printed with the name of the test. */
export const seedOf = (own: number): number => Number(process.env.NIMBUS_SEED ?? own);

/**
 * Fewest of `n` intervals that hold their truth, were each to hold it with a chance of `p`: fewer come about by chance once in a thousand
 * times (exact binomial tail). Worked: 459 of 500 at 95 %, so that intervals that hold in 91 % of all cases fail.
 */
export function fewestHeld(n: number, p = 0.95): number {
  // From none held upwards: P(k) = C(n, k) pᵏ qⁿ⁻ᵏ, in logarithms because qⁿ is too small for a number.
  let log = n * Math.log(1 - p);
  let below = 0;
  for (let k = 0; k <= n; k++) {
    below += Math.exp(log);
    if (below >= 0.001) return k;
    log += Math.log((n - k) / (k + 1)) + Math.log(p / (1 - p));
  }
  return n;
}
