import type { Page } from "@playwright/test";
import {
  assumeMeters,
  chooseFrom,
  expect,
  finishEarly,
  finishLog,
  noSeriousAxe,
  startDemo,
  startEmpty,
  test,
  verdictOf,
} from "./helpers";

/** A board that protects and boosts, with claims, by clicks. */
async function board(page: Page, name: string, claims: Readonly<Record<string, string>>): Promise<void> {
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByLabel("boosts to an output").check();
  await page.getByLabel("protects the cell").check();
  await page.getByRole("button", { name: "Save board" }).click();
  for (const [label, text] of Object.entries(claims)) {
    await page.getByLabel(`Claimed ${label.toLowerCase()}`).fill(text);
    await page.getByRole("button", { name: `Save claim on ${label}` }).click();
    await expect(page.getByRole("row").filter({ hasText: label })).toBeVisible();
  }
}

/** From the sheet to the log on the simulated bench: dangers ticked first, or it does not start. */
async function start(
  page: Page,
  act: string,
  module: string,
  fields: Readonly<Record<string, string>> = {},
): Promise<void> {
  await page.getByRole("button", { name: act }).click();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), { label: module });
  for (const [label, text] of Object.entries(fields)) await page.getByLabel(label, { exact: true }).fill(text);
  await expect(page.getByRole("button", { name: "Start the log" })).toBeDisabled();
  await expect(page.getByText(/Tick \d dangers? above/)).toBeVisible();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("task")).not.toHaveText("…");
}

/** The rest of the log in a hurry, and its result. */
async function toTheEnd(page: Page): Promise<void> {
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await finishLog(page, 40_000);
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
}

const found = (page: Page, name: string) =>
  page.getByRole("row").filter({ has: page.getByRole("rowheader", { name, exact: true }) });
const back = (page: Page) => page.getByRole("link", { name: /^Board/ }).click();

const SOUND = "Sound in every part";
const BARE = "Nothing disconnects its battery, and nothing limits a short";

test("threshold ramp: a sound module meets its cut, one that only collapses misses it", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await board(page, "Heron 21", {
    "No-load voltage": "5 V ±3 %",
    "Over-discharge cut": "2.9 V ±0.1 V",
    "Over-discharge protection": "yes",
  });
  await expect(page.getByTestId("what-next")).toContainText("Next: Load sweep");
  await start(page, "Prepare a threshold ramp", SOUND);
  await noSeriousAxe(page);
  await chooseFrom(page.getByLabel("Bench clock"), "10");
  await expect(page.getByTestId("phase")).toHaveText("slow ramp", { timeout: 20_000 });
  await expect(page.getByTestId("task")).toContainText("Lower the supply slowly");
  await toTheEnd(page);
  await expect(found(page, "Over-discharge protection")).toContainText("yes");
  await expect(found(page, "Over-discharge cut")).toContainText(/2\.(8[89]|9[01])\d* ± 0\.0\d+\sV/);
  await expect(page.getByText("It restarts on its own with the load still on.")).toBeVisible();
  await expect(page.getByText(/With a detection delay of up to 0\.3\ss a ramp of [34]\.\d/)).toBeVisible();
  await noSeriousAxe(page);
  await back(page);
  await expect(verdictOf(page, "2.9 V ±0.1 V")).toContainText("meets");
  await expect(page.locator('[data-step="threshold-ramp"]')).toHaveAttribute("data-state", "done");
  await expect(page.locator('[data-step="threshold-ramp"]')).toContainText("Over-discharge protection: yes");

  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await board(page, "Heron 22", { "No-load voltage": "5 V ±5 %", "Over-discharge protection": "yes" });
  await start(page, "Prepare a threshold ramp", BARE, { "Load on the output": "0.3" });
  await toTheEnd(page);
  await expect(found(page, "Over-discharge protection")).toContainText("no");
  await expect(found(page, "Over-discharge cut")).toHaveCount(0);
  await expect(
    page.getByText(/the battery was never disconnected, and .* still flowed: a forgotten cell is ruined/),
  ).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Over-discharge protection").first()).toContainText("misses");
});

