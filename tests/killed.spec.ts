import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, expect, test, type Page } from "@playwright/test";
import { liveChargeFor } from "../src/core/rehearsal/live-bench";
import type { RunSetup } from "../src/core/measurement";
import { chromium as chromiumPath } from "../scripts/setup.mjs";
import { seeded } from "../src/core/simulator";
import { startSweep, writeBoard } from "./helpers";

/** Kills of each kind; a campaign sets more. */
const TIMES = Number(process.env.NIMBUS_KILLS ?? 4);
const FEW = Number(process.env.NIMBUS_KILLS ?? 2);

interface Stored {
  readonly run: {
    readonly id: string;
    readonly setup: RunSetup;
    readonly source: { readonly board: string; readonly seed: number };
  } | null;
  readonly chunks: readonly { readonly at: number; readonly columns: Readonly<Record<string, readonly number[]>> }[];
}

/** A browser of its own, killed with all its processes as a power cut would. */
async function open(profile: string): Promise<{ page: Page; process: ChildProcess }> {
  const process = spawn(
    chromiumPath(),
    [
      "--headless=new",
      "--no-sandbox",
      "--disable-gpu",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      "--no-first-run",
      "--remote-debugging-port=0",
      `--user-data-dir=${profile}`,
      "about:blank",
    ],
    { detached: true, stdio: ["ignore", "ignore", "pipe"] },
  );
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

/** The run and its chunks from row `from` on, read past the application. */
const stored = (page: Page, from: number): Promise<Stored> =>
  page.evaluate(
    (first) =>
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
              chunks: (chunks.result as { at: number; from: number; columns: Record<string, Float64Array> }[])
                .filter((c) => c.from >= first)
                .map((c) => ({
                  at: c.at,
                  columns: Object.fromEntries(Object.entries(c.columns).map(([k, v]) => [k, [...v]])),
                })),
            });
          };
        };
      }),
    from,
  );

test(`a browser killed ${TIMES} times in the middle of a log at 100 samples a second loses at most the last second`, async ({
  baseURL,
}) => {
  test.setTimeout(60_000 + 12_000 * TIMES);
  const profile = mkdtempSync(join(tmpdir(), "nimbus-killed-"));
  let { page, process } = await open(profile);
  try {
    await page.goto(`${baseURL}/`);
    await page.getByRole("button", { name: "Start empty notebook" }).click();
    await page.getByRole("button", { name: "Add board" }).click();
    await page.getByLabel("Name", { exact: true }).fill("Heron 9");
    await page.getByLabel("charges a cell").check();
    await page.getByRole("button", { name: "Save board" }).click();
    await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
    await page.getByRole("button", { name: "Add cell" }).click();
    await page.getByLabel("Name on the label").fill("Reed 9");
    await page.getByRole("textbox", { name: "Rated capacity" }).fill("2.2");
    await page.getByRole("button", { name: "Save cell" }).click();
    // What the cell fills in is there before anything is typed over it.
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await page.getByLabel("Cell voltage now, rested and not connected").fill("3.5");
    await page.getByLabel("Charge current set").fill("1");
    await page.getByLabel("The simulated bench").check();
    await page.getByLabel("One sample every").fill("0.01");
    for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
    await page.getByRole("button", { name: "Start the log" }).click();
    let before = 0;
    for (let k = 0; k < TIMES; k++) {
      await expect(page.locator('[data-readout="Cell voltage"]')).toContainText("3.", { timeout: 20_000 });
      await page.waitForTimeout(900 + 137 * (k % 5));
      const url = page.url();
      const killedAt = await kill(process);
      ({ page, process } = await open(profile));
      await page.goto(`${baseURL}/icon.svg`);
      const { run, chunks } = await stored(page, before);
      const last = chunks.at(-1);
      expect(
        killedAt - (last?.at ?? 0),
        `kill ${k + 1}: how long before it the last write was, ms`,
      ).toBeLessThanOrEqual(1000);
      const rows = chunks.flatMap((c) =>
        (c.columns.time as number[]).map((_, i) =>
          Object.fromEntries(Object.entries(c.columns).map(([role, v]) => [role, v[i]])),
        ),
      );
      expect(rows.length).toBeGreaterThan(50);
      before += rows.length;
      // Every sample is the one that the seeded source gives for its time.
      if (!run) throw new Error("the run is gone");
      const source = liveChargeFor(run.source.board, run.source.seed, 0.01, run.setup);
      for (const row of rows) expect(row).toEqual(source.sample(Math.round((row.time as number) * 100)));
      await page.goto(url);
    }
    // What lay between was not watched, and says so.
    await expect(page.getByLabel("Events").getByText("not watched").first()).toBeVisible();
  } finally {
    if (process.exitCode === null && process.signalCode === null) await kill(process);
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
  }
});

