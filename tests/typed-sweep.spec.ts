import {
  expect,
  noSeriousAxe,
  assumeMeters,
  startEmpty,
  startSweep,
  tabTo,
  test,
  verdictOf,
  writeBoard,
} from "./helpers";
import type { Page } from "@playwright/test";

/** Types the four meters' values and Enter after each; the temperature stays empty. */
async function typePoint(page: Page, values: readonly string[]): Promise<void> {
  for (const v of values) {
    await page.keyboard.type(v);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Enter");
}
/** After a collapse: notes by a key how the board came back, and waits for what is asked next. */
async function cameBack(page: Page, key: string, proposed: string): Promise<void> {
  await expect(page.getByTestId("proposal")).toContainText("Remove the load");
  await page.keyboard.press(key);
  await expect(page.getByTestId("proposal")).toContainText(proposed);
}
const points = (page: Page) => page.locator("tr[data-point]");

test("keyboard only: from the plan through a collapse to the verdict", async ({ page }) => {
  await startEmpty(page);
  await assumeMeters(page);
  await writeBoard(page, "Bulrush 1", { "No-load voltage": "5 V ±5 %", "Highest load held": "≥ 0.8 A" });
  await tabTo(page, page.getByRole("button", { name: "Prepare a load sweep" }));
  await page.keyboard.press("Enter");
  await expect(page.getByText("The application watches these")).toBeVisible();
  const batteries = page.getByLabel("Battery voltages, fullest first");
  await tabTo(page, batteries);
  await page.keyboard.press("Control+a");
  await page.keyboard.type("4.1 3.1");
  const loads = page.getByLabel("Load currents, from none to past the claim");
  await tabTo(page, loads);
  await page.keyboard.press("Control+a");
  await page.keyboard.type("0 400m 800m 1A2");
  await tabTo(page, page.getByLabel("Dwell before a point counts"));
  await page.keyboard.press("Control+a");
  await page.keyboard.type("0");
  await tabTo(page, page.getByLabel("Resolution of the highest load"));
  await page.keyboard.press("Control+a");
  await page.keyboard.type("150m");
  for (const danger of await page.getByRole("checkbox", { name: "Danger." }).all()) {
    await tabTo(page, danger);
    await page.keyboard.press("Space");
  }
  await tabTo(page, page.getByRole("button", { name: "Start run" }));
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("proposal")).toContainText("Set the supply to 4.1 V. Leave the output unloaded.");
  await noSeriousAxe(page);

  // The first field has the focus; values are typed as people write them.
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await typePoint(page, ["4,1", "2m", "5.03", "0"]);
  await expect(page.getByTestId("proposal")).toContainText("400 mA");
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await typePoint(page, ["4.1", "540m", "5.02", "400m"]);
  await expect(points(page)).toHaveCount(2);

  // Nonsense stays in its field with the reason, and takes nothing.
  await page.keyboard.type("4.1q");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/no unit of volts/)).toBeVisible();
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await page.keyboard.press("Control+a");
  await typePoint(page, ["4.1", "1.1", "5", "800m"]);
  await expect(page.getByTestId("proposal")).toContainText("1.2 A");

  // Withdrawn and typed again; then left out with a reason, and counted again.
  await page.keyboard.press("z");
  await expect(points(page)).toHaveCount(2);
  await expect(page.getByTestId("proposal")).toContainText("800 mA");
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await typePoint(page, ["4.1", "1.1", "5", "800m"]);
  await expect(points(page)).toHaveCount(3);
  await page.keyboard.press("x");
  await page.keyboard.type("misread");
  await page.keyboard.press("Enter");
  await expect(points(page).first()).toContainText("excluded: misread");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await expect(page.getByTestId("proposal")).toContainText("800 mA");
  await typePoint(page, ["4.1", "1.1", "5", "800m"]);

  // The output falls: said, unloaded, restart noted, gap halved, held load known.
  await expect(page.getByTestId("proposal")).toContainText("1.2 A");
  await typePoint(page, ["4.1", "1.5", "4.2", "1.2"]);
  await expect(page.getByText(/collapsed at 1.2/)).toBeVisible();
  await cameBack(page, "1", "1 A. This halves the gap");
  await typePoint(page, ["4.1", "1.4", "4.98", "1"]);
  await expect(page.getByTestId("proposal")).toContainText("1.1 A. This halves the gap");
  await typePoint(page, ["4.1", "1.55", "4.6", "1.1"]);
  await cameBack(page, "2", "Set the supply to 3.1 V");
  for (const v of [
    ["3.1", "3m", "5.02", "0"],
    ["3.1", "730m", "5", "400m"],
    ["3.1", "1.5", "4.98", "800m"],
    ["3.1", "1.6", "4.1", "1.2"],
  ]) {
    await expect(page.getByLabel("Battery voltage")).toBeFocused();
    const before = await points(page).first().getAttribute("data-point");
    await typePoint(page, v);
    await expect(points(page).first()).not.toHaveAttribute("data-point", before ?? "");
  }
  await cameBack(page, "1", "1 A. This halves the gap");
  await typePoint(page, ["3.1", "1.6", "4.5", "1"]);
  await cameBack(page, "1", "900 mA. This halves the gap");
  await typePoint(page, ["3.1", "1.6", "4.7", "900m"]);
  await cameBack(page, "1", "Every battery voltage is done");
  await page.keyboard.press("f");
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "Highest load held" })).toContainText("1.0000 ± 0.00");
  await noSeriousAxe(page);

  // And back to the sheet for the verdicts, opened to why.
  await tabTo(page, page.getByRole("link", { name: "Board Bulrush 1" }));
  await page.keyboard.press("Enter");
  await expect(verdictOf(page, "5 V ±5 %")).toContainText("meets");
  await expect(verdictOf(page, "≥ 0.8 A")).toContainText("too close to call");
  await tabTo(page, verdictOf(page, "≥ 0.8 A").getByRole("link"));
  await page.keyboard.press("Enter");
  await tabTo(page, page.getByRole("button", { name: "What would settle this?" }).first());
  await page.keyboard.press("Enter");
  await expect(page.getByText(/What would settle this, with the same readings/)).toBeVisible();
  await noSeriousAxe(page);
});

