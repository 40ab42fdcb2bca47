import { chromium, type Browser, type Page } from "@playwright/test";
import { answering, build, chromium as chromiumPath, HOST, portFree, serve, TEST_PORT } from "../setup.mjs";
import { countingProxy } from "./counting-proxy";
import { logFigures } from "./log";
import { matrixFigures } from "./matrix";
import { notebookFigures } from "./notebook";
import { ARGUMENTS, freshProfile } from "./profile";
import type { Figure } from "./report";
import { stationFigures } from "./station";

const UPSTREAM = TEST_PORT;
const PROXY = TEST_PORT + 1;
const START_POINTS = 300;
const KEYS = 60;

interface Clock {
  /** ms on the page's clock. */
  pressed: number;
  shown: number;
  drawn: number;
}

/** Runs in the page: notes when a key went down, when the point showed and when the curve last changed, each after paint. */
function watchPage(): void {
  const clock = { pressed: 0, shown: 0, drawn: 0 };
  Object.assign(window, { benchClock: clock });
  const afterPaint = (then: () => void) =>
    requestAnimationFrame(() => {
      const c = new MessageChannel();
      c.port1.onmessage = then;
      c.port2.postMessage(null);
    });
  let newest = "";
  window.addEventListener(
    "keydown",
    (e) => {
      if (e.key !== "t") return;
      newest = document.querySelector("tr[data-point]")?.getAttribute("data-point") ?? "";
      Object.assign(clock, { pressed: performance.now(), shown: 0, drawn: 0 });
    },
    { capture: true },
  );
  const look = (changes: MutationRecord[]) => {
    const now = document.querySelector("tr[data-point]")?.getAttribute("data-point") ?? "";
    if (clock.pressed && !clock.shown && now && now !== newest) afterPaint(() => (clock.shown = performance.now()));
    if (clock.pressed && changes.some((c) => c.target instanceof Element && c.target.closest("[data-chart]")))
      afterPaint(() => (clock.drawn = performance.now()));
  };
  new MutationObserver(look).observe(document, {
    subtree: true,
    childList: true,
    attributes: true,
    attributeFilter: ["data-point", "d"],
  });
}

async function boardWithSweep(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Bulrush 300");
  await page.getByLabel("boosts to an output").check();
  await page.getByRole("button", { name: "Save board" }).click();
  for (const [label, text] of [
    ["no-load voltage", "5 V ±5 %"],
    ["highest load held", "≥ 0.6 A"],
  ] as const) {
    await page.getByLabel(`Claimed ${label}`).fill(text);
    await page.getByRole("button", { name: new RegExp(`Save claim on ${label}`, "i") }).click();
    await page.getByRole("row").filter({ hasText: text }).waitFor();
  }
  await page.getByRole("button", { name: "Prepare a load sweep" }).click();
  await page.getByLabel("I type readings from my own meters").check();
  await page.getByLabel("Dwell before a point counts").fill("0");
  await page.getByLabel("Battery voltages, fullest first").fill("4.1 3.6 3.1");
  await page
    .getByLabel("Load currents, from none to past the claim")
    .fill(Array.from({ length: 130 }, (_, k) => (k * 0.005).toFixed(3)).join(" "));
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start run" }).click();
}

const reading = (k: number) => {
  const column = [4.1, 3.6, 3.1][Math.floor(k / 130)] ?? 3.1;
  const out = 0.005 * (k % 130);
  const volts = 5.06 - 0.05 * out;
  return [
    column.toFixed(3),
    ((volts * out) / (0.9 * column) + 0.001).toFixed(4),
    volts.toFixed(3),
    out.toFixed(4),
    (21 + 8 * out).toFixed(1),
  ];
};

async function captureFigures(): Promise<Figure[]> {
  const page = await (await freshProfile()).newPage();
  // The compiler that runs this script names inner functions through a helper that a page lacks.
  await page.addInitScript("globalThis.__name = (f) => f");
  await page.addInitScript(watchPage);
  await page.goto(`http://${HOST}:${UPSTREAM}/`);
  await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
  await boardWithSweep(page);
  const rows = Array.from({ length: START_POINTS }, (_, k) => reading(k).join("\t")).join("\n");
  await page.getByTestId("proposal").waitFor();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData("text/plain", text);
    window.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, cancelable: true }));
  }, rows);
  await page.getByRole("button", { name: /^Save/ }).click();
  await page.getByText(new RegExp(`${START_POINTS} of about`)).waitFor();
  const stored: number[] = [];
  const drawn: number[] = [];
  for (let k = 0; k < KEYS; k++) {
    const values = reading(START_POINTS + k);
    const fields = page.locator("input[data-number]");
    for (let i = 0; i < values.length; i++) await fields.nth(i).fill(values[i] as string);
    // Let the half-typed point be kept, so that only the key's own work is timed.
    await page.waitForTimeout(600);
    await page.keyboard.press("t");
    await page.waitForFunction(() => {
      const c = (window as unknown as { benchClock: Clock }).benchClock;
      return c.shown > 0 && c.drawn > 0;
    });
    await page.waitForTimeout(250);
    const clock = await page.evaluate(() => (window as unknown as { benchClock: Clock }).benchClock);
    stored.push(clock.shown - clock.pressed);
    drawn.push(clock.drawn - clock.pressed);
  }
  await page.context().close();
  if (process.env.NIMBUS_BENCH_VALUES)
    console.log(stored.map((v) => v.toFixed(0)).join(" "), "|", drawn.map((v) => v.toFixed(0)).join(" "));
  return [
    {
      name: `Key to point stored and readouts drawn, ${START_POINTS} points in the run`,
      unit: "ms",
      judged: "p95",
      target: 50,
      values: stored,
    },
    { name: "Key to the curve drawn", unit: "ms", judged: "p95", target: 100, values: drawn },
  ];
}

