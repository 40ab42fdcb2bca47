/** npm run screenshots: one picture of every main view into docs/screenshots/, from the demo data of a built application. */
import { chromium, type Browser, type Locator, type Page } from "@playwright/test";
import { mkdirSync, rmSync } from "node:fs";
import { logCharge } from "../src/core/rehearsal/charge-log";
import { chargeBench } from "../src/core/simulator";
import { chooseFrom } from "../tests/helpers";
import {
  answering,
  build,
  chromium as chromiumPath,
  HOST,
  installPackages,
  portFree,
  serve,
  TEST_PORT,
} from "./setup.mjs";

const OUT = "docs/screenshots";
/** The pictures are of this moment, so that taking them anew changes no date. */
const MOMENT = new Date("2026-11-25T09:30:00Z");
const WIDE = { width: 1280, height: 800 };
const address = `http://${HOST}:${TEST_PORT}`;

async function open(
  browser: Browser,
  options: { dark?: boolean; size?: typeof WIDE; scale?: number } = {},
): Promise<Page> {
  const context = await browser.newContext({
    viewport: options.size ?? WIDE,
    ...(options.scale ? { deviceScaleFactor: options.scale } : {}),
    colorScheme: options.dark ? "dark" : "light",
    timezoneId: "Europe/Berlin",
    locale: "en-GB",
    reducedMotion: "reduce",
  });
  const page = await context.newPage();
  await page.clock.setFixedTime(MOMENT);
  await page.goto(`${address}/`);
  return page;
}

async function demo(page: Page): Promise<Page> {
  await page.getByRole("button", { name: "Load demo" }).click();
  await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
  await page.getByText("meets").first().waitFor();
  return page;
}

const board = async (page: Page, name: string) => {
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name, exact: true }).first().click();
  await page.getByRole("heading", { name, level: 1 }).waitFor();
};
const curves = (page: Page) => page.locator("[data-chart] [data-curve]").first().waitFor();

/** A charge on the simulated bench, as a logger would have written it. */
function chargeLog(): string {
  const bench = chargeBench({
    charger: {
      channels: [{ current: 1, reference: 4.21, wire: 0.03, stopShare: 0.1 }],
      foldback: { from: 84, perKelvin: 0.05 },
      thermal: { resistance: 46, tau: 90 },
    },
    ambient: 21,
    soc: -0.004,
  });
  const { columns } = logCharge(bench, { every: 8, before: 60, after: 600, most: 6 * 3600, seed: 12 }).trace;
  const rows = [...(columns.time ?? [])].map((t, k) =>
    [
      t,
      columns.inputVoltage?.[k],
      columns.inputCurrent?.[k],
      columns.cellVoltage?.[k],
      columns.cellCurrent?.[k],
      columns.partTemperature?.[k],
    ].join(","),
  );
  return `Elapsed (s),Input voltage (V),Input current (A),Cell voltage (V),Cell current (A),Part temp. (°C)\n${rows.join("\n")}\n`;
}

/** Small pictures of what one gets, for the start page itself: light and dark. */
const START = "public/start";
async function startPictures(browser: Browser): Promise<void> {
  mkdirSync(START, { recursive: true });
  for (const dark of [false, true]) {
    const page = await open(browser, { dark, size: { width: 1020, height: 680 }, scale: 0.7 });
    const shot = async (name: string, at: Locator) => {
      await at.evaluate((e) => scrollTo(0, e.getBoundingClientRect().top + scrollY - 8));
      await page.mouse.move(2, 2);
      await page.waitForTimeout(600);
      await page.screenshot({ path: `${START}/${name}-${dark ? "dark" : "light"}.png` });
    };
    await page
      .getByLabel("Logs to open")
      .setInputFiles({ name: "charge.csv", mimeType: "text/csv", buffer: Buffer.from(chargeLog()) });
    await curves(page);
    await shot("log", page.getByRole("region", { name: "Results" }));
    await page.getByRole("button", { name: "Close" }).click();
    await demo(page);
    await board(page, "Sedge 51");
    await shot("board", page.getByRole("heading", { name: "Sedge 51", level: 1 }));
    await page.goto(`${address}/compare`);
    const limits = page.getByRole("region", { name: "Limits: measured ÷ claimed" });
    await limits.waitFor();
    await shot("compare", limits);
    await page.context().close();
  }
}

