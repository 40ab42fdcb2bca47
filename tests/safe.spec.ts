import { readFileSync } from "node:fs";
import type { Browser, Page } from "@playwright/test";
import { strFromU8, unzipSync } from "fflate";
import { boardOf, chooseFrom, expect, startDemo, startEmpty, startSweep, test, writeBoard } from "./helpers";

const dialog = (page: Page) => page.getByRole("dialog");

/** Exports the notebook's archive and gives its path. */
async function exported(page: Page, title: string): Promise<string> {
  await page.getByRole("banner").getByRole("button", { name: title }).click();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    dialog(page)
      .getByRole("listitem")
      .filter({ hasText: title })
      .getByRole("button", { name: "Export archive" })
      .click(),
  ]);
  const path = await file.path();
  await page.keyboard.press("Escape");
  return path;
}
async function imported(page: Page, title: string, path: string): Promise<void> {
  await page.getByRole("banner").getByRole("button", { name: title }).click();
  await page.getByLabel("Archive to import").setInputFiles(path);
}
const rename = async (page: Page, from: string, to: string) => {
  await page.getByRole("link", { name: from, exact: true }).first().click();
  await page.getByRole("button", { name: "Edit board" }).click();
  await page.getByLabel("Name", { exact: true }).fill(to);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("heading", { name: to, level: 1 })).toBeVisible();
};

test("an older archive of one's own brings nothing back by itself; what was deleted is listed and can be restored", async ({
  page,
}) => {
  await startEmpty(page);
  for (const name of ["Heron 44", "Alder 12"]) {
    await boardOf(page, name, ["charges a cell"], {});
    await page.goto("/");
  }
  const old = await exported(page, "My notebook");
  await rename(page, "Heron 44", "Heron 45");
  await page.goto("/");
  await page.getByRole("link", { name: "Alder 12", exact: true }).first().click();
  await page.getByRole("button", { name: "Edit board" }).click();
  await page.getByRole("button", { name: "Delete board" }).click();
  await expect(page.getByText("Alder 12 is deleted.")).toBeVisible();
  await imported(page, "My notebook", old);
  await expect(dialog(page).filter({ hasText: "Not imported, because deleted here" })).toBeVisible();
  await expect(dialog(page).last()).toContainText("Board “Alder 12”");
  await dialog(page).last().getByRole("button", { name: "Restore Board “Alder 12”" }).click();
  await expect(dialog(page).last()).toContainText("All restored.");
  await dialog(page).last().getByRole("button", { name: "Open notebook" }).click();
  await expect(page.getByRole("link", { name: "Alder 12", exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "Heron 45", exact: true })).toBeVisible();
  await expect(page.getByText("from archive")).toHaveCount(0);
  await expect(page.getByRole("article")).toHaveCount(2);
});

/** A page of another browser, into which an archive is imported. */
async function inAnother(browser: Browser, archive: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await page.goto("/");
  await page.getByLabel("Archive to import").setInputFiles(archive);
  return page;
}

