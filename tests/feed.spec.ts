import { chooseFrom, expect, noSeriousAxe, startDemo, startEmpty, test } from "./helpers";

test("from the demo by keyboard: the panel's feed is opened, a thinner cable limits it, saved, deleted and undone", async ({
  page,
}) => {
  await startDemo(page);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("charger feed", { delay: 20 });
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Charger feed", level: 1 })).toBeVisible();
  const answer = page.getByRole("status").filter({ hasText: /It (charges|does not charge)/ });
  await expect(answer).toContainText(/It charges at 504\smA\./);
  await expect(answer).toContainText("The panel limits it");
  await expect(page.getByText(/The panel does not keep up/)).toBeVisible();
  await expect(page.getByText("▲ limits the charge")).toBeVisible();
  await noSeriousAxe(page);

  // A supply in the panel's place: the regulator then gives what the charger is set to, and there is no day of a panel.
  await page.getByRole("combobox", { name: "Stage 1" }).focus();
  await page.keyboard.press("Enter");
  await page.getByRole("option", { name: "Supply" }).press("Enter");
  await page.getByLabel("Supply voltage").fill("9");
  await page.getByLabel("Set current").fill("0.8");
  await page.getByLabel("Thermal resistance of the part").fill("0");
  await expect(answer).toContainText(/It charges at 800\smA\./);
  await expect(answer).toContainText("The charger's own setting limits it");
  await expect(page.getByText(/The panel does not keep up/)).toHaveCount(0);
  // 7 V before a cable of 0.9 Ω leave the regulator less than the 6.5 V that it needs.
  await page.getByLabel("Supply voltage").fill("7");
  await expect(answer).toContainText("The switching regulator's input falls too low");
  await expect(page.getByRole("row", { name: /4\.20\sV/ })).toContainText("the switching regulator");

  await page.getByLabel("Name", { exact: true }).fill("Bench at the hide");
  await page.getByRole("button", { name: "Save feed" }).press("Enter");
  await expect(page.getByText("“Bench at the hide” is saved.")).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Supply voltage")).toHaveValue("7");
  await page.getByRole("button", { name: "Delete feed" }).press("Enter");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Charger feed");
  await expect(page.getByText("“Bench at the hide” is deleted.")).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).last().press("Enter");
  await chooseFrom(page.getByRole("combobox", { name: "Which feed" }), { label: "Bench at the hide" });
  await expect(page.getByLabel("Supply voltage")).toHaveValue("7");
});

test("an empty notebook: stages are added and moved, a sink is asked for, a value that makes no sense is refused", async ({
  page,
}) => {
  await startEmpty(page);
  await page.goto("/feed");
  const answer = page.getByRole("status").filter({ hasText: /It (charges|does not charge)/ });
  await expect(answer).toContainText(/It charges at 500\smA\./);
  await page.getByRole("button", { name: "Add linear regulator" }).click();
  await expect(answer).toContainText("It does not charge as it is.");
  await expect(answer).toContainText(/only 3\.60\sV reaches the board; the charger needs 4\.50\sV/);
  await page.getByLabel("Supply voltage").fill("9");
  await expect(answer).toContainText(/It charges at 500\smA\./);
  // (9 − 0.15 − 5) V × 0.504 A = 1.94 W; (110 − 25) K ÷ 1.94 W − 6 K/W.
  await expect(
    page.getByRole("table", { name: "Stages of the feed" }).getByRole("row", { name: /linear regulator/ }),
  ).toContainText(/1\.94\sW.*37\.8\sK\/W or less/);
  await expect(page.getByText("Caution: the linear regulator heats what is beside it.")).toBeVisible();
  await page.getByLabel("Supply voltage").fill("900");
  await expect(page.getByText(/Between 500\smV and 60\sV/)).toBeVisible();
  await expect(page.getByText("What is shown is worked out from its last valid value.")).toBeVisible();
  // A feed that is not known is not saved: the field that lacks is led to.
  await page.getByRole("button", { name: "Save feed" }).click();
  await expect(page.getByLabel("Supply voltage")).toBeFocused();
  await expect(page.getByRole("combobox", { name: "Which feed" })).toHaveCount(0);
  await expect(answer).toContainText(/It charges at 500\smA\./);
  await page.getByLabel("Supply voltage").fill("7");
  await page.getByLabel("Charge current, ±").fill("10");
  await expect(page.getByTestId("stray")).toContainText(/450\smA to 550\smA into an empty cell/);
  await page.getByRole("button", { name: "Move stage 3 up" }).click();
  await expect(page.getByRole("combobox", { name: "Stage 2" })).toHaveText("Linear regulator");
  await page.getByRole("button", { name: "Delete stage 3" }).click();
  await expect(page.getByRole("combobox", { name: "Stage 3" })).toHaveCount(0);
  await noSeriousAxe(page);
});
