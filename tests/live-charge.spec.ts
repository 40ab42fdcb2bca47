import type { Page } from "@playwright/test";
import { chooseFrom, expect, finishLog, noSeriousAxe, startEmpty, test, verdictOf } from "./helpers";

async function chargerBoard(page: Page, name: string, claims: Readonly<Record<string, string>> = {}): Promise<void> {
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByLabel("charges a cell").check();
  await page.getByRole("button", { name: "Save board" }).click();
  for (const [label, text] of Object.entries(claims)) {
    await page.getByLabel(`Claimed ${label.toLowerCase()}`).fill(text);
    await page.getByRole("button", { name: `Save claim on ${label}` }).click();
    await expect(page.getByRole("row").filter({ hasText: text })).toBeVisible();
  }
}

async function writeCell(page: Page, name: string, capacity: string): Promise<void> {
  await page.getByRole("button", { name: "Add cell" }).click();
  await page.getByLabel("Name on the label").fill(name);
  await page.getByRole("textbox", { name: "Rated capacity" }).fill(capacity);
  await page.getByRole("button", { name: "Save cell" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
}

async function prepare(page: Page, cell: readonly [name: string, capacity: string, volts: string]): Promise<void> {
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  await writeCell(page, cell[0], cell[1]);
  await page.getByLabel("Cell voltage now, rested and not connected").fill(cell[2]);
}

async function simulate(page: Page, charger: string, every = "1"): Promise<void> {
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented charger on it"), { label: charger });
  await page.getByLabel("One sample every").fill(every);
}

async function start(page: Page): Promise<void> {
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("phase")).not.toHaveText("opening …");
}

const readout = (page: Page, name: string) => page.locator(`[data-readout="${name}"]`);

test("a charge is planned, refused where it would be a danger, logged live to the end, finished and judged", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await chargerBoard(page, "Heron 1", { "Charge current": "1 A ±5 %", "Full voltage": "4.2 V ±0.9 %" });
  await prepare(page, ["Reed 300", "0.3", "3.5"]);
  await expect(page.locator('[data-remark="refused"]')).toContainText(
    "1.00 A into 300 mAh is 3.3 C; the cell allows 1 C",
  );
  await expect(page.locator('[data-remark="refused"]')).toContainText("set the charger to 150 mA or less");
  await page.getByText("Another current: programming resistor").click();
  await page.getByLabel("K from the data sheet").fill("870");
  await expect(page.getByRole("row").filter({ hasText: "5.60 kΩ" })).toContainText("155 mA");
  await writeCell(page, "Reed 2200", "2.2");
  await page.getByLabel("Cell voltage now, rested and not connected").fill("1.2");
  await expect(page.locator('[data-remark="refused"]')).toContainText("under the floor of 2 V: reject it");
  await expect(page.getByRole("button", { name: "Start the log" })).toBeDisabled();
  await page.getByLabel("Cell voltage now, rested and not connected").fill("3.3");
  await expect(page.locator('[data-remark="refused"]')).toHaveCount(0);
  await expect(page.getByText("total, about")).toBeVisible();
  await simulate(page, "Linear charger, 1 A, honest ratings", "5");
  await noSeriousAxe(page);
  await start(page);

  await chooseFrom(page.getByLabel("Bench clock"), "600");
  await expect(page.getByTestId("phase")).toHaveText("constant current", { timeout: 20_000 });
  await expect(readout(page, "Cell current")).toContainText(/(0\.99|1\.0)\d/);
  await expect(page.getByTestId("remaining")).toContainText("h");
  await page.locator("h1").click();
  await page.keyboard.press("l");
  await expect(page.getByLabel("Events").getByText("indicator changes")).toBeVisible();
  await noSeriousAxe(page);
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await expect(page.getByTestId("phase")).toHaveText("rest", { timeout: 40_000 });
  await expect(
    page.getByLabel("Events").getByText(/Done after [12]\sh \d\d\smin: [12]\.\d\d\sAh delivered/),
  ).toBeVisible();
  await expect(page).toHaveTitle(/^rest/);
  await finishLog(page);

  await page.locator('[data-chart="current"] [data-curve]').waitFor();
  await expect(page.locator('[data-chart="current"]')).toContainText(/constant voltage|CV/);
  await expect(page.locator('[data-chart="current"]')).toContainText("indicator changes");
  await page.getByRole("link", { name: "Board Heron 1" }).click();
  await expect(verdictOf(page, "1 A ±5 %")).toContainText("meets");
});

