import { readFileSync } from "node:fs";
import { unzipSync } from "fflate";
import {
  assumeMeters,
  chooseFrom,
  expect,
  noSeriousAxe,
  startDemo,
  startEmpty,
  test,
  verdictOf,
  writeBoard,
} from "./helpers";
import type { Page } from "@playwright/test";

const GOOD =
  "Akkuspannung [V];Akkustrom [mA];Ausgangsspannung [V];Laststrom [mA]\r\n4,10;3,2;5,03;0\r\n4,10;272;5,02;200\r\n4,10;690;5,01;500\r\n4,10;1390;5,00;1000\r\n3,10;3,9;5,02;0\r\n3,10;362;5,01;200\r\n3,10;930;5,00;500\r\n3,10;1930;4,98;1000\r\n";
const choose = (page: Page, name: string, text: string) =>
  page.getByLabel("CSV to import").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
const words = async (page: Page) => {
  await page.getByRole("table").first().waitFor();
  return page.getByRole("table").first().innerText();
};

test("a CSV of another dialect: guessed, previewed, corrected, judged", async ({ page }) => {
  await startEmpty(page);
  await assumeMeters(page);
  await writeBoard(page, "Iris 1", { "No-load voltage": "5 V ±2 %", "Highest load held": "≥ 0.9 A" });
  await page.getByRole("link", { name: "Import CSV" }).click();
  await choose(page, "sweep.csv", GOOD);
  await expect(page.getByLabel("Decimal sign")).toHaveAttribute("data-choice", ",");
  await expect(page.getByLabel("Column Akkustrom [mA] is")).toHaveAttribute("data-choice", "batteryCurrent");
  await expect(page.getByLabel("Unit of Akkustrom [mA]")).toHaveAttribute("data-choice", "mA");
  await noSeriousAxe(page);
  await chooseFrom(page.getByLabel("Column Laststrom [mA] is"), "");
  await expect(page.getByText("Not assigned yet: output current.")).toBeVisible();
  await chooseFrom(page.getByLabel("Column Laststrom [mA] is"), "outputCurrent");
  await chooseFrom(page.getByLabel("Unit of Laststrom [mA]"), "mA");
  await page.getByRole("button", { name: "Import 8 rows" }).click();
  await expect(page.getByText("Imported from a file, 8 points")).toBeVisible();
  await page.getByRole("link", { name: "Board Iris 1" }).click();
  await expect(verdictOf(page, "≥ 0.9 A")).toContainText("meets");
  await expect(verdictOf(page, "5 V ±2 %")).toContainText("meets");
});

test("a bad cell is named by row, column and value; skip or stop, and nothing is half imported", async ({ page }) => {
  await startEmpty(page);
  await writeBoard(page, "Iris 2");
  await page.getByRole("link", { name: "Import CSV" }).click();
  const bad = GOOD.replace("690", "69O");
  await choose(page, "bad.csv", bad);
  await page.getByRole("button", { name: "Import 8 rows" }).click();
  await expect(page.getByText("Line 4, column “Akkustrom [mA]”: “69O” is not a number, nothing, or OL.")).toBeVisible();
  await page.getByRole("button", { name: "Cancel import" }).click();
  await page.getByRole("link", { name: "Back to board" }).click();
  await expect(page.getByText("bad.csv")).toHaveCount(0);
  await page.getByRole("link", { name: "Import CSV" }).click();
  await choose(page, "bad.csv", bad);
  await page.getByRole("button", { name: "Import 8 rows" }).click();
  await page.getByRole("button", { name: "Skip those rows and import 7" }).click();
  await expect(page.getByText("Imported from a file, 7 points")).toBeVisible();
  await page.goBack();
  await choose(page, "empty.csv", "");
  await expect(page.getByText("empty.csv: The file is empty. Nothing was imported.")).toBeVisible();
});

test("a run goes out as CSV, JSON, SVG and PNG", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51" }).click();
  await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Load sweep", exact: true }).click();
  const get = async (name: string) => {
    const [d] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name }).first().click()]);
    return { name: d.suggestedFilename(), bytes: readFileSync(await d.path()) };
  };
  const csv = await get("Export CSV");
  expect(csv.name).toBe("load-sweep.csv");
  expect(csv.bytes.toString().split("\r\n")[0]).toContain("Battery voltage / V,Battery current / A");
  const json = JSON.parse((await get("Export JSON")).bytes.toString()) as {
    points: unknown[];
    findings: { characteristic: string }[];
  };
  expect(json.points.length).toBe(csv.bytes.toString().trim().split("\r\n").length - 1);
  expect(json.findings.some((f) => f.characteristic === "boost.max-current")).toBe(true);
  await page.locator(".recharts-surface").first().waitFor();
  const svg = (await get("Save SVG")).bytes.toString();
  expect(svg).toMatch(/^<svg[^>]*width/);
  expect(svg).toContain("Efficiency against load");
  expect(svg).not.toContain("var(--");
  const png = (await get("Save PNG")).bytes;
  expect(png.subarray(1, 4).toString()).toBe("PNG");
  expect(png.length).toBeGreaterThan(10_000);
});

