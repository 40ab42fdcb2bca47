import {
  chooseFrom,
  expect,
  noSeriousAxe,
  startDemo,
  startEmpty,
  startSweep,
  test,
  verdictOf,
  writeBoard,
} from "./helpers";

const SHORT = { dwell: "2", batteries: "4.1 3.6 3.1", loads: "0 0.02 0.2 0.5 0.9 1.2 1.5" };

test("the simulated bench runs by itself to the end, and the verdicts follow", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await writeBoard(page, "Rush 1", { "No-load voltage": "5 V ±4 %", "Highest load held": "≥ 1 A" });
  await startSweep(page, { ...SHORT, simulated: "Boost with an early current limit" });
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await page.locator("h1").click();
  await page.keyboard.press("h");
  await expect(page.getByTestId("proposal")).toContainText("Every battery voltage is done", { timeout: 90_000 });
  await noSeriousAxe(page);
  await page.keyboard.press("f");
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  await page.getByRole("link", { name: "Board Rush 1" }).click();
  await expect(verdictOf(page, "5 V ±4 %")).toContainText("meets");
  await expect(verdictOf(page, "≥ 1 A")).toContainText("misses");
});

test("one key takes one point, however fast it is pressed; a reload comes back to the same point", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Rush 2");
  await startSweep(page, { ...SHORT, simulated: "Synchronous boost, honest ratings" });
  await expect(page.locator('[data-readout="Output voltage"]')).toContainText("5.0", { timeout: 10_000 });
  await page.locator("h1").click();
  // A key that bounces: three times before anything could be drawn.
  await page.evaluate(() => {
    for (let k = 0; k < 3; k++)
      document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "t", bubbles: true, cancelable: true }));
  });
  await expect(page.locator("tr[data-point]").first()).toBeVisible();
  await page.waitForTimeout(600);
  const taken = await page.locator("tr[data-point]").count();
  const proposal = await page.getByTestId("proposal").textContent();
  expect(taken).toBe(1);
  await page.reload();
  await expect(page.getByTestId("proposal")).toHaveText(proposal ?? "");
  await expect(page.locator("tr[data-point]")).toHaveCount(1);
});

test("the half-finished sweep of the demo is carried on where it stopped", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Resume: Load sweep" }).click();
  await expect(page.getByText("22 of about")).toBeVisible();
  await expect(page.getByTestId("proposal")).toContainText("20 mA");
  await chooseFrom(page.getByLabel("Bench clock"), "20");
  await page.locator("h1").click();
  await page.keyboard.press("h");
  await expect(page.getByText("23 of about")).toBeVisible({ timeout: 15_000 });
  await page.keyboard.press("h");
});

test("two tabs: one writes, the other sees the points as they come and may take over", async ({ page, context }) => {
  await startEmpty(page);
  await writeBoard(page, "Rush 3");
  await startSweep(page, { ...SHORT, simulated: "Synchronous boost, honest ratings" });
  await expect(page.locator('[data-readout="Output voltage"]')).toContainText("5.0", { timeout: 10_000 });
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(second.getByText("Another tab is recording this run")).toBeVisible();
  await expect(second.getByRole("button", { name: "Record point" })).toHaveCount(0);
  await page.bringToFront();
  await page.locator("h1").click();
  await page.keyboard.press("t");
  await expect(second.locator("tr[data-point]")).toHaveCount(1);
  await second.getByRole("button", { name: "Take over here" }).click();
  await expect(second.getByRole("button", { name: "Record point" })).toBeVisible();
  await expect(page.getByText("Another tab is recording this run")).toBeVisible();
});

test("a part that gets too hot stops the run, and says what to disconnect first", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Rush 4");
  await page.getByRole("button", { name: "Prepare a load sweep" }).click();
  await page.getByLabel("The simulated bench").check();
  await page.getByLabel("Part temperature limit").fill("22");
  await page.getByLabel("Load currents, from none to past the claim").fill("1");
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start run" }).click();
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await expect(page.getByRole("alert").filter({ hasText: "The part is above 22" })).toContainText(
    "Remove the load first, then the supply.",
    { timeout: 20_000 },
  );
  await expect(page).toHaveTitle(/^STOP/);
  await expect(page.locator('[data-readout="Output voltage"]')).toBeVisible();
});

test("with a drawer the resistors are chosen in a worker and proposed by name", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Rush 5");
  await page.getByRole("button", { name: "Prepare a load sweep" }).click();
  await page.getByLabel("Power resistors from a drawer").check();
  await page.getByLabel(/^Drawer/).fill("10R");
  await expect(page.getByText("write a resistor as 10R 5W")).toBeVisible();
  await page.getByLabel(/^Drawer/).fill("10R 10W ×3, 4R7 20W ×2, 47R 2W, 100R 1W, 1k 0.5W");
  await expect(page.getByRole("row").filter({ hasText: "10 Ω ∥ 10 Ω" }).first()).toBeVisible();
  await noSeriousAxe(page);
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByLabel("I type readings from my own meters").check();
  await page.getByLabel("Dwell before a point counts").fill("0");
  await page.getByRole("button", { name: "Start run" }).click();
  await expect(page.getByTestId("proposal")).toBeVisible();
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  for (const v of ["4.1", "2m", "5.03", "0", ""]) {
    await page.keyboard.type(v);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByTestId("proposal")).toContainText("Ω");
});
