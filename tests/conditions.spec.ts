import type { Page } from "@playwright/test";
import { assumeMeters, boardOf, chooseFrom, expect, finishLog, startEmpty, test, verdictOf } from "./helpers";

/*
 * Each kind of condition that a claim may name, once the whole way: said in the claim's dialog, prepared from its verdict, taken on the
 * simulated bench (a table of cells from its file), judged.
 */

interface Wanted {
  readonly wording: string;
  readonly characteristic: string;
  readonly limit: string;
  /** The dialog's label → what is typed. */
  readonly at: Readonly<Record<string, string>>;
}

async function claim(page: Page, { wording, characteristic, limit, at }: Wanted): Promise<void> {
  await page.getByRole("button", { name: "Add claim", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Wording").fill(wording);
  await chooseFrom(dialog.getByLabel("Characteristic"), characteristic);
  await dialog.getByLabel(/^Limit/).fill(limit);
  for (const [label, text] of Object.entries(at)) await dialog.getByLabel(label, { exact: true }).fill(text);
  await dialog.getByRole("button", { name: "Save claim" }).click();
  await expect(dialog).toHaveCount(0);
}

/** From the claim that nothing has measured to the page that prepares its run, on the simulated bench. */
async function prepare(page: Page, wording: string, module?: string): Promise<void> {
  await expect(verdictOf(page, wording).first()).toContainText("not measured");
  await verdictOf(page, wording).first().getByRole("link", { name: /why/ }).click();
  await page.getByRole("button", { name: "Prepare run" }).click();
  await page.getByLabel("The simulated bench").check();
  if (module) await chooseFrom(page.getByLabel(/with this invented/), { label: module });
}
async function dangers(page: Page): Promise<void> {
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
}
/** The log in a hurry, to its result. */
async function logged(page: Page, meanwhile: () => Promise<void> = () => Promise.resolve()): Promise<void> {
  await dangers(page);
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByLabel("Bench clock")).toBeEnabled();
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await meanwhile();
  await finishLog(page);
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
}
async function meets(page: Page, wording: string): Promise<void> {
  await page.getByRole("link", { name: /^Board/ }).click();
  await expect(verdictOf(page, wording).first()).toContainText("meets");
  await expect(verdictOf(page, wording).first()).toContainText("simulated");
}
const SOUND = "Sound in every part";

test("battery, load, ambient: a soak prepared for all three meets its claim", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Avocet 1", ["boosts to an output"], { "No-load voltage": "5 V ±5 %" });
  const wording = "under 90 °C at 3.4 V, 220 mA, 30 °C";
  await claim(page, {
    wording,
    characteristic: "heat.steady-temperature",
    limit: "≤ 90",
    at: { "At battery voltage (V)": "3.4", "At load (A)": "220m", "At ambient temperature (°C)": "30" },
  });
  await prepare(page, wording, SOUND);
  await expect(page.getByLabel("Load on the output")).toHaveValue(/0\.22|220m/);
  await logged(page);
  await meets(page, wording);
});

test("output and configuration: the sample's own are pinned to the sweep that its claim asked for", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Avocet 2", ["boosts to an output"], {});
  await page.getByRole("button", { name: "Edit sample A" }).click();
  await page.getByRole("dialog").getByLabel("Configuration: jumpers").fill("J1 open");
  await page.getByRole("dialog").getByLabel("Adjustable output set to").fill("5 V");
  await page.getByRole("dialog").getByRole("button", { name: "Save", exact: true }).click();
  const wording = "5 V with J1 open";
  await claim(page, {
    wording,
    characteristic: "boost.no-load-voltage",
    limit: "5 V ±5 %",
    at: { "At output set to (V)": "5", "At configuration": "j1 open", "At battery voltage (V)": "3.4" },
  });
  await prepare(page, wording);
  await expect(page.getByLabel("Battery voltages, fullest first")).toHaveValue(/3\.4/);
  await page.getByLabel("Battery voltages, fullest first").fill("3.4");
  await page.getByLabel("Load currents, from none to past the claim").fill("0 0.2");
  await page.getByLabel("Dwell before a point counts").fill("1");
  await dangers(page);
  await page.getByRole("button", { name: "Start run" }).click();
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await page.locator("h1").click();
  await page.keyboard.press("h");
  await expect(page.locator("tr[data-point]").nth(1)).toBeVisible({ timeout: 30_000 });
  await page.getByRole("link", { name: "Result so far" }).click();
  await page.getByRole("button", { name: "Finish" }).first().click();
  await meets(page, wording);
});

