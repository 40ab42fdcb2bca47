import type { Page } from "@playwright/test";
import { assumeMeters, boardOf, chooseFrom, expect, noSeriousAxe, startEmpty, test, verdictOf } from "./helpers";

async function claim(
  page: Page,
  wording: string,
  characteristic: string,
  limit: string,
  action?: string,
): Promise<void> {
  await page.getByRole("button", { name: "Add claim", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Wording").fill(wording);
  await chooseFrom(dialog.getByLabel("Characteristic"), characteristic);
  await dialog.getByLabel(/^Limit/).fill(limit);
  if (action) await dialog.getByLabel("At action").fill(action);
  await dialog.getByRole("button", { name: "Save claim" }).click();
  await expect(dialog).toHaveCount(0);
}

const found = (page: Page, name: string | RegExp) =>
  page.getByRole("row").filter({ has: page.getByRole("rowheader", { name }) });

test("behaviour: what was printed is judged from a checklist answered by single keys, on the simulated bench", async ({
  page,
}) => {
  await startEmpty(page);
  await boardOf(page, "Heron 51", ["charges a cell", "boosts to an output"], {});
  await claim(page, "RED = charging", "behaviour.response", "red", "lights while charging");
  await claim(page, "all USB-C cables", "behaviour.response", "yes", "charges from a C-to-C cable");
  await page.getByRole("button", { name: "Prepare a behaviour checklist" }).click();
  await expect(page.getByText(/2 of them have a claim/)).toBeVisible();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), {
    label: "No pull-downs, a gauge that stays, full without a cell",
  });
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the checklist" }).click();
  await expect(page.getByTestId("act")).toContainText("Look for + and −");
  // The first by hand with a key for its word, the second as the bench shows it.
  await page.keyboard.press("1");
  await expect(page.getByTestId("answered")).toHaveText(/^1 of/);
  await page.keyboard.press("d");
  await expect(page.getByText(/^Seen:/)).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("answered")).toHaveText(/^2 of/);
  await page.keyboard.press("z");
  await expect(page.getByTestId("answered")).toHaveText(/^1 of/);
  // An own word, and one skipped.
  await page.getByLabel("Something else").fill("closed, with a blob");
  await page.getByLabel("Something else").press("Enter");
  await expect(page.getByTestId("answered")).toHaveText(/^2 of/);
  await page.locator("h1").click();
  await page.keyboard.press("p");
  await noSeriousAxe(page);
  // A checklist that was left comes back where it was.
  await page.reload();
  await expect(page.getByTestId("answered")).toHaveText(/^2 of/);
  // A gauge that was read a little beside the volts asked for answers that look all the same.
  await page.getByRole("button", { name: /^gauge falling at 3\.70/ }).click();
  await page.getByLabel("Battery voltage").fill("3.67");
  await page.getByRole("button", { name: /^2\b/ }).click();
  await expect(page.getByRole("button", { name: /^gauge falling at 3\.70/ })).toContainText("2");
  await page.getByRole("button", { name: "Undo last answer" }).click();
  await expect(page.getByRole("button", { name: /^gauge falling at 3\.70/ })).toContainText("open");
  await page.getByRole("button", { name: "Simulate remaining items" }).click();
  await page.getByRole("button", { name: "Finish and open result" }).click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  await expect(found(page, "Response, gauge falling")).toContainText("stays");
  await expect(found(page, "by-pass jumper").first()).toContainText("closed, with a blob");
  await expect(page.getByText(/two 5\.1 kΩ pull-downs are missing/)).toBeVisible();
  await expect(page.getByText(/a cell that lost contact looks charged/)).toBeVisible();
  await noSeriousAxe(page);
  await page.getByRole("link", { name: /^Board/ }).click();
  await expect(verdictOf(page, "RED = charging")).toContainText("meets");
  await expect(verdictOf(page, "all USB-C cables")).toContainText("misses");
});

async function prepareReversal(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Prepare a reversal test" }).click();
  await expect(page.getByText(/Not measured on this sample yet: .*load sweep/)).toBeVisible();
}
async function start(page: Page): Promise<void> {
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start run" }).click();
  await expect(page.getByTestId("proposal")).toBeVisible();
}

