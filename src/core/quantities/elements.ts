function missing(index: number, length: number): never {
  throw new RangeError(`no element ${index} in a list of ${length}`);
}

/** The element of a list of numbers at an index. @throws RangeError where the list has none. */
function nth(list: ArrayLike<number>, index: number): number {
  const x = list[index];
  return x === undefined ? missing(index, list.length) : x;
}

/** A sample of a column. @throws RangeError where the column has none. */
function sampleAt(column: Float64Array, index: number): number {
  const x = column[index];
  return x === undefined ? missing(index, column.length) : x;
}

/** A whole number of a list. @throws RangeError where the list has none. */
function wholeAt(list: Int32Array, index: number): number {
  const x = list[index];
  return x === undefined ? missing(index, list.length) : x;
}

/** A byte of a file. @throws RangeError where it has none. */
function byteAt(bytes: Uint8Array, index: number): number {
  const x = bytes[index];
  return x === undefined ? missing(index, bytes.length) : x;
}

/**
 * An element that is there by the way its index came about; anything else is a fault of the program and throws, so that no NaN goes on in
 * silence. One function for each kind of storage, and each file takes those that it needs into constants of its own: only then are they
 * inlined (reading through the import takes five to ten times as long over a log of 100 000 rows; `npm run bench -- core`).
 */
export const ELEMENTS = { nth, sampleAt, wholeAt, byteAt } as const;
