import type { Locator, Page } from "@playwright/test";
import { expect, noSeriousAxe, startDemo, startEmpty, tabTo, test } from "./helpers";

/** Everything in this file is done without a mouse, from the first key to the last. */
const press = async (page: Page, target: Locator, key = "Enter", most = 160) => {
  await tabTo(page, target, most);
  await page.keyboard.press(key);
};
const type = async (page: Page, target: Locator, text: string) => {
  await tabTo(page, target, 160);
  await page.keyboard.press("Control+a");
  await page.keyboard.type(text);
};
/** Goes anywhere by the palette. */
const goTo = async (page: Page, letters: string) => {
  await page.keyboard.press("Control+k");
  await expect(page.getByPlaceholder("board, cell, run or action")).toBeFocused();
  await page.keyboard.type(letters);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toHaveCount(0);
};
const choose = async (page: Page, select: Locator, letters: string) => {
  await tabTo(page, select, 160);
  await page.keyboard.type(letters);
};

test("the cell drawer: a cell is entered, read, rejected and undone", async ({ page }) => {
  await startEmpty(page);
  await goTo(page, "cell drawer");
  await press(page, page.getByRole("button", { name: "Add cell" }).first());
  await expect(page.getByLabel("Name on the label")).toBeFocused();
  await page.keyboard.type("Fen 7");
  await type(page, page.getByLabel("Rated capacity", { exact: true }), "1.2");
  await press(page, page.getByRole("button", { name: "Save cell" }));
  await expect(page.locator('[data-cell="Fen 7"]')).toBeVisible();
  await type(page, page.getByLabel("Voltage of Fen 7"), "3.92");
  await page.keyboard.press("Enter");
  await expect(page.locator('[data-cell="Fen 7"]')).toContainText("3.92");
  await press(page, page.locator('[data-cell="Fen 7"]').getByRole("link").first());
  await expect(page.getByRole("heading", { name: "Fen 7", level: 1 })).toBeVisible();
  await press(page, page.getByRole("button", { name: /^Reject/ }).first());
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.keyboard.type("it smells");
  await page.keyboard.press("Enter");
  await expect(page.getByText("it smells").first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByText(/^Undone: /)).toBeVisible();
});

test("a checklist, from its preparation to its result", async ({ page }) => {
  await startDemo(page);
  await goTo(page, "peat duo");
  await expect(page.getByRole("heading", { name: "Peat Duo", level: 1 })).toBeVisible();
  await press(page, page.getByRole("button", { name: "Prepare a behaviour checklist" }));
  await press(page, page.getByLabel("The simulated bench"), "Space");
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await press(page, box, "Space");
  await press(page, page.getByRole("button", { name: "Start the checklist" }));
  // Its keys work once this tab may write, which its buttons show.
  await expect(page.getByRole("button", { name: /Simulate item/ })).toBeEnabled();
  await page.keyboard.press("d");
  await expect(page.getByText(/^Seen:/)).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("answered")).toHaveText(/^1 of/);
  await press(page, page.getByRole("button", { name: "Simulate remaining items" }));
  await expect(page.getByRole("button", { name: "Finish and open result" })).toBeVisible({ timeout: 20_000 });
  await page.keyboard.press("f");
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
});

test("a reversal test, each reversal confirmed by a key of its own", async ({ page }) => {
  await startDemo(page);
  await goTo(page, "alder 12");
  await expect(page.getByRole("heading", { name: "Alder 12", level: 1 })).toBeVisible();
  await press(page, page.getByRole("button", { name: "Prepare a reversal test" }));
  await press(page, page.getByLabel("The simulated bench"), "Space");
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await press(page, box, "Space");
  await press(page, page.getByRole("button", { name: "Start run" }));
  await expect(page.getByTestId("proposal")).toBeVisible();
  await choose(page, page.getByLabel("Bench clock"), "× 60");
  await page.keyboard.press("Escape");
  for (let k = 1; k <= 5; k++) {
    const confirm = page.getByRole("group", { name: "Confirm" });
    await expect(page.getByText(new RegExp(`^${k - 1} of about \\d points`))).toBeVisible();
    if (await confirm.count()) {
      await press(page, confirm.getByRole("checkbox"), "Space");
      await press(page, page.getByRole("button", { name: "Do it now" }));
    }
    await page.waitForTimeout(900);
    await press(page, page.getByRole("button", { name: "Record point" }));
    await expect(page.getByText(new RegExp(`^${k} of about \\d points`))).toBeVisible();
  }
  await press(page, page.getByRole("button", { name: "Finish and open result" }));
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
});

