import { boardOf, chooseFrom, expect, finishLog, noSeriousAxe, startDemo, startEmpty, test } from "./helpers";

const DAY = 86_400_000;

test("a cell is entered, labelled, read a week later and rejected with the reason; its code finds it", async ({
  page,
}) => {
  await page.clock.install({ time: new Date("2026-11-02T09:00:00Z") });
  await startEmpty(page);
  await page.getByRole("link", { name: "Cells", exact: true }).click();
  await expect(page.getByText("No cells yet.")).toBeVisible();
  for (const [name, capacity] of [
    ["Fen 1", "1.2"],
    ["Fen 2", "1.2"],
  ] as const) {
    await page.getByRole("button", { name: "Add cell" }).click();
    await page.getByLabel("Name on the label").fill(name);
    await page.getByLabel("Rated capacity", { exact: true }).fill(capacity);
    await page.getByRole("button", { name: "Save cell" }).click();
    await expect(page.locator(`[data-cell="${name}"]`)).toBeVisible();
  }
  const read = async (volts: readonly [string, string], since?: string) => {
    await page.getByLabel("Voltage of Fen 1").fill(volts[0]);
    if (since) for (const name of ["Fen 1", "Fen 2"]) await chooseFrom(page.getByLabel(`Since then ${name}`), since);
    // Enter goes on to the next cell, and keeps from the last.
    await page.getByLabel("Voltage of Fen 1").press("Enter");
    await expect(page.getByLabel("Voltage of Fen 2")).toBeFocused();
    await page.keyboard.type(volts[1]);
    await page.keyboard.press("Enter");
    await expect(page.getByLabel("Voltage of Fen 1")).toHaveValue("");
  };
  // A slip is named where it was typed, and nothing is kept of it.
  await page.getByLabel("Voltage of Fen 1").fill("41.8");
  await expect(page.getByText("41.8 V outside any cell's range.")).toBeVisible();
  await page.getByRole("button", { name: "Save reading" }).click();
  await expect(page.getByLabel("Voltage of Fen 1")).toBeFocused();
  await expect(page.getByLabel("Voltage of Fen 1")).toHaveValue("41.8");
  await read(["4.190", "4.191"], "charged");
  await expect(page.getByText("due in 7 days")).toHaveCount(2);

  await page.getByRole("link", { name: "Print labels" }).click();
  const label = page.getByRole("region", { name: "Label of Fen 1" });
  await expect(label).toContainText("4.190");
  await expect(label).toContainText("full 2 Nov 2026");
  await expect(label).toContainText("read again by 9 Nov 2026");
  const code = (await label.locator(".label-code p").textContent()) ?? "";
  expect(code).toMatch(/^[2-9A-Z]{5}$/);
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("heading", { name: "Cell labels" })).toBeHidden();
  await expect(label).toBeVisible();
  await page.emulateMedia({ media: "screen" });

  await page.getByRole("link", { name: "Cell drawer" }).click();
  for (const [days, volts] of [
    [1.1, ["4.182", "4.170"]],
    [8, ["4.176", "4.080"]],
  ] as const) {
    await page.clock.setFixedTime(new Date(Date.parse("2026-11-02T09:00:00Z") + days * DAY));
    await read(volts);
  }
  await expect(page.locator('[data-cell="Fen 1"]')).toHaveAttribute("data-state", "sound");
  await expect(page.locator('[data-cell="Fen 2"]')).toHaveAttribute("data-state", "reject it");
  await expect(page.locator('[data-cell="Fen 2"]')).toContainText(
    /falls by 1[0-9].mV\/day at rest, more than 5.mV\/day/,
  );
  await noSeriousAxe(page);

  await page.getByLabel("Code on a label").fill(code.toLowerCase());
  await page.getByLabel("Code on a label").press("Enter");
  await expect(page.getByRole("heading", { name: "Fen 1", level: 1 })).toBeVisible();
  await expect(page.getByTestId("cell-state")).toContainText("sound");
  await page.getByRole("link", { name: "All cells" }).click();
  await page.getByRole("link", { name: "Fen 2" }).first().click();
  await expect(page.locator("[data-chart]")).toBeVisible();
  await page.getByRole("button", { name: "Reject cell" }).click();
  await expect(page.getByRole("dialog").getByLabel("Why")).toHaveValue(/falls by/);
  await page.getByRole("dialog").getByRole("button", { name: "Reject cell" }).click();
  await expect(page.getByTestId("cell-state")).toHaveText(/rejected/);
  await noSeriousAxe(page);
  // Undo is for this as for everything.
  await page.keyboard.press("Control+z");
  await expect(page.getByTestId("cell-state")).toHaveText(/reject it/);
  await page.keyboard.press("Control+Shift+z");
  await expect(page.getByTestId("cell-state")).toHaveText(/rejected/);

  // Deleted with one act, since no run names it, and undone with another.
  await page.getByRole("button", { name: "Delete cell" }).click();
  await expect(page.getByRole("heading", { name: "Cell drawer" })).toBeVisible();
  await expect(page.locator('[data-cell="Fen 2"]')).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(page.locator('[data-cell="Fen 2"]')).toBeVisible();

  // A scanned label opens its cell.
  await page.goto(`/cells?code=${code}`);
  await expect(page.getByRole("heading", { name: "Fen 1", level: 1 })).toBeVisible();
});

