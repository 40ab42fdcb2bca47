import type { Page } from "@playwright/test";
import { expect, startDemo, startEmpty, test } from "./helpers";

/** Codes of the cells whose names begin with a word, in the drawer's order. */
async function codesOf(page: Page, word: string): Promise<string[]> {
  const rows = page.locator(`[data-cell^="${word}"]`);
  await expect(rows.first()).toBeVisible();
  return rows.evaluateAll((list) => list.map((r) => r.querySelector(".figures")?.textContent ?? ""));
}

/** Types into whatever has the focus, as a scanner does. */
async function scan(page: Page, text: string): Promise<void> {
  await page.keyboard.insertText(text);
  await page.keyboard.press("Enter");
}

/** Drags a cell's card into a column by the mouse. */
async function drag(page: Page, title: string, stage: string): Promise<void> {
  const card = page.getByRole("button", { name: `Move ${title}`, exact: true });
  await card.scrollIntoViewIfNeeded();
  const [from, to] = await Promise.all([card.boundingBox(), page.locator(`[data-stage='${stage}']`).boundingBox()]);
  if (!from || !to) throw new Error(`${title} or ${stage} is not there`);
  await page.mouse.move(from.x + 20, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(to.x + 30, from.y + 12, { steps: 12 });
  await page.mouse.up();
}

test("a station of 24 bays is planned and run through one charge of each cell, by keyboard and scanned codes", async ({
  page,
}) => {
  test.setTimeout(180_000);
  await page.clock.install({ time: new Date("2026-12-01T08:00:00") });
  await startEmpty(page);
  await page.goto("/cells");
  await page.getByRole("button", { name: "Take in cells" }).click();
  await page.getByRole("textbox", { name: "Cells" }).fill("24 x Buoy; 1200 mAh\nMinnow; 300 mAh");
  await page.getByRole("button", { name: "Add 25 cells" }).click();
  const codes = await codesOf(page, "Buoy");
  expect(codes).toHaveLength(24);
  expect(new Set(codes).size).toBe(24);
  await page.goto("/station");
  await page.getByLabel("Bays", { exact: true }).fill("24");
  await page.getByRole("button", { name: "Save station" }).click();
  const taken = page.getByTestId("bays-taken");
  await expect(taken).toHaveText(/^0 of 24 bays charge/);
  const code = page.getByLabel("Code of a cell");
  for (const [k, c] of codes.entries()) {
    await expect(code).toBeFocused();
    await scan(page, c);
    const bay = page.getByLabel("Bay", { exact: true });
    await expect(bay).toBeFocused();
    await expect(bay).toHaveValue(String(k + 1));
    await page.keyboard.press("Enter");
    await expect(taken).toHaveText(new RegExp(`^${k + 1} of 24 bays charge`));
  }
  // A small cell is kept from these chargers, whatever bay is named.
  await expect(code).toBeFocused();
  await scan(page, "Minnow");
  const why = page.getByRole("list", { name: "Why it can't start" });
  await expect(why).toContainText(/gives up to 540\smA, more than the 150\smA/);
  await page.getByLabel("Bay", { exact: true }).fill("3");
  await expect(why).toContainText("Bay 3 is taken by Buoy 3. Take it out first");
  await expect(page.getByRole("button", { name: "Start charge" })).toBeDisabled();
  await page.getByRole("button", { name: "Cancel" }).click();
  // Predicted ends pass by: each bay says so in words, and the window's title names them.
  await expect(page.locator("[data-bay='24']")).toContainText("until about");
  await page.clock.fastForward(4 * 3600_000);
  await expect(page.locator("[data-bay='1']")).toHaveAttribute("data-state", "overdue");
  await expect(page).toHaveTitle(/^Bay 1, 2, 3, .* overdue/);
  // One is taken out early, all others are full.
  await expect(code).toBeFocused();
  await scan(page, codes[0] ?? "");
  await page.getByRole("button", { name: "Take out early" }).click();
  await page.getByRole("button", { name: "it got hot" }).click();
  await expect(taken).toHaveText(/^23 of 24/);
  for (const [k, c] of codes.slice(1).entries()) {
    await expect(code).toBeFocused();
    await scan(page, c);
    await expect(page.getByLabel("Voltage now")).toBeFocused();
    await scan(page, "4,185");
    await expect(taken).toHaveText(new RegExp(`^${22 - k} of 24 bays charge`));
  }
  await expect(page.locator("[data-bay='1']")).toHaveAttribute("data-state", "free");
  await expect(page.getByText("taken out early: it got hot")).toBeHidden();
  // The cells' records, labels and due dates follow.
  await page.goto("/cells");
  await page.getByRole("tab", { name: "Columns" }).click();
  await expect(page.locator("[data-stage='resting'] [data-card]")).toHaveCount(23);
  await expect(page.locator("[data-stage='in'] [data-card]")).toHaveCount(2);
  await page.goto("/cells/labels");
  const label = page.getByRole("region", { name: "Label of Buoy 2", exact: true });
  await expect(label).toContainText(/4\.185\sV/);
  await expect(label).toContainText("read again by 8 Dec 2026");
});

test("a day of three boards is planned, disturbed and planned anew", async ({ page }) => {
  await page.clock.install({ time: new Date("2026-12-01T09:00:00") });
  await startDemo(page);
  await expect(page.getByTestId("today")).toContainText(/09:00 start Charge cycle, Marl 15/);
  await page.getByTestId("today").getByRole("link", { name: "Open day" }).click();
  const next = page.getByTestId("next-act");
  await expect(next).toContainText(/09:00\sstart Charge cycle, Marl 15/);
  const task = (title: string) => page.locator(`[data-task="${title}"]`);
  await expect(task("Heat soak, Alder 12")).toContainText("09:15 to 09:40");
  await page.keyboard.press("n");
  await expect(task("Charge cycle, Marl 15")).toHaveAttribute("data-state", "running");
  // Nobody comes for twenty minutes: what should have begun moves on by itself, unstored.
  await page.clock.fastForward(20 * 60_000);
  await expect(task("Heat soak, Alder 12")).toContainText("09:20 to 09:45");
  await page.keyboard.press("n");
  await expect(task("Heat soak, Alder 12")).toHaveAttribute("data-state", "running");
  // It takes longer, and what needs the same load waits.
  await page.clock.fastForward(30 * 60_000);
  await expect(next).toContainText(/finish Heat soak, Alder 12/);
  await expect(task("Heat soak, Alder 12")).toHaveAttribute("data-state", "overdue");
  await expect(task("Threshold ramp, Alder 12")).toContainText("10:00 to");
  await page.keyboard.press("n");
  await expect(task("Heat soak, Alder 12")).toHaveAttribute("data-state", "over");
  await expect(task("Threshold ramp, Alder 12")).toContainText("09:50 to 10:00");
  // The charge is interrupted: its supply and logger are free at once.
  await page.getByRole("button", { name: "Interrupted: Charge cycle, Marl 15" }).click();
  await expect(task("Charge cycle, Marl 15")).toContainText("interrupted");
  // A task moved by hand stays there; what can't be is said, with what to do.
  await page.getByRole("button", { name: "Move Load sweep, Peat Duo" }).click();
  await page.getByLabel("Start of Load sweep, Peat Duo").fill("9:55");
  await page.keyboard.press("Enter");
  await expect(task("Load sweep, Peat Duo")).toContainText("moved by hand");
  await expect(task("Load sweep, Peat Duo")).toContainText("09:55 to 10:40");
  await page.getByRole("button", { name: "Move Threshold ramp, Alder 12" }).click();
  await page.getByLabel("Start of Threshold ramp, Alder 12").fill("10:00");
  await page.keyboard.press("Enter");
  const breaks = page.getByRole("list", { name: "What breaks" });
  await expect(breaks).toContainText(
    /Hands are needed in two places from 10:00 to 10:10: “.*” and “.*”\. Move one of them/,
  );
  await page.getByRole("button", { name: "Plan Threshold ramp, Alder 12" }).click();
  await expect(breaks).toBeHidden();
  // The calendar file holds every task and the cells that are due.
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export calendar file" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("bench-2026-12-01.ics");
  const text = await (
    await file.createReadStream()
  )
    .toArray()
    .then((parts) => Buffer.concat(parts as Buffer[]).toString("utf8"));
  expect(text).toMatch(/^BEGIN:VCALENDAR\r\n/);
  expect(text).toMatch(/SUMMARY:Load sweep\\, Peat Duo/);
  expect(text).toMatch(/SUMMARY:Read Torch 1 \(\w{5}\)/);
  expect(text.match(/BEGIN:VEVENT/g)?.length).toBeGreaterThanOrEqual(7);
  // All of it is stored.
  await page.reload();
  await expect(task("Load sweep, Peat Duo")).toContainText("09:55 to 10:40");
});

test("a day is planned from what is due; a run of the notebook starts and ends its task", async ({ page }) => {
  await startDemo(page);
  await page.goto("/day");
  await page.getByRole("button", { name: "Delete day" }).click();
  await expect(page.getByRole("heading", { name: "Day at the bench", level: 1 })).toBeVisible();
  // The oldest boards come first, in the order in which they were added.
  await expect(page.getByRole("checkbox").first()).toBeVisible();
  expect(await page.locator("fieldset legend").allTextContents()).toEqual([
    "Marl 15",
    "Tarn 9",
    "Alder 12",
    "Peat Duo",
    "Willow Sun",
    "Heath Four",
    "Cells to be read",
  ]);
  await page.getByRole("group", { name: "Marl 15" }).getByRole("checkbox").first().click();
  await page
    .getByRole("group", { name: "Heath Four" })
    .getByRole("checkbox", { name: /Behaviour checklist, about 20\smin/ })
    .click();
  await page.getByLabel("Supplies at hand").fill("2");
  await page.getByRole("button", { name: "Plan day" }).click();
  const task = page.locator("[data-task='Behaviour checklist, Heath Four']");
  await expect(task).toHaveAttribute("data-state", "to come");
  await task.getByRole("link").click();
  await page.getByRole("button", { name: "Prepare a behaviour checklist" }).click();
  await page.getByLabel("The simulated bench").check();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the checklist" }).click();
  await expect(page).toHaveURL(/\/checklist$/);
  await page.goto("/day");
  await expect(task).toHaveAttribute("data-state", "running");
  await expect(task.getByRole("link")).toHaveAttribute("href", /\/run\/.*\/checklist$/);
});

test("cells by the dozen: read by their codes, pasted, moved from column to column, matched into a pack", async ({
  page,
}) => {
  await startDemo(page);
  await page.goto("/cells");
  const codes = await codesOf(page, "Float 1");
  await page.getByLabel("Code of the cell").focus();
  await scan(page, codes[0] ?? "");
  await expect(page.getByLabel("Its voltage")).toBeFocused();
  await scan(page, "3,71");
  await expect(page.getByText(/^Saved: Float 1 3\.710\sV$/)).toBeVisible();
  await expect(page.getByLabel("Code of the cell")).toBeFocused();
  // A rest check's lines join the cells; a line that can't be is named, and nothing is lost.
  await page.getByRole("button", { name: "Paste readings" }).click();
  const area = page.getByRole("textbox", { name: "Readings" });
  await area.fill(`cell;voltage;capacity\n${codes[0]};3.70;1180 mAh\nNobody;3.9`);
  await page.getByRole("button", { name: "Save readings" }).click();
  await expect(page.getByText("Line 3: no cell here has the code or name “Nobody”.")).toBeVisible();
  await area.fill(`cell;voltage;capacity\n${codes[0]};3.70;1180 mAh\nFloat 18;3.9;1.1 Ah`);
  await page.getByRole("button", { name: "Save readings" }).click();
  await expect(page.getByText("2 readings saved.")).toBeVisible();
  // Float 18 has a capacity now, and is graded.
  await page.getByRole("tab", { name: "Columns" }).click();
  await expect(page.locator("[data-stage='graded'] [data-card='Float 18']")).toContainText(
    /A or B, 1\.10\sAh|A, 1\.10\sAh/,
  );
  // By keyboard: picked up, one column to the right, put down.
  const card = page.getByRole("button", { name: "Move Float 20" });
  await card.focus();
  await page.keyboard.press("Space");
  await page.waitForTimeout(100);
  await page.keyboard.press("ArrowRight");
  await page.waitForTimeout(100);
  await page.keyboard.press("Space");
  await expect(page.locator("[data-stage='charging'] [data-card='Float 20']")).toBeVisible();
  // By drag: off the charger, with its voltage.
  await drag(page, "Float 20", "resting");
  await page.getByLabel("Voltage now").fill("4.18");
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-stage='resting'] [data-card='Float 20']")).toBeVisible();
  // What no move can do is said.
  await drag(page, "Float 21", "graded");
  await expect(page.getByText("Grades come from measured values: discharge the cell for its capacity.")).toBeVisible();
  await page.getByRole("link", { name: "Packs", exact: true }).click();
  await page.getByLabel("Name of the pack").fill("Owl box");
  await page.getByRole("textbox", { name: "In series" }).fill("3");
  await page.getByRole("textbox", { name: "In parallel" }).fill("1");
  await page.getByRole("button", { name: "Match 3 cells" }).click();
  await expect(page.locator("[data-group]").first()).toBeVisible();
  await page.getByRole("button", { name: "Save pack" }).click();
  const pack = page.getByRole("region", { name: "Owl box, 3 in series × 1 in parallel" });
  await expect(pack).toBeVisible();
  await page.getByRole("textbox", { name: "In series" }).fill("30");
  await page.getByRole("button", { name: "Match 30 cells" }).click();
  await expect(page.getByText(/cells are free, 30 are needed: add \d+, or choose a smaller pack\./)).toBeVisible();
  await pack.getByRole("button", { name: "Take apart" }).click();
  await expect(pack).toBeHidden();
  await page.getByRole("button", { name: "Undo", exact: true }).first().click();
  await expect(pack).toBeVisible();
  // It is an entry of the drawer, and a pack is charged with it.
  await pack.getByRole("link", { name: "Open pack" }).click();
  await expect(page.getByRole("heading", { name: "Owl box", level: 1 })).toBeVisible();
  await expect(page.getByText("Put together from 3 cells of the drawer, 3 in series.")).toBeVisible();
  await page.goto("/");
  await page.getByRole("link", { name: "Heath Four" }).first().click();
  await page.getByRole("button", { name: "Pack charge" }).first().click();
  await page.getByRole("button", { name: "Prepare a pack charge" }).click();
  await page.getByRole("radio", { name: /Owl box.*3 in series/ }).check();
});
