/** npm test: installs what is missing, then lint, import rules, types, unit tests and browser tests. Ends with one count. */
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { build, chromium, installPackages, run, TEST_PORT, portFree } from "./setup.mjs";

installPackages();
const browser = chromium();
const node = process.execPath;
mkdirSync("test-results", { recursive: true });
let passed = 0;
let failed = 0;
const count = (good, what) => {
  if (good) passed++;
  else {
    failed++;
    console.error(`FAILED: ${what}`);
  }
};

console.log("\n── Types");
count(run(node, ["node_modules/next/dist/bin/next", "typegen"]) === 0 && run(node, ["node_modules/typescript/bin/tsc", "--noEmit"]) === 0, "types");
console.log("\n── Lint");
count(run(node, ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"]) === 0, "lint");
console.log("\n── Import rules");
count(run(node, ["node_modules/dependency-cruiser/bin/dependency-cruise.mjs", "src", "--config", ".dependency-cruiser.cjs", "--output-type", "err"]) === 0, "import rules");

/** Runs jest and counts its tests; `env` picks the usual ones or those on random populations. */
function jest(what, file, env) {
  console.log(`\n── ${what}`);
  rmSync(file, { force: true });
  // Forced to end: a channel that a test left open would keep the process, and with it everything after it, for ever.
  run(node, ["node_modules/jest/bin/jest.js", "--json", "--outputFile", file, "--silent=false", "--forceExit"], { env });
  const result = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
  if (result) {
    passed += result.numPassedTests;
    failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
  }
  if (!result || result.numTotalTests === 0) count(false, `${what.toLowerCase()} did not run`);
}
jest("Unit tests", "test-results/jest.json", {});
jest("Unit tests on random populations", "test-results/jest-random.json", { NIMBUS_RANDOM: "1" });

console.log("\n── Browser tests");
if (!(await portFree(TEST_PORT))) count(false, `port ${TEST_PORT}, which the browser tests use, is taken`);
else if (build() !== 0) count(false, "build");
else {
  rmSync("test-results/playwright.json", { force: true });
  spawnSync(node, ["node_modules/@playwright/test/cli.js", "test"], {
    stdio: "inherit",
    env: { ...process.env, CHROMIUM_PATH: browser, NEXT_TELEMETRY_DISABLED: "1", PLAYWRIGHT_JSON_OUTPUT_NAME: "test-results/playwright.json" },
  });
  const stats = existsSync("test-results/playwright.json") ? JSON.parse(readFileSync("test-results/playwright.json", "utf8")).stats : null;
  if (stats && stats.expected + stats.unexpected + stats.flaky > 0) {
    passed += stats.expected + stats.flaky;
    failed += stats.unexpected;
    if (stats.flaky) console.log(`${stats.flaky} passed only when tried again`);
  } else count(false, "browser tests did not run");
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
