import {
  expect,
  noSeriousAxe,
  startDemo,
  assumeMeters,
  startEmpty,
  tabTo,
  test,
  verdictOf,
  writeBoard,
} from "./helpers";
import type { Page } from "@playwright/test";

/** From the shelf to the result of a board's finished sweep. */
async function resultOf(page: Page, board: string): Promise<void> {
  await page.getByRole("link", { name: board, exact: true }).first().click();
  await page.getByRole("heading", { name: board, level: 1 }).waitFor();
  await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
  await page.locator("[data-chart] [data-curve]").first().waitFor();
}
const drawn = (page: Page, chart: string) =>
  page
    .locator(`[data-chart="${chart}"] [data-points]`)
    .evaluateAll((paths) => paths.reduce((sum, p) => sum + Number(p.getAttribute("data-points")), 0));
const found = (page: Page, quantity: string) => page.getByRole("row").filter({ hasText: quantity }).first();

test("a point is left out at the desk with a reason, the result follows at once, and all of it can be undone", async ({
  page,
}) => {
  await startDemo(page);
  await resultOf(page, "Marl 15");
  const before = await drawn(page, "output");
  expect(before).toBeGreaterThan(20);
  const value = await found(page, "No-load voltage").innerText();
  // The first point of a sweep is the unloaded one.
  await page.getByRole("button", { name: "Exclude point 1", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Exclude point", exact: true }).click();
  await expect(dialog.getByText("Enter a reason.")).toBeVisible();
  await noSeriousAxe(page);
  await dialog.getByLabel("Why").fill("lead off");
  await dialog.getByLabel("Why").press("Enter");
  await expect(page.getByText("excluded: lead off").first()).toBeVisible();
  await expect(found(page, "No-load voltage")).not.toHaveText(value);
  expect(await drawn(page, "output")).toBe(before - 1);

  await page.keyboard.press("Control+z");
  await expect(page.getByText("Undone: exclude a point.")).toBeVisible();
  await expect(page.getByText("excluded: lead off")).toHaveCount(0);
  expect(await found(page, "No-load voltage").innerText()).toBe(value);
  await page.keyboard.press("Control+Shift+z");
  await expect(page.getByText("excluded: lead off").first()).toBeVisible();
  await page.getByRole("button", { name: "Include point 1" }).click();
  await expect(page.getByText("excluded: lead off")).toHaveCount(0);
});

test("a point of an imported table can be left out too", async ({ page }) => {
  await startEmpty(page);
  await assumeMeters(page);
  await writeBoard(page, "Iris 9");
  await page.getByRole("link", { name: "Import CSV" }).click();
  const rows = [
    "Vb (V),Ib (A),Vout (V),Iout (A)",
    "4.1,0.002,5.03,0",
    "4.1,0.28,5.02,0.2",
    "4.1,0.69,5.01,0.5",
    "4.1,1.4,5,1",
  ];
  await page
    .getByLabel("CSV to import")
    .setInputFiles({ name: "t.csv", mimeType: "text/csv", buffer: Buffer.from(`${rows.join("\n")}\n`) });
  await page.getByRole("button", { name: "Import 4 rows" }).click();
  await expect(page.getByText("Imported from a file, 4 points")).toBeVisible();
  await expect(found(page, "Highest load held")).toContainText("1.000");
  await page.getByRole("button", { name: "Exclude point 4", exact: true }).click();
  await page.getByRole("dialog").getByRole("button", { name: "misread" }).click();
  await expect(found(page, "Highest load held")).toContainText("500");
  await page.reload();
  await expect(page.getByText("excluded: misread").first()).toBeVisible();
});

test("a run set aside judges nothing, says why, and judges again when counted", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Marl 15", exact: true }).first().click();
  const results = page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" });
  await expect(results).toHaveCount(2);
  for (const k of [0, 1]) {
    await results.nth(k).click();
    await page.getByRole("button", { name: "Set aside" }).click();
    await page.getByRole("dialog").getByLabel("Why").fill("wrong leads");
    await page.getByRole("dialog").getByRole("button", { name: "Set aside" }).click();
    await expect(page.getByText("Set aside: wrong leads. It judges no claim.")).toBeVisible();
    if (k === 0) await page.getByRole("link", { name: "Board Marl 15" }).click();
  }
  await page.getByRole("link", { name: "Board Marl 15" }).click();
  await expect(verdictOf(page, "5V 1.5A OUTPUT!")).toContainText("not measured");
  await verdictOf(page, "5V 1.5A OUTPUT!").getByRole("link", { name: /why/ }).click();
  await expect(page.getByText("Every run that measured it was set aside.")).toBeVisible();
  await page.goBack();
  await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
  await page.getByRole("button", { name: "Include" }).first().click();
  await page.getByRole("link", { name: "Board Marl 15" }).click();
  await expect(verdictOf(page, "5V 1.5A OUTPUT!")).toContainText("misses");
});

test("the table sorts by keyboard, and a point is found from the curve and from a finding", async ({ page }) => {
  await startDemo(page);
  await resultOf(page, "Sedge 51");
  const table = page.getByRole("table").filter({ has: page.getByRole("button", { name: "Output voltage" }) });
  await table.getByRole("button", { name: "Output voltage" }).focus();
  await page.keyboard.press("Enter");
  await expect(table.getByRole("columnheader", { name: "Output voltage" })).toHaveAttribute(
    "aria-sort",
    /ascending|descending/,
  );
  const volts = await table.locator("tbody tr td:nth-child(6)").allInnerTexts();
  const numbers = volts.map((v) => parseFloat(v.replace(/[^\d.]/g, "")) * (/mV/.test(v) ? 1e-3 : 1));
  const sorted = [...numbers].sort((a, b) => a - b);
  expect([sorted, sorted.reverse()].map((s) => s.join())).toContain(numbers.join());

  await page.locator('[data-chart="efficiency"]').scrollIntoViewIfNeeded();
  // The heaviest counted load of the first series: where its path draws last.
  const at = await page
    .locator('[data-chart="efficiency"] path[data-points]')
    .first()
    .evaluate((path) => {
      const box = (path as SVGPathElement).ownerSVGElement?.getBoundingClientRect();
      const [, x = "0", y = "0"] = /.*M(-?[\d.]+) (-?[\d.]+)/.exec(path.getAttribute("d") ?? "") ?? [];
      return { x: (box?.left ?? 0) + Number(x) + 9, y: (box?.top ?? 0) + Number(y) };
    });
  await page.mouse.click(at.x, at.y);
  await expect(page).toHaveURL(/#point-/);
  const id = decodeURIComponent(new URL(page.url()).hash.slice(1));
  await expect(page.locator(`[id="${id}"]`)).toBeInViewport();

  await page.getByRole("button", { name: "see the point" }).first().click();
  const other = decodeURIComponent(new URL(page.url()).hash.slice(1));
  await expect(page.locator(`[id="${other}"]`)).toBeInViewport();
});

test("every uncertainty opens to where it comes from, by keyboard", async ({ page }) => {
  await startDemo(page);
  await resultOf(page, "Sedge 51");
  const value = found(page, "Peak efficiency").getByRole("button").first();
  await tabTo(page, value, 200);
  await page.keyboard.press("Enter");
  await expect(
    page
      .getByText(/battery current/i)
      .filter({ hasText: "%" })
      .first(),
  ).toBeVisible();
  await noSeriousAxe(page);
});
