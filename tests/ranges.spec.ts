import { seeded } from "../src/core/simulator/random";
import { chooseFrom, expect, finishLog, startDemo, test } from "./helpers";

test("results over a sample's runs stand with the sample, judge their claim and lead to every run", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Alder 12", exact: true }).first().click();
  const samples = page.locator("#samples");
  const lowest = samples.getByText(/Lowest input:.*at most 4\.50/);
  await expect(lowest).toContainText("Charge from 4.5 V, Charge on a short cable");
  await expect(samples.getByText(/Highest input:.*at least [45]\.\d+/)).toBeVisible();
  const claim = page.getByRole("row", { name: /Input 4\.5 V to 5\.5 V/ });
  await expect(claim).toContainText("meets");
  await claim.getByRole("link").first().click();
  await expect(page.getByText(/the full charge current was seen down to 4\.500/)).toBeVisible();
  await expect(page.getByRole("link", { name: "Charge on a short cable" })).toBeVisible();
  // The charge that shows the end is excluded: the claimed end is not tested any more.
  await page.getByRole("link", { name: "Charge from 4.5 V" }).click();
  await page.getByRole("button", { name: "Set aside" }).click();
  await page.getByRole("dialog").getByRole("textbox").fill("clip came loose");
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /Set aside/ })
    .click();
  await page.getByRole("link", { name: /Board Alder 12/ }).click();
  await expect(page.getByRole("row", { name: /Input 4\.5 V to 5\.5 V/ })).toContainText("not measured");
  await expect(page.locator("#samples").getByText(/Lowest input/)).toHaveCount(0);
});

test("a waveform of an oscilloscope is told from its shape, on an axis of microseconds; without a bandwidth it says nothing", async ({
  page,
}) => {
  const random = seeded(7);
  const rows = Array.from(
    { length: 800 },
    (_, k) => `${(0.02 * k).toFixed(2)},${(20 * Math.sin((2 * Math.PI * k) / 100) + 0.2 * random.normal()).toFixed(1)}`,
  );
  await page.goto("/");
  await page.getByLabel("Logs to open").setInputFiles({
    name: "scope.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(["Time (us),Output (mV)", ...rows].join("\n")),
  });
  await expect(page.getByText(/Looks like a/)).toBeVisible();
  await expect(page.getByText(/Output ripple: 40\.\d+\smV/)).toBeVisible();
  await expect(page.getByText("It repeats at about 500 kHz.")).toBeVisible();
  await expect(page.getByText(/an ordinary oscilloscope, ±\(3\s% \+ 1 step of 8 bits\)/)).toBeVisible();
  await expect(page.getByText("Time (µs)").first()).toBeVisible();
  await expect(page.getByText(/800 rows over 16\.0\sµs/)).toBeVisible();
  await page.getByLabel("Bandwidth of the instrument, with its probe").fill("");
  await expect(page.getByText(/The bandwidth of the instrument is not stated/).first()).toBeVisible();
  await expect(page.getByText(/Output ripple: 40/)).toHaveCount(0);
});

test("a heat soak by a charge asks where the charger cuts back, and gives the lowest cell at full current", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51", exact: true }).first().click();
  await page.getByRole("button", { name: "Prepare a heat soak" }).click();
  const cutsBack = page.getByLabel("Charger cuts its current back at");
  await expect(page.getByRole("heading", { name: /Heat soak: Sedge 51/ })).toBeVisible();
  await expect(cutsBack).toHaveCount(0);
  await page.getByRole("radio", { name: /a charge, into a supply/ }).click();
  await cutsBack.fill("95");
  await page.getByLabel("The simulated bench").check();
  for (const danger of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await danger.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("task")).not.toHaveText("…");
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await finishLog(page);
  const row = page
    .getByRole("row")
    .filter({ has: page.getByRole("rowheader", { name: "Lowest cell at full current", exact: true }) });
  await expect(row).toContainText(/[23]\.\d+ ± 0?\.?\d/);
  await expect(page.getByText(/Into a cell of 3\sV it burns .*\sK\/W from part to air/)).toBeVisible();
});
