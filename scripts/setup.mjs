/** Shared by the scripts that must run on a fresh checkout: nothing but Node is there yet. */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, readdirSync, statSync } from "node:fs";
import { join } from "node:path";
import { createServer } from "node:net";
import { platform } from "node:os";

export const HOST = "localhost";
/** Fixed: the browser keeps data by host and port, and another port would hide it. */
export const PORT = 4680;
export const TEST_PORT = 4681;

export function run(command, args, options = {}) {
  const r = spawnSync(command, args, {
    stdio: "inherit",
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...options.env },
  });
  if (r.error) throw r.error;
  return r.status ?? 1;
}

/** Installs the packages where they are missing or older than the lock file. */
export function installPackages() {
  const stamp = "node_modules/.package-lock.json";
  if (existsSync(stamp) && statSync(stamp).mtimeMs >= statSync("package-lock.json").mtimeMs) return;
  console.log("Installing the packages …");
  if (run("npm", ["ci", "--ignore-scripts", "--no-fund", "--no-audit"]) !== 0) process.exit(1);
}

/** The browser to test with: CHROMIUM_PATH, else Debian's; installed where this is Debian and may be installed. */
export function chromium() {
  const named = process.env.CHROMIUM_PATH;
  if (named) {
    if (existsSync(named)) return named;
    console.error(`CHROMIUM_PATH names ${named}, which is not there.`);
    process.exit(1);
  }
  const found = ["/usr/bin/chromium", "/usr/bin/chromium-browser", "/usr/bin/google-chrome"].find((p) => existsSync(p));
  if (found) return found;
  if (platform() === "linux" && existsSync("/usr/bin/apt-get")) {
    console.log("Installing Debian's chromium …");
    run("apt-get", ["update", "-qq"]);
    run("apt-get", ["install", "-y", "-qq", "chromium", "fonts-dejavu-core"], {
      env: { DEBIAN_FRONTEND: "noninteractive" },
    });
    if (existsSync("/usr/bin/chromium")) return "/usr/bin/chromium";
  }
  console.error(
    "No Chromium was found. Install one (on Debian: apt-get install chromium fonts-dejavu-core) or name it in CHROMIUM_PATH.",
  );
  process.exit(1);
}

/** Whether nobody listens on the port yet. */
export function portFree(port) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once("error", () => resolve(false));
    probe.listen(port, HOST, () => probe.close(() => resolve(true)));
  });
}

/** Newest change under a folder, tests left out, ms. */
function changed(folder) {
  return readdirSync(folder, { withFileTypes: true }).reduce((newest, entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return Math.max(newest, changed(path));
    return /\.test\.tsx?$/.test(entry.name) ? newest : Math.max(newest, statSync(path).mtimeMs);
  }, 0);
}

/** Simulates the demo that ships, unless it is newer than all code that it comes from. */
export function makeDemo() {
  const packed = "public/demo.json";
  const code = Math.max(
    changed("src/core"),
    changed("src/storage"),
    changed("src/notebook"),
    statSync("scripts/build-demo.ts").mtimeMs,
    statSync("package-lock.json").mtimeMs,
  );
  if (existsSync(packed) && statSync(packed).mtimeMs > code) return 0;
  return run(process.execPath, ["node_modules/tsx/dist/cli.mjs", "scripts/build-demo.ts"]);
}

export function build(env = {}) {
  const demo = makeDemo();
  if (demo !== 0) return demo;
  return run(process.execPath, ["node_modules/next/dist/bin/next", "build"], { env });
}

/** Starts the built application; node runs it directly, so that ending this ends it. */
export function serve(port, env = {}) {
  return spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", HOST, "-p", String(port)], {
    stdio: ["ignore", "pipe", "inherit"],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
  });
}

/** Resolves once the address answers; rejects when it does not within a minute. */
export async function answering(url) {
  for (let k = 0; k < 240; k++) {
    const good = await fetch(url).then(
      (r) => r.ok,
      () => false,
    );
    if (good) return;
    await new Promise((r) => setTimeout(r, 250));
  }
  throw new Error(`${url} did not answer within a minute.`);
}
