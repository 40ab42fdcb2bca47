/** npm test: installs what is missing, then lint, import rules, types, unit tests and browser tests. Ends with one count. */
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, openSync, readFileSync, rmSync } from "node:fs";
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

/** Runs commands one after another; gives whether all went well, and what they wrote. */
async function inTurn(...commands) {
  let text = "";
  for (const args of commands) {
    const code = await new Promise((done) => {
      const child = spawn(node, args, {
        stdio: ["ignore", "pipe", "pipe"],
        env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" },
      });
      for (const from of [child.stdout, child.stderr]) from.on("data", (chunk) => (text += chunk));
      child.on("error", (e) => {
        text += String(e);
        done(1);
      });
      child.on("close", done);
    });
    if (code !== 0) return { good: false, text };
  }
  return { good: true, text };
}

// Both cores: the types are checked beside the rest.
const checks = [
  ["types", inTurn(["node_modules/next/dist/bin/next", "typegen"], ["node_modules/typescript/bin/tsc", "--noEmit"])],
  ["lint", inTurn(["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"])],
  [
    "import rules",
    inTurn([
      "node_modules/dependency-cruiser/bin/dependency-cruise.mjs",
      "src",
      "--config",
      ".dependency-cruiser.cjs",
      "--output-type",
      "err",
    ]),
  ],
];
let typed = false;
for (const [what, running] of checks) {
  const { good, text } = await running;
  if (what === "types") typed = good;
  console.log(`\n── ${what[0].toUpperCase()}${what.slice(1)}\n${text.trim()}`);
  count(good, what);
}

/** Adds up what jest wrote of its tests. */
function tally(what, file) {
  const result = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
  if (result) {
    passed += result.numPassedTests;
    failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
  }
  if (!result || result.numTotalTests === 0) count(false, `${what} did not run`);
}
// Forced to end: a channel that a test left open would keep the process, and with it everything after it, for ever.
const jest = (file, ...more) => [
  "node_modules/jest/bin/jest.js",
  "--json",
  "--outputFile",
  file,
  "--silent=false",
  "--forceExit",
  ...more,
];

console.log("\n── Unit tests");
rmSync("test-results/jest.json", { force: true });
run(node, jest("test-results/jest.json"));
tally("unit tests", "test-results/jest.json");

/** The tests on random populations compute where the browsers leave a core idle. */
function populations() {
  const file = "test-results/jest-random.json";
  const log = "test-results/jest-random.log";
  rmSync(file, { force: true });
  const out = openSync(log, "w");
  const child = spawn("nice", ["-n", "19", node, ...jest(file)], {
    stdio: ["ignore", out, out],
    env: { ...process.env, NIMBUS_RANDOM: "1" },
  });
  return new Promise((done) => {
    child.on("error", () => done({ file, log }));
    child.on("close", () => done({ file, log }));
  });
}

console.log("\n── Browser tests, and tests on random populations beside them");
if (!(await portFree(TEST_PORT))) count(false, `port ${TEST_PORT}, which the browser tests use, is taken`);
else if (build({ NIMBUS_TYPES_CHECKED: typed ? "1" : "0" }) !== 0) count(false, "build");
else {
  rmSync("test-results/playwright.json", { force: true });
  const beside = populations();
  await new Promise((done) => {
    const child = spawn(node, ["node_modules/@playwright/test/cli.js", "test"], {
      stdio: ["ignore", "inherit", "inherit"],
      env: {
        ...process.env,
        CHROMIUM_PATH: browser,
        NEXT_TELEMETRY_DISABLED: "1",
        PLAYWRIGHT_JSON_OUTPUT_NAME: "test-results/playwright.json",
      },
    });
    child.on("error", done);
    child.on("close", done);
  });
  const stats = existsSync("test-results/playwright.json")
    ? JSON.parse(readFileSync("test-results/playwright.json", "utf8")).stats
    : null;
  if (stats && stats.expected + stats.unexpected + stats.flaky > 0) {
    passed += stats.expected + stats.flaky;
    failed += stats.unexpected;
    if (stats.flaky) console.log(`${stats.flaky} passed only when tried again`);
  } else count(false, "browser tests did not run");
  const { file, log } = await beside;
  console.log("\n── Tests on random populations");
  console.log(readFileSync(log, "utf8"));
  tally("tests on random populations", file);
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
