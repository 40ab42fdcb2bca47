import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, expect, test, type Page } from "@playwright/test";
import { liveChargeFor } from "../src/core/rehearsal/live-bench";
import type { RunSetup } from "../src/core/procedures";
import { chromium as chromiumPath } from "../scripts/setup.mjs";

const TIMES = 10;

interface Stored {
  readonly run: { readonly id: string; readonly setup: RunSetup; readonly source: { readonly board: string; readonly seed: number } } | null;
  readonly chunks: readonly { readonly at: number; readonly columns: Readonly<Record<string, readonly number[]>> }[];
}

/** A browser of its own, killed with all its processes as a power cut would. */
async function open(profile: string): Promise<{ page: Page; process: ChildProcess }> {
  const process = spawn(chromiumPath(), ["--headless=new", "--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run", "--remote-debugging-port=0", `--user-data-dir=${profile}`, "about:blank"], { detached: true, stdio: ["ignore", "ignore", "pipe"] });
  const address = await new Promise<string>((resolve, reject) => {
    let said = "";
    process.stderr?.on("data", (d: Buffer) => {
      said += d.toString();
      const m = /DevTools listening on (\S+)/.exec(said);
      if (m) resolve(m[1] as string);
    });
    process.on("exit", () => reject(new Error(`the browser ended: ${said}`)));
  });
  const browser = await chromium.connectOverCDP(address);
  return { page: browser.contexts()[0]?.pages()[0] ?? (await browser.newContext().then((c) => c.newPage())), process };
}
async function kill(process: ChildProcess): Promise<number> {
  const gone = new Promise((resolve) => process.on("exit", resolve));
  const at = Date.now();
  globalThis.process.kill(-(process.pid as number), "SIGKILL");
  await gone;
  return at;
}

const stored = (page: Page): Promise<Stored> =>
  page.evaluate(
    () =>
      new Promise<Stored>((resolve, reject) => {
        const request = indexedDB.open("nimbus-bench");
        request.onerror = () => reject(request.error ?? new Error("can't open"));
        request.onsuccess = () => {
          const tx = request.result.transaction(["records", "chunks"]);
          const records = tx.objectStore("records").getAll();
          const chunks = tx.objectStore("chunks").getAll();
          tx.oncomplete = () => {
            request.result.close();
            const list = records.result as { kind: string }[];
            resolve({
              run: (list.find((r) => r.kind === "run") ?? null) as Stored["run"],
              chunks: (chunks.result as { at: number; columns: Record<string, Float64Array> }[]).map((c) => ({ at: c.at, columns: Object.fromEntries(Object.entries(c.columns).map(([k, v]) => [k, [...v]])) })),
            });
          };
        };
      }),
  );

test(`a browser killed ${TIMES} times in the middle of a log at 100 samples a second loses at most the last second`, async ({ baseURL }) => {
  test.setTimeout(240_000);
  const profile = mkdtempSync(join(tmpdir(), "nimbus-killed-"));
  let { page, process } = await open(profile);
  try {
    await page.goto(`${baseURL}/`);
    await page.getByRole("button", { name: "Start an empty notebook" }).click();
    await page.getByRole("button", { name: "Write down a board" }).click();
    await page.getByLabel("Name", { exact: true }).fill("Heron 9");
    await page.getByLabel("charges a cell").check();
    await page.getByRole("button", { name: "Write it down" }).click();
    await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
    await page.getByRole("button", { name: "Write down a cell" }).click();
    await page.getByLabel("Name on its label").fill("Reed 9");
    await page.getByRole("textbox", { name: "Rated capacity" }).fill("2.2");
    await page.getByRole("button", { name: "Keep the cell" }).click();
    await page.getByLabel("Its volts now, rested and not connected").fill("3.5");
    await page.getByLabel("Charge current it is set to").fill("1");
    await page.getByLabel("The simulated bench").check();
    await page.getByLabel("One sample every").fill("0.01");
    for (const box of await page.getByRole("checkbox").all()) await box.check();
    await page.getByRole("button", { name: "Start the log" }).click();
    let before = 0;
    for (let k = 0; k < TIMES; k++) {
      await expect(page.locator('[data-readout="Cell volts"]')).toContainText("3.", { timeout: 20_000 });
      await page.waitForTimeout(900 + 137 * (k % 5));
      const url = page.url();
      const killedAt = await kill(process);
      ({ page, process } = await open(profile));
      await page.goto(`${baseURL}/icon.svg`);
      const { run, chunks } = await stored(page);
      const last = chunks.at(-1);
      expect(killedAt - (last?.at ?? 0), `kill ${k + 1}: how long before it the last write was, ms`).toBeLessThanOrEqual(1000);
      const rows = chunks.flatMap((c) => (c.columns.time as number[]).map((_, i) => Object.fromEntries(Object.entries(c.columns).map(([role, v]) => [role, v[i]]))));
      expect(rows.length).toBeGreaterThan(before + 50);
      before = rows.length;
      // Every sample is the one that the seeded source gives for its time.
      if (!run) throw new Error("the run is gone");
      const source = liveChargeFor(run.source.board, run.source.seed, 0.01, run.setup);
      for (const row of rows) expect(row).toEqual(source.sample(Math.round((row.time as number) * 100)));
      await page.goto(url);
    }
    // What lay between was not watched, and says so.
    await expect(page.getByLabel("What happened").getByText("not watched").first()).toBeVisible();
  } finally {
    if (process.exitCode === null && process.signalCode === null) await kill(process);
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
  }
});
