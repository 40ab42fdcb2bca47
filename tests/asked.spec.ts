import type { Page } from "@playwright/test";
import {
  assumeMeters,
  expect,
  noSeriousAxe,
  startDemo,
  startEmpty,
  startSweep,
  test,
  verdictOf,
  writeBoard,
} from "./helpers";

const points = (page: Page) => page.locator("tr[data-point]");
const asked = (page: Page) => page.locator("[data-asked]");
async function typeRow(page: Page, values: readonly string[]): Promise<void> {
  for (const v of values) {
    await page.keyboard.type(v);
    await page.keyboard.press("Enter");
  }
}
async function sweep(page: Page, name: string): Promise<void> {
  await startEmpty(page);
  await assumeMeters(page);
  await writeBoard(page, name);
  await startSweep(page, { dwell: "0", batteries: "3.6", loads: "0 0.2 0.4 0.6 0.8" });
}

test("a reading that can hardly be right is asked about before it is taken; what was meant takes one key", async ({
  page,
}) => {
  await sweep(page, "Bulrush 5");
  // Nobody reads a temperature: its field goes once, and Enter on the last used one takes the point.
  await page.getByRole("button", { name: "not measured in this run" }).click();
  await expect(page.getByLabel("Part temperature")).toHaveCount(0);
  await typeRow(page, ["3.6", "2m", "50.30", "0"]);
  await expect(asked(page)).toContainText(
    /Not recorded yet\.\s*Output voltage 50\.30\sV is ten times the expected 5\.0\sV: meant 5\.030\sV\?/,
  );
  await expect(points(page)).toHaveCount(0);
  await noSeriousAxe(page);
  // The same key again takes nothing.
  await page.keyboard.press("Enter");
  await expect(asked(page)).toBeVisible();
  await expect(points(page)).toHaveCount(0);
  await page.keyboard.press("i");
  await expect(points(page)).toHaveCount(1);
  await expect(points(page).first()).toContainText(/5\.030\sV/);
  await expect(asked(page)).toHaveCount(0);

  // More than a meter shows can't be kept at all.
  await typeRow(page, ["3.6", "310m", "100G", "200m"]);
  await expect(asked(page)).toContainText("is more than a bench meter shows");
  await expect(page.getByRole("button", { name: "Record as read" })).toHaveCount(0);
  await page.getByLabel("Output voltage").fill("-5.02");
  await expect(asked(page)).toHaveCount(0);
  await page.keyboard.press("t");
  await expect(asked(page)).toContainText("is negative: a sign too many");
  await page.keyboard.press("i");
  await expect(points(page)).toHaveCount(2);

  // An efficiency over one is asked about, and kept where the tester says so; it never counts.
  await typeRow(page, ["3.6", "0.5", "5.02", "400m"]);
  await expect(asked(page)).toContainText(
    /output power can't exceed input power. Check the battery current meter first/,
  );
  await page.keyboard.press("r");
  await expect(points(page)).toHaveCount(3);
  await page.reload();
  await expect(points(page)).toHaveCount(3);
  await expect(page.getByText("Part temperature is not measured in this run.")).toBeVisible();
});

test("a point is corrected in place, and what was first read stays beside it, on the result too", async ({ page }) => {
  await sweep(page, "Bulrush 6");
  await typeRow(page, ["3.6", "2m", "5.03", "0", ""]);
  await expect(points(page)).toHaveCount(1);
  await typeRow(page, ["3.6", "310m", "5.20", "200m", ""]);
  await expect(points(page)).toHaveCount(2);
  await page.keyboard.press("d");
  const dialog = page.getByRole("dialog", { name: "Correct point 2" });
  await dialog.getByLabel("Output voltage").fill("5.02");
  await noSeriousAxe(page);
  await dialog.getByRole("button", { name: "misread" }).click();
  await dialog.getByRole("button", { name: "Correct point" }).click();
  await expect(points(page).first()).toContainText(/5\.020\sV/);
  await expect(points(page).first()).toContainText(/corrected: output voltage was 5\.200\sV \(misread\)/);
  await page.reload();
  await expect(points(page).first()).toContainText(/corrected: output voltage was 5\.200\sV \(misread\)/);
  await page.getByRole("link", { name: "Result so far" }).click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  const row = page.getByRole("row").filter({ hasText: /output voltage was 5\.200\sV/ });
  await expect(row).toContainText(/5\.020\sV/);
  await row.getByRole("button", { name: "Correct point 2" }).click();
  await page.getByRole("dialog").getByLabel("Output voltage").fill("5.01");
  await page.getByRole("dialog").getByRole("button", { name: "Correct point" }).click();
  await expect(row).toContainText(/5\.010\sV/);
  await expect(row).toContainText(/output voltage was 5\.200\sV \(mistyped\)/);
});