test("a cut bypassed by joined grounds is not fairly tested, and the source without a preload is refused", async ({
  page,
}) => {
  test.setTimeout(90_000);
  await startEmpty(page);
  await board(page, "Heron 23", {
    "No-load voltage": "5 V ±5 %",
    "Over-discharge protection": "yes",
    "Over-charge cut": "4.28 V ±50 mV",
  });
  await page.getByRole("button", { name: "Prepare a threshold ramp" }).click();
  await page
    .getByRole("radiogroup", { name: /join battery minus/ })
    .getByLabel("yes")
    .check();
  await expect(
    page.locator('[data-remark="care"]').filter({ hasText: "battery minus and output minus bypasses" }),
  ).toBeVisible();
  await page.getByRole("link", { name: "Back to board" }).click();
  await page.getByRole("link", { name: "Resume preparation" }).click();
  await page
    .getByRole("radiogroup", { name: /join battery minus/ })
    .getByLabel("yes")
    .check();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), {
    label: "Protection in the minus wire: joined grounds bypass it",
  });
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await toTheEnd(page);
  await back(page);
  await expect(verdictOf(page, "Over-discharge protection").first()).toContainText("not fairly tested");

  await page.getByRole("button", { name: "Prepare a threshold ramp" }).click();
  await page.getByLabel(/over-charge: cell voltage up/).check();
  await expect(page.getByLabel("Cut expected at")).toHaveValue("4.28");
  await page.getByLabel("Preload on the source").fill("0.2");
  await expect(page.locator('[data-remark="refused"]')).toContainText("can't take 400 mA in: preload it");
  await expect(page.getByRole("button", { name: "Start the log" })).toBeDisabled();
  await page.getByLabel("Preload on the source").fill("0.5");
  await page.getByLabel("The simulated bench").check();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await toTheEnd(page);
  await expect(found(page, "Over-charge release")).toContainText(/4\.(0[6-9]|1[0-2])\d* ±/);
  await back(page);
  await expect(verdictOf(page, "4.28 V ±50 mV")).toContainText("meets");
});

test("standby: a sound module meets its claim as a mean over its pulses, a thirsty one misses it", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await board(page, "Heron 24", { "No-load voltage": "5 V ±5 %", "Standby current": "≤ 200 µA" });
  const measure = async (module: string) => {
    await page.getByRole("button", { name: "Prepare a standby" }).click();
    const states = page.getByRole("group", { name: "Idle states to measure" });
    await states.getByLabel("output on, no load").uncheck();
    await expect(page.locator('[data-remark="refused"]')).toContainText("Choose at least one idle state");
    await states.getByLabel("output switched off by its button").check();
    await page.getByLabel("Measured in each state for").fill("120");
    await page.getByLabel("The simulated bench").check();
    await chooseFrom(page.getByLabel("with this invented module"), { label: module });
    for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
    await page.getByRole("button", { name: "Start the log" }).click();
    await expect(page.locator('[data-readout="Battery current"]')).toContainText("µA");
    await toTheEnd(page);
  };
  await measure(SOUND);
  await expect(
    page.getByText(/it wakes every 10\.0\ss up to .*a snapshot between shows \d+\sµA, the mean is 1[12]\d\sµA/),
  ).toBeVisible();
  await expect(
    page.getByText(/\d+ d with the cell's own discharge of \d+\sµA, (\d+ d|\d\.\d years) without/),
  ).toBeVisible();
  await noSeriousAxe(page);
  await back(page);
  await expect(verdictOf(page, "Standby current").first()).toContainText("meets");
  await measure(BARE);
  await back(page);
  await expect(verdictOf(page, "Standby current").first()).toContainText("misses");
});

