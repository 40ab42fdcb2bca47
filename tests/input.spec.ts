import type { Page } from "@playwright/test";
import { simulate } from "../src/core/rehearsal/simulated-bench";
import {
  drawMeter,
  PanelSimulation,
  seeded,
  showReading,
  SIMULATED_PANELS,
  type PanelBench,
} from "../src/core/simulator";
import {
  assumeMeters,
  boardOf,
  chooseFrom,
  expect,
  finishLog,
  noSeriousAxe,
  startEmpty,
  test,
  verdictOf,
} from "./helpers";

/** Every danger ticked, the log begun. */
async function go(page: Page): Promise<void> {
  await expect(page.getByRole("button", { name: "Start the log" })).toBeDisabled();
  for (const box of await page.getByRole("checkbox", { name: "Danger." }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("task")).not.toHaveText("…");
}

async function start(
  page: Page,
  act: string,
  on: string,
  fields: Readonly<Record<string, string>> = {},
  choose: readonly string[] = [],
): Promise<void> {
  await page.getByRole("button", { name: act }).click();
  for (const label of choose) await page.getByLabel(label).check();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), { label: on });
  for (const [label, text] of Object.entries(fields)) await page.getByLabel(label, { exact: true }).fill(text);
  await go(page);
}

async function toTheEnd(page: Page): Promise<void> {
  await chooseFrom(page.getByLabel("Bench clock"), "3600");
  await finishLog(page);
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
}

const found = (page: Page, name: string) =>
  page.getByRole("row").filter({ has: page.getByRole("rowheader", { name, exact: true }) });
const back = (page: Page) => page.getByRole("link", { name: /^Board/ }).click();

test("heat soak: foretold while it warms; a cool module meets its ambient, a hot one misses it, a shiny part is not fairly tested", async ({
  page,
}) => {
  test.setTimeout(150_000);
  await startEmpty(page);
  await boardOf(page, "Heron 31", ["boosts to an output"], {
    "No-load voltage": "5 V ±5 %",
    "Highest ambient": "≥ 70",
  });
  await start(page, "Prepare a heat soak", "Sound in every part", { "Load on the output": "0.9" });
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  const settles = page.locator('[data-figure="Settles at"]');
  await expect(settles).toBeVisible({ timeout: 20_000 });
  await expect(page.locator('[data-figure="known within"]')).toBeVisible();
  await noSeriousAxe(page);
  await toTheEnd(page);
  await expect(found(page, "Settled temperature")).toContainText(/3[0-7](\.\d)? ± \d/);
  await expect(page.getByText(/still to rise: the final temperature is predicted/)).toBeVisible();
  await expect(page.getByText(/A finger can stay on it at this ambient .* In a closed case/)).toBeVisible();
  await expect(page.getByRole("figure", { name: "Part and ambient" })).toContainText("fitted curve");
  await noSeriousAxe(page);
  await back(page);
  await expect(verdictOf(page, "Highest ambient").first()).toContainText("meets");

  await start(page, "Prepare a heat soak", "Nothing disconnects its battery, and nothing limits a short", {
    "Load on the output": "0.9",
  });
  await toTheEnd(page);
  await back(page);
  await expect(verdictOf(page, "Highest ambient").first()).toContainText("misses");

  await page.getByRole("link", { name: "Nimbus Bench" }).click();
  await boardOf(page, "Heron 38", ["boosts to an output"], {
    "No-load voltage": "5 V ±5 %",
    "Highest ambient": "≥ 70",
  });
  await page.getByRole("button", { name: "Prepare a heat soak" }).click();
  await page.getByLabel("infrared on the bare part").check();
  await expect(page.locator('[data-remark="care"]').filter({ hasText: "reads far too low" })).toBeVisible();
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), {
    label: "Nothing disconnects its battery, and nothing limits a short",
  });
  await page.getByLabel("Load on the output", { exact: true }).fill("0.9");
  await go(page);
  await toTheEnd(page);
  await expect(
    page.getByText("An infrared thermometer looked at a shiny part: it reads far too low.").first(),
  ).toBeVisible();
  await back(page);
  // It read so low that it seems to meet: that says nothing.
  await expect(verdictOf(page, "Highest ambient").first()).toContainText("not fairly tested");
});

