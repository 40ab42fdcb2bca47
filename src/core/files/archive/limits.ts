/** An entry that unpacks to more than this many times its packed size is refused: nothing that is written here does. */
export const MOST_UNPACKED = 200;
/** Bytes that an archive may unpack to before it is asked about. */
export const ASKED_FROM = 512e6;
/** Nesting of a record beyond which it is refused. */
export const DEEPEST = 40;
/** Bytes of a manifest. */
export const LARGEST_MANIFEST = 64e6;
/** Format name in the manifest. */
export const MANIFEST = "manifest.json";