test("light load: the switch-off meets its claim on a module that has one; the bleed resistor and its cost are said", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51" }).click();
  await start(page, "Prepare a light load", SOUND);
  await toTheEnd(page);
  await back(page);
  await expect(verdictOf(page, "Light load detection 38 mA")).toContainText("meets");
  await page.getByRole("button", { name: "Prepare a light load" }).click();
  await expect(page.getByText(/If it never switches off it takes/)).toBeVisible();
  await page.getByRole("link", { name: "Back to board" }).click();
  await page.getByRole("link", { name: "Resume preparation" }).click();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), {
    label: "Cuts low, wakes often, and switches off at light load",
  });
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await toTheEnd(page);
  await expect(found(page, "Auto-off load")).toContainText(/(58|59|60|61|62|63)\.?\d* ±/);
  await expect(
    page.getByText(/A bleed resistor of .* across the output keeps it on: .* From the battery that is about .* lasts/),
  ).toBeVisible();
  await back(page);
  // This module switches off at a third more than is claimed; but it is a simulated one, and a run with real readings states the quantity.
  await expect(page.getByRole("region", { name: "Light load" }).getByText("simulated", { exact: true })).toHaveCount(2);
  await expect(verdictOf(page, "Light load detection 38 mA")).toContainText("meets");
});

