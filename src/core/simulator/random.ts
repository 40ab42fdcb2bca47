/** A seeded stream of numbers; the same seed gives the same bench. */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Uniform in [low, high). */
  between(low: number, high: number): number;
  /** Standard normal. */
  normal(): number;
}

/** Mulberry32, a 32-bit generator: plenty for noise, of no use for secrets. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    uniform,
    between: (low, high) => low + (high - low) * uniform(),
    normal: () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()),
  };
}
