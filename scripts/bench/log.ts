import { createWriteStream, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { once } from "node:events";
import type { Browser, Page } from "@playwright/test";
import { median } from "../../src/core/quantities";
import { seeded } from "../../src/core/simulator";
import { mainProcess, memory } from "./processes";
import type { Figure } from "./report";

const ROWS = 1_000_000;
const COLUMNS = 6;
const RUNS = 3;
/** Steps of somebody who looks closer and back; so many rounds of them a run that the 95th percentile is not its second worst step. */
const STEPS = ["+", "+", "ArrowRight", "+", "ArrowLeft", "+", "ArrowRight", "ArrowRight", "-", "-", "-", "-"];
const ROUNDS = 3;

/** A charge of three hours at 93 samples a second, six columns, as a logger writes it. */
export async function writeLog(path: string): Promise<void> {
  const out = createWriteStream(path);
  const random = seeded(41);
  let text = "Time (s),Input voltage (V),Input current (A),Cell voltage (V),Cell current (A),Part temperature (degC)\n";
  for (let k = 0; k < ROWS; k++) {
    const share = k / ROWS;
    const on = k > 1000 && share < 0.98;
    const amps = on ? (share < 0.7 ? 1.003 : Math.max(0.1, 1.003 * Math.exp(-(share - 0.7) * 8))) : 0;
    text += `${(k * 0.0108).toFixed(3)},${(5.05 - 0.1 * amps + 0.001 * random.uniform()).toFixed(3)},${(amps + 0.002).toFixed(4)},${(3.2 + Math.min(1, share / 0.7) + 0.001 * random.uniform()).toFixed(4)},${(amps + 0.0004 * random.uniform()).toFixed(4)},${(25 + 20 * Math.min(1, share * 5) + 0.1 * random.uniform()).toFixed(1)}\n`;
    if (text.length > 1e6) {
      if (!out.write(text)) await once(out, "drain");
      text = "";
    }
  }
  out.end(text);
  await once(out, "finish");
}

const require = createRequire(import.meta.url);
const source = (name: string, path: string): string =>
  readFileSync(join(require.resolve(`${name}/package.json`), "..", path), "utf8");

/** The code of a worker that parses with uDSV and analyses as the application does, in one file. */
function sameAnalysis(): string {
  // The bundler that tsx brings along.
  const { buildSync } = createRequire(require.resolve("tsx/package.json"))("esbuild") as {
    buildSync(how: object): { outputFiles: readonly { readonly text: string }[] };
  };
  const built = buildSync({
    entryPoints: [join(import.meta.dirname, "same-analysis.worker.ts")],
    bundle: true,
    write: false,
    format: "iife",
    platform: "browser",
    target: "es2022",
    minify: true,
  });
  return `${source("udsv", "dist/uDSV.iife.min.js")}\n${built.outputFiles[0]?.text ?? ""}`;
}

interface Parsed {
  /** ms from the file to the findings, and to the columns. */
  readonly whole: number;
  readonly parsed: number;
  readonly findings: number;
}

/** What a worker with this code takes for the file, in a plain page. */
async function inWorker(browser: Browser, path: string, code: string): Promise<Parsed[]> {
  const page = await browser.newPage();
  await page.setContent('<input type="file" id="f">');
  await page.locator("#f").setInputFiles(path);
  const out: Parsed[] = [];
  for (let k = 0; k < RUNS; k++)
    out.push(
      await page.evaluate(
        ([body, rows]) =>
          new Promise<Parsed>((resolve, reject) => {
            const worker = new Worker(URL.createObjectURL(new Blob([body])));
            worker.onmessage = (e) => {
              worker.terminate();
              resolve(e.data as Parsed);
            };
            worker.onerror = (e) => reject(new Error(e.message));
            worker.postMessage({
              file: (document.querySelector("#f") as HTMLInputElement).files?.[0],
              rows,
              setup: { plan: {}, conditions: {}, instruments: {} },
            });
          }),
        [code, ROWS] as const,
      ),
    );
  await page.close();
  if (!out.every((x) => x.findings > 5)) throw new Error("the yardstick found nothing in the log");
  return out;
}

async function charger(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Bulrush 301");
  await page.getByLabel("charges a cell").check();
  await page.getByRole("button", { name: "Save board" }).click();
  await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
}

/** Runs in the page: its longest task until the first curve is painted, since it answers nothing meanwhile; and when that is. */
function watchPage(): void {
  const seen = { pressed: 0, blocked: 0, place: 0, drawn: 0 };
  Object.assign(window, { logClock: seen });
  // Whatever drives the page takes its time before it presses.
  window.addEventListener("click", () => Object.assign(seen, { pressed: performance.now(), blocked: 0 }), {
    capture: true,
  });
  // The browser tells of those of 50 ms and more. A page that asked itself how quickly it answers would take a processor from what is measured.
  new PerformanceObserver((list) => {
    for (const task of list.getEntries())
      if (!seen.drawn || task.startTime < seen.drawn) seen.blocked = Math.max(seen.blocked, task.duration);
  }).observe({ type: "longtask" });
  new MutationObserver(() => {
    if (!seen.place && document.querySelector('[aria-label="Drawing the chart"], [data-chart]'))
      seen.place = performance.now();
    if (!seen.drawn && document.querySelector("[data-chart] [data-curve]"))
      requestAnimationFrame(() => (seen.drawn = performance.now()));
  }).observe(document, { subtree: true, childList: true });
}
interface Seen {
  pressed: number;
  blocked: number;
  place: number;
  drawn: number;
}

/** A log of a million rows through the page's own file input: import, reopening, zoom. */
export async function logFigures(launch: () => Promise<Browser>, url: string): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), "nimbus-bench-"));
  const path = join(folder, "million.csv");
  try {
    await writeLog(path);
    const figures: Record<"total" | "blocked" | "growth" | "reopen" | "zoom" | "mount", number[]> = {
      total: [],
      blocked: [],
      growth: [],
      reopen: [],
      zoom: [],
      mount: [],
    };
    let yardstick: Parsed[] = [];
    for (let k = 0; k < RUNS; k++) {
      const browser = await launch();
      const pid = mainProcess();
      if (k === 0) yardstick = await inWorker(browser, path, sameAnalysis());
      const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
      await page.addInitScript("globalThis.__name = (f) => f");
      await page.addInitScript(watchPage);
      await charger(page, url);
      await page.getByLabel("CSV to import").setInputFiles(path);
      const go = page.getByRole("button", { name: /^Import about/ });
      await go.waitFor();
      await page.waitForTimeout(500);
      const before = memory(pid, "VmRSS");
      await go.click({ noWaitAfter: true });
      await page.waitForFunction(() => (window as unknown as { logClock: Seen }).logClock.drawn > 0, undefined, {
        timeout: 120_000,
      });
      const seen = await page.evaluate(() => (window as unknown as { logClock: Seen }).logClock);
      figures.total.push(seen.drawn - seen.pressed);
      figures.blocked.push(seen.blocked);
      figures.mount.push(seen.drawn - seen.place);
      figures.growth.push(memory(pid, "VmHWM") - before);
      await page.locator('[data-chart="temperature"] [data-curve]').first().waitFor();
      const review = page.url();
      await page.goto("about:blank");
      await page.goto(review, { waitUntil: "commit" });
      await page.waitForFunction(() => (window as unknown as { logClock: Seen }).logClock.drawn > 0);
      figures.reopen.push(await page.evaluate(() => (window as unknown as { logClock: Seen }).logClock.drawn));
      await page.locator('[data-chart="temperature"] [data-curve]').first().waitFor();
      await page.locator("h1").click();
      // The first look closer reads the log into the worker; that is part of opening it.
      await page.keyboard.press("+");
      await page.locator('[data-chart="temperature"][data-from]').waitFor();
      await page.waitForTimeout(1500);
      for (let round = 0; round < ROUNDS; round++) for (const key of STEPS) figures.zoom.push(await redraw(page, key));
      await browser.close();
    }
    return [
      {
        name: `uDSV into columns in a worker, ${ROWS / 1e6} M rows × ${COLUMNS}`,
        unit: "ms",
        judged: "median",
        target: Infinity,
        values: yardstick.map((x) => x.parsed),
      },
      {
        name: "… with the application's analysis; nothing stored or drawn",
        unit: "ms",
        judged: "median",
        target: Infinity,
        values: yardstick.map((x) => x.whole),
      },
      {
        name: "Log: import, durable, analysed, drawn; against that and the drawing",
        unit: "ms",
        judged: "median",
        target: median(yardstick.map((x) => x.whole)) + median(figures.mount),
        values: figures.total,
      },
      {
        name: "Log: growth of the page's process meanwhile",
        unit: "MB",
        judged: "most",
        target: (4 * ROWS * COLUMNS * 8) / 1e6,
        values: figures.growth,
      },
      {
        name: "Log: longest task of the page from 50 ms on (0: none)",
        unit: "ms",
        judged: "most",
        target: 50,
        values: figures.blocked,
      },
      { name: "Log: first chart's mount", unit: "ms", judged: "median", target: 350, values: figures.mount },
      {
        name: "Log: a million rows reopened to the chart, from a cold page",
        unit: "ms",
        judged: "median",
        target: 1000,
        values: figures.reopen,
      },
      {
        name: "Log: zoom or pan to three linked charts redrawn",
        unit: "ms",
        judged: "p95",
        target: 50,
        values: figures.zoom,
      },
    ];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** From a key to the paint in which the first three charts show the new stretch, ms. */
export function redraw(page: Page, key: string): Promise<number> {
  return page.evaluate(
    (name) =>
      new Promise<number>((resolve) => {
        const all = () =>
          [...document.querySelectorAll("[data-chart]")].slice(0, 3).map((c) => c.getAttribute("data-from"));
        const before = all().join();
        const begun = performance.now();
        const look = () => {
          const now = all();
          // This frame paints it: a message that is posted now comes once it has.
          if (now.join() !== before && now.every((v) => v === now[0])) {
            const c = new MessageChannel();
            c.port1.onmessage = () => resolve(performance.now() - begun);
            c.port2.postMessage(null);
          } else requestAnimationFrame(look);
        };
        document.body.dispatchEvent(new KeyboardEvent("keydown", { key: name, bubbles: true, cancelable: true }));
        requestAnimationFrame(look);
      }),
    key,
  );
}
