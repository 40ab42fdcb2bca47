import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { chooseFrom, expect, startDemo, startEmpty, tabTo, test, verdictOf } from "./helpers";

/** How many entries the stores of logs hold. */
const held = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<{ chunks: number; contents: number }>((resolve) => {
        const open = indexedDB.open("nimbus-bench");
        open.onsuccess = () => {
          const tx = open.result.transaction(["chunks", "contents"]);
          const [chunks, contents] = [tx.objectStore("chunks").count(), tx.objectStore("contents").count()];
          tx.oncomplete = () => {
            open.result.close();
            resolve({ chunks: chunks.result, contents: contents.result });
          };
        };
      }),
  );

async function prepareOnAlder(page: Page): Promise<void> {
  await startDemo(page);
  await page.getByRole("link", { name: "Alder 12" }).first().click();
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  await page.getByRole("radio", { name: /Reed 2200/ }).check();
  await page.getByLabel("Cell voltage now, rested and not connected").fill("4.05");
}

test("keyboard only, on an empty profile: a charge from the board to the verdict", async ({ page }) => {
  test.setTimeout(180_000);
  await startEmpty(page);
  const press = async (name: string) => {
    await tabTo(page, page.getByRole("button", { name }));
    await page.keyboard.press("Enter");
  };
  const write = async (label: string, text: string) => {
    await tabTo(page, page.getByRole("textbox", { name: label, exact: true }));
    await page.keyboard.press("ControlOrMeta+a");
    await page.keyboard.type(text);
  };
  await press("Add board");
  await expect(page.getByLabel("Name", { exact: true })).toBeFocused();
  await page.keyboard.type("Teal 4");
  await tabTo(page, page.getByLabel("charges a cell"));
  await page.keyboard.press("Space");
  await press("Save board");
  await expect(page.getByRole("heading", { name: "Teal 4", level: 1 })).toBeVisible();
  await write("Claimed charge current", "330 mA ±10 %");
  await press("Save claim on Charge current");
  await expect(verdictOf(page, "330 mA ± 10 %").or(verdictOf(page, "330 mA ±10 %"))).toBeVisible();
  await press("Prepare a charge cycle");
  await press("Add cell");
  await expect(page.getByLabel("Name on the label")).toBeFocused();
  await page.keyboard.type("Blue 1");
  await write("Rated capacity", "0,9");
  await press("Save cell");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await write("Cell voltage now, rested and not connected", "3,95");
  await expect(page.getByText("total, about")).toBeVisible();
  await tabTo(page, page.getByLabel("I type readings from my own meters"));
  await page.keyboard.press("ArrowRight", { delay: 60 });
  await tabTo(page, page.getByLabel("with this invented charger on it"));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("option", { name: "Linear charger, 1 A, honest ratings" })).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("option", { name: "Linear charger, 330 mA" })).toBeFocused();
  await page.keyboard.press("Enter");
  await write("One sample every", "5");
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) {
    await tabTo(page, box);
    await page.keyboard.press("Space");
  }
  await press("Start the log");
  await expect(page.getByTestId("phase")).toBeVisible();
  await tabTo(page, page.getByLabel("Bench clock"));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("option", { name: "× 1", exact: true })).toBeFocused();
  for (const next of ["× 10", "× 60", "× 600"]) {
    await page.keyboard.press("ArrowDown");
    await expect(page.getByRole("option", { name: next, exact: true })).toBeFocused();
  }
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("phase")).toHaveText("constant current", { timeout: 20_000 });
  await page.keyboard.press("l");
  await expect(page.getByLabel("Events").getByText("indicator changes")).toBeVisible();
  await expect(page.getByTestId("phase")).toHaveText("rest", { timeout: 60_000 });
  await page.keyboard.press("f");
  await page.locator('[data-chart="current"] [data-curve]').waitFor();
  await tabTo(page, page.getByRole("link", { name: "Board Teal 4" }));
  await page.keyboard.press("Enter");
  await expect(
    page
      .getByRole("row")
      .filter({ hasText: /330\smA/ })
      .first(),
  ).toContainText("meets");
});

test("a field that can't be read keeps a charge from starting, and so does a danger that isn't ticked", async ({
  page,
}) => {
  await prepareOnAlder(page);
  const start = page.getByRole("button", { name: "Start the log" });
  await expect(start).toBeDisabled();
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await expect(start).toBeEnabled();
  await page.getByLabel("Full voltage").fill("four");
  await expect(start).toBeDisabled();
  await expect(page.getByText("A field above is invalid.")).toBeVisible();
  await page.getByLabel("Full voltage").fill("4.4");
  await expect(page.locator('[data-remark="refused"]')).toContainText("must never exceed");
  await expect(start).toBeDisabled();
  await page.getByLabel("Full voltage").fill("4.2");
  await expect(start).toBeEnabled();
});

