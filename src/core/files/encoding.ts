/** How the bytes of a text file spell its characters. */
export type Encoding = "utf-8" | "utf-16le" | "utf-16be" | "windows-1252";

/** What an encoding is called in a message. */
export const ENCODING_NAMES: Readonly<Record<Encoding, string>> = {
  "utf-8": "UTF-8",
  "utf-16le": "UTF-16",
  "utf-16be": "UTF-16 (big-endian)",
  "windows-1252": "Windows-1252",
};

/** Bytes at the beginning that show it. */
const LOOKED = 65536;

/**
 * The encoding of a file by its first bytes: a byte-order mark; else zero bytes in every second place (UTF-16); else UTF-8 where it is
 * valid, and Windows-1252 where it is not. `whole` says that there are no more bytes, so that a character cut at the end is an error.
 */
export function encodingOf(bytes: Uint8Array, whole = true): Encoding {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return "utf-16le";
  if (a === 0xfe && b === 0xff) return "utf-16be";
  const head = bytes.subarray(0, LOOKED);
  let [even, odd] = [0, 0];
  for (let k = 0; k < head.length; k++)
    if (head[k] === 0) {
      if (k % 2) odd++;
      else even++;
    }
  if (odd > head.length / 8) return "utf-16le";
  if (even > head.length / 8) return "utf-16be";
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes, { stream: !whole });
    return "utf-8";
  } catch {
    return "windows-1252";
  }
}

/** The text of a file, and how it was written. A byte-order mark stays in it where `keepMark` is set. */
export function decodeText(
  bytes: Uint8Array,
  keepMark = false,
): { readonly text: string; readonly encoding: Encoding } {
  const encoding = encodingOf(bytes);
  return { encoding, text: new TextDecoder(encoding, { ignoreBOM: keepMark }).decode(bytes) };
}

/** Beginnings of files that are no tables, and what they are. */
const BEGINNINGS: readonly (readonly [bytes: readonly number[], what: string])[] = [
  [[0x50, 0x4b, 0x03, 0x04], "a zip archive or a spreadsheet"],
  [[0x50, 0x4b, 0x05, 0x06], "an empty zip archive"],
  [[0xd0, 0xcf, 0x11, 0xe0], "a spreadsheet of an old kind"],
  [[0x89, 0x50, 0x4e, 0x47], "a picture (PNG)"],
  [[0xff, 0xd8, 0xff], "a picture (JPEG)"],
  [[0x47, 0x49, 0x46, 0x38], "a picture (GIF)"],
  [[0x52, 0x49, 0x46, 0x46], "a picture or a sound (RIFF)"],
  [[0x25, 0x50, 0x44, 0x46], "a PDF"],
  [[0x1f, 0x8b], "a compressed file (gzip)"],
];

/** What a file is by its first bytes where it is no text table, with what to do; null for a text. */
export function notTable(bytes: Uint8Array): string | null {
  const encoding = BEGINNINGS.find(([begin]) => begin.every((b, k) => bytes[k] === b))?.[1];
  if (encoding)
    return `This is ${encoding}, not a text table. ${encoding.includes("spreadsheet") ? "Export the sheet as CSV and open that." : "Open the CSV that your logger or spreadsheet exports."}`;
  if (encodingOf(bytes, false).startsWith("utf-16")) return null;
  const head = bytes.subarray(0, LOOKED);
  return head.includes(0)
    ? "This is a binary file, not a text table. Open the CSV that your logger or spreadsheet exports."
    : null;
}