interface Counts {
  readonly points: readonly { readonly id: string; readonly runId: string; readonly sequence: number }[];
  readonly runs: readonly { readonly id: string; readonly rows?: number }[];
  readonly boards: number;
  readonly claims: number;
  readonly files: readonly string[];
  readonly chunks: readonly { readonly runId: string; readonly rows: number }[];
  readonly contents: readonly string[];
}

/** What the database holds, read past the application. */
const counts = (page: Page): Promise<Counts> =>
  page.evaluate(
    () =>
      new Promise<Counts>((resolve, reject) => {
        const request = indexedDB.open("nimbus-bench");
        request.onerror = () => reject(request.error ?? new Error("can't open"));
        request.onsuccess = () => {
          const tx = request.result.transaction(["records", "chunks", "contents"]);
          const records = tx.objectStore("records").getAll();
          const chunks = tx.objectStore("chunks").getAll();
          const contents = tx.objectStore("contents").getAllKeys();
          tx.oncomplete = () => {
            request.result.close();
            const all = records.result as {
              kind: string;
              id: string;
              runId: string;
              sequence: number;
              deletedAt?: string;
              draft?: boolean;
            }[];
            const of = (kind: string) => all.filter((r) => r.kind === kind && !r.deletedAt && !r.draft);
            resolve({
              points: of("point").map(({ id, runId, sequence }) => ({ id, runId, sequence })),
              runs: of("run").map(({ id }) => ({ id })),
              boards: of("board").length,
              claims: of("claim").length,
              files: of("file").map((f) => f.id),
              chunks: (chunks.result as { runId: string; rows: number }[]).map(({ runId, rows }) => ({ runId, rows })),
              contents: contents.result as string[],
            });
          };
        };
      }),
  );

/** Runs whose log is stored without them. */
const orphans = (c: Counts): string[] =>
  [...new Set(c.chunks.map((x) => x.runId))].filter((id) => !c.runs.some((r) => r.id === id));

/** Draws what a run of kills does; its seed is in the test's title. */
const SEED = 20261711;

test(`a browser killed ${FEW} times in the middle of a sweep keeps every point that was shown, and everything else (seed ${SEED})`, async ({
  baseURL,
}) => {
  test.setTimeout(60_000 + 15_000 * FEW);
  const random = seeded(SEED);
  const profile = mkdtempSync(join(tmpdir(), "nimbus-killed-"));
  let { page, process } = await open(profile);
  try {
    await page.goto(`${baseURL}/`);
    await page.getByRole("button", { name: "Start empty notebook" }).click();
    await writeBoard(page, "Heron 12");
    const sweep = {
      dwell: "0",
      batteries: "4.1 3.9 3.7 3.5 3.3 3.1",
      loads: Array.from({ length: 60 }, (_, k) => (k * 0.01).toFixed(2)).join(" "),
      simulated: "Synchronous boost, honest ratings",
    };
    const board = page.url();
    await startSweep(page, sweep);
    let url = page.url();
    let runs = 1;
    for (let k = 0; k < FEW; k++) {
      await page.locator("h1").click();
      await page.waitForFunction(
        () =>
          document.querySelector('[data-readout="Output voltage"]')?.textContent?.match(/\d\.\d/) &&
          document.querySelector('[data-testid="proposal"]'),
      );
      // Points as fast as keys come, until it is killed at some moment of one.
      const shown = new Set<string>();
      const until = Date.now() + random.between(500, 1500);
      while (Date.now() < until) {
        await page.keyboard.press("t");
        for (const id of await page
          .locator("tr[data-point]")
          .evaluateAll((rows) => rows.map((r) => r.getAttribute("data-point") ?? "")))
          shown.add(id);
      }
      await kill(process);
      ({ page, process } = await open(profile));
      await page.goto(`${baseURL}/icon.svg`);
      const found = await counts(page);
      const kept = new Set(found.points.map((p) => p.id));
      expect(
        [...shown].filter((id) => !kept.has(id)),
        `kill ${k + 1}: points that were shown and are gone`,
      ).toEqual([]);
      expect(
        new Set(found.points.map((p) => `${p.runId} ${p.sequence}`)).size,
        `kill ${k + 1}: every point has a number of its own`,
      ).toBe(found.points.length);
      expect({ boards: found.boards, claims: found.claims, runs: found.runs.length }).toEqual({
        boards: 1,
        claims: 2,
        runs,
      });
      expect(shown.size).toBeGreaterThan(0);
      if (found.points.length < 250 * runs) {
        await page.goto(url);
        continue;
      }
      // This sweep is nearly done: the next kill comes in one of its own.
      await page.goto(board);
      await startSweep(page, sweep);
      url = page.url();
      runs++;
    }
  } finally {
    if (process.exitCode === null && process.signalCode === null) await kill(process);
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
  }
});