test("tabs that take a log from each other in turn lose no sample and write none twice", async ({ page, context }) => {
  test.setTimeout(90_000);
  await prepareOnAlder(page);
  await page.getByLabel("The simulated bench").check();
  await page.getByLabel("One sample every").fill("0.05");
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByRole("button", { name: "Indicator changes" })).toBeEnabled();
  const other = await context.newPage();
  await other.goto(page.url());
  for (let k = 0; k < 3; k++)
    for (const tab of [other, page]) {
      await tab.getByRole("button", { name: "Take over here" }).click();
      await expect(tab.getByRole("button", { name: "Indicator changes" })).toBeEnabled({ timeout: 15_000 });
    }
  await page.waitForTimeout(1200);
  await expect(page.getByText(/can't be written/)).toHaveCount(0);
  const chunks = await page.evaluate(
    () =>
      new Promise<{ runId: string; seq: number; from: number; times: number[] }[]>((resolve) => {
        const open = indexedDB.open("nimbus-bench");
        open.onsuccess = () => {
          const all = open.result.transaction("chunks").objectStore("chunks").getAll();
          all.onsuccess = () => {
            open.result.close();
            resolve(
              (all.result as { runId: string; seq: number; from: number; columns: { time: Float64Array } }[]).map(
                (c) => ({ runId: c.runId, seq: c.seq, from: c.from, times: [...c.columns.time] }),
              ),
            );
          };
        };
      }),
  );
  const runId = new URL(page.url()).pathname.split("/")[2];
  const own = chunks.filter((c) => c.runId === runId);
  expect(own.map((c) => c.seq)).toEqual(own.map((_, k) => k));
  let rows = 0;
  for (const c of own) {
    expect(c.from).toBe(rows);
    rows += c.times.length;
  }
  const times = own.flatMap((c) => c.times);
  expect(times).toEqual([...new Set(times)].sort((a, b) => a - b));
  expect(times.length).toBeGreaterThan(60);
});

test("a log goes out as the open battery data table and comes in again with every column known", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Alder 12" }).first().click();
  await page.getByRole("link", { name: "Charge on a short cable" }).click();
  await page.locator('[data-chart="current"] [data-curve]').waitFor();
  const charged = await page.getByRole("row").filter({ hasText: "Charge put in" }).first().textContent();
  const [out] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export battery data table" }).click(),
  ]);
  const text = readFileSync(await out.path(), "utf8");
  expect(text.split("\r\n")[0]).toContain("Test Time / s,");
  await page.getByRole("link", { name: "Board Alder 12" }).click();
  await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
  await page
    .getByLabel("CSV to import")
    .setInputFiles({ name: "again.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  for (const [column, role] of [
    ["Test Time / s", "time"],
    ["Voltage / V", "cellVoltage"],
    ["Current / A", "cellCurrent"],
    ["Part Temperature / degC", "partTemperature"],
  ] as const)
    await expect(page.getByLabel(`Column ${column} is`)).toHaveAttribute("data-choice", role);
  await page.getByRole("button", { name: /^Import \d+ rows/ }).click();
  // It is the very file that the demo's run came from: that is asked about, and nothing is stored meanwhile.
  await expect(page.getByRole("alert").filter({ hasText: "This file was imported" })).toContainText(
    "Charge on a short cable",
  );
  await page.getByRole("button", { name: "Import again" }).click();
  await page.locator('[data-chart="current"] [data-curve]').waitFor();
  const again = await page.getByRole("row").filter({ hasText: "Charge put in" }).first().textContent();
  // The value is the same; what its meters add to the uncertainty may be this bench's own.
  const value = (row: string | null) => /[\d.]+ ± /.exec(row ?? "")?.[0].slice(0, 4);
  expect(value(again)).toBe(value(charged));
});

test("a log that goes on in a second file: its columns can be put right, an overlap is refused, the two become one run", async ({
  page,
}) => {
  await startEmpty(page);
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Teal 5");
  await page.getByLabel("charges a cell").check();
  await page.getByRole("button", { name: "Save board" }).click();
  await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
  const part = (from: number, rows: number, head = "Time (s),Cell voltage (V),Cell current (A)") =>
    `${head}\n${Array.from({ length: rows }, (_, k) => `${k},${(3.5 + 1e-4 * (from + k)).toFixed(4)},${from + k < 20 ? 0 : 0.5}`).join("\n")}\n`;
  await page
    .getByLabel("CSV to import")
    .setInputFiles({ name: "one.csv", mimeType: "text/csv", buffer: Buffer.from(part(0, 400)) });
  await page.getByLabel("Another CSV of this run").setInputFiles({
    name: "two.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(part(400, 300, "Time (s),Cell voltage (V),Amps")),
  });
  await page.locator("summary", { hasText: "Columns" }).click();
  await chooseFrom(page.getByLabel("Column Amps is"), "cellCurrent");
  await chooseFrom(page.getByRole("combobox", { name: "It", exact: true }), "after");
  await page.getByLabel("Its first row is at").fill("300");
  await page.getByRole("button", { name: /^Import \d+ rows/ }).click();
  await expect(page.getByText(/starts at 300 s, before the first one ends \(399 s\)/)).toBeVisible();
  expect(await held(page)).toEqual({ chunks: 0, contents: 0 });
  await page.getByLabel("Its first row is at").fill("400");
  await page.getByRole("button", { name: /^Import \d+ rows/ }).click();
  await expect(page.getByText(/700 rows over 11 min 39 s/)).toBeVisible();
});

test("what a crash in the middle of an import left behind is swept away once the page stands", async ({ page }) => {
  await startDemo(page);
  const before = await held(page);
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open("nimbus-bench");
        open.onsuccess = () => {
          const tx = open.result.transaction(["chunks", "contents"], "readwrite");
          for (const seq of [0, 1])
            tx.objectStore("chunks").add({
              runId: "never-written-down",
              seq,
              from: seq,
              rows: 1,
              until: seq,
              columns: { time: Float64Array.of(seq) },
            });
          tx.objectStore("contents").add(new Blob(["t,V"]), "never-written-down");
          tx.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
  );
  expect((await held(page)).chunks).toBe(before.chunks + 2);
  await page.reload();
  await expect.poll(() => held(page), { timeout: 15_000 }).toEqual(before);
  // The demo's own charges are still there.
  await page.getByRole("link", { name: "Alder 12" }).first().click();
  await page.getByRole("link", { name: "Charge on a short cable" }).click();
  await page.locator('[data-chart="current"] [data-curve]').waitFor();
});
