import { expect, noSeriousAxe, startDemo, startEmpty, test, writeBoard } from "./helpers";

test("undo, redo and the history are in sight: each act can be taken back by itself", async ({ page }) => {
  await startEmpty(page);
  const undo = page.getByRole("button", { name: "Undo", exact: true });
  await expect(undo).toBeDisabled();
  await writeBoard(page, "Mine");
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Second");
  await page.getByRole("button", { name: "Save board" }).click();
  await expect(page.getByRole("heading", { name: "Second", level: 1 })).toBeVisible();
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await expect(undo).toHaveAttribute("title", "Undo: add Second (Ctrl Z)");
  await undo.click();
  await expect(page.getByRole("heading", { name: "Second" })).toHaveCount(0);
  await page.getByRole("button", { name: "Redo", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Second" })).toBeVisible();

  await page.getByRole("button", { name: "History" }).click();
  const history = page.getByRole("dialog");
  await expect(history.getByRole("listitem").first()).toContainText("add Second");
  await noSeriousAxe(page);
  await history.getByRole("button", { name: "Undo: add Second" }).click();
  await expect(history.getByRole("listitem").first()).toContainText("undone");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: "Second" })).toHaveCount(0);
  await expect(page.getByRole("button", { name: "History" })).toBeFocused();
});

test("? shows the keys of the page; Ctrl K takes every letter typed, does what the page offers and stays away from dialogs", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Alder 12", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Alder 12", level: 1 })).toBeVisible();
  await page.getByRole("button", { name: "Charge cycle", exact: true }).click();
  await page.getByRole("link", { name: "Charge on a short cable" }).click();
  await expect(page.getByRole("button", { name: "Zoom in" })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("Zoom in");
  await expect(page.getByRole("dialog")).toContainText("undo the last change");
  await noSeriousAxe(page);
  await page.keyboard.press("Control+k");
  await expect(page.getByRole("dialog")).toHaveCount(1);
  await expect(page.getByPlaceholder("board, cell, run or action")).toHaveCount(0);
  await page.keyboard.press("Escape");

  // Every letter goes into the field, from the first: none zooms.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("copy t");
  await expect(page.getByPlaceholder("board, cell, run or action")).toHaveValue("copy t");
  await expect(page.getByRole("option", { name: "Copy table" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.goBack();
  await expect(page.getByRole("heading", { name: "Alder 12", level: 1 })).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("prepare a load sweep");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/load sweep/i);

  // All keys at once, before anything is drawn: Enter is the field's too, and presses nothing on the page.
  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await page.getByRole("button", { name: "Add board" }).focus();
  await page.evaluate(() => {
    const press = (key: string, ctrlKey = false) =>
      document.activeElement?.dispatchEvent(
        new KeyboardEvent("keydown", { key, ctrlKey, bubbles: true, cancelable: true }),
      ) === false;
    press("k", true);
    const kept = [...[..."quick sums"], "Enter"].map((key) => press(key));
    if (kept.includes(false)) throw new Error(`${kept.indexOf(false)} reached the page`);
  });
  await expect(page.getByRole("heading", { name: "Quick sums", level: 1 })).toBeVisible();
});

test("many boards: found by words, verdict and next step, sorted; rows stay low", async ({ page }) => {
  await startDemo(page);
  await expect(page.getByLabel("Find boards: name, note or function")).toHaveCount(0);
  for (const name of ["Rush 1", "Rush 2", "Rush 3", "Rush 10"]) {
    await page.getByRole("button", { name: "Add board" }).click();
    await page.getByLabel("Name", { exact: true }).fill(name);
    await page.getByRole("button", { name: "Save board" }).click();
    await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
    await page.getByRole("link", { name: "Nimbus Bench" }).click();
  }
  const boards = () => page.getByRole("article").evaluateAll((all) => all.map((e) => e.getAttribute("aria-label")));
  await expect(page.getByText("11 boards")).toBeVisible();
  await noSeriousAxe(page);
  await page.getByLabel("Find boards: name, note or function").fill("rush 1");
  expect(await boards()).toEqual(["Rush 1", "Rush 10"]);
  await page.getByRole("button", { name: "Show all" }).click();
  await page.getByRole("combobox", { name: "Verdict" }).click();
  await page.getByRole("option", { name: "not fairly tested" }).click();
  await expect.poll(boards).toEqual(["Alder 12"]);
  await page.getByRole("button", { name: "Show all" }).click();
  await page.getByRole("combobox", { name: "Next step" }).click();
  await page.getByRole("option", { name: "resume a run" }).click();
  await expect.poll(boards).toEqual(["Tarn 9"]);
  await page.getByRole("button", { name: "Show all" }).click();
  await page.getByRole("combobox", { name: "Sort by" }).click();
  await page.getByRole("option", { name: "most misses" }).click();
  await expect.poll(async () => (await boards())[0]).toBe("Marl 15");
  for (const box of await page
    .getByRole("article")
    .evaluateAll((all) => all.map((e) => e.getBoundingClientRect().height)))
    expect(box).toBeLessThan(80);
});

test("a phone's header is one row, its menu holds the rest", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await startDemo(page);
  expect((await page.getByRole("banner").boundingBox())?.height).toBeLessThan(60);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole("button", { name: "Menu" }).click();
  await noSeriousAxe(page);
  await page.getByRole("dialog").getByRole("link", { name: "Instruments" }).click();
  await expect(page.getByRole("heading", { name: "Instruments and rigs" })).toBeVisible();
  await expect(page.getByRole("dialog")).toHaveCount(0);
});
