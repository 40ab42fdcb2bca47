import { logCharge } from "../src/core/rehearsal/charge-log";
import { chargeBench } from "../src/core/simulator";
import { chooseFrom, expect, noSeriousAxe, startDemo, startEmpty, test } from "./helpers";
import type { Page } from "@playwright/test";

/** A charge of a small cell as a logger would have written it. */
function charge(head: (line: string) => string = (line) => line): string {
  const { columns } = logCharge(chargeBench({ cell: { capacity: 0.5 }, soc: 0.5 }), {
    every: 5,
    before: 30,
    after: 120,
    most: 2 * 3600,
    seed: 3,
  }).trace;
  const rows = [...(columns.time ?? [])].map((t, k) =>
    [t, columns.inputVoltage?.[k], columns.inputCurrent?.[k], columns.cellVoltage?.[k], columns.cellCurrent?.[k]].join(
      ",",
    ),
  );
  return `${head("Elapsed (s),Input voltage (V),Input current (A),Cell voltage (V),Cell current (A)")}\n${rows.join("\n")}\n`;
}
const SWEEP =
  "Battery voltage (V),Battery current (mA),Output voltage (V),Load current (mA)\n4.1,2,5.03,0\n4.1,140,5.02,100\n4.1,680,5.01,500\n4.1,1400,5.00,1000\n4.1,1700,4.20,1200\n";

const file = (name: string, text: string | Buffer) => ({
  name,
  mimeType: "text/csv",
  buffer: Buffer.isBuffer(text) ? text : Buffer.from(text),
});
const choose = (page: Page, ...files: ReturnType<typeof file>[]) =>
  page.getByLabel("Logs to open").setInputFiles(files);
/** Drops files onto the page, as a file manager does. */
async function drop(page: Page, name: string, text: string, type = "text/csv"): Promise<void> {
  const data = await page.evaluateHandle(
    ([n, t, m]) => {
      const d = new DataTransfer();
      d.items.add(new File([t as string], n as string, { type: m as string }));
      return d;
    },
    [name, text, type],
  );
  await page.dispatchEvent("body", "dragover", { dataTransfer: data });
  await expect(page.getByText("Drop to open")).toBeVisible();
  await page.dispatchEvent("body", "drop", { dataTransfer: data });
}
const stored = (page: Page) =>
  page.evaluate(async () =>
    (await indexedDB.databases()).length
      ? await new Promise<number>((done) => {
          const open = indexedDB.open("nimbus-bench");
          open.onsuccess = () => {
            const db = open.result;
            const names = [...db.objectStoreNames].filter((n) => n !== "meta");
            const t = db.transaction(names);
            void Promise.all(
              names.map(
                (n) =>
                  new Promise<number>((count) => {
                    const r = t.objectStore(n).count();
                    r.onsuccess = () => count(r.result);
                  }),
              ),
            ).then((all) => {
              db.close();
              done(all.reduce((a, b) => a + b, 0));
            });
          };
        })
      : 0,
  );

test("a charge log on an empty profile: its result in two acts, nothing stored; then saved to a new board", async ({
  page,
}) => {
  await page.goto("/");
  const before = await stored(page);
  // Two acts: the button, the file.
  await page.getByRole("button", { name: "Open log" }).waitFor();
  await choose(page, file("cell.csv", charge()));
  await expect(page.getByTestId("answer")).toContainText(
    /^Charges at (1\.00\sA|99\d\smA), full at 4\.\d+\sV after \d+\smin.*delivered\./,
  );
  await expect(page.getByRole("combobox", { name: "Looks like a" })).toContainText(/Charge cycle \(\d+ %\)/);
  await expect(page.locator("[data-chart] [data-curve]").first()).toBeAttached();
  const results = page.getByRole("table", { name: "Results" });
  await expect(results).toContainText("accuracy assumed");
  await expect(results.getByRole("row").filter({ hasText: "Full voltage" })).toContainText(/4\.\d+ ± 0\.0\d+\sV/);
  await noSeriousAxe(page);
  // Its charts answer to keys like a stored log's.
  await page.keyboard.press("+");
  await expect(page.getByRole("group", { name: "Time range" }).getByRole("status")).toContainText(/min .* from/);
  await page.keyboard.press("0");
  // A better meter makes the uncertainty smaller.
  const uncertainty = async () =>
    Number(/± (0\.\d+)/.exec(await results.getByRole("row").filter({ hasText: "Full voltage" }).innerText())?.[1]);
  const wide = await uncertainty();
  await page.getByText("Accuracy of the meters").click();
  const row = page.getByRole("row").filter({ hasText: "cell voltage" }).first();
  await row.getByRole("textbox").first().fill("0.05 %");
  await row.getByRole("textbox").first().press("Tab");
  await expect.poll(uncertainty).toBeLessThan(wide);
  expect(await stored(page)).toBe(before);
  // Closed, nothing is left of it.
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Load demo" })).toBeVisible();
  expect(await stored(page)).toBe(before);

  await choose(page, file("cell.csv", charge()));
  await page.getByRole("button", { name: "Save to a board" }).click();
  await noSeriousAxe(page);
  await page.getByRole("button", { name: "Save run" }).click();
  await expect(page.getByText("Enter a name.")).toBeVisible();
  await page.getByLabel("Name of the board").fill("Rush 4");
  await page.getByLabel("Name of the board").press("Enter");
  await expect(page.getByRole("heading", { name: "Charge cycle from cell.csv" })).toBeVisible();
  await expect(page.getByTestId("answer")).toContainText(/^Charges at/);
  await page.getByRole("link", { name: "Board Rush 4" }).click();
  await expect(page.getByRole("heading", { name: "Rush 4", level: 1 })).toBeVisible();
  await expect(page.getByText("charges a cell")).toBeVisible();
});

