import type { Page } from "@playwright/test";
import { chooseFrom, expect, startDemo, test } from "./helpers";

/** Starts a charge of a board on the simulated bench, ten times as fast as the clock. */
async function charge(page: Page, board: string, cell: RegExp): Promise<void> {
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: board, exact: true }).first().click();
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  await page.getByRole("radio", { name: cell }).check();
  await page.getByLabel("Cell voltage now, rested and not connected").fill("3.4");
  await page.getByLabel("Charge current set").fill("0.8");
  await page.getByLabel("The simulated bench").check();
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await chooseFrom(page.getByLabel("Bench clock"), "10");
  await page
    .getByLabel("Events")
    .getByText(/Charging begins/)
    .waitFor();
}

test("two charges on one plug stand on one screen: both go on there, their inputs add up, and each alarm names its board", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startDemo(page);
  await page.goto("/cells");
  await page.getByRole("button", { name: "Take in cells" }).click();
  await page.getByRole("textbox", { name: "Cells" }).fill("2 x Gull; 3 Ah");
  await page.getByRole("button", { name: "Add 2 cells" }).click();
  await expect(page.getByText("2 cells added.")).toBeVisible();
  await charge(page, "Alder 12", /Gull 1/);
  await charge(page, "Marl 15", /Gull 2/);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("logs under way", { delay: 20 });
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Logs under way", level: 1 })).toBeVisible();
  const tile = (board: string) => page.locator(`[data-log="${board}"]`);
  for (const board of ["Alder 12", "Marl 15"])
    await expect(tile(board).getByTestId("tile-phase")).toHaveText(/constant current/, { timeout: 30_000 });
  for (const board of ["Alder 12", "Marl 15"]) await expect(tile(board)).toContainText(/left/);
  const shared = page.getByTestId("shared");
  await expect(shared).toContainText(/[1-2]\.\d+\sA|\d{3}\smA/);
  await page.getByLabel("The shared plug gives").fill("300m");
  await expect(shared).toContainText("more than the plug gives");
  await expect(page).toHaveTitle(/Shared plug overloaded/);
  await page.getByLabel("The shared plug gives").fill("5");
  await expect(shared).not.toContainText("more than the plug gives");
  // A mishap of one is named, here and in the window's title; the other goes on.
  await tile("Marl 15").getByRole("link", { name: "Open log" }).click();
  // What comes in moves the page until then.
  await expect(page.getByTestId("phase")).toHaveText(/constant current/);
  await expect(page.locator("figure").first()).toBeVisible();
  await page.getByText("Disturb simulated bench").click();
  await page.getByRole("button", { name: "Unplug input" }).click();
  await expect(page.getByTestId("phase")).toHaveText(/interrupted/i, { timeout: 20_000 });
  await page.goto("/logs");
  await expect(tile("Marl 15").getByTestId("tile-phase")).toHaveText(/interrupted/i, { timeout: 20_000 });
  await expect(tile("Alder 12").getByTestId("tile-phase")).toHaveText(/constant current/, { timeout: 20_000 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
});