for (const [on, word, verdict] of [
  ["Boost with an early current limit", "no", "misses"],
  ["Synchronous boost, honest ratings", "yes", "meets"],
] as const)
  test(`reversal on the simulated bench, confirmed each time: survives ${word}`, async ({ page }) => {
    await startEmpty(page);
    await boardOf(page, "Heron 52", ["charges a cell", "boosts to an output"], { "No-load voltage": "5 V ±5 %" });
    await claim(page, "reverse polarity protected", "reverse.survived", "yes");
    await prepareReversal(page);
    await page.getByLabel("Times it is reversed").fill("2");
    await page.getByLabel("The simulated bench").check();
    await chooseFrom(page.getByLabel("with this invented module"), { label: on });
    await start(page);
    await chooseFrom(page.getByLabel("Bench clock"), "60");
    for (let k = 1; k <= 6; k++) {
      if (k === 3 || k === 4) {
        // Neither the key nor the button takes a point before it is confirmed, and the second time it is asked again.
        await expect(page.getByRole("group", { name: "Confirm" })).toBeVisible();
        await expect(page.getByRole("button", { name: "Record point" })).toBeDisabled();
        await expect(page.getByRole("button", { name: "Do it now" })).toBeDisabled();
        await page.getByRole("group", { name: "Confirm" }).getByRole("checkbox").check();
        await page.getByRole("button", { name: "Do it now" }).click();
        await expect(page.getByText(/leads swapped, through 33/)).toBeVisible();
      } else await expect(page.getByRole("group", { name: "Confirm" })).toHaveCount(0);
      await page.waitForTimeout(700);
      await page.keyboard.press("t");
      await expect(page.getByText(new RegExp(`^${k} of about 6 points`))).toBeVisible();
    }
    await page.getByRole("button", { name: "Finish and open result" }).click();
    await expect(found(page, "Survives reversal")).toContainText(word);
    await page.getByRole("link", { name: /^Board/ }).click();
    await expect(verdictOf(page, "reverse polarity protected")).toContainText(verdict);
  });

test("reversal typed by hand: a burning resistor is refused, the readings are typed with their sign, and the board lives", async ({
  page,
}) => {
  await startEmpty(page);
  await assumeMeters(page);
  await boardOf(page, "Heron 53", ["boosts to an output"], { "No-load voltage": "5 V ±5 %" });
  await prepareReversal(page);
  await page.getByLabel("Its rating").fill("0.25");
  await expect(page.locator('[data-remark="refused"]')).toContainText("it burns out");
  await expect(page.getByRole("button", { name: "Start run" })).toBeDisabled();
  await page.getByLabel("Its rating").fill("1");
  await page.getByLabel("I type readings from my own meters").check();
  await start(page);
  const type = async (values: readonly [string, string, string, string]) => {
    for (const [k, label] of ["Battery voltage", "Battery current", "Output voltage", "Output current"].entries())
      await page.getByLabel(label, { exact: true }).fill(values[k] as string);
    await page.keyboard.press("t");
  };
  await type(["3.6", "1m", "5.08", "0"]);
  await expect(page.getByTestId("proposal")).toContainText("Load it with");
  await type(["3.6", "0.52", "5.06", "0.33"]);
  await page.getByRole("group", { name: "Confirm" }).getByRole("checkbox").check();
  await page.getByRole("button", { name: "Do it now" }).click();
  await type(["-0.71", "-88m", "0", "0"]);
  await expect(page.getByTestId("proposal")).toContainText("does it live?");
  await type(["3.6", "1m", "5.081", "0"]);
  await type(["3.6", "0.521", "5.06", "0.33"]);
  await page.getByRole("button", { name: "Finish and open result" }).click();
  await expect(found(page, "Reversed-cell current")).toContainText(/88\s*(\.\d+)?\s*±.*mA/);
  await expect(found(page, "Survives reversal")).toContainText("yes");
  await expect(page.getByText(/It conducts: 88\.0\smA flowed through 33\sΩ/)).toBeVisible();
});