test("what goes wrong calls out: a thin cable, a hot part, a rule that stops", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await chargerBoard(page, "Heron 2", { "Charge current": "1 A ±5 %" });
  await prepare(page, ["Reed 2", "2.2", "3.4"]);
  await simulate(page, "The honest charger on a thin cable", "2");
  await start(page);
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await expect(
    page.getByLabel("Events").getByText(/below the 4\.5\sV that the charger is claimed to work from/),
  ).toBeVisible({ timeout: 20_000 });
  await page.getByRole("link", { name: "Heron 2" }).click();

  // The first charge goes on, so its cell is not to be had.
  await prepare(page, ["Reed 3", "2.2", "3.4"]);
  await expect(page.getByRole("radio", { name: /Reed 2/ })).toHaveCount(0);
  await expect(page.getByText("1 more is on a charger or in a pack.")).toBeVisible();
  await page.getByLabel("Part temperature limit").fill("80");
  await simulate(page, "Linear charger that cuts back when hot", "5");
  await start(page);
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await expect(page.getByRole("alert").filter({ hasText: "Stop. The part is above 80 °C." })).toContainText(
    "Unplug the input first",
    { timeout: 20_000 },
  );
  await expect(page).toHaveTitle(/^STOP: The part/);
  await chooseFrom(page.getByLabel("Bench clock"), "1");
  // The part is still hot, so its next reading, which comes within seconds, stops the log again.
  const gone = page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const look = new MutationObserver(() => {
          if ([...document.querySelectorAll("[role=alert]")].some((a) => a.textContent?.includes("Stop."))) return;
          look.disconnect();
          resolve();
        });
        look.observe(document.body, { childList: true, subtree: true });
      }),
  );
  await page.getByRole("button", { name: "Clear stop" }).click();
  await gone;
  await expect(page.getByRole("alert").filter({ hasText: "Stop. The part is above 80 °C." })).toBeVisible();
});

test("readings typed now and then make a log; a wrong one is refused and nothing is lost by a reload", async ({
  page,
}) => {
  await startEmpty(page);
  await chargerBoard(page, "Heron 3");
  await prepare(page, ["Reed 3", "1", "3.6"]);
  await page.getByLabel("Charge current set").fill("0.5");
  await page.getByLabel("I type readings from my own meters").check();
  await start(page);
  const type = async (values: readonly string[]) => {
    await page
      .getByRole("group", { name: "Type a reading" })
      .getByLabel("Cell voltage")
      .fill(values[0] as string);
    await page.keyboard.press("Enter");
    for (const v of values.slice(1)) {
      await page.keyboard.type(v);
      await page.keyboard.press("Enter");
    }
  };
  await type(["3.61", "2m", "5.02", "", "", ""]);
  await expect(page.getByTestId("rows")).toHaveText("1 reading");
  await type(["volts", "0.498", "5.01", "0.5", "24", ""]);
  await expect(page.getByText(/^Cell voltage: /)).toBeVisible();
  await page.getByRole("group", { name: "Type a reading" }).getByLabel("Cell voltage").fill("3.72");
  for (let k = 0; k < 6; k++) await page.keyboard.press("Enter");
  await expect(page.getByTestId("rows")).toHaveText("2 readings");
  await expect(readout(page, "Cell current")).toContainText("0.498");
  await page.waitForTimeout(600);
  await page.reload();
  await expect(page.getByTestId("rows")).toHaveText("2 readings");
  await expect(readout(page, "Cell voltage")).toContainText("3.720");
});

test("a second tab sees a log live, can't write it, and takes over without losing a sample", async ({
  page,
  context,
}) => {
  await startEmpty(page);
  await chargerBoard(page, "Heron 4");
  await prepare(page, ["Reed 4", "2.2", "3.5"]);
  await page.getByLabel("Charge current set").fill("1");
  await simulate(page, "Linear charger, 1 A, honest ratings", "0.1");
  await start(page);
  await expect(readout(page, "Cell voltage")).toContainText("3.");
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByText("Another tab is writing this log")).toBeVisible();
  await expect(readout(other, "Cell voltage")).toContainText("3.");
  await expect(other.getByRole("button", { name: "Indicator changes" })).toHaveCount(0);
  await other.getByRole("button", { name: "Take over here" }).click();
  await expect(other.getByRole("button", { name: "Indicator changes" })).toBeEnabled();
  await expect(page.getByText("Another tab is writing this log")).toBeVisible();
  const stored = () =>
    other.evaluate(
      () =>
        new Promise<number[]>((resolve) => {
          const open = indexedDB.open("nimbus-bench");
          open.onsuccess = () => {
            const all = open.result.transaction("chunks").objectStore("chunks").getAll();
            all.onsuccess = () => {
              open.result.close();
              resolve((all.result as { columns: { time: Float64Array } }[]).flatMap((c) => [...c.columns.time]));
            };
          };
        }),
    );
  // It goes on being written: more than was there when the other tab took over.
  const before = (await stored()).length;
  await expect.poll(async () => (await stored()).length).toBeGreaterThan(before + 10);
  const times = await stored();
  expect(times).toEqual([...new Set(times)].sort((a, b) => a - b));
});

