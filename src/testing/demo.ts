import { readFileSync } from "node:fs";
import { unpackDemo, type DemoContent } from "@/core/demo/package";

/** Made once for all suites, before the first of them (scripts/jest-setup.mjs). */
const PACKED = "public/demo.json";

/** The demo's records and logs as the built application ships them, with ids of one's own; nothing is simulated again. */
export function packedDemo(newId: () => string, now: string, zone = "UTC"): DemoContent {
  return unpackDemo(readFileSync(PACKED, "utf8"), { newId, now, zone });
}
