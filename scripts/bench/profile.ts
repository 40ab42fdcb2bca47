import { mkdtempSync } from "node:fs";
import { rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type BrowserContext } from "@playwright/test";
import { chromium as chromiumPath } from "../setup.mjs";

export const ARGUMENTS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

/**
 * A browser with an empty profile on disk, as its users have one: a private window holds the database in memory, where a large one is many times
 * as slow. Closing it deletes the profile.
 */
export async function freshProfile(): Promise<BrowserContext> {
  const dir = mkdtempSync(join(tmpdir(), "nimbus-profile-"));
  const context = await chromium.launchPersistentContext(dir, {
    executablePath: chromiumPath(),
    args: ARGUMENTS,
    viewport: { width: 1280, height: 800 },
  });
  // The browser may still write while it ends: tried again for some ten seconds.
  context.once("close", () => {
    rm(dir, { recursive: true, force: true, maxRetries: 13, retryDelay: 100 }).catch((e: Error) =>
      console.error(`The profile stays behind: ${e.message}`),
    );
  });
  return context;
}