async function take(browser: Browser): Promise<void> {
  const shot = async (page: Page, name: string) => {
    await page.mouse.move(2, 2);
    // Lets charts and notices come to rest.
    await page.waitForTimeout(500);
    await page.screenshot({ path: `${OUT}/${name}.png` });
    console.log(`${OUT}/${name}.png`);
  };
  const page = await open(browser);
  await page.getByRole("button", { name: "Load demo" }).waitFor();
  await shot(page, "start");
  await demo(page);
  await page.getByTestId("today").waitFor();
  await shot(page, "notebook");

  await board(page, "Sedge 51");
  await shot(page, "board");
  await page.getByRole("row").filter({ hasText: "Output current up to 1.3 A" }).getByRole("link").click();
  await page
    .getByText("What would settle it")
    .or(page.getByRole("heading", { level: 1 }))
    .first()
    .waitFor();
  await shot(page, "verdict");
  await board(page, "Sedge 51");
  await page
    .getByRole("region", { name: "Load sweep" })
    .getByRole("link", { name: "Load sweep", exact: true })
    .first()
    .click();
  await curves(page);
  await shot(page, "review");

  await board(page, "Marl 15");
  await page.getByRole("link", { name: "Findings sheet" }).click();
  await page.locator("[data-chart] [data-curve]").first().waitFor();
  await shot(page, "sheet");

  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Compare boards" }).click();
  await page.getByRole("region", { name: "Limits: measured ÷ claimed" }).waitFor();
  await shot(page, "compare");

  await page.getByRole("link", { name: "Decide", exact: true }).click();
  await page.getByRole("heading", { name: "Field sound recorder" }).waitFor();
  await shot(page, "decide");
  await page.getByRole("link", { name: "Use", exact: true }).click();
  await page.getByRole("table", { name: "Boards for this load" }).waitFor();
  await page.getByRole("button", { name: "Use this fuse" }).click();
  await page.getByRole("button", { name: "Remove fuse" }).waitFor();
  await page.evaluate("scrollTo(0, 0)");
  await shot(page, "use");
  await page.getByRole("link", { name: "Instruments", exact: true }).click();
  await page.getByRole("heading", { name: "Instruments and rigs" }).waitFor();
  await shot(page, "instruments");
  await page.getByRole("link", { name: "Nimbus Bench" }).click();

  await board(page, "Sedge 51");
  await page.getByRole("button", { name: "Prepare a load sweep" }).click();
  await page.getByText("The application watches these").waitFor();
  await page.evaluate(() => scrollTo(0, 0));
  await shot(page, "prepare");
  await page.getByLabel("I type readings from my own meters").check();
  await page.getByLabel("Dwell before a point counts").fill("1");
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start run" }).click();
  await page.getByLabel("Battery voltage", { exact: true }).waitFor();
  const readings = [
    ["4.1", "2m", "5.09", "0"],
    ["4.1", "4.6m", "5.09", "2m"],
    ["4.1", "8.6m", "5.09", "5m"],
    ["4.1", "15.2m", "5.085", "10m"],
  ];
  for (const [i, row] of readings.entries()) {
    await page.waitForTimeout(1200);
    for (const value of row) {
      await page.keyboard.type(value);
      await page.keyboard.press("Enter");
    }
    await page.keyboard.press("Enter");
    await page.getByText(`${i + 1} of about`).waitFor();
  }
  await page.keyboard.type("4,1");
  await page.keyboard.press("Enter");
  await page.keyboard.type("28.4m");
  await shot(page, "capture-typed");

  await board(page, "Sedge 51");
  await page.getByText("Usual claims for this kind of board").click();
  for (const [label, text] of [["full voltage", "4.2 V ±0.75 %"]] as const) {
    await page.getByLabel(`Claimed ${label}`).fill(text);
    await page.getByRole("button", { name: new RegExp(`Save claim on ${label}`, "i") }).click();
    await page.getByRole("row").filter({ hasText: text }).waitFor();
  }
  await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
  await page
    .getByLabel("CSV to import")
    .setInputFiles({ name: "sedge, first charge.csv", mimeType: "text/csv", buffer: Buffer.from(chargeLog()) });
  await page.getByLabel("Ambient, where no column has it").fill("21");
  await page.getByRole("button", { name: /^Import \d+ rows/ }).click();
  await curves(page);
  await page.waitForTimeout(7000);
  await shot(page, "charge");

  await page.getByRole("link", { name: "Cells", exact: true }).click();
  await page.getByRole("heading", { name: "Cell drawer" }).waitFor();
  await shot(page, "drawer");

  await page.getByRole("link", { name: "Charging station" }).click();
  await page.getByRole("link", { name: "Shed bench" }).click();
  await page.locator("[data-bay='1']").waitFor();
  await page.keyboard.insertText("Float 8");
  await page.keyboard.press("Enter");
  await page.getByTestId("scanned").waitFor();
  await shot(page, "station");

  await page.getByRole("link", { name: "Day", exact: true }).click();
  await page.getByTestId("next-act").waitFor();
  await shot(page, "day");

  await board(page, "Peat Duo");
  await page.getByRole("button", { name: "Prepare a behaviour checklist" }).click();
  await page.getByLabel("The simulated bench").check();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the checklist" }).click();
  await page.getByRole("button", { name: "Simulate item" }).waitFor();
  await page.locator("h1").click();
  for (let k = 1; k <= 9; k++) {
    await page.keyboard.press("d");
    await page.getByText(/^Seen:/).waitFor();
    if (k < 9) await page.keyboard.press("Enter");
    if (k < 9)
      await page
        .getByTestId("answered")
        .filter({ hasText: new RegExp(`^${k} of`) })
        .waitFor();
  }
  await shot(page, "checklist");

  await board(page, "Alder 12");
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  await page.getByRole("radio", { name: /Reed 2200/ }).check();
  await page.getByLabel("Cell voltage now, rested and not connected").fill("2.86");
  await page.getByText("Another current: programming resistor").click();
  await page.getByLabel("Resistors at hand").fill("1k5 2k2 820");
  await page
    .getByRole("heading", { name: "Cell", exact: true })
    .evaluate((el) => el.scrollIntoView({ block: "start" }));
  await page.getByLabel("The simulated bench").check();
  await page.getByLabel("One sample every").fill("5");
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await chooseFrom(page.getByLabel("Bench clock"), "600");
  await page.getByTestId("phase").filter({ hasText: "constant current" }).waitFor();
  await page.waitForTimeout(5000);
  await page.locator("h1").click();
  await page.keyboard.press("l");
  await page.waitForTimeout(9000);
  await chooseFrom(page.getByLabel("Bench clock"), "1");
  await shot(page, "charge-live");

  await page.context().close();

  const phone = await demo(await open(browser, { size: { width: 390, height: 844 } }));
  await board(phone, "Sedge 51");
  await shot(phone, "phone");
  await phone.context().close();
}

async function main(): Promise<void> {
  installPackages();
  const executablePath = chromiumPath();
  if (!(await portFree(TEST_PORT))) throw new Error(`port ${TEST_PORT} is taken`);
  if (build() !== 0) throw new Error("the build failed");
  let server = serve(TEST_PORT);
  const browser = await chromium.launch({
    executablePath,
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
  try {
    await answering(`${address}/`);
    rmSync(OUT, { recursive: true, force: true });
    mkdirSync(OUT, { recursive: true });
    await startPictures(browser);
    // What stands in public is listed when the application starts.
    server.kill("SIGTERM");
    await new Promise((done) => server.once("exit", done));
    server = serve(TEST_PORT);
    await answering(`${address}/`);
    await take(browser);
  } finally {
    await browser.close();
    server.kill("SIGTERM");
  }
}
void main().then(
  () => process.exit(0),
  (e: Error) => {
    console.error(e.message);
    process.exit(1);
  },
);