test("power path: a module that hands over within its band meets, one that drops its output misses", async ({
  page,
}) => {
  test.setTimeout(150_000);
  await startEmpty(page);
  await boardOf(page, "Heron 32", ["boosts to an output", "feeds the load from the input"], {
    "No-load voltage": "5 V ±5 %",
    "Handover time": "≤ 20 ms",
    "Finishes under load": "yes",
  });
  await start(page, "Prepare a power path", "Feeds the load from the input, hands over within the band");
  await chooseFrom(page.getByLabel("Bench clock"), "1");
  await expect(page.getByLabel("Events").getByText("input plugged in").first()).toBeVisible({ timeout: 20_000 });
  await toTheEnd(page);
  await expect(page.getByText(/Pulled under load \(the worst of 3\): down to .* never out of its band/)).toBeVisible();
  await expect(found(page, "Dip at handover, unplugged")).toContainText(/1[5-9]\d ± \d+\smV/);
  await noSeriousAxe(page);
  await back(page);
  await expect(verdictOf(page, "Handover time").first()).toContainText("meets");
  await start(page, "Prepare a power path", "Feeds the load from the input, hands over within the band", {}, [
    "charging while the output carries a load",
  ]);
  await toTheEnd(page);
  await expect(page.getByText(/the input feeds the load/)).toBeVisible();
  await expect(page.getByText(/The input draws up to 7\d\d\smA: use a supply of at least/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Finishes under load").first()).toContainText("meets");

  await start(page, "Prepare a power path", "Drops its output at every unplugging");
  await toTheEnd(page);
  await expect(page.getByText(/Pulled under load .* a recorder may restart/)).toBeVisible();
  await expect(page.getByText(/more than the load's limit of 5\.5\sV/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Handover time").first()).toContainText("misses");
  await start(
    page,
    "Prepare a power path",
    "The load stays on the cell: charging never ends under it",
    { "Counts as not ending after no change for": "900" },
    ["charging while the output carries a load"],
  );
  await toTheEnd(page);
  await expect(page.getByText(/never reaches its termination current/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Finishes under load").first()).toContainText("misses");
});

test("power path: a scope's waveform comes as a CSV, and what it caught can be typed", async ({ page }) => {
  test.setTimeout(90_000);
  await startEmpty(page);
  await assumeMeters(page);
  await boardOf(page, "Heron 33", ["boosts to an output", "feeds the load from the input"], {
    "No-load voltage": "5 V ±5 %",
    "Handover time": "≤ 5 ms",
  });
  // Pulled at 100 ms: down to 3.8 V for 12 ms, back with a time constant of 3 ms.
  const rows = Array.from({ length: 4000 }, (_, k) => {
    const t = k / 10;
    const v = t < 100 ? 5.02 : t < 112 ? 3.8 : 5.05 - 1.25 * Math.exp(-(t - 112) / 3);
    return `${t.toFixed(1)};${v.toFixed(3)};${t < 100 ? "5.100" : "0.020"};0.180`;
  });
  await page.getByRole("link", { name: "Import log of a power path" }).click();
  await page.getByLabel("CSV to import").setInputFiles({
    name: "scope.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(["Time (ms);Vout (V);Vin (V);Iload (A)", ...rows, ""].join("\n")),
  });
  await page.getByRole("button", { name: /^Import/ }).click();
  await expect(found(page, "Dip at handover, unplugged")).toContainText(/1\.2[34567]\d* ±/);
  // 1.25 V·e^(−t/3 ms) is 0.3 V after 4.3 ms: 16.3 ms out of the band in all.
  await expect(found(page, "Handover time, unplugged")).toContainText(/16\.?\d* ± .*ms/);
  await back(page);
  await expect(verdictOf(page, "Handover time").first()).toContainText("misses");

  await page.getByRole("button", { name: "Prepare a power path" }).click();
  await page.getByLabel("I type readings from my own meters").check();
  await page.getByLabel("Plug and unplug, number of times").fill("1");
  await page.getByLabel("In each state for").fill("1");
  await go(page);
  const type = async (values: Readonly<Record<string, string>>) => {
    const row = page.getByRole("group", { name: "Type a reading" });
    for (const [label, text] of Object.entries(values)) await row.getByLabel(label).fill(text);
    await row.getByLabel("Time out of band").press("Enter");
    await expect(row.getByText("Saved.")).toBeVisible();
    await expect(row.getByLabel("Output voltage")).toHaveValue("");
    await page.waitForTimeout(1100);
  };
  await type({ "Output voltage": "5.05", "Output current": "0.18", "Input voltage": "0" });
  await type({ "Output voltage": "5.05", "Output current": "0.18", "Input voltage": "0" });
  await expect(page.getByTestId("task")).toContainText("Plug the input in (1 of 1)");
  await type({
    "Output voltage": "5.02",
    "Output current": "0.18",
    "Input voltage": "5.1",
    "Lowest output caught": "4.9",
    "Highest output caught": "5.3",
    "Time out of band": "2m",
  });
  await expect(page.getByTestId("task")).toContainText("Unplug the input (1 of 1)");
  await type({
    "Output voltage": "5.05",
    "Output current": "0.18",
    "Input voltage": "0",
    "Lowest output caught": "4.7",
    "Highest output caught": "5.05",
    "Time out of band": "3m",
  });
  await finishLog(page);
  await expect(page.getByText(/Pulled under load \(one seen\): down to 4\.70\sV/)).toBeVisible();
  await back(page);
  await expect(verdictOf(page, "Handover time").first()).toContainText("meets");
});

test("solar input: a charger that holds its panel meets, one that wastes and drags misses", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Heron 34", ["charges a cell", "takes a solar panel"], {
    "Conversion efficiency": "≥ 81 %",
    "Panel voltage held": "6 V ±2 %",
  });
  await page.getByRole("button", { name: "Prepare a solar input" }).click();
  await page.getByLabel("Panel's open-circuit voltage at 25 °C").fill("9.5");
  await expect(page.locator('[data-remark="refused"]')).toContainText("a cold bright morning destroys the board");
  await page.getByLabel("Panel's open-circuit voltage at 25 °C").fill("7.2");
  await expect(page.locator('[data-remark="refused"]')).toHaveCount(0);
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented module"), {
    label: "Switching, holds the panel where it was set, sun and clouds",
  });
  await go(page);
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  await expect(page.getByTestId("task")).toContainText(/Continue until it reaches/, { timeout: 20_000 });
  await noSeriousAxe(page);
  await toTheEnd(page);
  await expect(found(page, "Conversion efficiency")).toContainText(/0?(8[3-9]|9[0-3])\.?\d* ± /);
  await expect(page.locator('[data-chart="current"]')).toContainText("steady");
  await back(page);
  await expect(verdictOf(page, "≥ 81 %").first()).toContainText("meets");
  await expect(verdictOf(page, "6 V ±2 %").first()).toContainText("meets");
  await start(page, "Prepare a solar input", "Switching, wastes a quarter, holds the panel too low");
  await toTheEnd(page);
  await back(page);
  await expect(verdictOf(page, "≥ 81 %").first()).toContainText("misses");
  await expect(verdictOf(page, "6 V ±2 %").first()).toContainText("misses");
});

test("a panel's log of an hour at ten samples a second, with clouds: steady stretches on the chart, the efficiency is the true one", async ({
  page,
}) => {
  test.setTimeout(120_000);
  const { panel, charger, clouds } = SIMULATED_PANELS["holding-switcher"];
  const bench: PanelBench = {
    panel,
    charger,
    clouds,
    seed: 77,
    cell: { chemistry: "lithium-ion", capacity: 2.2, resistance: 0.04 },
    soc: 0.3,
  };
  const sun = new PanelSimulation(bench);
  const random = seeded(77);
  const roles = ["inputVoltage", "inputCurrent", "cellVoltage", "cellCurrent"] as const;
  const meters = roles.map(() => drawMeter({ gain: 0.001, counts: 2, resolution: 0.001 }, random));
  sun.set({ supplyVoltage: 0, supplyOn: true, load: 0, shorted: false, output: true, chargeCurrent: 0, input: true });
  const rows = ["Time (s),Panel voltage (V),Panel current (A),Cell voltage (V),Cell current (A)"];
  for (let k = 0; k < 36_000; k++) {
    const x = sun.read();
    rows.push(
      [
        (k / 10).toFixed(1),
        ...roles.map((role, i) => showReading(meters[i] as (typeof meters)[number], x[role] ?? 0, random).toFixed(3)),
      ].join(","),
    );
    sun.advance(0.1);
  }
  expect(simulate("solar-input", "holding-switcher", { conditions: {}, instruments: {} }, 77)).toBeInstanceOf(
    PanelSimulation,
  );
  await startEmpty(page);
  await assumeMeters(page);
  await boardOf(page, "Heron 35", ["charges a cell", "takes a solar panel"], { "Conversion efficiency": "≥ 95 %" });
  await page.getByRole("link", { name: "Import log of a solar input" }).click();
  await page
    .getByLabel("CSV to import")
    .setInputFiles({ name: "an hour of april.csv", mimeType: "text/csv", buffer: Buffer.from(`${rows.join("\n")}\n`) });
  await page.getByRole("button", { name: /^Import/ }).click();
  await expect(page.getByText(/36.000 rows over 59 min/)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(/Panel and cell current, steady light shaded/)).toBeVisible();
  expect(await page.locator('[data-chart="current"] [data-span="steady"]').count()).toBeGreaterThan(10);
  await expect(page.getByText(/\d+ steady stretches, \d+ min .* in all of 59 min 5\d s/)).toBeVisible();
  // Every amp comes at 88 % of the panel's power.
  const text = await found(page, "Conversion efficiency").innerText();
  const [, value = "", u = ""] = /([\d.]+) ± ([\d.]+)/.exec(text) ?? [];
  expect(Math.abs(Number(value) - 88)).toBeLessThanOrEqual(Number(u));
  expect(Number(u)).toBeLessThan(4);
  await back(page);
  await expect(verdictOf(page, "≥ 95 %").first()).toContainText("misses");
});

test("meter check: what the leads add is found, taken over, and stands in the next sweep's bench", async ({ page }) => {
  test.setTimeout(90_000);
  await startEmpty(page);
  await boardOf(page, "Heron 36", ["boosts to an output"], { "No-load voltage": "5 V ±5 %" });
  await start(page, "Prepare a meter check", "Leads at the terminals, a good meter");
  await toTheEnd(page);
  await expect(
    page.getByText(/the output voltage sit on the terminals|output voltage read .* for each ampere/),
  ).toBeVisible();
  await back(page);
  await start(page, "Prepare a meter check", "The load's own two-wire display", { "Current goes up to": "1.2" });
  await toTheEnd(page);
  await expect(found(page, "Lead resistance")).toContainText(/1(4[5-9]|5[01])(\.\d+)? ± .*mΩ/);
  await expect(page.locator('[data-chart="difference"]')).toBeVisible();
  await expect(page.getByTestId("take-over")).toContainText(/load leads of 1(4\d|50)\smΩ \(now 0\sΩ\)/);
  await noSeriousAxe(page);
  await page.getByRole("button", { name: "Use correction" }).click();
  await expect(page.getByTestId("take-over")).toContainText("New runs correct for this");
  await back(page);
  await page.getByRole("button", { name: "Prepare a load sweep" }).click();
  await page.getByText("Accuracy of the meters and leads").click();
  await expect(page.getByLabel("Load leads, both wires")).toHaveValue(/1(4\d|50)/);
});

test("a charger that switches: planned with its efficiency, logged, and told from a linear one", async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Heron 37", ["charges a cell"], { "Charge current": "1 A ±5 %", "Charge efficiency": "≥ 85 %" });
  const charge = async (charger: string, cell: boolean) => {
    await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
    if (cell) {
      await page.getByRole("button", { name: "Add cell" }).click();
      await page.getByLabel("Name on the label").fill("Reed 2");
      await page.getByRole("textbox", { name: "Rated capacity" }).fill("2.2");
      await page.getByRole("button", { name: "Save cell" }).click();
      await expect(page.getByRole("dialog")).toHaveCount(0);
    } else await page.getByRole("radio", { name: /Reed 2/ }).check();
    await page.getByLabel("Cell voltage now, rested and not connected").fill("3.4");
    await page.getByLabel(/^switching/).check();
    await page.getByLabel("The simulated bench").check();
    await chooseFrom(page.getByLabel("with this invented charger on it"), { label: charger });
    await page.getByLabel("One sample every").fill("10");
    for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
    await page.getByRole("button", { name: "Start the log" }).click();
    await chooseFrom(page.getByLabel("Bench clock"), "3600");
    await expect(page.getByTestId("phase")).toHaveText("rest", { timeout: 40_000 });
    await finishLog(page);
    await expect(page.getByText(/the charger switches\. Its efficiency is .*would reach/)).toBeVisible();
    await back(page);
  };
  await charge("Switching charger, 1 A, nine tenths of the power reach the cell", true);
  await expect(verdictOf(page, "≥ 85 %").first()).toContainText("meets");
  await charge("Switching charger that wastes a quarter", false);
  await expect(verdictOf(page, "≥ 85 %").first()).toContainText("misses");
  await expect(verdictOf(page, "1 A ±5 %").first()).toContainText("misses");
});
