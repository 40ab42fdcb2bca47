/** A word within a name begins after one of these. */
const BETWEEN = /[\s,:;/()-]+/;

/**
 * How well what was typed fits the names of an entry, 0 (not at all) to 1. Every word that was typed must be part of one of the names;
 * letters with others between them are no match: "marl" is no part of "match series parallel". The first name is what the entry is called;
 * it counts more than the words that find it besides, and a beginning more than what is within a word.
 */
export function rank(names: readonly string[], typed: string): number {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = words.map((w) =>
    names.reduce((best, n, k) => Math.max(best, (k === 0 ? 1 : 0.5) * within(n.toLowerCase(), w)), 0),
  );
  if (fits.some((f) => f === 0)) return 0;
  const mean = fits.length ? fits.reduce((a, b) => a + b, 0) / fits.length : 1;
  return names[0]?.toLowerCase() === typed.trim().toLowerCase() ? 1 : 0.99 * mean;
}

function within(name: string, word: string): number {
  if (name.startsWith(word)) return 1;
  if (name.split(BETWEEN).some((part) => part.startsWith(word))) return 0.9;
  return name.includes(word) ? 0.5 : 0;
}