test("dropped anywhere: a sweep's table is saved to a board that is there, with its claim instead of an assumption; a second copy is asked about", async ({
  page,
}) => {
  await startDemo(page);
  await drop(page, "sweep.csv", SWEEP);
  await expect(page.getByRole("combobox", { name: "Looks like a" })).toContainText("Load sweep");
  await expect(page.getByText(/Nominal output assumed: 5\sV/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Results" })).toContainText("Peak efficiency");
  // The notebook's own meters read it: none is assumed.
  await expect(page.getByText(/Meter accuracy assumed/)).toHaveCount(0);
  await expect(page.getByRole("region", { name: "Results" })).not.toContainText("accuracy assumed");
  const save = async () => {
    await page.getByRole("button", { name: "Save to a board" }).click();
    await page.getByRole("combobox", { name: "Board" }).click();
    await page.getByRole("option", { name: "Tarn 9" }).click();
    await page.getByRole("button", { name: "Save run" }).click();
  };
  await save();
  await expect(page.getByRole("heading", { name: "Load sweep from sweep.csv" })).toBeVisible();
  // Tarn 9 is claimed for 5.3 V.
  await expect(page.getByText(/nominal output 5\.3\d*\sV/)).toBeVisible();
  await drop(page, "again.csv", SWEEP);
  await save();
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText(
    "This file was imported before, as “Load sweep from sweep.csv”",
  );
  await page.getByRole("button", { name: "Save a second copy" }).click();
  await expect(page.getByRole("heading", { name: "Load sweep from again.csv" })).toBeVisible();
});

test("what can't be told is asked right there: heads that say nothing, another procedure, odd rows", async ({
  page,
}) => {
  await startEmpty(page);
  await choose(
    page,
    file(
      "ch.csv",
      charge(() => "t,ch1,ch2,ch3,ch4"),
    ),
  );
  await expect(page.getByText("The columns don't say what was measured.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Save to a board" })).toHaveCount(0);
  await page.getByRole("combobox", { name: "What was measured?" }).click();
  await page.getByRole("option", { name: "Charge cycle" }).click();
  await expect(page.getByRole("main").getByRole("alert")).toContainText("needs time");
  for (const [column, role] of [
    ["t", "time"],
    ["ch3", "cellVoltage"],
    ["ch4", "cellCurrent"],
  ] as const)
    await chooseFrom(page.getByLabel(`Column ${column} is`), role);
  await expect(page.getByTestId("answer")).toContainText(/^Charges at/);
  await expect(page.getByRole("combobox", { name: "Looks like a" })).toContainText("Charge cycle");

  await choose(page, file("odd.csv", SWEEP.replace("680", "68O")));
  await expect(page.getByRole("main").getByRole("alert")).toContainText("1 row can't be read.");
  await expect(page.getByRole("main").getByRole("alert")).toContainText("Line 4");
  await page.getByRole("button", { name: "Skip that row and read 4" }).click();
  await expect(page.getByText("4 points")).toBeVisible();
});

test("files that are no plain table: each is understood, or what it is is said", async ({ page }) => {
  await startEmpty(page);
  const charged = charge();
  const answer = page.getByTestId("answer");
  const preamble = `Logger 4\nSerial;0012345\n\n${charged.replaceAll(",", ";").replaceAll(".", ",")}`;
  for (const [name, bytes] of [
    ["preamble.csv", Buffer.from(preamble)],
    [
      "units.csv",
      Buffer.from(
        charged.replace(/^.*\n/, "Elapsed,Input voltage,Input current,Cell voltage,Cell current\ns,V,A,V,A\n"),
      ),
    ],
    ["utf16.csv", Buffer.from(`\ufeff${charged}`, "utf16le")],
    ["returns.csv", Buffer.from(charged.replaceAll("\n", "\r"))],
    [
      "quoted.csv",
      Buffer.from(
        charged
          .split("\n")
          .map((l, k) =>
            k && l
              ? l
                  .split(",")
                  .map((c) => `"${c.replace(".", ",")}"`)
                  .join(",")
              : l,
          )
          .join("\n"),
      ),
    ],
  ] as const) {
    await choose(page, file(name, bytes));
    await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
    await expect(answer).toContainText(/^Charges at/);
  }
  await choose(page, file("photo.csv", Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])));
  await expect(page.getByRole("main").getByRole("alert")).toContainText("This is a picture (PNG), not a text table.");
  await choose(page, file("headless.csv", charged.replace(/^.*\n/, "")));
  await expect(page.getByLabel("Column Column 1 is")).toBeVisible();
  await expect(page.getByText("The columns don't say what was measured.")).toBeVisible();
});

test("several logs at once, a tab each; a page elsewhere leaves them; an archive that is dropped is imported", async ({
  page,
}) => {
  await startEmpty(page);
  await choose(page, file("cell.csv", charge()), file("sweep.csv", SWEEP));
  await expect(page.getByRole("heading", { name: "2 logs" })).toBeVisible();
  await expect(page.getByTestId("answer")).toContainText(/^Charges at/);
  await page.getByRole("tab", { name: "sweep.csv" }).click();
  await expect(page.getByRole("combobox", { name: "Looks like a" })).toContainText("Load sweep");
  await page.getByRole("link", { name: "Instruments", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Instruments and rigs" })).toBeVisible();
  await expect(page.getByRole("tab", { name: "sweep.csv" })).toHaveCount(0);
  await drop(page, "none.zip", "not an archive", "application/zip");
  await expect(page.getByText(/none\.zip|not an archive|can't be read/).first()).toBeVisible();
});
