import { readFileSync } from "node:fs";
import { chooseFrom, expect, noSeriousAxe, pick, startDemo, startEmpty, test } from "./helpers";

test("findings sheet: what was claimed, measured and judged on paper, every number a way back to its run; printed on two pages at most", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  await page.getByRole("link", { name: "Findings sheet" }).click();
  await expect(page.getByTestId("summary")).toContainText(/^Of 8 claims: \d met, \d missed/);
  await expect(page.getByRole("region", { name: "Weaknesses" })).toContainText("Nothing disconnects an empty battery");
  await expect(page.getByRole("region", { name: "Modifications" })).toContainText("protection board");
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
  expect(
    (await page.pdf({ preferCSSPageSize: true })).toString("latin1").match(/\/Type\s*\/Page\b/g)?.length,
  ).toBeLessThanOrEqual(2);
  await page.goBack();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  await page.getByRole("link", { name: "Findings sheet" }).click();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save as Markdown" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("marl-15-findings.md");
  const text = readFileSync(await file.path(), "utf8");
  expect(text).toMatch(/^# Marl 15/);
  expect(text.split("\n").filter((l) => l.startsWith("| “"))).toHaveLength(8);
  await page.getByRole("region", { name: "Weaknesses" }).getByRole("link").first().click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
});

test("quick sums: typed by themselves, and fed from a board's findings", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sums", exact: true }).click();
  const efficiency = page.getByRole("region", { name: "Efficiency from four readings" });
  await efficiency.getByLabel("Output current").fill("0,9");
  await expect(efficiency.getByText("Output power can't exceed input power")).toBeVisible();
  await efficiency.getByLabel("Battery current").fill("1.4A");
  await expect(efficiency.locator('[data-sum="efficiency"]')).toContainText(/90\.2.%/);
  await efficiency.getByLabel("Battery current").fill("lots");
  await expect(efficiency.getByText("A field above is empty or invalid.")).toBeVisible();
  await noSeriousAxe(page);
  await chooseFrom(page.getByLabel("Values from"), { label: "Sedge 51" });
  const battery = page.getByRole("region", { name: "Battery current at a load" });
  await expect(battery.getByLabel("Output voltage")).toHaveValue(/^5\.0[78]$/);
  await expect(battery.getByText(/From runs: output voltage, load, efficiency/)).toBeVisible();
  await battery.getByRole("link", { name: "load", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
});

test("house rules: which verdicts a change would flip is shown before it is kept", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Tolerance of a bare number").fill("1");
  await page.getByRole("button", { name: "Save house rules" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("listitem").filter({ hasText: "Marl 15" })).toContainText(/output 5V.*meets.*misses/);
  await noSeriousAxe(page);
  await dialog.getByRole("button", { name: "Cancel" }).click();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  const row = page.getByRole("row").filter({ hasText: "output 5V" });
  await expect(row).toContainText("meets");
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Tolerance of a bare number").fill("1");
  await page.getByRole("button", { name: "Save house rules" }).click();
  await dialog.getByRole("button", { name: "Save house rules" }).click();
  await expect(page.getByText("All verdicts were judged again")).toBeVisible();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Marl 15", exact: true }).click();
  await expect(row).toContainText("misses");
});

test("a change of rules that flips nothing is kept at once", async ({ page }) => {
  await startEmpty(page);
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Dwell before a point counts").fill("6");
  await page.getByRole("button", { name: "Save house rules" }).click();
  await expect(page.getByText("All verdicts were judged again")).toBeVisible();
});

test("comparison: claims on one axis, quantities with the claim as a tick, and the figures, of the same boards", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Compare boards" }).click();
  // Claims: a row a claim, a mark a board, its values in words.
  const limits = page.getByRole("region", { name: "Limits: measured ÷ claimed" });
  const row = limits.getByRole("group", { name: "Highest load held, at least" });
  await expect(
    row.getByRole("link", { name: /^Sedge 51: highest load held .*claimed at least 1\.3\sA.*: meets/ }),
  ).toBeVisible();
  await expect(row.getByText(/^\d of \d$/)).toBeVisible();
  await expect(limits.getByRole("link", { name: /: misses/ }).first()).toBeVisible();
  await row
    .getByRole("link", { name: /^Sedge 51/ })
    .first()
    .hover();
  await expect(page.getByTestId("look")).toContainText("Sedge 51: highest load held");
  await expect(
    page.getByRole("region", { name: "Yes, no and words" }).getByRole("group", { name: "Short-circuit protection" }),
  ).toContainText("meets");
  await noSeriousAxe(page);
  // Quantities: opened, the boards are listed by value, with differences to the reference.
  await page.getByRole("tab", { name: "Quantities" }).click();
  await expect(page).toHaveURL(/view=quantities/);
  await pick(page, "Reference", "Sedge 51");
  await page.getByRole("button", { name: "Highest load held" }).click();
  const list = page.getByRole("table", { name: "Highest load held of every board" });
  await expect(list.getByRole("row", { name: /Sedge 51 .* reference/ })).toBeVisible();
  await expect(
    list
      .getByRole("row")
      .filter({ hasText: /[−+]\d+(\.\d)?\s%/ })
      .first(),
  ).toBeVisible();
  await noSeriousAxe(page);
  // Figures: dense; what does not apply is blank, what was not measured hatched.
  await page.getByRole("tab", { name: "Figures" }).click();
  const table = page.getByRole("table", { name: "Comparison" });
  await expect(table.getByRole("columnheader", { name: "Sedge 51" })).toBeVisible();
  await pick(page, "Function", "boosts to an output");
  const held = table.getByRole("row").filter({ has: page.getByRole("rowheader", { name: /^Highest load held/ }) });
  await expect(held.getByLabel("best")).toHaveCount(1);
  await expect(held.getByRole("link", { name: /at least 1\.3\sA: meets/ })).toBeVisible();
  await expect(held.getByRole("cell").filter({ hasText: "not measured" }).first()).toBeVisible();
  await pick(page, "Function", "takes a solar panel");
  await expect(page.getByRole("status").filter({ hasText: "board" })).toHaveText("1 board");
  await expect(table.getByRole("columnheader", { name: "Sedge 51" })).toHaveCount(0);
  await pick(page, "Function", "any");
  await expect(table.getByLabel("does not apply").first()).toBeAttached();
  await noSeriousAxe(page);
  await pick(page, "Function", "boosts to an output");
  await held.getByRole("link", { name: /at least 1\.3\sA: meets/ }).click();
  await expect(page.getByRole("heading", { name: "Measured against the limit" }).first()).toBeVisible();
});