test("the whole notebook goes out and into an empty profile, and nothing differs", async ({ page, browser }) => {
  await startDemo(page);
  await page.getByRole("button", { name: "Reed bed recorders (demo)" }).click();
  const [out] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("dialog").getByRole("button", { name: "Export archive" }).click(),
  ]);
  const path = await out.path();
  await page.keyboard.press("Escape");
  await expect(page.getByText(/^archived \d+ \w+ \d{4}/)).toBeVisible();
  await page.getByRole("link", { name: "Sedge 51" }).click();
  const before = await words(page);

  const other = await browser.newContext();
  const fresh = await other.newPage();
  await fresh.goto("/");
  await fresh.getByRole("button", { name: "Start empty notebook" }).click();
  await fresh.getByRole("button", { name: "My notebook" }).click();
  await fresh.getByLabel("Archive to import").setInputFiles(path);
  await expect(fresh.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  await fresh.getByRole("link", { name: "Sedge 51" }).click();
  expect(await words(fresh)).toBe(before);
  await fresh.getByRole("button", { name: "Reed bed recorders (demo)" }).click();
  const row = fresh.getByRole("dialog").getByRole("listitem").filter({ hasText: "Reed bed" });
  const [again] = await Promise.all([
    fresh.waitForEvent("download"),
    row.getByRole("button", { name: "Export archive" }).click(),
  ]);
  const records = (p: string) =>
    Object.fromEntries(
      Object.entries(unzipSync(new Uint8Array(readFileSync(p))))
        .filter(([k]) => k.startsWith("records/"))
        .map(([k, v]) => [k, Buffer.from(v).toString()]),
    );
  expect(records(await again.path())).toEqual(records(path));
  await fresh
    .getByLabel("Archive to import")
    .setInputFiles({ name: "damaged.zip", mimeType: "application/zip", buffer: readFileSync(path).subarray(0, 900) });
  await expect(fresh.getByText(/damaged.zip: This is no zip archive/)).toBeVisible();
  await other.close();
});

/** What the notebook shows once every board is judged. */
async function judged(page: Page): Promise<string> {
  await expect(page.getByText("being judged")).toHaveCount(0, { timeout: 20_000 });
  // What is due today comes last, and changes with the hour.
  const today = (await page.getByTestId("today").textContent()) ?? "";
  return ((await page.getByRole("main").textContent()) ?? "").replace(today, "");
}

test("every derived record deleted, the same verdicts are found again", async ({ page }) => {
  await startDemo(page);
  const shelf = await judged(page);
  await page.getByRole("link", { name: "Marl 15" }).click();
  const before = await words(page);
  const cleared = await page.evaluate(
    () =>
      new Promise<number>((resolve, reject) => {
        const open = indexedDB.open("nimbus-bench");
        open.onsuccess = () => {
          const tx = open.result.transaction("derived", "readwrite");
          const count = tx.objectStore("derived").count();
          tx.objectStore("derived").clear();
          tx.oncomplete = () => {
            open.result.close();
            resolve(count.result);
          };
        };
        open.onerror = () => reject(open.error ?? new Error("no database"));
      }),
  );
  expect(cleared).toBeGreaterThan(0);
  await page.reload();
  expect(await words(page)).toBe(before);
  await page.getByRole("link", { name: /Nimbus Bench/ }).click();
  await expect(page.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  expect(await judged(page)).toBe(shelf);
});

test("a verdict opens to why, down to the points", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Alder 12" }).click();
  await verdictOf(page, "1.2 A continuous").getByRole("link", { name: /why/ }).click();
  await expect(page.getByText(/the supply/).first()).toBeVisible();
  await expect(page.getByText("Raise the supply's current limit").first()).toBeVisible();
  await noSeriousAxe(page);
  await page
    .getByRole("link", { name: /^point \d+$/ })
    .first()
    .click();
  await expect(page.getByRole("heading", { name: "Points" })).toBeVisible();
  const id = decodeURIComponent(new URL(page.url()).hash.slice(1));
  await expect(page.locator(`[id="${id}"]`)).toBeInViewport();
  await page.locator(".recharts-surface").first().waitFor();
  await noSeriousAxe(page);
});

test("in the dark and on a phone nothing serious is found", async ({ page }) => {
  await page.emulateMedia({ colorScheme: "dark" });
  await page.setViewportSize({ width: 390, height: 844 });
  await startDemo(page);
  await noSeriousAxe(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole("link", { name: "Resume: Load sweep" }).click();
  await expect(page.getByTestId("proposal")).toBeVisible();
  await noSeriousAxe(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.goto("/");
  await page.getByRole("link", { name: "Sedge 51" }).click();
  await page.getByRole("heading", { name: "Claims and verdicts" }).waitFor();
  await noSeriousAxe(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
