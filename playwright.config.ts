import { defineConfig } from "@playwright/test";

const PORT = 4681;

export default defineConfig({
  testDir: "tests",
  outputDir: "test-results/browser",
  fullyParallel: false,
  // Both cores: what one browser waits for, the other has.
  workers: 2,
  // A machine that stalls may fail a test once; what passed only when tried again is said at the end.
  retries: process.env.CI ? 1 : 0,
  timeout: 60_000,
  globalTimeout: 60 * 60_000,
  expect: { timeout: 12_000 },
  reporter: [["list"], ["json", { outputFile: "test-results/playwright.json" }]],
  use: {
    // A notice that is still fading in has the contrast of half a notice.
    contextOptions: { reducedMotion: "reduce" },
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 10_000,
    navigationTimeout: 20_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: {
    command: `node node_modules/next/dist/bin/next start -H localhost -p ${PORT}`,
    url: `http://localhost:${PORT}/`,
    env: { NEXT_TELEMETRY_DISABLED: "1" },
    reuseExistingServer: false,
  },
});
