import { chromium } from "playwright";
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
const page = await (await b.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" })).newPage();
page.on("console", (m) => m.type() === "error" && console.log("console", m.text()));
const base = "http://localhost:4683";
await page.goto(base + "/"); await page.getByRole("button", { name: "Load the demo" }).click(); await page.getByRole("heading", { name: "Sedge 51" }).waitFor();
const board = async (n: string) => { await page.goto(base + "/"); await page.getByRole("link", { name: n }).first().click(); await page.getByRole("heading", { name: n, level: 1 }).waitFor(); };
const shot = async (n: string, full = false) => { await page.waitForTimeout(900); await page.screenshot({ path: `/tmp/shots/${n}.png`, fullPage: full }); };
const want = process.argv.slice(2);
const steps: Record<string, () => Promise<void>> = {
  async willow() { await board("Willow Sun"); await page.waitForTimeout(3000); await shot("willow", true); },
  async heat() { await board("Marl 15"); await page.getByRole("link", { name: "Heat at 0.9 A" }).first().click(); await page.locator("[data-curve]").first().waitFor(); await shot("heat", true); },
  async path() { await board("Willow Sun"); await page.getByRole("link", { name: "Plugged in and pulled under load" }).first().click(); await page.locator("[data-curve]").first().waitFor(); await shot("path", true); },
  async charging() { await board("Willow Sun"); await page.getByRole("link", { name: "Charging while the recorder runs" }).first().click(); await page.locator("[data-curve]").first().waitFor(); await shot("charging", true); },
  async solar() { await board("Willow Sun"); await page.getByRole("link", { name: "Sun and clouds" }).first().click(); await page.locator("[data-curve]").first().waitFor(); await shot("solar", true); },
  async meters() { await board("Sedge 51"); await page.getByRole("link", { name: /display against/ }).first().click(); await page.locator("[data-curve]").first().waitFor(); await page.waitForTimeout(3500); await shot("meters", true); },
  async prepheat() { await board("Sedge 51"); await page.getByRole("button", { name: "Prepare a heat soak" }).click(); await page.getByText("The application watches these").waitFor(); await page.getByLabel("infrared on the bare part").check(); await shot("prepheat", true); },
  async preppath() { await board("Willow Sun"); await page.getByRole("button", { name: "Prepare a power path" }).click(); await page.getByText("The application watches these").waitFor(); await shot("preppath", true); },
  async prepsolar() { await board("Willow Sun"); await page.getByRole("button", { name: "Prepare a solar input" }).click(); await page.getByText("The application watches these").waitFor(); await shot("prepsolar"); },
  async liveheat() { await board("Sedge 51"); await page.getByRole("button", { name: "Prepare a heat soak" }).click(); await page.getByLabel("The simulated bench").check(); for (const x of await page.getByRole("checkbox", { name: "Danger." }).all()) await x.check(); await page.getByRole("button", { name: "Start the log" }).click(); await page.getByLabel("Bench clock").selectOption("60"); await page.locator('[data-figure="Settles at"]').waitFor(); await page.waitForTimeout(2500); await shot("liveheat"); },
  async livepath() { await board("Willow Sun"); await page.getByRole("button", { name: "Prepare a power path" }).click(); await page.getByLabel("The simulated bench").check(); for (const x of await page.getByRole("checkbox", { name: "Danger." }).all()) await x.check(); await page.getByRole("button", { name: "Start the log" }).click(); await page.waitForTimeout(3500); await shot("livepath"); },
  async typedpath() { await board("Willow Sun"); await page.getByRole("button", { name: "Prepare a power path" }).click(); await page.getByLabel("I set the bench").check(); for (const x of await page.getByRole("checkbox", { name: "Danger." }).all()) await x.check(); await page.getByRole("button", { name: "Start the log" }).click(); await page.waitForTimeout(1500); await shot("typedpath"); },
  async livesolar() { await board("Willow Sun"); await page.getByRole("button", { name: "Prepare a solar input" }).click(); await page.getByLabel("The simulated bench").check(); for (const x of await page.getByRole("checkbox", { name: "Danger." }).all()) await x.check(); await page.getByRole("button", { name: "Start the log" }).click(); await page.getByLabel("Bench clock").selectOption("60"); await page.waitForTimeout(3500); await shot("livesolar"); },
  async prepcharge() { await board("Willow Sun"); await page.getByRole("button", { name: "Prepare a charge cycle" }).click(); await page.getByRole("radio", { name: /Reed 2200/ }).check(); await page.getByLabel("Its volts now, rested and not connected").fill("3.3"); await page.getByLabel(/^switching/).check(); await page.waitForTimeout(300); await page.getByRole("heading", { name: "Which cell?" }).evaluate((el) => el.scrollIntoView({ block: "start" })); await shot("prepcharge"); },
};
for (const w of want) await steps[w]!();
await b.close();