test("two browsers: rules are asked about with what would flip, and a board that both renamed is shown side by side", async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  await startDemo(page);
  const title = "Reed bed recorders (demo)";
  const path = await exported(page, title);
  const theirs = await inAnother(browser, path);
  await expect(theirs.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  await rename(theirs, "Sedge 51", "Sedge 51 (boathouse)");
  await theirs.goto("/rules");
  await theirs.getByLabel("Tolerance of a bare number").fill("1");
  await theirs.getByRole("button", { name: "Save house rules" }).click();
  await theirs.getByRole("button", { name: "Save house rules" }).click();
  await expect(theirs.getByText("All verdicts were judged again")).toBeVisible();
  const back = await exported(theirs, title);
  await theirs.goto("/rules");

  await rename(page, "Sedge 51", "Sedge 51 (hut)");
  await imported(page, title, back);
  const question = dialog(page).filter({ hasText: "The archive has other house rules" });
  await expect(question).toContainText(/would change \d+ verdicts?/);
  await question.getByRole("button", { name: "Use the archive's rules" }).click();
  await expect(dialog(page).last()).toContainText("1 record changed here and in the archive");
  await dialog(page).last().getByRole("button", { name: "Open notebook" }).click();
  await page.getByRole("link", { name: /1 record was changed here and in an imported archive/ }).click();
  const row = page.getByRole("row").filter({ hasText: "Title" });
  await expect(row).toContainText("Sedge 51 (hut)");
  await expect(row).toContainText("Sedge 51 (boathouse)");
  await page.getByRole("button", { name: /Use the archive's version/ }).click();
  await expect(page.getByText("No conflicts.")).toBeVisible();
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Sedge 51 (boathouse)" })).toBeVisible();
  await expect(page.getByRole("article")).toHaveCount(7);
  // The same archive has nothing more to say.
  await imported(page, title, back);
  await expect(page.getByText(/0 records added/)).toBeVisible();
  await page.goto("/rules");
  await expect(page.getByLabel("Tolerance of a bare number")).toHaveValue(
    await theirs.getByLabel("Tolerance of a bare number").inputValue(),
  );
  await theirs.context().close();
});

test("a point out of an archive is excluded and that is undone; the run's other readings stay, through a reload and another archive", async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  await startDemo(page);
  const title = "Reed bed recorders (demo)";
  const path = await exported(page, title);
  const fresh = await inAnother(browser, path);
  await fresh.getByRole("link", { name: "Sedge 51" }).first().click();
  await fresh.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
  const rows = fresh.getByRole("button", { name: /^Exclude point \d+$/ });
  await rows.first().waitFor();
  const count = await rows.count();
  expect(count).toBeGreaterThan(20);
  const exclude = async () => {
    await fresh.getByRole("button", { name: "Exclude point 1", exact: true }).click();
    await dialog(fresh).getByLabel("Why").fill("lead off");
    await dialog(fresh).getByRole("button", { name: "Exclude point", exact: true }).click();
    await expect(fresh.getByText("excluded: lead off").first()).toBeVisible();
  };
  await exclude();
  await fresh.keyboard.press("Control+z");
  await expect(fresh.getByText("Undone: exclude a point.")).toBeVisible();
  await expect(fresh.getByText("excluded: lead off")).toHaveCount(0);
  await expect(rows).toHaveCount(count);
  await exclude();
  await fresh.reload();
  await expect(fresh.getByText("excluded: lead off").first()).toBeVisible();
  await expect(rows).toHaveCount(count - 1);
  await fresh.goto("/");
  const again = unzipSync(new Uint8Array(readFileSync(await exported(fresh, title))));
  const points = (files: Record<string, Uint8Array>) =>
    Object.keys(files)
      .filter((f) => f.startsWith("records/point"))
      .flatMap((f) => JSON.parse(strFromU8(files[f] as Uint8Array)) as { id: string }[])
      .map((p) => p.id)
      .sort();
  expect(points(again)).toEqual(points(unzipSync(new Uint8Array(readFileSync(path)))));
  await fresh.context().close();
});

test("a log in code page 1252 travels as bytes and is read in another browser", async ({ page, browser }) => {
  await startEmpty(page);
  await boardOf(page, "Heron 44", ["charges a cell"], {});
  const rows = Array.from({ length: 400 }, (_, k) =>
    `${k * 20};5,00;${k < 300 ? "1,000" : "0,050"};${(3.4 + Math.min(0.8, k / 350)).toFixed(3)};${k < 380 ? "1,000" : "0,000"};25,0`.replace(
      /(\d)\.(\d)/g,
      "$1,$2",
    ),
  );
  const text = `Zeit (s);Input voltage (V);Input current (A);Cell voltage (V);Cell current (A);Part temperature (°C)\r\n${rows.join("\r\n")}\r\n`;
  const buffer = Buffer.from(text, "latin1");
  await page
    .getByRole("region", { name: "Charge cycle" })
    .getByRole("link", { name: /^Import log/ })
    .click();
  await page.getByLabel("CSV to import").setInputFiles({ name: "shed.csv", mimeType: "text/csv", buffer });
  await page
    .getByRole("button", { name: /^(Keep|Import)/ })
    .first()
    .click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible({ timeout: 30_000 });
  await page.goto("/");
  const path = await exported(page, "My notebook");
  const files = unzipSync(new Uint8Array(readFileSync(path)));
  const name = Object.keys(files).find((f) => f.startsWith("files/")) as string;
  expect(Buffer.from(files[name] as Uint8Array).equals(buffer)).toBe(true);
  const manifest = JSON.parse(strFromU8(files["manifest.json"] as Uint8Array)) as {
    damaged?: unknown;
    sizes: Record<string, number>;
  };
  expect([manifest.damaged, manifest.sizes[name]]).toEqual([undefined, buffer.length]);
  const fresh = await inAnother(browser, path);
  await fresh.getByRole("link", { name: "Heron 44", exact: true }).first().click();
  await fresh.getByRole("link", { name: "Open result" }).first().click();
  await expect(fresh.getByText(/400\s*rows over/)).toBeVisible({ timeout: 20_000 });
  await fresh.context().close();
});

test("two tabs: edits of different fields are both kept, ten at random too; the same field shows both values", async ({
  page,
  context,
}) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await boardOf(page, "Heron 44", ["charges a cell"], {});
  await expect(page.getByRole("heading", { name: "Heron 44", level: 1 })).toBeVisible();
  const other = await context.newPage();
  await other.goto(page.url().replace(/#.*/, ""));
  const openDialog = async (p: Page) => {
    await p.getByRole("button", { name: "Edit board" }).click();
    await expect(dialog(p)).toBeVisible();
  };
  const save = (p: Page) => p.getByRole("button", { name: "Save", exact: true }).click();
  await openDialog(page);
  await openDialog(other);
  await page.getByLabel("Name", { exact: true }).fill("Heron 45");
  await save(page);
  await expect(dialog(page)).toHaveCount(0);
  await other.getByLabel("Note", { exact: true }).fill("from the other tab");
  await save(other);
  await expect(other.getByRole("heading", { name: "Heron 45", level: 1 })).toBeVisible();
  await expect(page.getByText("from the other tab")).toBeVisible();

  await openDialog(page);
  await openDialog(other);
  await page.getByLabel("Name", { exact: true }).fill("Heron 46");
  await save(page);
  await expect(dialog(page)).toHaveCount(0);
  await other.getByLabel("Name", { exact: true }).fill("Heron 47");
  await save(other);
  const clash = dialog(other).filter({ hasText: "Changed elsewhere" });
  await expect(clash.getByRole("row").filter({ hasText: "Title" })).toContainText("Heron 47");
  await expect(clash.getByRole("row").filter({ hasText: "Title" })).toContainText("Heron 46");
  await clash.getByRole("button", { name: "Save yours" }).click();
  await expect(page.getByRole("heading", { name: "Heron 47", level: 1 })).toBeVisible();

  let state = 20261706;
  const roll = () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648 < 0.5;
  const last = { name: "Heron 47", note: "from the other tab" };
  for (let k = 0; k < 10; k++) {
    // One dialog stands open while the other tab saves another field.
    const [a, b] = roll() ? [page, other] : [other, page];
    await openDialog(a);
    await openDialog(b);
    await a.getByLabel("Name", { exact: true }).fill((last.name = `Heron ${100 + k}`));
    await b.getByLabel("Note", { exact: true }).fill((last.note = `note ${k}`));
    await save(a);
    await expect(dialog(a)).toHaveCount(0);
    await save(b);
    await expect(dialog(b)).toHaveCount(0);
    for (const p of [page, other]) {
      await expect(p.getByRole("heading", { name: last.name, level: 1 })).toBeVisible();
      await expect(p.getByText(last.note, { exact: true })).toBeVisible();
    }
  }
});

test("a board with runs asks before it is deleted; undo takes back that act, whatever was done since", async ({
  page,
}) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51", exact: true }).first().click();
  await page.getByRole("button", { name: "Edit board" }).click();
  await page.getByRole("button", { name: "Delete board" }).click();
  const asked = dialog(page).filter({ hasText: "Delete Sedge 51?" });
  await expect(asked).toContainText(/It has \d+ runs with their readings/);
  await asked.getByRole("button", { name: "Delete board" }).click();
  await expect(dialog(page)).toHaveCount(0);
  // Runs of a board that is gone are offered nowhere.
  await page.keyboard.press("Control+k");
  await dialog(page).getByPlaceholder("board, cell, run or action").fill("Sedge 51");
  await expect(dialog(page).getByText("No match.")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Add board" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Heron 44");
  await page.getByRole("button", { name: "Save board" }).click();
  await page.getByText("Undo", { exact: true }).first().click();
  await expect(page.getByText("Undone: delete Sedge 51.")).toBeVisible();
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Sedge 51" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Heron 44" })).toBeVisible();
});

