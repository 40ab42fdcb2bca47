import { createHash } from "node:crypto";
import { CHARACTERISTICS } from ".";
import { DICTIONARY_VERSION } from "./version";

/** Version → hash of what kept results rest on. A new line and a raised DICTIONARY_VERSION whenever the hash changes. */
const KNOWN: Readonly<Record<number, string>> = { 1: "1e13d0330bd20cb4", 2: "dcda567f3e28c450", 3: "c99f24052a244bdf" };

test("the dictionary has changed only with its version", () => {
  const relied = CHARACTERISTICS.map(({ name, unit, kind, at, better, of }) => [name, unit, kind, at, better, of]);
  expect(KNOWN[DICTIONARY_VERSION]).toBe(
    createHash("sha256").update(JSON.stringify(relied)).digest("hex").slice(0, 16),
  );
});