test("compare, sheet, sums and rules are reached, used and left", async ({ page }) => {
  await startDemo(page);
  await goTo(page, "comparison");
  await tabTo(page, page.getByRole("tab", { name: "Claims" }));
  for (const view of ["Quantities", "Figures"]) {
    await page.keyboard.press("ArrowRight");
    await expect(page.getByRole("tab", { name: view })).toBeFocused();
  }
  const table = page.getByRole("table", { name: "Comparison" });
  await expect(table.getByRole("columnheader", { name: "Sedge 51" })).toBeVisible();
  await tabTo(page, page.getByRole("combobox", { name: "Function" }));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("option", { name: /^boosts/ })).toBeVisible();
  await page.keyboard.type("boosts");
  await expect(page.getByRole("option", { name: /^boosts/ })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "board" })).toContainText(/^[3-6] boards/);
  await tabTo(page, table);
  await page.keyboard.press("End");
  await page.keyboard.press("ArrowDown");
  await press(page, table.getByRole("link", { name: /: (meets|misses)$/ }).first());
  await expect(page).toHaveURL(/\/claim\//);

  await goTo(page, "marl 15");
  await press(page, page.getByRole("link", { name: "Findings sheet" }));
  await expect(page.getByTestId("summary")).toBeVisible();
  await press(page, page.getByRole("button", { name: "Issue sheet" }));
  await expect(page.getByLabel(/For whom/)).toBeFocused();
  await page.keyboard.type("the wardens");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Issued \d{4}-\d\d-\d\d \d\d:\d\d, the wardens/)).toBeVisible();
  await page.goBack();
  await expect(page.getByRole("link", { name: /the wardens$/ })).toBeVisible();

  await goTo(page, "quick sums");
  const rate = page.getByRole("region", { name: "C-rate" });
  await type(page, rate.getByLabel("Current", { exact: true }), "300m");
  await expect(rate.locator('[data-sum="rate"]')).toContainText("1");

  await goTo(page, "house rules");
  await tabTo(page, page.getByLabel("when the whole interval is on one side"), 160);
  // Held as long as a finger holds a key: the choice follows the focus.
  for (const next of ["when 95 % of its probability does", "when the value does"]) {
    await page.keyboard.press("ArrowDown", { delay: 60 });
    await expect(page.getByLabel(next)).toBeChecked();
  }
  await press(page, page.getByRole("button", { name: "Save house rules" }));
  await expect(
    page.getByRole("dialog").getByRole("listitem").filter({ hasText: "Efficiency up to 93.5 %" }),
  ).toContainText(/too close to call.*(meets|misses)/);
  await press(page, page.getByRole("dialog").getByRole("button", { name: "Cancel" }));
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("a log's result by keyboard: the values at a moment on all its charts, a result's sources, its verdict", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await startDemo(page);
  await goTo(page, "alder 12");
  const step = page.getByRole("region", { name: "Charge cycle" });
  await press(page, step.getByRole("button", { name: "Charge cycle", exact: true }));
  await expect(step.getByText(/^From the first current to the rest after it/)).toBeVisible();
  await press(page, step.getByRole("link", { name: "Charge on a short cable" }));
  await expect(page.getByTestId("answer")).toContainText(
    /^Charges at 1\.00\sA, full at 4\.19\d\sV after 2\sh \d\d\smin, 2\.\d\d\sAh delivered\./,
  );
  await expect(page.getByTestId("answer")).toContainText(/Claims: \d met/);
  await page.locator("[data-chart] [data-curve]").first().waitFor();
  // Nothing is shown before it is asked for; then the same moment on every chart, with its numbers.
  await expect(page.locator("[data-crosshair]")).toHaveCount(0);
  const current = page.getByRole("slider", { name: "Values of current into the cell" });
  await tabTo(page, current);
  const from = await page.locator('[data-chart="current"]').getAttribute("data-from");
  for (let k = 0; k < 3; k++) await page.keyboard.press("Shift+ArrowRight");
  await expect(page.locator('[data-chart="current"] [data-crosshair]')).toBeAttached();
  await expect.poll(() => page.locator("[data-crosshair]").count()).toBeGreaterThan(2);
  expect(
    new Set(
      await page.locator("[data-crosshair]").evaluateAll((all) => all.map((e) => e.getAttribute("data-crosshair"))),
    ).size,
  ).toBe(1);
  await expect(current).toHaveAttribute("aria-valuetext", /^1\sh .*, cell .*A$/);
  // The arrows move the values, not the stretch that is drawn.
  expect(await page.locator('[data-chart="current"]').getAttribute("data-from")).toBe(from);
  await noSeriousAxe(page);
  await page.keyboard.press("Escape");
  await expect(page.locator("[data-crosshair]")).toHaveCount(0);
  await press(page, page.getByRole("button", { name: "Copy table" }));
  await expect
    .poll(() => page.evaluate(() => navigator.clipboard.readText()))
    .toMatch(
      /^Quantity\tConditions\tValue\tU \(k = 2\)\tUnit\nPre-charge current\t[^\n]*\n.*\nFull voltage\t\t4\.1920\t0\.0033\tV\n/s,
    );
  const results = page.getByRole("table", { name: "Results" });
  await press(page, results.getByRole("row").filter({ hasText: "Full voltage" }).getByRole("button"));
  await expect(results.getByText(/error of the cell voltage/).first()).toBeVisible();
  await press(page, results.getByRole("link", { name: /claimed 4\.2\sV ± 0\.9\s%/ }));
  await expect(page.getByRole("heading", { name: "Measured against the limit" }).first()).toBeVisible();
});

test("the comparison of an empty notebook says what to do", async ({ page }) => {
  await startEmpty(page);
  await page.goto("/compare");
  await expect(page.getByText("Nothing to compare yet. Add boards with claims or measurements.")).toBeVisible();
  await noSeriousAxe(page);
});
