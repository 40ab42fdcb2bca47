import { boardOf, expect, noSeriousAxe, startDemo, startEmpty, test } from "./helpers";

test("a form that is refused leads to its first wrong field, and keeps what was typed", async ({ page }) => {
  await startEmpty(page);
  await page.getByRole("link", { name: "Cells", exact: true }).click();
  await page.getByRole("button", { name: "Add cell" }).first().click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Name on the label").fill("Fen 9");
  await dialog.getByRole("button", { name: "Save cell" }).click();
  await expect(dialog.getByLabel("Rated capacity")).toBeFocused();
  await expect(dialog.getByText("Enter a capacity.")).toBeVisible();
  await dialog.getByLabel("Name on the label").fill("");
  await dialog.getByRole("button", { name: "Save cell" }).click();
  await expect(dialog.getByLabel("Name on the label")).toBeFocused();
  await dialog.getByLabel("Name on the label").fill("Fen 9");
  await dialog.getByLabel("Rated capacity").fill("1.2");
  await dialog.getByRole("button", { name: "Save cell" }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.locator('[data-cell="Fen 9"]')).toBeVisible();
});

test("a characteristic is found by a part of its name or of what it means, the board's functions first; only its conditions are asked", async ({
  page,
}) => {
  await startEmpty(page);
  await boardOf(page, "Heron 44", ["protects the cell"], {});
  await page.getByRole("button", { name: "Add claim", exact: true }).click();
  const dialog = page.getByRole("dialog").filter({ hasText: "Add claim" });
  const picker = dialog.getByRole("combobox", { name: "Characteristic" });
  // A load that is held is claimed at a battery voltage; a cut is not.
  await expect(dialog.getByLabel(/^At battery voltage/)).toHaveCount(1);
  await picker.click();
  const options = page.getByRole("option");
  await expect(page.locator("[cmdk-group-heading]").first()).toHaveText(/Whole board|A board that protects the cell/);
  await noSeriousAxe(page);
  await page.keyboard.type("over-discharge cut");
  await expect(options).toHaveCount(1);
  await page.keyboard.press("Enter");
  await expect(picker).toHaveText("Over-discharge cut");
  await expect(picker).toBeFocused();
  await picker.click();
  await page.keyboard.type("no such thing");
  await expect(page.getByText("No match.")).toBeVisible();
  await page.keyboard.press("Escape");
  // The dialog itself stays open, with what was chosen.
  await expect(picker).toHaveText("Over-discharge cut");
  await expect(dialog.getByLabel(/^At battery voltage/)).toHaveCount(0);
});

test("house rules stand by what they are about, with Save in sight; changes are counted and can be discarded", async ({
  page,
}) => {
  await startEmpty(page);
  await page.getByRole("link", { name: "House rules" }).click();
  for (const title of ["Verdicts", "Battery voltages", "Points", "Heat", "Charging", "Cells in the drawer"])
    await expect(page.getByRole("region", { name: title, exact: true })).toBeAttached();
  await expect(page.getByRole("button", { name: "Save house rules" })).toBeInViewport();
  await page.getByLabel("Regulation band").fill("3");
  await page.getByLabel("Full battery").fill("9");
  await expect(page.getByRole("main").getByRole("alert")).toHaveText("A field above is invalid.");
  await page.getByLabel("Full battery").fill("4.2");
  await expect(page.getByText("2 rules changed.")).toBeVisible();
  await page.getByRole("button", { name: "Discard changes" }).click();
  await expect(page.getByLabel("Regulation band")).toHaveValue("5");
  await expect(page.getByText("No changes.")).toBeVisible();
});

test("the guide is a page a task with its pictures, reached before any notebook, by ? and by Ctrl K", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Guide" }).click();
  await expect(page.getByRole("heading", { name: "A log, before any board", level: 1 })).toBeVisible();
  await page.getByRole("navigation", { name: "Guide" }).getByRole("link", { name: "A charge, in ten lines" }).click();
  await expect(page.getByRole("heading", { name: "A charge, in ten lines", level: 1 })).toBeVisible();
  const picture = page.getByRole("img").first();
  await picture.scrollIntoViewIfNeeded();
  await expect.poll(() => picture.evaluate((el) => (el as HTMLImageElement).naturalWidth)).toBeGreaterThan(600);
  await noSeriousAxe(page);
  await startEmpty(page);
  await page.keyboard.press("?");
  await page
    .getByRole("dialog")
    .getByRole("link", { name: /^Guide/ })
    .click();
  await expect(page.getByRole("navigation", { name: "Guide" })).toBeVisible();
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("the drawer sorts by any column; what is not known comes last", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Cells", exact: true }).click();
  const table = page.getByRole("table", { name: "Cells" });
  await expect(table.locator("tbody tr")).not.toHaveCount(0);
  const heads = await table.getByRole("columnheader").allInnerTexts();
  const capacities = () => table.locator(`tbody tr > :nth-child(${heads.indexOf("Capacity") + 1})`).allInnerTexts();
  const before = await capacities();
  await table.getByRole("button", { name: "Capacity" }).click();
  await expect(table.getByRole("columnheader", { name: "Capacity" })).toHaveAttribute(
    "aria-sort",
    /ascending|descending/,
  );
  const sorted = await capacities();
  expect([...sorted].sort()).toEqual([...before].sort());
  const known = sorted.filter((t) => t !== "—");
  expect(sorted.slice(0, known.length)).toEqual(known);
  expect(known.length).toBeGreaterThan(0);
});

test("a field of a plan that is hidden by another choice blocks nothing, and comes back with what the plan holds", async ({
  page,
}) => {
  await startEmpty(page);
  await boardOf(page, "Teal 4", ["charges a cell"], {});
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  const status = page.getByRole("region", { name: "Start" }).getByRole("status");
  await page.getByLabel(/^switching/).check();
  await page.getByLabel("Efficiency, claimed or estimated").fill("7");
  await expect(status).toHaveText("A field above is invalid.");
  await page.getByLabel(/^linear/).check();
  await expect(status).not.toHaveText("A field above is invalid.");
  await page.getByLabel(/^switching/).check();
  await expect(page.getByLabel("Efficiency, claimed or estimated")).toHaveValue("88");
  await expect(status).not.toHaveText("A field above is invalid.");
});
