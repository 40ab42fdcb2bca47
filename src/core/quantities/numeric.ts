/** A value that is a number by what was asked before. @throws TypeError where it is none: a word, or nothing. */
export function numeric(value: unknown): number {
  if (typeof value !== "number") throw new TypeError(`a number was expected, not ${typeof value}`);
  return value;
}
