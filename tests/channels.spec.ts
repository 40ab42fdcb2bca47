import { expect, startDemo, test } from "./helpers";

test("done signals of two channels are typed charge by charge, by keyboard; the result names the light to trust", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Willow Sun" }).first().click();
  await page.getByRole("button", { name: "Charger channels" }).first().click();
  await page.getByRole("button", { name: "Prepare charger channels" }).click();
  await page.getByRole("radio", { name: /Float 7/ }).check();
  await page.getByRole("textbox", { name: "Charges", exact: true }).fill("2");
  // Nothing is simulated of lights that somebody watches.
  await expect(page.getByLabel("The simulated bench")).toHaveCount(0);
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start run" }).click();
  const proposal = page.getByTestId("proposal");
  await expect(proposal).toContainText("Charge 1 of 2: discharge the cell");
  const signal = async (...texts: readonly string[]) => {
    await expect(page.getByLabel("Channel")).toBeFocused();
    for (const text of texts) {
      await page.keyboard.type(text);
      await page.keyboard.press("Enter");
    }
  };
  await signal("2", "34 min", "4.174", "0.534");
  await expect(proposal).toContainText("Charge 1 of 2: one channel still charges");
  // The same channel again is no reading of this charge: it is refused, and stays in the fields.
  await signal("2", "1:26:51", "4.203", "0.053");
  await expect(page.getByText("Channel 2 has signalled done in charge 1 already.")).toBeVisible();
  await page.getByLabel("Channel").fill("1");
  await page.getByLabel("Cell current").focus();
  await page.keyboard.press("Enter");
  await expect(proposal).toContainText("Charge 2 of 2: discharge the cell");
  await expect(page.getByText("Expect channel 2, time 34 min")).toBeVisible();
  await signal("2", "36 min", "4.176", "0.536");
  await expect(proposal).toContainText("Charge 2 of 2: one channel still charges");
  // The second light never comes on: this charge ends without it.
  await page.keyboard.press("c");
  await page.getByRole("button", { name: /Finish and open result/ }).click();
  await expect(page.getByText(/Channel 2 signals done first, 52\smin 51\ss before channel 1/)).toBeVisible();
  await expect(page.getByText(/1 of 2 charges lack/)).toBeVisible();
  await expect(
    page.getByText(/Charge missed by trusting the light of each: channel 2 47\smAh to 470\smAh/),
  ).toBeVisible();
});
