import { chooseFrom, expect, noSeriousAxe, startDemo, startEmpty, test, verdictOf, writeBoard } from "./helpers";

const PIXEL = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
  "base64",
);

test("functions offer the usual claims, to fill in or strike; nonsense is refused at the field", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Reedmace 3", {});
  const field = page.getByLabel("Claimed no-load voltage");
  await field.fill("3 A");
  await page.getByRole("button", { name: "Save claim on No-load voltage" }).click();
  await expect(page.getByText("This field takes volts; “3 A” reads as amperes.")).toBeVisible();
  await field.fill("5 V ±2 %");
  await expect(page.getByText("= 5 V ± 2 %")).toBeVisible();
  await field.press("Enter");
  await expect(verdictOf(page, "5 V ±2 %")).toContainText("not measured");
  await page.getByRole("button", { name: "Dismiss Load regulation" }).click();
  await expect(page.getByLabel("Claimed load regulation")).toHaveCount(0);
  await page.locator("h1").click();
  await page.keyboard.press("Control+z");
  await expect(page.getByLabel("Claimed load regulation")).toBeVisible();
  await noSeriousAxe(page);
});

test("a claim keeps its words, its source, its conditions, and can be read in two ways", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Reedmace 4", {});
  await page.getByRole("button", { name: "Add claim", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Save claim" }).click();
  await expect(dialog.getByText("Copy the wording exactly.")).toBeVisible();
  await dialog.getByLabel("Wording").fill("discharge 1.8A");
  await chooseFrom(dialog.getByLabel("Source"), "print on the board");
  await dialog.getByLabel(/^Limit/).fill("≥ 1A8");
  await expect(dialog.getByText("= at least 1.8 A")).toBeVisible();
  await dialog.getByLabel("At battery voltage (V)").fill("3–4.2");
  await dialog.getByLabel("At configuration").fill("J1 closed");
  await dialog.getByRole("button", { name: "Add another reading" }).click();
  await chooseFrom(dialog.getByLabel("Characteristic").nth(1), "boost.input-current-limit");
  await dialog
    .getByLabel(/^Limit/)
    .nth(1)
    .fill("at least 1.8");
  await noSeriousAxe(page);
  await dialog.getByRole("button", { name: "Save claim" }).click();
  const row = verdictOf(page, "discharge 1.8A");
  await expect(row).toContainText("at battery voltage 3 V to 4.2 V, configuration J1 closed");
  await expect(row).toContainText("or Battery-side current limit: at least 1.8 A");
  await row.getByRole("button", { name: /Edit claim/ }).click();
  await expect(page.getByRole("dialog").getByLabel("At battery voltage (V)").first()).toHaveValue(/3.V to 4.2.V/);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("samples carry configuration, modifications and photos", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Reedmace 5", {});
  await page.getByRole("button", { name: "Add sample" }).click();
  await page.getByRole("button", { name: "Edit sample B" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Configuration: jumpers").fill("J1 open, 2k4");
  await dialog.getByLabel("Adjustable output set to").fill("9 A");
  await dialog.getByLabel("Note", { exact: true }).click();
  await expect(dialog.getByText(/takes volts/)).toBeVisible();
  await dialog.getByLabel("Adjustable output set to").fill("9V");
  await dialog.getByLabel("Programming resistor").fill("gold red red brown");
  await dialog.getByLabel("Note", { exact: true }).click();
  await expect(dialog.getByText(/start from the other end/)).toBeVisible();
  await dialog.getByLabel("Programming resistor").fill("brown red red gold");
  await expect(dialog.getByText(/1\.2\skΩ ± 5\s%/)).toBeVisible();
  await dialog.getByRole("button", { name: "Add modification" }).click();
  await dialog.getByLabel("What was changed").fill("thicker leads");
  await dialog.getByRole("group", { name: "Modification 1" }).getByLabel("boosts to an output").check();
  await dialog.getByRole("button", { name: "Save", exact: true }).click();
  const sample = page.getByRole("listitem").filter({ hasText: "Sample B" });
  await expect(sample).toContainText("J1 open, 2k4, output set to 9 V, programming resistor 1.2 kΩ");
  await expect(sample).toContainText("thicker leads");
  await page.getByLabel("Photos of sample B").setInputFiles({ name: "top.png", mimeType: "image/png", buffer: PIXEL });
  await expect(sample.getByRole("img", { name: "top.png" })).toBeVisible();
  await page.reload();
  await expect(sample.getByRole("img", { name: "top.png" })).toBeVisible();
  await page
    .getByLabel("Photos of sample B")
    .setInputFiles({ name: "note.txt", mimeType: "text/plain", buffer: Buffer.from("x") });
  await expect(page.getByText("note.txt is no picture.")).toBeVisible();
});

test("what stands between a sample's cell and the world is drawn from a few choices, checked and kept; the demo's fullest board fits its page", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51", exact: true }).first().click();
  await expect(page.getByRole("heading", { name: "Claims and verdicts" })).toBeVisible();
  const open = page.getByRole("button", { name: "Protection of sample A's cell" });
  await expect(open).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.documentElement.scrollHeight)).toBeLessThanOrEqual(1600);
  await open.click();
  const dialog = page.getByRole("dialog");
  const safety = dialog.getByTestId("safety");
  await expect(safety).toContainText("Every way out of the cell crosses a working protection.");
  await expect(dialog.getByText("No fuse at the cell")).toBeVisible();
  await dialog.getByLabel("A closed jumper bypasses the board's protection").check();
  await expect(safety).toContainText("Nothing protects this cell.");
  await expect(dialog.getByText("put a protection board between, or use a cell that has its own")).toBeVisible();
  await dialog.getByLabel("The cell has its own protection, by its maker").check();
  await expect(safety).toContainText("Every way out");
  await dialog.getByLabel("Connected to the bare cell").fill("lamp, gauge");
  await expect(safety).toContainText("Nothing protects this cell.");
  await expect(
    dialog.getByText("gauge bypasses the cell's own protection and the board's protection", { exact: false }),
  ).toBeVisible();
  await noSeriousAxe(page);
  await dialog.getByLabel("Fuse at the cell").fill("-1");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog.getByText("Enter a value above zero.")).toBeVisible();
  await dialog.getByLabel("Fuse at the cell").fill("2");
  await dialog.getByRole("button", { name: "Save" }).click();
  await expect(dialog).toHaveCount(0);
  await page.reload();
  await open.click();
  await expect(dialog.getByRole("img", { name: /a 2 A fuse/ })).toBeVisible();
  await expect(dialog.getByLabel("Connected to the bare cell")).toHaveValue("lamp, gauge");
});

test("house rules refuse nonsense, and a change judges anew", async ({ page }) => {
  await startEmpty(page);
  await page.getByRole("link", { name: "House rules" }).click();
  await page.getByLabel("Tolerance of a bare number").fill("90 %");
  await expect(page.getByText("Between 0.1 % and 50 %.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Save house rules" })).toBeDisabled();
  await page.getByLabel("Tolerance of a bare number").fill("3");
  await expect(page.getByText("= 3 %")).toBeVisible();
  await noSeriousAxe(page);
  await page.getByRole("button", { name: "Save house rules" }).click();
  await expect(page.getByText("All verdicts were judged again")).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Tolerance of a bare number")).toHaveValue("3");
});
