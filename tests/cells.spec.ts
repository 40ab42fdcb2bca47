import type { Page } from "@playwright/test";
import {
  assumeMeters,
  boardOf,
  chooseFrom,
  expect,
  finishLog,
  noSeriousAxe,
  startEmpty,
  test,
  verdictOf,
} from "./helpers";

async function run(page: Page, act: string, on: string, fields: Readonly<Record<string, string>> = {}): Promise<void> {
  await page.getByRole("button", { name: act }).click();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), { label: on });
  for (const [label, text] of Object.entries(fields)) await page.getByLabel(label, { exact: true }).fill(text);
  await expect(page.getByRole("button", { name: "Start the log" })).toBeDisabled();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("task")).not.toHaveText("…");
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await finishLog(page);
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
}

const found = (page: Page, name: string | RegExp) =>
  page.getByRole("row").filter({ has: page.getByRole("rowheader", { name }) });
const back = (page: Page) => page.getByRole("link", { name: /^Board/ }).click();

test("discharge: an honest cell meets its label, a boastful one misses it, and one that was not full gives no capacity", async ({
  page,
}) => {
  test.setTimeout(150_000);
  await startEmpty(page);
  await boardOf(page, "Heron 41", ["charges a cell"], {});
  await page.getByRole("button", { name: "Add claim", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Wording").fill("2200 mAh cell inside");
  await chooseFrom(dialog.getByLabel("Characteristic"), "cell.capacity");
  await dialog.getByLabel(/^Limit/).fill("≥ 1.95");
  await dialog.getByRole("button", { name: "Save claim" }).click();
  await expect(dialog).toHaveCount(0);
  await page.getByRole("button", { name: "Prepare a discharge" }).click();
  await page.getByLabel("down to", { exact: true }).fill("2.4");
  await expect(page.locator('[data-remark="refused"]')).toContainText("lower than any such cell may go");
  await page.getByRole("link", { name: "Back to board" }).click();
  const fields = { "Discharge at": "0.5", "One sample every": "20" };
  await run(page, "Prepare a discharge", "A cell with its rated capacity", fields);
  await expect(found(page, /^Capacity/)).toContainText(/2\.[12]\d* ± /);
  await expect(page.getByText(/It gave 2\.\d+\sAh in 4 h .* of the 2\.2\sAh that it is rated for/)).toBeVisible();
  await noSeriousAxe(page);
  await back(page);
  await expect(verdictOf(page, "2200 mAh cell inside")).toContainText("meets");
  await run(page, "Prepare a discharge", "A cell with half its rated capacity", fields);
  await back(page);
  await expect(verdictOf(page, "2200 mAh cell inside")).toContainText("misses");
  await run(page, "Prepare a discharge", "A cell with its rated capacity", {
    ...fields,
    "Rested cell voltage now": "3.9",
  });
  await expect(page.getByText(/rested, not full: the .* delivered are not its capacity/)).toBeVisible();
  await expect(found(page, /^Capacity/)).toHaveCount(0);
});

test("pack charge: cells that stand together meet, drifted ones are cut before they are full", async ({ page }) => {
  test.setTimeout(150_000);
  await startEmpty(page);
  await boardOf(page, "Heron 42", ["protects the cell", "balances a pack"], {
    "Pack cut, highest cell": "4.25 V ±50 mV",
    "Spread at the cut": "≤ 100 mV",
  });
  await page.getByRole("button", { name: "Prepare a pack charge" }).click();
  await page.getByLabel("Highest cell voltage allowed").fill("3.65");
  await expect(page.locator('[data-remark="refused"]')).toContainText("made for another chemistry");
  await page.getByRole("link", { name: "Back to board" }).click();
  await run(page, "Prepare a pack charge", "Three balanced cells", {
    "Cells in series": "3",
    "One sample every": "10",
  });
  await expect(page.getByText(/The cells are balanced; the board cuts before the charger tapers/)).toBeVisible();
  await expect(page.getByText(/Charging was allowed again after/)).toBeVisible();
  await noSeriousAxe(page);
  await back(page);
  await expect(verdictOf(page, "4.25 V ±50 mV")).toContainText("meets");
  await expect(verdictOf(page, "≤ 100 mV")).toContainText("meets");
  await run(page, "Prepare a pack charge", "Four cells that have drifted apart, no balancer", {
    "One sample every": "10",
  });
  await expect(
    page.getByText(
      /with (6[789]|7[0123])\d\smA still flowing and cell 2 only at .*: the pack is unbalanced and not full/,
    ),
  ).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "≤ 100 mV")).toContainText("misses");
});

test("rest check: cells read over some days from a CSV; those that fall are rejected by name", async ({ page }) => {
  await startEmpty(page);
  await assumeMeters(page);
  await boardOf(page, "Heron 43", ["charges a cell"], {});
  const rows = [0, 1, 3, 7].flatMap((day) =>
    [1, 2].map(
      (cell) =>
        `2026-11-${String(10 + day).padStart(2, "0")}T09:00:00Z,${cell},${(4.19 - (cell === 1 ? 0.0008 : 0.012) * day).toFixed(4)}`,
    ),
  );
  await page.getByRole("link", { name: "Import CSV of rest check" }).click();
  await page.getByLabel("CSV to import").setInputFiles({
    name: "shelf.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(["Timestamp,Cell no.,Cell voltage (V)", ...rows, ""].join("\n")),
  });
  await page.getByRole("button", { name: /^Import/ }).click();
  await expect(found(page, /^Rest drop, cell 2/)).toContainText(/12\.\d+ ± .*mV\/day/);
  await expect(page.getByText(/Cell 2 \(12\smV a day\) falls by more than 5 mV a day: reject it/)).toBeVisible();
  await expect(page.getByText("Cell 1 stays within 5 mV a day.")).toBeVisible();
});