test("overload: sound meets, unprotected misses, and a supply below the trip makes it not fairly tested, said before the short", async ({
  page,
}) => {
  test.setTimeout(150_000);
  await startEmpty(page);
  await board(page, "Heron 25", { "No-load voltage": "5 V ±5 %", "Short-circuit protection": "yes" });
  await start(page, "Prepare an overload and short", SOUND, { "Supply current limit": "4", "Load begins at": "1.2" });
  await chooseFrom(page.getByLabel("Bench clock"), "10");
  await expect(page.getByLabel("Events").getByText("short 1", { exact: true })).toBeVisible({ timeout: 40_000 });
  await toTheEnd(page);
  await expect(found(page, "Short-circuit protection")).toContainText("yes");
  await expect(found(page, "Recovery after a short")).toContainText("automatic");
  await expect(page.getByText(/3 of 3 shorts survived/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Short-circuit protection").first()).toContainText("meets");
  await start(page, "Prepare an overload and short", BARE, { "Supply current limit": "3", "Load begins at": "0.6" });
  await toTheEnd(page);
  await expect(page.getByText(/the supply's own limit: the module limits nothing below it/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Short-circuit protection").first()).toContainText("misses");

  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await board(page, "Heron 26", {
    "No-load voltage": "5 V ±5 %",
    "Over-current": "2.5 A ±10 %",
    "Short-circuit protection": "yes",
  });
  await page.getByRole("button", { name: "Prepare an overload and short" }).click();
  await page.getByLabel("Supply current limit", { exact: true }).fill("1.5");
  await expect(
    page.locator('[data-remark="care"]').filter({ hasText: "Not a fair test of the claimed trip" }),
  ).toBeVisible();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), { label: BARE });
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await toTheEnd(page);
  await back(page);
  await expect(verdictOf(page, "Short-circuit protection").first()).toContainText("not fairly tested");
  await expect(verdictOf(page, "2.5 A ±10 %")).toContainText("not fairly tested");
  await start(page, "Prepare an overload and short", "Doesn't survive a short", { "Supply current limit": "1.5" });
  await toTheEnd(page);
  await expect(page.getByText(/the module did not survive/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Short-circuit protection").first()).toContainText("misses");
});

test("a ramp is set by hand and typed: each step is said, and the readings around the cut bound it", async ({
  page,
}) => {
  test.setTimeout(90_000);
  await startEmpty(page);
  await assumeMeters(page);
  await board(page, "Heron 27", { "No-load voltage": "5 V ±5 %", "Over-discharge protection": "yes" });
  await page.getByRole("button", { name: "Prepare a threshold ramp" }).click();
  await page.getByLabel("I type readings from my own meters").check();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("task")).toContainText("type a first reading");
  const type = async (volts: string, amps: string, output: string) => {
    const row = page.getByRole("group", { name: "Type a reading" });
    await row.getByLabel("Battery voltage").fill(volts);
    await page.keyboard.press("Enter");
    await page.keyboard.type(amps);
    await page.keyboard.press("Enter");
    await page.keyboard.type(output);
    await page.keyboard.press("Enter");
    await expect(row.getByText("Saved.")).toBeVisible();
    await expect(row.getByLabel("Battery voltage")).toHaveValue("");
  };
  await type("3.3", "0.27", "5.05");
  await expect(page.getByTestId("task")).toContainText("Set the supply to 3.3");
  for (const k of [1, 2]) await type(`3.30${k}`, "0.27", "5.05");
  await page.waitForTimeout(5200);
  await type("3.3", "0.27", "5.05");
  await expect(page.getByTestId("task")).toContainText(/Lower the supply to 3\.02/);
  for (const v of ["3.02", "2.95", "2.91"]) await type(v, "0.29", "5.05");
  await expect(page.getByTestId("task")).toContainText("Lower the supply slowly");
  for (const v of ["2.89", "2.89", "2.89"]) await type(v, "2u", "0");
  await expect(page.getByTestId("phase")).toHaveText("cut off");
  await finishEarly(page);
  await expect(found(page, "Over-discharge cut")).toContainText(/2\.(89|90)\d? ± /);
  await expect(found(page, "Over-discharge protection")).toContainText("yes");
});

test("a ramp comes from a CSV log with its dialect, and is judged like any other", async ({ page }) => {
  await startEmpty(page);
  await assumeMeters(page);
  await board(page, "Heron 28", { "No-load voltage": "5 V ±5 %", "Over-discharge cut": "2.6 V ±0.1 V" });
  const rows = Array.from({ length: 500 }, (_, k) => {
    const v = 3.4 - 0.002 * k;
    const on = v > 2.8;
    return `${k};${v.toFixed(3).replace(".", ",")};${(on ? 270 + (3.4 - v) * 40 : 0.02).toFixed(2).replace(".", ",")};${on ? "5,04" : "0,00"}`;
  });
  await page.getByRole("link", { name: "Import log of a threshold ramp" }).click();
  await page.getByLabel("CSV to import").setInputFiles({
    name: "ramp.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(["t (s);Vbat (V);Ibat (mA);Vout (V)", ...rows, ""].join("\n")),
  });
  await page.getByRole("button", { name: /^Import/ }).click();
  await expect(found(page, "Over-discharge cut")).toContainText(/2\.(79|80)\d? ±/);
  await back(page);
  await expect(verdictOf(page, "2.6 V ±0.1 V")).toContainText("misses");
});

test("an overload from a CSV log is marked on its result, and the findings follow", async ({ page }) => {
  await startEmpty(page);
  await board(page, "Heron 29", { "No-load voltage": "5 V ±5 %", "Short-circuit protection": "yes" });
  const stretch = (seconds: number, load: number, output: number, battery: number) =>
    Array.from({ length: 10 * seconds }, () => [load, output, battery]);
  const rows = [
    ...stretch(4, 0.8, 5, 1.2),
    ...stretch(4, 1, 5, 1.5),
    ...stretch(4, 1.2, 5, 1.8),
    ...stretch(3, 0, 0, 0.001),
    ...stretch(3, 0.2, 5, 0.3),
    ...stretch(5, 0.1, 0.04, 0.62),
    ...stretch(4, 0.2, 5, 0.3),
  ];
  await page.getByRole("link", { name: "Import log of an overload and short" }).click();
  await page.getByLabel("CSV to import").setInputFiles({
    name: "overload.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      ["Time (s),Iload (A),Vout (V),Ibat (A)", ...rows.map((r, k) => [(k / 10).toFixed(1), ...r].join(",")), ""].join(
        "\n",
      ),
    ),
  });
  await page.getByLabel("Supply current limit").fill("4");
  await page.getByRole("button", { name: /^Import/ }).click();
  await expect(page.getByText("No short is marked in this log.")).toBeVisible();
  await expect(found(page, "Short-circuit protection")).toHaveCount(0);
  const mark = async (what: string, at: string) => {
    await page.getByRole("button", { name: "Add mark" }).click();
    await chooseFrom(page.getByRole("dialog").getByLabel("What was done"), { label: what });
    await page.getByRole("dialog").getByRole("textbox", { name: "At" }).fill(at);
    await page.getByRole("button", { name: "Save mark" }).click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
  };
  await mark("short", "18");
  await mark("short removed", "23");
  await expect(found(page, "Short-circuit protection")).toContainText("yes");
  await expect(found(page, "Recovery after a short")).toContainText("automatic");
  await noSeriousAxe(page);
  await page.getByRole("button", { name: /Delete short at/ }).click();
  await expect(found(page, "Short-circuit protection")).toHaveCount(0);
});
