import { createWriteStream, mkdtempSync, rmSync } from "node:fs";
import { once } from "node:events";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { boardOf, expect, startEmpty, test } from "./helpers";

/** Logs in the archive, and rows of each; a campaign has twelve of a million. */
const CAMPAIGN = process.env.NIMBUS_CAMPAIGN !== undefined;
const [LOGS, ROWS] = CAMPAIGN ? [12, 1_000_000] : [2, 60_000];

/** A charge of so many rows, six columns, no two files alike. */
async function writeLog(path: string, seed: number): Promise<void> {
  const out = createWriteStream(path);
  let text = "Time (s),Input voltage (V),Input current (A),Cell voltage (V),Cell current (A),Part temperature (degC)\n";
  for (let k = 0; k < ROWS; k++) {
    const share = k / ROWS;
    const amps =
      k < 100 || share > 0.98 ? 0 : share < 0.7 ? 1.003 : Math.max(0.1, 1.003 * Math.exp(-(share - 0.7) * 8));
    text += `${(k * 0.01).toFixed(2)},${(5.05 - 0.1 * amps + 0.001 * ((k * 7 + seed) % 13)).toFixed(3)},${(amps + 0.002).toFixed(4)},${(3.2 + Math.min(1, share / 0.7)).toFixed(4)},${amps.toFixed(4)},${(25 + 20 * Math.min(1, share * 5)).toFixed(1)}\n`;
    if (text.length > 1e6) {
      if (!out.write(text)) await once(out, "drain");
      text = "";
    }
  }
  out.end(text);
  await once(out, "finish");
}

/** Rows and a sum over every reading of each log that a browser holds, and the sums of the files it keeps. */
const held = () =>
  new Promise<{ logs: string[]; files: string[] }>((resolve, reject) => {
    const request = indexedDB.open("nimbus-bench");
    request.onerror = () => reject(request.error ?? new Error("can't open"));
    request.onsuccess = () => {
      const db = request.result;
      const tx = db.transaction(["chunks", "contents"]);
      const logs = new Map<string, { rows: number; sum: number }>();
      const contents = tx.objectStore("contents").getAll();
      tx.objectStore("chunks").openCursor().onsuccess = (e) => {
        const cursor = (e.target as IDBRequest<IDBCursorWithValue | null>).result;
        if (!cursor) return;
        const c = cursor.value as { runId: string; rows: number; columns: Record<string, Float64Array> };
        const one = logs.get(c.runId) ?? { rows: 0, sum: 0 };
        one.rows += c.rows;
        for (const column of Object.values(c.columns)) for (const v of column) one.sum += Math.round(v * 1e4);
        logs.set(c.runId, one);
        cursor.continue();
      };
      tx.oncomplete = async () => {
        db.close();
        const files: string[] = [];
        for (const b of contents.result as Blob[])
          files.push(
            [...new Uint8Array(await crypto.subtle.digest("SHA-256", await b.arrayBuffer()))]
              .map((x) => x.toString(16).padStart(2, "0"))
              .join(""),
          );
        resolve({ logs: [...logs.values()].map((l) => `${l.rows} rows, ${l.sum}`).sort(), files: files.sort() });
      };
    };
  });

test(`${LOGS} logs of ${ROWS} rows are exported and read again, every reading and every byte`, async ({
  page,
  browser,
  baseURL,
}) => {
  test.setTimeout(CAMPAIGN ? 900_000 : 90_000);
  const folder = mkdtempSync(join(tmpdir(), "nimbus-large-"));
  try {
    await startEmpty(page);
    await boardOf(page, "Heron 20", ["charges a cell"], {});
    await expect(page.getByRole("heading", { name: "Heron 20", level: 1 })).toBeVisible();
    const board = page.url();
    for (let k = 0; k < LOGS; k++) {
      const path = join(folder, `charge-${k}.csv`);
      await writeLog(path, k);
      await page.goto(board);
      await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
      await page.getByLabel("CSV to import").setInputFiles(path);
      await page.getByRole("button", { name: /^Import about/ }).click();
      await expect(page.getByRole("heading", { name: "Results" })).toBeVisible({ timeout: 60_000 });
    }
    const before = await page.evaluate(held);
    expect(before.logs.map((l) => l.split(" ")[0])).toEqual(Array.from({ length: LOGS }, () => String(ROWS)));
    expect(new Set(before.files).size).toBe(LOGS);
    await page.goto("/");
    await page.getByRole("button", { name: "My notebook" }).click();
    const download = page.waitForEvent("download", { timeout: 600_000 });
    await page.getByRole("dialog").getByRole("button", { name: "Export archive" }).click();
    const archive = join(folder, "archive.zip");
    await (await download).saveAs(archive);
    const other = await browser.newContext({ ...(baseURL ? { baseURL } : {}) });
    const there = await other.newPage();
    await there.goto("/");
    await there.getByLabel("Archive to import").setInputFiles(archive);
    const big = there.getByRole("heading", { name: /^This archive unpacks to/ });
    await expect(there.getByRole("heading", { name: "My notebook" }).or(big)).toBeVisible({ timeout: 600_000 });
    if (await big.isVisible()) await there.getByRole("dialog").getByRole("button", { name: "Import archive" }).click();
    await expect(there.getByRole("heading", { name: "My notebook" })).toBeVisible({ timeout: 600_000 });
    await there.getByRole("link", { name: "Heron 20" }).first().click();
    await expect(there.getByRole("heading", { name: "Heron 20", level: 1 })).toBeVisible({
      timeout: CAMPAIGN ? 240_000 : 12_000,
    });
    // A log is laid out of its file when it is first looked at.
    for (const run of await there
      .locator('a[href$="/review"]')
      .evaluateAll((links) => [...new Set(links.map((l) => (l as HTMLAnchorElement).href))])) {
      await there.goto(run);
      await expect(there.locator("[data-chart] [data-curve]").first()).toBeVisible({ timeout: 60_000 });
    }
    expect(await there.evaluate(held)).toEqual(before);
    await other.close();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