test("a run is deleted after asking, and comes back whole", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("link", { name: "Sedge 51", exact: true }).first().click();
  await page.getByRole("region", { name: "Load sweep" }).getByRole("link", { name: "Open result" }).first().click();
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
  const url = page.url();
  await page.getByRole("button", { name: "Delete run" }).click();
  await expect(dialog(page)).toContainText(/Its \d+ points/);
  await dialog(page).getByRole("button", { name: "Delete run" }).click();
  await expect(page.getByText(/is deleted\.$/)).toBeVisible();
  await page.getByText("Undo", { exact: true }).click();
  await expect(page.getByText(/^Undone: delete/)).toBeVisible();
  await page.goto(url);
  await expect(page.getByRole("heading", { name: "Results" })).toBeVisible();
});

test("a notebook is renamed, shows what it takes, and is removed after an archive was offered", async ({ page }) => {
  await startDemo(page);
  await page.getByRole("banner").getByRole("button", { name: "Reed bed recorders (demo)" }).click();
  await expect(dialog(page).getByText(/photos .* files .* logs .* history .* records/)).toBeVisible();
  await page.getByRole("button", { name: "Rename Reed bed recorders (demo)" }).click();
  await page.getByLabel("Title", { exact: true }).fill("Hide by the pond");
  await page.getByRole("button", { name: "Save title" }).click();
  await page.getByRole("button", { name: "Delete Hide by the pond" }).click();
  await expect(dialog(page)).toContainText(/It frees about [\d.]+ (kB|MB)/);
  await expect(dialog(page).getByRole("button", { name: "Export archive first" })).toBeVisible();
  await dialog(page).getByRole("button", { name: "Delete notebook" }).click();
  await expect(page.getByRole("button", { name: "Start empty notebook" })).toBeVisible();
  // The notebook is gone at once, what was in it a moment later.
  const left = () =>
    page.evaluate(
      () =>
        new Promise<number[]>((ok) => {
          const r = indexedDB.open("nimbus-bench");
          r.onsuccess = () => {
            const tx = r.result.transaction(["records", "bundles", "chunks", "contents", "journal", "derived"]);
            const counts = ["records", "bundles", "chunks", "contents", "journal"].map((s) =>
              tx.objectStore(s).count(),
            );
            // Beside what was worked out stands how many changes there were: it names nothing that is gone.
            const derived = tx.objectStore("derived").getAll();
            tx.oncomplete = () =>
              ok([
                ...counts.map((c) => c.result),
                derived.result.filter((d) => d.key !== "outdated" || d.value.told.length).length,
              ]);
          };
        }),
    );
  await expect.poll(left).toEqual([0, 0, 0, 0, 0, 0]);
});