/** JavaScript transferred until the demo notebook answers a click, from an empty profile. */
async function firstPageFigures(browser: Browser): Promise<Figure[]> {
  const proxy = await countingProxy(HOST, PROXY, UPSTREAM);
  const kB: number[] = [];
  const ready: number[] = [];
  for (let k = 0; k < 3; k++) {
    proxy.scripts.clear();
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    const begun = performance.now();
    await page.goto(proxy.url);
    await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
    ready.push(performance.now() - begun);
    await page.getByRole("button", { name: /^Light or dark: system/ }).click();
    await page.getByRole("button", { name: /^Light or dark: light/ }).waitFor();
    kB.push([...proxy.scripts.values()].reduce((a, b) => a + b, 0) / 1000);
    await context.close();
  }
  if (process.env.NIMBUS_BENCH_FILES)
    for (const [path, bytes] of [...proxy.scripts].sort((a, b) => b[1] - a[1]))
      console.log(`${(bytes / 1000).toFixed(1).padStart(8)} kB  ${path}`);
  proxy.close();
  return [
    {
      name: "First page: JavaScript until the notebook responds, gzipped",
      unit: "kB",
      judged: "most",
      target: 200,
      values: kB,
    },
    {
      name: "First page: empty profile to the demo notebook made and shown",
      unit: "ms",
      judged: "median",
      target: 3000,
      values: ready,
    },
  ];
}

/** From the chart's place standing on the page to its curves painted, on the first visit of a profile. */
async function chartFigures(browser: Browser): Promise<Figure[]> {
  const mounted: number[] = [];
  for (let k = 0; k < 7; k++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.addInitScript(() => {
      const clock = { placed: 0, painted: 0 };
      Object.assign(window, { chartClock: clock });
      new MutationObserver(() => {
        if (!clock.placed && document.querySelector('[aria-label="Drawing the chart"], [data-chart]'))
          clock.placed = performance.now();
        if (!clock.painted && document.querySelector("[data-chart] [data-curve]"))
          requestAnimationFrame(() => (clock.painted = performance.now()));
      }).observe(document, { subtree: true, childList: true });
    });
    await page.goto(`http://${HOST}:${UPSTREAM}/`);
    await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
    await page.getByRole("link", { name: "Sedge 51" }).first().click();
    await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
    await page.locator("[data-chart] [data-curve]").first().waitFor();
    await page.waitForTimeout(300);
    const clock = await page.evaluate(
      () => (window as unknown as { chartClock: { placed: number; painted: number } }).chartClock,
    );
    mounted.push(clock.painted - clock.placed);
    await context.close();
  }
  return [
    { name: "Chart: first mount, its package loaded", unit: "ms", judged: "median", target: 350, values: mounted },
  ];
}

/** Figures of the production build in Chromium. */
export async function browserFigures(
  part: "page" | "log" | "matrix" | "notebook" | "station" | "all" = "all",
): Promise<Figure[]> {
  if (!(await portFree(UPSTREAM))) throw new Error(`port ${UPSTREAM} is taken`);
  if (build() !== 0) throw new Error("the build failed");
  const server = serve(UPSTREAM, { NIMBUS_DEMO: "1" });
  const launch = () => chromium.launch({ executablePath: chromiumPath(), args: [...ARGUMENTS] });
  try {
    await answering(`http://${HOST}:${UPSTREAM}/`);
    const figures: Figure[] = [];
    if (part === "page" || part === "all") {
      const browser = await launch();
      figures.push(...(await firstPageFigures(browser)), ...(await chartFigures(browser)), ...(await captureFigures()));
      await browser.close();
    }
    if (part === "matrix" || part === "all") figures.push(...(await matrixFigures(`http://${HOST}:${UPSTREAM}/`)));
    if (part === "station" || part === "all") figures.push(...(await stationFigures(`http://${HOST}:${UPSTREAM}/`)));
    if (part === "notebook" || part === "all") figures.push(...(await notebookFigures(`http://${HOST}:${UPSTREAM}/`)));
    if (part === "log" || part === "all") figures.push(...(await logFigures(launch, `http://${HOST}:${UPSTREAM}/`)));
    return figures;
  } finally {
    server.kill("SIGTERM");
  }
}