test("state: the idle state that the claim names is measured", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Avocet 3", ["boosts to an output"], { "No-load voltage": "5 V ±5 %" });
  const wording = "no more than 1 mA, on, without load";
  await claim(page, { wording, characteristic: "standby.current", limit: "≤ 5m", at: { "At state": "no-load" } });
  await prepare(page, wording, SOUND);
  await expect(
    page.getByRole("group", { name: "Idle states to measure" }).getByLabel("output on, no load"),
  ).toBeChecked();
  await logged(page);
  await meets(page, wording);
});

test("event and input voltage: the handover that the claim names, at its input", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Avocet 4", ["charges a cell", "boosts to an output"], { "No-load voltage": "5 V ±5 %" });
  const wording = "output stays when unplugged";
  await claim(page, {
    wording,
    characteristic: "path.dip",
    limit: "≤ 6",
    at: { "At event": "unplugged", "At input voltage (V)": "4.5–5.3" },
  });
  await prepare(page, wording);
  await logged(page);
  await meets(page, wording);
});

test("channel: the light that the claim names is marked in the charge that is prepared for it", async ({ page }) => {
  test.setTimeout(150_000);
  await startEmpty(page);
  await boardOf(page, "Avocet 5", ["charges a cell"], { "Charge current": "1 A ±20 %" });
  const wording = "channel 2 done at full";
  await claim(page, {
    wording,
    characteristic: "channels.done-voltage",
    limit: "3.0–4.5",
    at: { "At channel": "2", "At input voltage (V)": "4.5–5.3" },
  });
  await prepare(page, wording);
  await page.getByRole("button", { name: "Add cell" }).click();
  await page.getByLabel("Name on the label").fill("Reed 2200");
  await page.getByRole("textbox", { name: "Rated capacity" }).fill("2.2");
  await page.getByRole("button", { name: "Save cell" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.getByLabel("Cell voltage now, rested and not connected").fill("3.7");
  await logged(page, async () => {
    await page.getByTestId("phase").filter({ hasText: "constant voltage" }).waitFor({ timeout: 40_000 });
    await page.locator("h1").click();
    await page.keyboard.press("1");
    await page.keyboard.press("2");
  });
  await meets(page, wording);
});

test("action: what was printed of a press is judged by the checklist that is prepared for it", async ({ page }) => {
  await startEmpty(page);
  await boardOf(page, "Avocet 6", ["boosts to an output"], {});
  await claim(page, {
    wording: "press for light",
    characteristic: "behaviour.response",
    limit: "output on, output off, nothing, gauge shows, torch on, torch off",
    at: { "At action": "short press" },
  });
  await prepare(page, "press for light");
  await dangers(page);
  await page.getByRole("button", { name: "Start the checklist" }).click();
  await page.getByRole("button", { name: "Simulate remaining items" }).click();
  await page.getByRole("button", { name: "Finish and open result" }).click();
  await meets(page, "press for light");
});

test("cell: readings of rested cells come from their table, and the claim's cell is judged", async ({ page }) => {
  await startEmpty(page);
  await assumeMeters(page);
  await boardOf(page, "Avocet 7", ["charges a cell"], {});
  const wording = "the first cell keeps its charge";
  await claim(page, { wording, characteristic: "cell.rest-drop-rate", limit: "≤ 0.5", at: { "At cell": "1" } });
  await verdictOf(page, wording).first().getByRole("link", { name: /why/ }).click();
  await expect(page.getByTestId("fair-run")).toContainText("Import its file");
  await page.goBack();
  await page
    .getByRole("link", { name: "Import CSV of rest check" })
    .or(page.locator('a[href$="of=rest-check"]'))
    .first()
    .click();
  const rows = [
    "Time (d),Cell number,Cell voltage (V)",
    ...[0, 2, 5, 9].flatMap((day) => [
      `${day},1,${(4.19 - 0.002 * day).toFixed(3)}`,
      `${day},2,${(4.18 - 0.02 * day).toFixed(3)}`,
    ]),
  ];
  await page
    .getByLabel("CSV to import")
    .setInputFiles({ name: "cells.csv", mimeType: "text/csv", buffer: Buffer.from(`${rows.join("\n")}\n`) });
  await page.getByRole("button", { name: /^Import \d+ rows/ }).click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  await page.getByRole("link", { name: /^Board/ }).click();
  await expect(verdictOf(page, wording).first()).toContainText("meets");
});
