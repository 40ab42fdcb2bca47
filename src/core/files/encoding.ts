/** How the bytes of a text file spell its characters. */
export type Encoding = "utf-8" | "utf-16le" | "utf-16be" | "windows-1252";

/** What an encoding is called in a message. */
export const ENCODING_NAMES: Readonly<Record<Encoding, string>> = { "utf-8": "UTF-8", "utf-16le": "UTF-16", "utf-16be": "UTF-16 (big-endian)", "windows-1252": "Windows-1252" };

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
export function decodeText(bytes: Uint8Array, keepMark = false): { readonly text: string; readonly encoding: Encoding } {
  const encoding = encodingOf(bytes);
  return { encoding, text: new TextDecoder(encoding, { ignoreBOM: keepMark }).decode(bytes) };
}
