/** Characters that can't be taken for each other on a small label. */
const ALPHABET = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ";
const LENGTH = 5;

/** A short code for an id, to be written on paper: the same id gives the same code (FNV-1a over its characters, 25 bits of it). */
export function shortCode(id: string): string {
  let hash = 0x811c9dc5;
  for (let k = 0; k < id.length; k++) hash = Math.imul(hash ^ id.charCodeAt(k), 0x01000193) >>> 0;
  // Ids often differ in their last characters only: those bits are stirred into the rest.
  hash = Math.imul(hash ^ (hash >>> 15), 0x85ebca6b) >>> 0;
  hash = (hash ^ (hash >>> 13)) >>> 0;
  return Array.from({ length: LENGTH }, (_, k) => ALPHABET[(hash >>> (5 * k)) & 31]).join("");
}

/** The code that a cell's label carries. */
export const cellCode = shortCode;

/** A code as somebody typed or scanned it: case, spaces and what stands before it don't matter. Null where it is none. */
export function readCode(text: string): string | null {
  const code = text
    .trim()
    .toUpperCase()
    .replace(/^.*[/=:]/, "")
    .replace(/[^0-9A-Z]/g, "")
    .slice(-LENGTH);
  return code.length === LENGTH && [...code].every((c) => ALPHABET.includes(c)) ? code : null;
}

/** The one cell that a typed or scanned text names: by its code, else by its name as the label has it; undefined where none or several are called so. */
export function cellNamed<C extends { readonly code: string; readonly cell: { readonly title: string } }>(
  text: string,
  cells: readonly C[],
): C | undefined {
  const code = readCode(text);
  const name = text.trim().toLowerCase();
  const byCode = cells.find((c) => c.code === code);
  const byName = cells.filter((c) => c.cell.title.toLowerCase() === name);
  return byCode ?? (byName.length === 1 ? byName[0] : undefined);
}