test("wrong readings are caught as the point is taken, and said in words", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Bulrush 2");
  await startSweep(page, { dwell: "0", batteries: "3.6", loads: "0 0.2 0.4 0.6 0.8" });
  await typePoint(page, ["3.6", "2m", "5.03", "0"]);
  await expect(points(page)).toHaveCount(1);
  await typePoint(page, ["3.6", "310", "5.02", "200m"]);
  await expect(
    page.getByText(/Battery current 310\.0\sA is a thousand times the expected .*: meant 310\.0\smA\?/),
  ).toBeVisible();
  await expect(points(page)).toHaveCount(1);
  await page.keyboard.press("i");
  await expect(points(page)).toHaveCount(2);
  await typePoint(page, ["3.6", "0.5", "5.02", "400m"]);
  await expect(
    page.getByText(/output power can't exceed input power. Check the battery current meter first/),
  ).toBeVisible();
  await page.keyboard.press("r");
  await expect(points(page)).toHaveCount(3);
  await page.keyboard.press("z");
  await expect(points(page)).toHaveCount(2);
  await typePoint(page, ["3.2", "780m", "5.02", "400m"]);
  await expect(page.getByText(/below the 3.6\sV set/)).toBeVisible();
  await page.keyboard.press("z");
  await expect(points(page)).toHaveCount(2);
  await typePoint(page, ["3.6", "2.97", "4.5", "400m"]);
  await expect(page.getByText(/is at the supply's own limit/)).toBeVisible();
});

test("half-typed and taken points survive a reload and come back to the same place", async ({ page, context }) => {
  await startEmpty(page);
  await writeBoard(page, "Bulrush 3");
  await startSweep(page, { dwell: "0", batteries: "3.6", loads: "0 0.2 0.4 0.6 0.8" });
  await typePoint(page, ["3.6", "2m", "5.03", "0"]);
  await expect(page.getByTestId("proposal")).toContainText("200 mA");
  // On a slow machine too a point that is typed field by field is one half-typed point.
  const cdp = await context.newCDPSession(page);
  await cdp.send("Emulation.setCPUThrottlingRate", { rate: 12 });
  await page.keyboard.type("3.59", { delay: 360 });
  await page.keyboard.press("Enter");
  await page.keyboard.type("310", { delay: 360 });
  await cdp.send("Emulation.setCPUThrottlingRate", { rate: 1 });
  const kept = () =>
    page.evaluate(
      () =>
        new Promise<readonly (string | undefined)[]>((resolve) => {
          const open = indexedDB.open("nimbus-bench");
          open.onsuccess = () => {
            const all = open.result.transaction("records").objectStore("records").getAll();
            all.onsuccess = () => {
              open.result.close();
              resolve(
                (all.result as { state?: string; typed?: Record<string, string> }[])
                  .filter((r) => r.state === "draft")
                  .map((r) => r.typed?.batteryCurrent),
              );
            };
          };
        }),
    );
  await expect.poll(kept).toEqual(["310"]);
  await page.reload();
  await expect(page.getByTestId("proposal")).toContainText("200 mA");
  await expect(page.getByLabel("Battery voltage")).toHaveValue("3.59");
  await expect(page.getByLabel("Battery current")).toHaveValue("310");
  await expect(points(page)).toHaveCount(1);
});

test("rows pasted from a spreadsheet are shown before they are kept", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Bulrush 4");
  await startSweep(page, { batteries: "3.6", loads: "0 0.2 0.4 0.6 0.8" });
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "3,6\t0,002\t5,03\t0\n3,6\t0,31\t5,02\t0,2\n3,6\tx\t5,02\t0,4\n");
    window.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data }));
  });
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Row 3, column 2 (battery current): “x” is not a number");
  await noSeriousAxe(page);
  await dialog.getByRole("button", { name: "Save 2 points" }).click();
  await expect(points(page)).toHaveCount(2);
  await expect(page.getByTestId("proposal")).toContainText("400 mA");
});