test("done lights are marked with one key each as they come, and the result says whose light to trust", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await chargerBoard(page, "Heron 5");
  await prepare(page, ["Reed 5", "2.2", "3.9"]);
  await page.getByLabel("Charge current set").fill("0.93");
  await simulate(page, "Three chargers on one cell", "5");
  await start(page);
  await chooseFrom(page.getByLabel("Bench clock"), "600");
  await page.locator("h1").click();
  for (const channel of ["2", "1", "3"]) {
    await expect(page.getByText(new RegExp(`now lit:.*channel ${channel}`))).toBeVisible({ timeout: 30_000 });
    await page.keyboard.press(channel);
    await expect(page.getByLabel("Events").getByText(`channel ${channel} done`)).toBeVisible();
  }
  // A slip of the finger is undone.
  await page.keyboard.press("5");
  await expect(page.getByLabel("Events").getByText("channel 5 done")).toBeVisible();
  await page.keyboard.press("z");
  await expect(page.getByLabel("Events").getByText("channel 5 done")).toHaveCount(0);
  await expect(page.getByTestId("phase")).toHaveText("rest", { timeout: 30_000 });
  await page.keyboard.press("f");
  await expect(page.getByText(/Channel 2 signals done first.*Use the light of channel 3/)).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "Charge missed at first done" })).toContainText("Ah");
  await expect(page.getByRole("columnheader", { name: "channel 3" })).toBeVisible();
});

test("a charge that is pulled, plugged in again, reloaded and finished is one charge with a pause, and no end before its end", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await chargerBoard(page, "Heron 8", { "Charge current": "1 A ±5 %" });
  await prepare(page, ["Reed 8", "1", "3.9"]);
  await page.getByLabel("Charge current set").fill("1");
  await simulate(page, "Linear charger, 1 A, honest ratings", "5");
  await start(page);
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await expect(page.getByTestId("phase")).toHaveText("constant current");
  await page.getByText("Disturb simulated bench").click();
  await page.getByRole("button", { name: "Unplug input" }).click();
  await expect(page.getByTestId("phase")).toHaveText("interrupted");
  await expect(
    page.getByLabel("Events").getByText(/Interrupted: .*A was still flowing\. The input is gone\./),
  ).toBeVisible();
  await expect(page.getByRole("button", { name: "Finish log" })).not.toHaveAttribute("aria-keyshortcuts", "F");
  // The bench is taken up again as it was left: the plug is still out.
  await page.reload();
  await expect(page.getByTestId("phase")).toHaveText("interrupted");
  await page.getByText("Disturb simulated bench").click();
  await page.getByRole("button", { name: "Plug input in" }).click();
  await chooseFrom(page.getByLabel("Bench clock"), "600");
  await expect(page.getByLabel("Events").getByText(/The charge resumes/)).toBeVisible();
  await expect(page.getByTestId("phase")).toHaveText("rest", { timeout: 40_000 });
  await expect(page.getByRole("button", { name: "Finish log" })).toHaveAttribute("aria-keyshortcuts", "F");
  await page.waitForTimeout(500);
  await page.keyboard.press("f");
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  const row = (label: string) => page.getByRole("row").filter({ hasText: label }).first();
  await expect(row("Interruptions").getByText("1", { exact: true })).toBeVisible();
  await expect(row("Paused time")).toContainText(/\d.*\s(s|min)/);
  await expect(row("Termination current")).toContainText("mA");
  await expect(page.getByText(/The charge was interrupted once, for .* and resumed/).first()).toBeVisible();
  await expect(row("Recharge threshold")).toHaveCount(0);
  await page.getByText("Did not happen in this run").click();
  await expect(page.getByTestId("not-stated").getByText(/Charging did not begin again in the log/)).toBeVisible();
  await noSeriousAxe(page);
});
