import { readFileSync } from "node:fs";
import { expect, noSeriousAxe, startDemo, startEmpty, test } from "./helpers";

test("findings sheet: what was claimed, measured and judged on paper, every number a way back to its run; printed on two pages at most", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  await page.getByRole("link", { name: "Findings sheet" }).click();
  await expect(page.getByTestId("summary")).toContainText(/^Of 8 claims: \d met, \d missed/);
  await expect(page.getByRole("region", { name: "Weaknesses" })).toContainText("Nothing disconnects an empty battery");
  await expect(page.getByRole("region", { name: "What to modify" })).toContainText("protection board");
  await expect(page.getByRole("region", { name: "Claims" }).getByRole("row")).toHaveCount(9);
  await expect(page.locator("[data-chart] path").first()).toBeVisible();
  await noSeriousAxe(page);
  const pdf = await page.pdf({ preferCSSPageSize: true });
  expect(pdf.toString("latin1").match(/\/Type\s*\/Page\b/g)?.length).toBeLessThanOrEqual(2);
  // The board that was measured in full fits as well.
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Sedge 51", exact: true }).first().click();
  await page.getByRole("link", { name: "Findings sheet" }).click();
  await page.locator("[data-chart] path").first().waitFor();
  expect((await page.pdf({ preferCSSPageSize: true })).toString("latin1").match(/\/Type\s*\/Page\b/g)?.length).toBeLessThanOrEqual(2);
  await page.goBack();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  await page.getByRole("link", { name: "Findings sheet" }).click();
  const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "Save as Markdown" }).click()]);
  expect(file.suggestedFilename()).toBe("marl-15-findings.md");
  const text = readFileSync(await file.path(), "utf8");
  expect(text).toMatch(/^# Marl 15/);
  expect(text.split("\n").filter((l) => l.startsWith("| “"))).toHaveLength(8);
  await page.getByRole("region", { name: "Weaknesses" }).getByRole("link").first().click();
  await expect(page.getByRole("heading", { name: "What was found" })).toBeVisible();
});

test("quick sums: typed by themselves, and fed from a board's findings", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sums", exact: true }).click();
  const efficiency = page.getByRole("region", { name: "Efficiency from four readings" });
  await efficiency.getByLabel("Output amps").fill("0,9");
  await expect(efficiency.getByText("No module gives more than it takes")).toBeVisible();
  await efficiency.getByLabel("Battery amps").fill("1.4A");
  await expect(efficiency.locator('[data-sum="efficiency"]')).toContainText(/90\.2.%/);
  await efficiency.getByLabel("Battery amps").fill("lots");
  await expect(efficiency.getByText("A field above is empty or can't be read.")).toBeVisible();
  await noSeriousAxe(page);
  await page.getByLabel("Fed from").selectOption({ label: "Sedge 51" });
  const battery = page.getByRole("region", { name: "Battery current at a load" });
  await expect(battery.getByLabel("Output volts")).toHaveValue(/^5\.0[78]$/);
  await expect(battery.getByText(/From runs: output volts, load, efficiency/)).toBeVisible();
  await battery.getByRole("link", { name: "load", exact: true }).click();
  await expect(page.getByRole("heading", { name: "What was found" })).toBeVisible();
});

test("house rules: which verdicts a change would flip is shown before it is kept", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Tolerance of a bare number").fill("1");
  await page.getByRole("button", { name: "Keep these rules" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("listitem").filter({ hasText: "Marl 15" })).toContainText(/output 5V.*meets.*misses/);
  await noSeriousAxe(page);
  await dialog.getByRole("button", { name: "Leave them as they are" }).click();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  const row = page.getByRole("row").filter({ hasText: "output 5V" });
  await expect(row).toContainText("meets");
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Tolerance of a bare number").fill("1");
  await page.getByRole("button", { name: "Keep these rules" }).click();
  await dialog.getByRole("button", { name: "Keep the rules, and judge anew" }).click();
  await expect(page.getByText("every verdict was judged anew")).toBeVisible();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  await expect(row).toContainText("misses");
});

test("a change of rules that flips nothing is kept at once", async ({ page }) => {
  await startEmpty(page);
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Dwell before a point counts").fill("6");
  await page.getByRole("button", { name: "Keep these rules" }).click();
  await expect(page.getByText("every verdict was judged anew")).toBeVisible();
});

test("boards compared: claim, measured and verdict in each cell, best and worst marked, gaps where nothing was measured", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Compare them" }).click();
  const table = page.getByRole("table", { name: "Boards compared" });
  await expect(table.getByRole("columnheader", { name: "Sedge 51" })).toBeVisible();
  await page.getByLabel(/^Only what/).selectOption({ label: "boosts to an output" });
  const row = table.getByRole("row").filter({ has: page.getByRole("rowheader", { name: /^Highest load held/ }) });
  await row.scrollIntoViewIfNeeded();
  await expect(row.getByLabel("best")).toHaveCount(1);
  await expect(row.getByRole("link", { name: /at least 1\.3\sA: meets/ })).toBeVisible();
  await expect(row.getByRole("cell").filter({ hasText: "not measured" }).first()).toBeVisible();
  await noSeriousAxe(page);
  // Of what takes a panel one board is left.
  await page.getByLabel(/^Only what/).selectOption({ label: "takes a solar panel" });
  await expect(page.getByRole("status").filter({ hasText: "quantities" })).toContainText(/^1 board, [23] quantities/);
  await expect(table.getByRole("columnheader", { name: "Sedge 51" })).toHaveCount(0);
  await page.getByLabel(/^Only what/).selectOption({ label: "boosts to an output" });
  await row.getByRole("link", { name: /at least 1\.3\sA: meets/ }).click();
  await expect(page.getByRole("heading", { name: "Measured against the limit" }).first()).toBeVisible();
});