test("undoing the point that raised a stop clears it, and so does correcting it", async ({ page }) => {
  await sweep(page, "Bulrush 7");
  await page.getByRole("button", { name: "not measured in this run" }).waitFor();
  await typeRow(page, ["3.6", "2m", "5.03", "0", "250"]);
  await expect(page.getByRole("alert").filter({ hasText: "The part is above" })).toBeVisible();
  await page.keyboard.press("z");
  await expect(points(page)).toHaveCount(0);
  await expect(page.getByRole("alert").filter({ hasText: "The part is above" })).toHaveCount(0);
  await typeRow(page, ["3.6", "2m", "5.03", "0", "250"]);
  await expect(page.getByRole("alert").filter({ hasText: "The part is above" })).toBeVisible();
  await page.keyboard.press("d");
  await page.getByRole("dialog").getByLabel("Part temperature").fill("25");
  await page.getByRole("dialog").getByRole("button", { name: "Correct point" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "The part is above" })).toHaveCount(0);
  await expect(points(page)).toHaveCount(1);
});

test("without an accuracy a result has no uncertainty and judges nothing; one act assumes ordinary meters, marked", async ({
  page,
}) => {
  await startEmpty(page);
  await writeBoard(page, "Bulrush 8", { "No-load voltage": "5 V ±5 %" });
  await startSweep(page, { dwell: "0", batteries: "3.6", loads: "0 0.2" });
  await typeRow(page, ["3.6", "2m", "5.03", "0", ""]);
  await expect(points(page)).toHaveCount(1);
  await page.getByRole("link", { name: "Result so far" }).click();
  await expect(page.getByText("uncertainty not stated").first()).toBeVisible();
  await page.getByRole("button", { name: "Finish" }).first().click();
  await page.getByRole("link", { name: "Board Bulrush 8" }).click();
  await expect(verdictOf(page, "5 V ±5 %")).toContainText("not fairly tested");
  await verdictOf(page, "5 V ±5 %").getByRole("link", { name: /why/ }).click();
  await expect(page.getByText(/the accuracy of the output voltage meter is not stated/).first()).toBeVisible();
  await page
    .getByRole("button", { name: /Assume ordinary handheld meters/ })
    .first()
    .click();
  await expect(page.getByText(/assumed/).first()).toBeVisible();
  await expect(page.getByText("meets", { exact: true }).first()).toBeVisible();
  await page.getByRole("link", { name: "Board Bulrush 8" }).first().click();
  await expect(verdictOf(page, "5 V ±5 %")).toContainText("accuracy assumed");
});

test("runs that contradict each other are marked; one act chooses which decides, another lets the newest decide again", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Marl 15" }).first().click();
  const row = page.getByRole("row").filter({ hasText: "runs disagree" }).first();
  await row.getByRole("link", { name: /why/ }).click();
  const box = page.getByTestId("disagreement").first();
  await expect(box).toContainText("Load sweep with the old ammeter");
  await box
    .getByRole("listitem")
    .filter({ hasText: /^Load sweep(?! with)/ })
    .getByRole("button", { name: "Use this run" })
    .click();
  await expect(box.getByText("“Load sweep” was chosen to decide.")).toBeVisible();
  await page.getByRole("button", { name: "Use the newest fair run" }).click();
  await expect(box.getByText("“Load sweep” was chosen to decide.")).toHaveCount(0);
  await noSeriousAxe(page);
});
