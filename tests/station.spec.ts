import { expect, startDemo, test } from "./helpers";

test("a station is planned by keyboard; what does not work is said with its remedy, and drawn", async ({ page }) => {
  await startDemo(page);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("charging station", { delay: 20 });
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Charging station", level: 1 })).toBeVisible();
  const figure = (label: string) => page.getByTestId("station").locator("div", { hasText: label }).locator("dd");
  // Worked: 24 bays of 0.5 A ± 8 % from supplies of 10 A are two lanes of 12 behind 10 A.
  await page.getByLabel("Bays", { exact: true }).fill("24");
  await expect(figure("Lanes, one supply each")).toHaveText("2");
  await expect(figure("Bays per lane")).toHaveText("12");
  await expect(figure("Breaker of a lane (DC)")).toHaveText(/^10(\.0)?\sA$/);
  await expect(figure("Far bay")).toHaveText(/^5\.023\sV4\.958\sV to 5\.104\sV$/);
  await expect(page.locator("[data-bay='charges']")).toHaveCount(12);
  await expect(page.getByRole("heading", { name: "It works" })).toBeVisible();
  await page.getByLabel("Wire from bay to bay, there and back").fill("30m");
  await expect(page.getByRole("heading", { name: "It does not work as it is" })).toBeVisible();
  await expect(page.getByRole("list", { name: "What does not work" })).toContainText(
    /The far bay has only .* Use a thicker wire/,
  );
  await expect(page.locator("[data-bay='starves']").first()).toBeVisible();
  // What can't be is refused, and changes nothing.
  await page.getByLabel("Bays", { exact: true }).fill("2.5");
  await expect(page.getByText("A whole number.")).toBeVisible();
  await expect(figure("Bays per lane")).toHaveText("12");
});

test("sums for use stand beside those of the bench: a fuse, and why none suits", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sums", exact: true }).click();
  const fuse = page.getByRole("region", { name: "Fuse at the cell" });
  await fuse.getByLabel("Highest current in use").fill("1.2");
  await expect(fuse).toContainText(/1\.6\d*\sA/);
  await fuse.getByLabel("Thinnest wire carries").fill("1");
  await expect(fuse).toContainText("Use a thicker wire.");
  await page.getByRole("link", { name: "Charging station" }).click();
  await expect(page.getByRole("heading", { name: "Charging station", level: 1 })).toBeVisible();
});
