import { boardOf, expect, startEmpty, startSweep, test, verdictOf, writeBoard } from "./helpers";

// Half past eight in the morning of 2 December there; in UTC it is still the first.
test.use({ timezoneId: "Pacific/Auckland" });
const MORNING = "2026-12-01T19:30:00Z";

test("east of Greenwich in the morning: claims, modifications and runs are of today, and a run after a modification counts as modified", async ({
  page,
}) => {
  await page.clock.install({ time: new Date(MORNING) });
  await startEmpty(page);
  await writeBoard(page, "Reedmace 6", { "No-load voltage": "5 V ±5 %" });
  await verdictOf(page, "5 V ±5 %")
    .getByRole("button", { name: /Edit claim/ })
    .click();
  await expect(page.getByRole("dialog").getByLabel(/^Date/)).toHaveValue("2026-12-02");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Edit sample A" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add modification" }).click();
  const modification = dialog.getByRole("group", { name: "Modification 1" });
  await expect(modification.getByLabel("On", { exact: true })).toHaveValue("2026-12-02");
  await dialog.getByLabel("What was changed").fill("thicker leads");
  await modification.getByLabel("boosts to an output").check();
  await dialog.getByRole("button", { name: "Save", exact: true }).click();
  await startSweep(page);
  const stored = await page.evaluate(
    () =>
      new Promise<{ kind: string; title?: string; zone?: string; pinned?: { modifiedFunctions: string[] } }[]>(
        (done, fail) => {
          const open = indexedDB.open("nimbus-bench");
          open.onerror = () => fail(open.error ?? new Error("no database"));
          open.onsuccess = () => {
            const all = open.result.transaction("records").objectStore("records").getAll();
            all.onsuccess = () => done(all.result as never);
          };
        },
      ),
  );
  expect(stored.filter((r) => r.kind === "run")).toEqual([
    expect.objectContaining({
      title: "Load sweep, sample A, 2026-12-02",
      zone: "Pacific/Auckland",
      pinned: expect.objectContaining({ modifiedFunctions: ["boost"] }) as unknown,
    }),
  ]);
});

test("the time stamps of a log that state no zone are the time of day there, not that of Greenwich", async ({
  page,
}) => {
  await startEmpty(page);
  await boardOf(page, "Bittern 2", ["charges a cell"], {});
  await page.getByRole("link", { name: "Import log of a charge cycle" }).click();
  const bring = async (zone: string) => {
    const rows = [15, 20, 25, 30].map((s) => `2026-12-02 08:15:${s}${zone},3.${s},0.9`);
    await page.getByLabel("CSV to import").setInputFiles({
      name: `bittern${zone}.csv`,
      mimeType: "text/csv",
      buffer: Buffer.from(["Time,Cell voltage (V),Cell current (A)", ...rows].join("\n")),
    });
  };
  await bring("");
  await expect(page.getByLabel("First reading on")).toHaveValue("2026-12-02T08:15");
  await expect(page.getByLabel("First reading on")).toBeDisabled();
  await bring("Z");
  await expect(page.getByLabel("First reading on")).toHaveValue("2026-12-02T21:15");
});