test(`a browser killed ${FEW} times in the middle of an import has the whole log or nothing of it (seed ${SEED})`, async ({
  baseURL,
}) => {
  test.setTimeout(60_000 + 20_000 * FEW);
  const random = seeded(SEED);
  const profile = mkdtempSync(join(tmpdir(), "nimbus-killed-"));
  const folder = mkdtempSync(join(tmpdir(), "nimbus-log-"));
  const ROWS = 150_000;
  const file = join(folder, "charge.csv");
  let { page, process } = await open(profile);
  let [whole, nothing] = [0, 0];
  try {
    await page.goto(`${baseURL}/`);
    await page.getByRole("button", { name: "Start empty notebook" }).click();
    await page.getByRole("button", { name: "Add board" }).click();
    await page.getByLabel("Name", { exact: true }).fill("Heron 13");
    await page.getByLabel("charges a cell").check();
    await page.getByRole("button", { name: "Save board" }).click();
    await page.getByRole("heading", { name: "Heron 13", level: 1 }).waitFor();
    const board = page.url();
    for (let k = 0; k < FEW; k++) {
      await page.goto(board);
      writeFileSync(
        file,
        [
          "Time (s),Cell voltage (V),Cell current (A)",
          ...Array.from(
            { length: ROWS },
            (_, i) =>
              `${(i * 0.07).toFixed(2)},${(3.3 + (0.9 * i) / ROWS).toFixed(4)},${(i > 100 ? 1 + 0.001 * ((i * 7 + k) % 5) : 0).toFixed(4)}`,
          ),
          "",
        ].join("\n"),
      );
      await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
      await page.getByLabel("CSV to import").setInputFiles(file);
      const go = page.getByRole("button", { name: /^Import about/ });
      await go.waitFor();
      // From the first chunk to after the last write.
      await go.click({ noWaitAfter: true });
      await page.waitForTimeout(random.between(0, 1400));
      await kill(process);
      ({ page, process } = await open(profile));
      // Opening it sweeps away what never came to be.
      await page.goto(board);
      await page.getByRole("heading", { name: "Heron 13" }).waitFor();
      await expect
        .poll(async () => orphans(await counts(page)), { message: `kill ${k + 1}: logs without their run` })
        .toEqual([]);
      const found = await counts(page);
      const rows = new Map<string, number>();
      for (const c of found.chunks) rows.set(c.runId, (rows.get(c.runId) ?? 0) + c.rows);
      expect([...new Set(rows.values())], `kill ${k + 1}: rows of each log`).toEqual(found.runs.length ? [ROWS] : []);
      expect([...found.contents].sort(), `kill ${k + 1}: files without their record`).toEqual([...found.files].sort());
      expect(found.boards).toBe(1);
      if (found.runs.length > whole) whole = found.runs.length;
      else nothing++;
    }
    test.info().annotations.push({ type: "kills", description: `${nothing} left nothing, ${whole} the whole log` });
  } finally {
    if (process.exitCode === null && process.signalCode === null) await kill(process);
    rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
    rmSync(folder, { recursive: true, force: true });
  }
});