test("a watching tab takes a log over as soon as its writing tab is closed", async ({ page, context }) => {
  await startEmpty(page);
  await boardOf(page, "Heron 44", ["charges a cell"], {});
  await page.getByRole("button", { name: "Prepare a charge cycle" }).click();
  await page.getByRole("button", { name: "Add cell" }).click();
  await page.getByLabel("Name on the label").fill("Reed 2200");
  await page.getByRole("textbox", { name: "Rated capacity" }).fill("2.2");
  await page.getByRole("button", { name: "Save cell" }).click();
  await page.getByLabel("Cell voltage now, rested and not connected").fill("3.5");
  await page.getByLabel("Charge current set").fill("1");
  await page.getByLabel("The simulated bench").check();
  await chooseFrom(page.getByLabel("with this invented charger on it"), {
    label: "Linear charger, 1 A, honest ratings",
  });
  for (const box of await page.getByRole("checkbox", { name: /^Danger/ }).all()) await box.check();
  await page.getByRole("button", { name: "Start the log" }).click();
  await expect(page.getByTestId("phase")).toBeVisible();
  await chooseFrom(page.getByLabel("Bench clock"), "60");
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByText("Another tab is writing this log")).toBeVisible();
  await page.close();
  await expect(other.getByText("Another tab is writing this log")).toHaveCount(0);
  await expect(other.getByLabel("Bench clock")).toHaveAttribute("data-choice", "60");
  const before = Number((await other.getByTestId("rows").innerText()).match(/\d+/)?.[0]);
  await expect
    .poll(async () => Number((await other.getByTestId("rows").innerText()).match(/\d+/)?.[0]))
    .toBeGreaterThan(before + 20);
});

