import { chooseFrom, expect, noSeriousAxe, startDemo, test } from "./helpers";

test("from the demo by keyboard: a load is written, every board ranked for it, the best one's picture checked, its fuse chosen, the page printed", async ({
  page,
}) => {
  await page.addInitScript(() => {
    window.print = () => document.documentElement.setAttribute("data-printed", "");
  });
  await startDemo(page);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("put to use", { delay: 20 });
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Field sound recorder", level: 1 })).toBeVisible();
  await expect(page.getByRole("row", { name: /Sedge 51/ })).toContainText("runs");

  await page.getByRole("button", { name: "Add load" }).focus();
  await page.keyboard.press("Enter");
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByLabel("Name", { exact: true })).toBeFocused();
  await page.keyboard.type("Night lamp");
  // A form that lacks something leads to it.
  await page.keyboard.press("Enter");
  await expect(dialog.getByLabel("of", { exact: true })).toBeFocused();
  await page.keyboard.type("0.4");
  await page.keyboard.press("Enter");
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole("heading", { name: "Night lamp", level: 1 })).toBeVisible();
  await expect(page.getByText(/5\sV \(works down to 4\.75\sV\); 400\smA, all the time\./)).toBeVisible();

  // Every board that boosts, the best first, each with its reason.
  const rows = page.getByRole("table", { name: "Boards for this load" }).locator("tbody tr");
  await expect(rows).toHaveCount(6);
  await expect(rows.first()).toContainText(/runs\s*\d+\.\d+ ± \d+\.\d+\sh/);
  // Of what was never measured only its claims speak, and that is said.
  await expect(page.getByRole("row", { name: /Peat Duo/ })).toContainText(
    /runs as claimed.*about \d+\.\d\sh.*By its claims alone: nothing of it was measured\./,
  );
  await page.getByRole("button", { name: "Sedge 51" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Sedge 51 with Reed 2200" })).toBeVisible();
  await expect(page.getByTestId("safety")).toHaveText("✓ Every way out of the cell crosses a working protection.");
  await expect(page.getByText("No fuse at the cell")).toBeVisible();
  await page.getByRole("button", { name: "Use this fuse" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("No fuse at the cell")).toHaveCount(0);
  await expect(page.locator("[data-topology='protected']")).toContainText(/fuse\s*\d/);
  await page.getByRole("button", { name: "Print" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.locator("html")).toHaveAttribute("data-printed", "");
  await noSeriousAxe(page);
});

test("a board without protection never comes near a cell without the red sentence; a claim alone silences nothing", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Use", exact: true }).click();
  await page.getByRole("button", { name: "Marl 15" }).click();
  await expect(page.getByRole("main").getByRole("alert")).toHaveText("✗ Nothing protects this cell.");
  await expect(page.getByText("Insert the cell.")).toHaveCount(0);
  await page.getByRole("button", { name: "Alder 12" }).click();
  await expect(page.getByRole("main").getByRole("alert")).toHaveText(
    "✗ Nothing protects this cell that was tested: its protection is only claimed.",
  );
  await expect(page.getByText("Test the protection first, from a supply")).toBeVisible();
  // A tap on the bare cell bypasses what works.
  await page.getByRole("button", { name: "Sedge 51" }).click();
  await page.getByRole("button", { name: "Edit load" }).click();
  await page.getByRole("dialog").getByLabel("Connected to the bare cell").fill("Lamp of the hide");
  await page.getByRole("dialog").getByRole("button", { name: "Save load" }).click();
  await expect(page.getByRole("main").getByRole("alert")).toHaveText("✗ Nothing protects this cell.");
  await expect(
    page.getByText(
      "Lamp of the hide bypasses the board's protection: no cut-off, switch-off or gauge there; its voltage is the cell's.",
    ),
  ).toBeVisible();
  // So does a closed jumper.
  await page.getByRole("button", { name: "Edit load" }).click();
  await page.getByRole("dialog").getByLabel("Connected to the bare cell").fill("");
  await page
    .getByRole("dialog")
    .getByRole("checkbox", { name: /closed jumper/ })
    .click();
  await page.getByRole("dialog").getByRole("button", { name: "Save load" }).click();
  await expect(page.getByText("A closed jumper bypasses the board's protection.")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByText("Lamp of the hide bypasses")).toBeVisible();
});

test("the cell decides for how long: another cell, two in parallel, a floor; what it did in use is held against it", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Use", exact: true }).click();
  const time = page
    .getByRole("row", { name: /Sedge 51/ })
    .locator("td")
    .nth(1);
  await expect(time).toContainText(/±/);
  const hours = async (): Promise<number> => {
    const [n = "", unit = ""] = (await time.innerText()).split(/ ± [\d.]+\s/);
    return Number(n) * (unit.startsWith("d") ? 24 : 1);
  };
  const alone = await hours();
  expect(alone).toBeGreaterThan(20);
  await page.getByLabel("In parallel").fill("2");
  await expect.poll(hours).toBeGreaterThan(1.9 * alone);
  await page.getByLabel("In parallel").fill("1");
  await expect.poll(hours).toBeCloseTo(alone, 1);
  await page.getByLabel("Not below").fill("3.5");
  await expect.poll(hours).toBeLessThan(0.95 * alone);
  await expect(page.getByText(/It ends when the cell is at its floor of 3\.50\sV/)).toBeVisible();
  // From 80 to 20 % of its charge; what is asked anew while it is worked out is no error.
  await page.getByLabel("Not below").fill("3");
  await page.getByLabel("Charged to").fill("80");
  await page.getByLabel("Used down to").fill("20");
  await expect(page.getByText(/It ends when the cell is down to 20\s%, the end of its window/)).toBeVisible();
  await expect.poll(hours).toBeLessThan(0.7 * alone);
  await expect(page.getByText("Cancelled.")).toHaveCount(0);
  await page.getByLabel("Charged to").fill("10");
  await expect(page.getByText("“Used down to” must be below “Charged to”.")).toBeVisible();
  await chooseFrom(page.getByRole("combobox", { name: "Cell", exact: true }), { label: "any other cell" });
  await expect(page.getByLabel("Capacity (assumed)")).toBeVisible();
  await page.getByLabel("Capacity (assumed)").fill("3");
  await expect(page.getByLabel("Capacity (typed)")).toBeVisible();

  await page.getByRole("button", { name: "Save report" }).click();
  await expect(page.getByText("Enter a time.")).toBeVisible();
  await page.getByLabel("It ran for").fill("5 h");
  await page.getByLabel("It ended because").fill("the board cut off");
  await page.getByRole("button", { name: "Save report" }).click();
  await expect(page.getByRole("row", { name: /the board cut off/ })).toContainText(/\d+\s% shorter than predicted/);
});