test("a discharge names its cell: the history holds it, its capacity judges the cell, and a rejected one is not offered", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Heron 44", ["charges a cell"], {});
  await page.getByRole("link", { name: "Cells", exact: true }).click();
  for (const [name, capacity] of [
    ["Fen 3", "2.2"],
    ["Fen 4", "2.2"],
  ] as const) {
    await page.getByRole("button", { name: "Add cell" }).click();
    await page.getByLabel("Name on the label").fill(name);
    await page.getByLabel("Rated capacity", { exact: true }).fill(capacity);
    await page.getByRole("button", { name: "Save cell" }).click();
    await expect(page.locator(`[data-cell="${name}"]`)).toBeVisible();
  }
  await chooseFrom(page.getByLabel("Observed on Fen 4"), "swollen");
  await page.getByRole("button", { name: "Save reading" }).click();
  await expect(page.locator('[data-cell="Fen 4"]')).toContainText("it is swollen");
  await page.getByRole("link", { name: "Fen 4" }).first().click();
  await page.getByRole("button", { name: "Reject cell" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Reject cell" }).click();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("link", { name: "Heron 44", exact: true }).click();
  await page.getByRole("button", { name: "Prepare a discharge" }).click();
  await expect(page.getByRole("radio", { name: /Fen 4/ })).toHaveCount(0);
  await page.getByRole("radio", { name: /Fen 3/ }).check();
  await expect(page.getByLabel("Discharge at", { exact: true })).toHaveValue("440m");
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), { label: "A cell with half its rated capacity" });
  await page.getByLabel("One sample every").fill("20");
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await finishLog(page);
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  await page.getByRole("link", { name: "Cells", exact: true }).click();
  await expect(page.locator('[data-cell="Fen 3"]')).toHaveAttribute("data-state", "reject it");
  await expect(page.locator('[data-cell="Fen 3"]')).toContainText(/it holds 1\.\d+.Ah of the 2\.2.Ah it is rated for/);
  await page.getByRole("link", { name: "Fen 3" }).first().click();
  await page.getByRole("link", { name: /Discharge/ }).click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
});

test("the demo's drawer has every state and something due, and what is to be rejected can't be charged", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Cells", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Due to be read" })).toBeVisible();
  for (const state of ["rejected", "reject it", "in doubt", "unknown"])
    await expect(page.locator(`[data-state="${state}"]`).first()).toBeVisible();
  const bad = (await page.locator('[data-state="reject it"]').first().getAttribute("data-cell")) as string;
  await page.goto("/");
  await page.getByRole("link", { name: "Alder 12" }).first().click();
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  await expect(page.getByRole("radio", { name: new RegExp(`^${bad}`) })).toBeDisabled();
  await expect(page.getByText(/^Not to be charged: it /).first()).toBeVisible();
  await page.getByRole("link", { name: `Reject ${bad}` }).click();
  await expect(page.getByRole("button", { name: "Reject cell" })).toBeVisible();
  await page.getByRole("link", { name: "All cells" }).click();
  await page.goto("/cells/labels");
  await expect(page.getByLabel(`Label of ${bad}`)).toContainText("REJECT: not to be charged");
});

test("six cells that are alike are one form, numbered past those that are there, and one act to undo", async ({
  page,
}) => {
  await startEmpty(page);
  await page.goto("/cells");
  const add = async (name: string, count: string) => {
    await page.getByRole("button", { name: "Add cell" }).click();
    await page.getByLabel("Name on the label").fill(name);
    await page.getByLabel("Number of cells").fill(count);
    await page.getByLabel("Rated capacity", { exact: true }).fill("2.2");
    await page.getByRole("button", { name: /^Save/ }).click();
    await expect(page.getByRole("dialog")).toHaveCount(0);
  };
  await add("Fen 2", "1");
  await add("Fen", "6");
  await expect(page.locator("[data-cell]")).toHaveCount(7);
  for (const n of [1, 2, 3, 4, 5, 6, 7]) await expect(page.locator(`[data-cell="Fen ${n}"]`)).toHaveCount(1);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.locator("[data-cell]")).toHaveCount(1);
  await page.getByRole("button", { name: "Add cell" }).click();
  await page.getByLabel("Number of cells").fill("0");
  await expect(page.getByText("A whole number from 1 to 100.")).toBeVisible();
});