test("a full storage says so: the demo leaves nothing of itself, and a point that can't be stored is held and can be saved", async ({
  page,
}) => {
  await startEmpty(page);
  await page.addInitScript(() => {
    const { add, put } = IDBObjectStore.prototype;
    Object.assign(window, { full: false });
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...a: Parameters<typeof put>) {
      if ((window as unknown as { full: boolean }).full && (a[0] as { state?: string }).state === "taken")
        throw new DOMException("no room", "QuotaExceededError");
      return put.apply(this, a);
    };
    IDBObjectStore.prototype.add = function (this: IDBObjectStore, ...a: Parameters<typeof add>) {
      if ((window as unknown as { full: boolean }).full && this.name === "chunks")
        throw new DOMException("no room", "QuotaExceededError");
      return add.apply(this, a);
    };
  });
  await page.reload();
  await page.evaluate(() => Object.assign(window, { full: true }));
  await page.getByRole("banner").getByRole("button", { name: "My notebook" }).click();
  await dialog(page).getByRole("button", { name: "Load demo" }).click();
  await expect(page.getByText(/The browser's storage is full\. Nothing of this change is stored\./)).toBeVisible();
  await expect(dialog(page).getByRole("listitem")).toHaveCount(1);
  await page.keyboard.press("Escape");
  await page.evaluate(() => Object.assign(window, { full: false }));

  await writeBoard(page, "Bulrush 1");
  await startSweep(page, { dwell: "0", batteries: "4.1 3.1", loads: "0 400m 800m" });
  await expect(page.getByLabel("Battery voltage")).toBeFocused();
  await page.evaluate(() => Object.assign(window, { full: true }));
  for (const v of ["4.1", "2m", "5.03", "0"]) {
    await page.keyboard.type(v);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Enter");
  const held = page.getByRole("alert").filter({ hasText: /1 point \([\d.]+ kB\) is not stored/ });
  await expect(held).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    held.getByRole("button", { name: "Save point to a file" }).click(),
  ]);
  expect(readFileSync(await file.path(), "utf8")).toContain("5.03");
  await page.evaluate(() => Object.assign(window, { full: false }));
  await page
    .getByRole("button", { name: /^Record point/ })
    .first()
    .click();
  await expect(held).toHaveCount(0);
  await expect(page.locator("tr[data-point]")).toHaveCount(1);
});

test("a photo that is an SVG is kept as the picture it draws, a large one scaled", async ({ page }) => {
  await startEmpty(page);
  await boardOf(page, "Heron 44", ["charges a cell"], {});
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="3000" height="1500"><script>window.ran = 1; parent.ran = 1</script><rect width="3000" height="1500" fill="#b35c2e"/></svg>';
  await page
    .getByLabel(/^Photos of sample/)
    .setInputFiles({ name: "board.svg", mimeType: "image/svg+xml", buffer: Buffer.from(svg) });
  await expect(page.getByRole("img", { name: "board.svg", exact: true })).toBeVisible();
  const kept = await page.evaluate(
    () =>
      new Promise<{ mime: string; head: number[]; width: number; height: number }>((ok) => {
        const r = indexedDB.open("nimbus-bench");
        r.onsuccess = () => {
          const all = r.result.transaction("records").objectStore("records").getAll();
          all.onsuccess = () => {
            const photo = (all.result as { kind: string; mime: string; bytes: Uint8Array }[]).find(
              (x) => x.kind === "photo",
            ) as { mime: string; bytes: Uint8Array };
            const view = new DataView(photo.bytes.buffer, photo.bytes.byteOffset);
            ok({
              mime: photo.mime,
              head: [...photo.bytes.slice(1, 4)],
              width: view.getUint32(16),
              height: view.getUint32(20),
            });
          };
        };
      }),
  );
  expect(kept).toEqual({ mime: "image/png", head: [80, 78, 71], width: 2000, height: 1000 });
  expect(await page.evaluate(() => (window as unknown as { ran?: number }).ran)).toBeUndefined();
});
